import { newZone, type SampledZone, type Zone } from "../instrument";

/** Seconds before an attack at which its slice begins, so that nothing of it is lost. */
const BEFORE = 0.002;

/** Notes in beats, as the engine's phrases are. */
interface SlicePhrase {
  readonly id: string;
  readonly label: string;
  readonly beats: number;
  readonly notes: readonly {
    readonly at: number;
    readonly length: number;
    readonly key: number;
    readonly velocity: number;
  }[];
}

/** A zone's sound cut at its attacks, each slice on a key of its own from `firstKey` up; what lies before the first attack, and what finds no key, is left out. */
export function sliceZones(
  zone: SampledZone,
  rate: number,
  attacks: readonly number[],
  firstKey: number,
  idOf: () => string,
): Zone[] {
  const lead = Math.round(BEFORE * rate);
  const starts = [...new Set(attacks.map((at) => Math.max(zone.start, at - lead)))]
    .filter((at) => at >= zone.start && at < zone.end - 1)
    .sort((a, b) => a - b);
  return starts.flatMap((start, n) => {
    const key = firstKey + n;
    if (key > 127) return [];
    const made = newZone({ id: idOf(), sample: zone.sample, end: starts[n + 1] ?? zone.end });
    const { gain, pan, tune, reverse, mic } = zone;
    return [{ ...made, start, root: key, keyLow: key, keyHigh: key, gain, pan, tune, reverse, mic, oneShot: true }];
  });
}

/** Slices of one sample in the order and at the times at which they stand in its beat, as a phrase that follows any tempo; null where they aren't slices of one. */
export function phraseOfSlices(
  zones: readonly Zone[],
  rate: number,
  beat: { readonly tempo: number; readonly downbeat: number; readonly bar: number },
): SlicePhrase | null {
  const sorted = [...zones].sort((a, b) => a.start - b.start);
  const [first] = sorted;
  if (!first || sorted.length < 2 || sorted.some((z) => z.sample !== first.sample)) return null;
  const frames = (60 / beat.tempo) * rate;
  const at = (frame: number) => (frame + BEFORE * rate - beat.downbeat) / frames;
  const before = Math.max(0, Math.ceil(-at(first.start) - 1e-6));
  const notes = sorted.map((zone) => ({
    at: Math.max(0, at(zone.start) + before),
    length: Math.max(0.05, (zone.end - zone.start) / frames - 0.02),
    key: zone.root,
    velocity: 100,
  }));
  const end = at(sorted.at(-1)?.end ?? 0) + before;
  return {
    id: "slices",
    label: "Slices in their order",
    beats: Math.max(1, Math.round(end / beat.bar) * beat.bar),
    notes,
  };
}
