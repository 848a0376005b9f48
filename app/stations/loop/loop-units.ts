import { formatNumber, parseNumber } from "../../../core/params";

/** In what places and lengths are shown. */
export type LoopUnit = "time" | "samples" | "periods" | "beats";

/** What is known of a sound, as far as it decides what can be shown. */
export interface UnitFacts {
  readonly rate: number;
  /** Frames of a period; null where no pitch is known. */
  readonly period: number | null;
  /** Frames of a beat, the frame of a bar's first, and beats in a bar; null where there is no beat. */
  readonly beat: { readonly frames: number; readonly origin: number; readonly bar: number } | null;
}

/** The unit that can be shown: time where what was chosen means nothing here. */
export const usable = (unit: LoopUnit, { period, beat }: UnitFacts): LoopUnit =>
  (unit === "periods" && period === null) || (unit === "beats" && beat === null) ? "time" : unit;

const decimals = (value: number, most: number): string => String(Number(value.toFixed(most)));

/** A length in frames, as people read it. */
export function lengthText(frames: number, wanted: LoopUnit, facts: UnitFacts): string {
  const unit = usable(wanted, facts);
  if (unit === "samples") return `${frames} smp`;
  if (unit === "periods" && facts.period) return `${decimals(frames / facts.period, 2)} periods`;
  if (unit === "beats" && facts.beat) return `${decimals(frames / facts.beat.frames, 3)} beats`;
  return `${((frames / facts.rate) * 1000).toFixed(2)} ms`;
}

/** A place in frames, as people read it; in beats: bar, beat, and hundredths of a beat, the first bar being 1. */
export function placeText(frame: number, wanted: LoopUnit, facts: UnitFacts): string {
  if (usable(wanted, facts) !== "beats" || !facts.beat) return lengthText(frame, wanted, facts);
  const { frames, origin, bar } = facts.beat;
  const hundredths = Math.round(((frame - origin) / frames) * 100);
  const beats = Math.floor(hundredths / 100);
  const bars = Math.floor(beats / bar);
  const rest = hundredths - beats * 100;
  return `${bars >= 0 ? bars + 1 : bars}.${beats - bars * bar + 1}.${String(rest).padStart(2, "0")}`;
}

/** Frames of a count with its unit's name, as typed; null where it isn't one. */
function counted(text: string, wanted: LoopUnit, { period, beat, rate }: UnitFacts): number | null {
  const match = /^\s*([+-]?[\d.,\s]+?)\s*([a-z]*)\.?\s*$/i.exec(text);
  if (!match) return null;
  const count = parseNumber("count", match[1] ?? "");
  const name = (match[2] ?? "").toLowerCase();
  if (count === null) return null;
  const of = (size: number | null | undefined) => (size ? count * size : null);
  if (/^(smp|samples?|frames?)$/.test(name)) return count;
  if (/^(p|periods?)$/.test(name)) return of(period);
  if (/^beats?$/.test(name)) return of(beat?.frames);
  if (/^bars?$/.test(name)) return of(beat && beat.frames * beat.bar);
  if (name !== "") return null;
  // A number alone is meant as it is shown; in milliseconds where that is time.
  if (wanted === "samples") return count;
  if (wanted === "periods") return of(period);
  if (wanted === "beats") return of(beat?.frames);
  return (count / 1000) * rate;
}

/** Frames of a length that was typed, in whatever unit; null where it can't be understood. */
export function typedLength(text: string, wanted: LoopUnit, facts: UnitFacts): number | null {
  const unit = usable(wanted, facts);
  const frames = counted(text, unit, facts);
  if (frames !== null) return Math.round(frames);
  const seconds = parseNumber("seconds", text);
  return seconds === null ? null : Math.round(seconds * facts.rate);
}

/** The frame of a place that was typed; in beats as it is shown: `3.2` is the second beat of the third bar. */
export function typedPlace(text: string, wanted: LoopUnit, facts: UnitFacts): number | null {
  const match = /^\s*(\d+)\.(\d+)(?:\.(\d{1,2}))?\s*$/.exec(text);
  if (usable(wanted, facts) !== "beats" || !facts.beat || !match) return typedLength(text, wanted, facts);
  const { frames, origin, bar } = facts.beat;
  const beats = (Number(match[1]) - 1) * bar + Number(match[2]) - 1 + Number((match[3] ?? "0").padEnd(2, "0")) / 100;
  return Math.round(origin + beats * frames);
}

/** A place in words, for those who can't see it. */
export const spokenPlace = (frame: number, facts: UnitFacts): string => formatNumber("seconds", frame / facts.rate);
