import type { Curve } from "../../instrument";
import type { ParamsOf } from "../../units";

/** The level that stands for silence where modulation moves it, in decibels: the lowest of a group and of a layer. */
export const FLOOR = 60;

/** Places at which a curve is evaluated: closer together at both ends, where levels fall steeply. */
const PLACES: readonly number[] = [
  ...new Set([
    ...Array.from({ length: 65 }, (_, i) => i / 64),
    ...Array.from({ length: 24 }, (_, i) => 10 ** (-3 + (i * 1.8) / 24)).flatMap((x) => [x, 1 - x]),
  ]),
].sort((a, b) => a - b);
/** How far a curve may be from what it stands for, in shares of its whole. */
const NEAR = 3e-4;

const rounded = (x: number): number => Math.round(x * 1e6) / 1e6;

/** A curve through what a function gives, kept between −1 and 1; points that a straight line replaces are left out. */
export function drawn(f: (x: number) => number): Curve {
  const all = PLACES.map((x) => ({ x: rounded(x), y: rounded(Math.max(-1, Math.min(1, f(x)))), bend: 0 }));
  const kept: { x: number; y: number; bend: number }[] = [];
  let from = 0;
  const straight = (to: number): boolean => {
    const [a, b] = [all[from], all[to]];
    if (!a || !b) return false;
    for (let i = from + 1; i < to; i++) {
      const p = all[i];
      if (p && Math.abs(p.y - (a.y + ((b.y - a.y) * (p.x - a.x)) / (b.x - a.x))) > NEAR) return false;
    }
    return true;
  };
  while (from < all.length) {
    const point = all[from];
    if (point) kept.push(point);
    let to = from + 1;
    while (to + 1 < all.length && straight(to + 1)) to++;
    from = to;
  }
  return kept;
}

/** How far below full level a gain stands, as a share of FLOOR: 0 for full, 1 for silence. */
export const depthOf = (gain: number): number =>
  gain <= 0 ? 1 : Math.max(0, Math.min(1, (-20 * Math.log10(gain)) / FLOOR));

/** The gain of a share of FLOOR; the inverse of depthOf. */
export const gainOf = (depth: number): number => 10 ** ((-depth * FLOOR) / 20);

/** The curves that have a number without being written: SFZ 2, "curve_index 0 to 6". */
export const BUILT_IN: readonly ((x: number) => number)[] = [
  (x) => x,
  (x) => 2 * x - 1,
  (x) => 1 - x,
  (x) => 1 - 2 * x,
  (x) => x * x,
  (x) => Math.sqrt(x),
  (x) => Math.sqrt(1 - x),
];

/** A function through values at some of the places 0 to 127; straight between them, from 0 to 1 where nothing else is said. */
export function throughValues(values: ReadonlyMap<number, number>): (x: number) => number {
  const points = [...new Map([[0, 0] as const, [127, 1] as const, ...values])].sort(([a], [b]) => a - b);
  return (x) => {
    const at = Math.max(0, Math.min(1, x)) * 127;
    const next = points.findIndex(([p]) => p >= at);
    const [x1, y1] = points[Math.max(0, next)] ?? [127, 1];
    const [x0, y0] = points[Math.max(0, next - 1)] ?? [0, 0];
    return x1 === x0 ? y1 : y0 + ((y1 - y0) * (at - x0)) / (x1 - x0);
  };
}

/** Type and slope of a filter by the word for it; null for a kind that the filter doesn't have. */
export function filterOfWord(
  word: string,
): { type: ParamsOf<"filter">["type"]; slope: ParamsOf<"filter">["slope"] } | null {
  const found = /^(lpf|hpf|bpf|brf|pkf)_([1246])p(?:_sv)?$/.exec(word);
  if (!found) return null;
  const type = ({ lpf: "low", hpf: "high", bpf: "band", brf: "notch", pkf: "peak" } as const)[found[1] ?? ""];
  const slope = ({ 1: "6", 2: "12", 4: "24" } as const)[found[2] ?? ""];
  return type && slope ? { type, slope } : null;
}

/** The word for a filter of a type and slope; the nearest where there is none. */
export function wordOfFilter(type: string, slope: string): { readonly word: string; readonly exact: boolean } {
  const kind = { low: "lpf", high: "hpf", band: "bpf", notch: "brf", peak: "pkf" }[type] ?? "lpf";
  const steep = type === "low" || type === "high";
  const poles = steep ? ({ "6": "1", "12": "2", "18": "4", "24": "4" }[slope] ?? "2") : "2";
  return { word: `${kind}_${poles}p`, exact: slope !== "18" && (steep || slope === "12") };
}

/** Segments of an envelope by the words for them; times in seconds. */
export const SEGMENTS = ["delay", "attack", "hold", "decay", "release"] as const;

/** Number of a controller that stands for something that isn't one: SFZ 2, "extended MIDI CCs". */
export const EXTENDED = {
  bend: 128,
  pressure: 129,
  notePressure: 130,
  velocity: 131,
  release: 132,
  random: 136,
} as const;

/** What a controller stands at before it is moved, as General MIDI has it; 0 for all others. */
export const STANDING: Readonly<Record<number, number>> = { 7: 100, 10: 64, 11: 127 };
