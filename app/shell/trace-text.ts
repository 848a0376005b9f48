import { nameOfNote } from "../../core/audio";
import { type NoteTrace, REASON } from "../../core/engine";
import { type Instrument, listZones } from "../../core/instrument";
import { formatNumber } from "../../core/params";

/** What the note trace says: a headline, what played, and what did not and why. */
export interface TraceText {
  readonly headline: string;
  readonly played: readonly string[];
  readonly notes: readonly string[];
  readonly silent: boolean;
}

const list = (parts: readonly string[], most = 3): string =>
  parts.length <= most ? parts.join(", ") : `${parts.slice(0, most).join(", ")} and ${parts.length - most} more`;

/** Puts a trace into words. `loading` says whether samples are still on their way. */
export function traceText(trace: NoteTrace, instrument: Instrument, loading: boolean): TraceText {
  const zones = listZones(instrument);
  const names = new Map(instrument.samples.map((s) => [s.sha, s.name]));
  const nameOf = (index: number) => names.get(zones[index]?.sample ?? "") ?? "a zone that is gone";
  const by = (reason: number) => trace.at.filter((z) => z.reason === reason);
  const played = by(REASON.played).map(
    (z) => `${nameOf(z.zone)} · rate ${z.rate.toFixed(3)} · ${formatNumber("decibels", z.level)}`,
  );
  const notes: string[] = [];
  const repeats = by(REASON.repeat).map((z) => zones[z.zone]?.repeat ?? 0);
  if (repeats.length > 0) notes.push(`repeat ${list(repeats.map(String))} waited`);
  const velocity = by(REASON.velocity).map((z) => zones[z.zone]);
  if (velocity.length > 0) {
    const spans = [...new Set(velocity.map((z) => `${z?.velLow}–${z?.velHigh}`))];
    notes.push(`velocity ${list(spans)} passed over`);
  }
  const missing = by(REASON.missing);
  if (missing.length > 0)
    notes.push(`${list(missing.map((z) => nameOf(z.zone)))}: the sound ${loading ? "is still loading" : "is missing"}`);
  const changes: string[] = [];
  if (trace.key !== trace.playedKey) changes.push(`key from ${nameOfNote(trace.playedKey)}`);
  if (trace.velocity !== trace.playedVelocity) changes.push(`velocity from ${trace.playedVelocity}`);
  if (trace.delay >= 0.00005) changes.push(`${formatNumber("seconds", trace.delay)} later`);
  if (trace.rules === "changed") notes.push(`rules: ${changes.join(", ") || "notes added"}`);
  if (trace.rules === "failed") notes.push("rules failed: the note sounds as played");
  if (trace.stolen) notes.push("an older voice gave way");
  const silent = played.length === 0;
  if (trace.rules === "dropped") notes.unshift("silent: the rules dropped it");
  else if (silent && trace.zones === 0) notes.unshift("silent: nothing is mapped yet");
  else if (silent && trace.at.length === 0) notes.unshift(`silent: none of ${trace.zones} zones answers this key`);
  else if (silent && missing.length > 0) notes.unshift("silent:");
  else if (silent) notes.unshift("silent: no zone answers this velocity");
  return { headline: `${nameOfNote(trace.key)} · ${Math.round(trace.velocity)}`, played, notes, silent };
}
