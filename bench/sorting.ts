import { seededRandom } from "../core/audio";
import { type Placeable, sortSounds } from "../core/mapping";
import { type Figure, round } from "./figure";

interface Struck extends Placeable {
  readonly layer: number;
  readonly nth: number;
}

/** A set of sounds struck at several strengths, of which nobody has said anything: notes differ in level by more than strengths do. */
function struckSet(seed: number): Struck[] {
  const random = seededRandom(seed);
  const within = (low: number, high: number): number => low + Math.floor(random() * (high - low + 1));
  // About the normal distribution.
  const noise = (spread: number): number => (random() + random() + random() - 1.5) * 2 * spread;
  const [layers, repeats, notes] = [within(1, 4), within(1, 4), within(5, 25)];
  const step = 5 + random() * 5;
  const sounds: Struck[] = [];
  for (let n = 0; n < notes; n++) {
    const body = noise(5);
    let level = -45 + body;
    for (let layer = 0; layer < layers; layer++) {
      for (let nth = 1; nth <= repeats; nth++) {
        // Now and then one was not recorded.
        if (random() < 0.02) continue;
        sounds.push({
          id: `${n}/${layer}/${nth}`,
          pitch: 40 + n * 2 + noise(0.05),
          loudness: level + noise(0.9),
          layer,
          nth,
        });
      }
      level += step + noise(1.2);
    }
  }
  return sounds;
}

/** Velocity layers and repeats found by sound alone. */
export function sorting(): Figure[] {
  let [count, layers, repeats] = [0, 0, 0];
  for (let seed = 1; seed <= 400; seed++) {
    const sounds = struckSet(seed);
    const places = new Map(sortSounds(sounds).sorted.map((s) => [s.id, s]));
    for (const { id, layer, nth } of sounds) {
      const place = places.get(id);
      const [note] = id.split("/");
      const before = sounds.filter((s) => s.layer === layer && s.nth < nth && s.id.startsWith(`${note}/`)).length;
      count++;
      if (place?.layer === layer) layers++;
      if (place?.layer === layer && place.repeat === before + 1) repeats++;
    }
  }
  const share = (right: number): number => round((100 * right) / count);
  return [
    {
      name: `velocity layers by sound alone (${count} sounds)`,
      value: share(layers),
      unit: "%",
      hold: "at least 92 %",
      pass: share(layers) >= 92,
    },
    {
      name: "repeats in recorded order, of those in the right layer",
      value: round((100 * repeats) / Math.max(1, layers)),
      unit: "%",
      hold: "at least 97 %",
      pass: repeats / Math.max(1, layers) >= 0.97,
    },
  ];
}
