import type { Decibels } from "../audio";

/** The softest that a layer's strip goes. */
const OFF: Decibels = -60;

const decibels = (gain: number): Decibels => (gain > 0.001 ? 20 * Math.log10(gain) : OFF);

/** Levels of layers that stand side by side, from the first (place 0) to the last (1): two at a time, by equal power. */
export function blendLevels(count: number, place: number): readonly Decibels[] {
  const at = Math.min(1, Math.max(0, place)) * Math.max(0, count - 1);
  return Array.from({ length: count }, (_, i) => {
    const away = Math.abs(at - i);
    return away >= 1 ? OFF : decibels(Math.cos((away * Math.PI) / 2));
  });
}

/** The place between layers at which these levels (dB) would stand: between the two neighbours that together are loudest. */
export function blendPlace(levels: readonly Decibels[]): number {
  const gains = levels.map((level) => (level <= OFF ? 0 : 10 ** (level / 20)));
  if (gains.length < 2) return 0;
  let [first, most] = [0, -1];
  for (let i = 0; i + 1 < gains.length; i++) {
    const power = (gains[i] as number) ** 2 + (gains[i + 1] as number) ** 2;
    if (power > most) [first, most] = [i, power];
  }
  if (most <= 0) return 0;
  const angle = Math.atan2(gains[first + 1] as number, gains[first] as number);
  return (first + (angle * 2) / Math.PI) / (gains.length - 1);
}
