import { nameOfNote } from "../audio";
import { type Instrument, listZones } from "../instrument";

/** A pad: the key that it plays, and what it is called. */
export interface Pad {
  readonly key: number;
  readonly label: string;
}

/** Most pads that are shown at once, and those of an instrument that answers everywhere. */
const MOST = 16;
const MIDDLE = 60;

const isWhite = (key: number): boolean => ![1, 3, 6, 8, 10].includes(key % 12);

/**
 * The pads of an instrument: one for each key at which something begins that reaches over three keys at the most, as in kits, called after its group or its
 * sample; where nothing is so narrow the white keys about the middle that answer. At most `most`.
 */
export function padsOf(doc: Instrument, most: number): readonly Pad[] {
  const count = Math.min(MOST, Math.max(1, Math.round(most)));
  const narrow = new Map<number, string>();
  const answers = new Set<number>();
  const names = new Map(doc.samples.map((s) => [s.sha, s.name]));
  for (const layer of doc.layers) {
    for (const group of layer.groups) {
      for (const zone of group.zones) {
        for (let key = zone.keyLow; key <= zone.keyHigh; key++) answers.add(key);
        if (zone.keyHigh - zone.keyLow > 2 || narrow.has(zone.keyLow)) continue;
        const sample = zone.sample === null ? undefined : names.get(zone.sample);
        const own = layer.groups.length > 1 ? group.name : (sample ?? group.name);
        narrow.set(zone.keyLow, own);
      }
    }
  }
  if (narrow.size > 0)
    return [...narrow]
      .sort(([a], [b]) => a - b)
      .slice(0, count)
      .map(([key, label]) => ({ key, label: label || nameOfNote(key) }));
  // What is computed answers everywhere.
  if (answers.size === 0 || listZones(doc).length === 0) for (let key = 0; key < 128; key++) answers.add(key);
  const white = [...answers].filter(isWhite).sort((a, b) => a - b);
  const from = white.findIndex((key) => key >= MIDDLE - 12);
  const first = Math.max(0, Math.min(from < 0 ? white.length : from, white.length - count));
  return white.slice(first, first + count).map((key) => ({ key, label: nameOfNote(key) }));
}
