import { nameOfNote, parseNote } from "../../../core/audio";
import { changeZones, type Zone, zoneLimits } from "../../../core/instrument";
import { type BulkChange, bulkValues, parseBulk } from "../../../core/mapping";
import { formatNumber, parseNumber } from "../../../core/params";
import { session } from "../../state/session";

/** Fields of a zone that are numbers. */
export type NumberField =
  | "keyLow"
  | "keyHigh"
  | "keyFadeLow"
  | "keyFadeHigh"
  | "velLow"
  | "velHigh"
  | "velFadeLow"
  | "velFadeHigh"
  | "root"
  | "track"
  | "tune"
  | "gain"
  | "pan"
  | "repeat";

interface FieldSpec {
  readonly what: string;
  readonly format: (x: number) => string;
  readonly parse: (text: string) => number | null;
  readonly step: number;
}

/** Fields that zones share: their text, how they are typed, and one step of the arrow keys. */
export const FIELDS: Record<NumberField, FieldSpec> = {
  keyLow: { what: "Set lowest key", format: nameOfNote, parse: parseNote, step: 1 },
  keyHigh: { what: "Set highest key", format: nameOfNote, parse: parseNote, step: 1 },
  root: { what: "Set root", format: nameOfNote, parse: parseNote, step: 1 },
  velLow: { what: "Set lowest velocity", format: String, parse: (t) => parseNumber("count", t), step: 1 },
  velHigh: { what: "Set highest velocity", format: String, parse: (t) => parseNumber("count", t), step: 1 },
  keyFadeLow: { what: "Set lower key fade", format: String, parse: (t) => parseNumber("count", t), step: 1 },
  keyFadeHigh: { what: "Set upper key fade", format: String, parse: (t) => parseNumber("count", t), step: 1 },
  velFadeLow: { what: "Set lower velocity fade", format: String, parse: (t) => parseNumber("count", t), step: 1 },
  velFadeHigh: { what: "Set upper velocity fade", format: String, parse: (t) => parseNumber("count", t), step: 1 },
  track: {
    what: "Set key tracking",
    format: (x) => formatNumber("percent", x),
    parse: (t) => parseNumber("percent", t),
    step: 0.05,
  },
  repeat: { what: "Set repeat", format: String, parse: (t) => parseNumber("count", t), step: 1 },
  tune: { what: "Set tuning", format: (x) => formatNumber("cents", x), parse: (t) => parseNumber("cents", t), step: 1 },
  gain: {
    what: "Set level",
    format: (x) => formatNumber("decibels", x),
    parse: (t) => parseNumber("decibels", t),
    step: 0.5,
  },
  pan: { what: "Set pan", format: (x) => formatNumber("pan", x), parse: (t) => parseNumber("pan", t), step: 0.05 },
};
/** Takes what was typed for a field of some zones: a value for all of them, or with several zones also a change (`+3`, `×0.5`, `1…9`, `±2`). False where it can't be read. */
export function typeField(zones: readonly Zone[], id: NumberField, text: string): boolean {
  const spec = FIELDS[id];
  const typed = zones.length > 1 ? parseBulk(text, spec.parse) : singleValue(spec.parse(text));
  if (typed === null) return false;
  const { min, max, whole } = zoneLimits(id);
  const values = bulkValues(typed, zones, (z) => z[id], Math.random);
  session.commit(
    changeZones(new Set(values.keys()), spec.what, (z) => {
      const value = values.get(z.id) ?? z[id];
      return { ...z, [id]: Math.min(max, Math.max(min, whole ? Math.round(value) : value)) };
    }),
  );
  return true;
}

const singleValue = (to: number | null): BulkChange | null => (to === null ? null : { kind: "set", to });

/** What can be typed where several zones share a field. */
export const BULK_HINT =
  "For several zones: +3 adds, ×0.5 scales, 1…9 runs from the lowest root to the highest, ±2 scatters";

export interface Field {
  readonly id: NumberField;
  readonly label: string;
  readonly width: number;
}
/** A line of the inspector: one number, or a range of two. */
export interface FieldRow {
  readonly label: string;
  readonly help?: string;
  readonly fields: readonly [Field, Field?];
}

const field = (id: NumberField, label: string, width = 58): Field => ({ id, label, width });

export const ANSWERS: readonly FieldRow[] = [
  { label: "Keys", fields: [field("keyLow", "Lowest key"), field("keyHigh", "Highest key")] },
  {
    label: "Key fades",
    help: "Keys over which it fades in and out, by equal power",
    fields: [field("keyFadeLow", "Lower key fade"), field("keyFadeHigh", "Upper key fade")],
  },
  { label: "Root", help: "The key at which the sample sounds as it was recorded", fields: [field("root", "Root")] },
  { label: "Velocity", fields: [field("velLow", "Lowest velocity"), field("velHigh", "Highest velocity")] },
  {
    label: "Vel. fades",
    help: "Velocities over which it fades in and out, by equal power",
    fields: [field("velFadeLow", "Lower velocity fade"), field("velFadeHigh", "Upper velocity fade")],
  },
  {
    label: "Repeat",
    help: "Its turn among the round robins of the same key and velocity",
    fields: [field("repeat", "Repeat")],
  },
];
export const SOUNDS: readonly FieldRow[] = [
  {
    label: "Tuning",
    help: "Correction in cents, so that the root is in tune; beside it what was measured, against the root",
    fields: [field("tune", "Tuning", 82)],
  },
  {
    label: "Key tracking",
    help: "How far the pitch follows the keys: 100 % fully",
    fields: [field("track", "Key tracking", 82)],
  },
  { label: "Level", fields: [field("gain", "Zone level", 82)] },
  { label: "Pan", fields: [field("pan", "Zone pan", 82)] },
];
