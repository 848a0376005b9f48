import { SURE } from "../analysis";
import { newZone, type Sample, type Zone } from "../instrument";
import { type Sorting, sortSounds } from "./sort";
import { type SpreadOptions, spreadRoots } from "./spread";

/** What placing made: the zones, what was left out and why, and how the whole was sorted. */
export interface Placement {
  readonly zones: readonly Zone[];
  readonly leftOut: readonly { readonly sample: Sample; readonly reason: string }[];
  readonly sorting: Sorting;
  /** Whether no pitch was found anywhere, so that each sound got a key of its own. */
  readonly kit: boolean;
}

/** First key of a kit: C2. */
const KIT_FROM = 36;

/**
 * Places samples on the keys by what was measured: by pitch, level and order; each zone is tuned so that it sounds at
 * equal temperament. Where no sample has a pitch, each gets a key of its own from C2 up. `idOf` gives each zone its id.
 */
export function placeSamples(
  samples: readonly Sample[],
  spread: SpreadOptions,
  idOf: (index: number) => string,
): Placement {
  const believed = (s: Sample) => (s.confidence >= SURE ? s.pitch : null);
  const sorting = sortSounds(
    samples.map((s) => ({
      id: s.sha,
      pitch: believed(s),
      loudness: s.loudness,
      strength: s.strength,
      repeat: s.repeat,
    })),
  );
  if (sorting.sorted.length === 0) return placeKit(samples, sorting, idOf);
  const ranges = spreadRoots([...sorting.layersOf.keys()], spread);
  const bySha = new Map(samples.map((s) => [s.sha, s]));
  const leftOut = samples.filter((s) => believed(s) === null).map((sample) => ({ sample, reason: "no clear pitch" }));
  const zones: Zone[] = [];
  for (const { id, note, layer, repeat } of sorting.sorted) {
    const sample = bySha.get(id);
    if (!sample) continue;
    const range = ranges.get(note);
    if (!range) {
      leftOut.push({ sample, reason: "its note lies outside the limits" });
      continue;
    }
    const bounds = sorting.bounds.get(sorting.layersOf.get(note) ?? 1) ?? [127];
    zones.push(
      newZone({
        id: idOf(zones.length),
        sample: sample.sha,
        end: sample.frames,
        keyLow: range.low,
        keyHigh: range.high,
        root: note,
        tune: sample.pitch === null ? 0 : Math.round((note - sample.pitch) * 1000) / 10,
        velLow: layer === 0 ? 1 : (bounds[layer - 1] ?? 0) + 1,
        velHigh: bounds[layer] ?? 127,
        repeat,
      }),
    );
  }
  return { zones, leftOut, sorting, kit: false };
}

function placeKit(samples: readonly Sample[], sorting: Sorting, idOf: (index: number) => string): Placement {
  const zones = samples.slice(0, 128 - KIT_FROM).map((sample, i) => {
    const key = KIT_FROM + i;
    return newZone({ id: idOf(i), sample: sample.sha, end: sample.frames, keyLow: key, keyHigh: key, root: key });
  });
  const leftOut = samples.slice(zones.length).map((sample) => ({ sample, reason: "there are no keys left for it" }));
  return { zones, leftOut, sorting, kit: true };
}
