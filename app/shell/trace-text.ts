import { nameOfNote } from "../../core/audio";
import { type NoteTrace, REASON, type Reason } from "../../core/engine";
import { type Instrument, listZones } from "../../core/instrument";
import { formatNumber, plural } from "../../core/params";
import { unitSpec } from "../../core/units";

/** What the note trace says: a headline, what played, and what did not and why. */
interface TraceText {
  readonly headline: string;
  readonly played: readonly string[];
  readonly notes: readonly string[];
  readonly silent: boolean;
}

const list = (parts: readonly string[], most = 3): string =>
  parts.length <= most ? parts.join(", ") : `${parts.slice(0, most).join(", ")} and ${parts.length - most} more`;

/** Why zones were passed over, in words. */
const PASSED: readonly (readonly [Reason, string])[] = [
  [REASON.trigger, "sound at another moment (note off, first note, legato)"],
  [REASON.keyswitch, "wait for their keyswitch"],
  [REASON.controller, "wait for their controller's range"],
  [REASON.chance, "skipped by probability"],
  [REASON.set, "in a layer that isn't selected"],
  [REASON.faded, "faded out at this key or velocity"],
  [REASON.untuned, "silent: the tuning has no pitch for this key"],
  [REASON.crowded, "too many at once"],
  [REASON.coming, "were just being made ready"],
  [REASON.muted, "muted for now"],
];

/** Puts a trace into words. `loading` says whether samples are still on their way. */
export function traceText(trace: NoteTrace, instrument: Instrument, loading: boolean): TraceText {
  const zones = listZones(instrument);
  const layers = instrument.layers.length;
  const names = new Map(instrument.samples.map((s) => [s.sha, s.name]));
  const sourceOf = (layer: number) => {
    const source = instrument.layers[layer]?.source;
    return source && source.kind !== "samples" ? source : null;
  };
  const nameOf = (index: number) => {
    const sample = zones[index]?.sample;
    return sample === null ? "a zone without a sample" : (names.get(sample ?? "") ?? "a zone that is gone");
  };
  // What a layer or a zone did that isn't there any more, such as one that was undone, is nobody's news.
  const there = trace.at.filter((z) => {
    const layer = instrument.layers[z.layer];
    return layer !== undefined && (layer.source.kind !== "samples" || zones[z.zone] !== undefined);
  });
  const by = (reason: number) => there.filter((z) => z.reason === reason);
  const played = by(REASON.played).map(
    (z) =>
      `${sourceOf(z.layer)?.name ?? `${nameOf(z.zone)} · rate ${z.rate.toFixed(3)}`} · ${formatNumber("decibels", z.level)}${z.from === trace.key || trace.bound === "bound" ? "" : ` · borrowed from ${nameOfNote(z.from)}`}${layers > 1 ? ` · ${instrument.layers[z.layer]?.name ?? ""}` : ""}`,
  );
  const notes: string[] = [];
  for (const layer of new Set(by(REASON.played).map((z) => z.layer))) {
    const source = sourceOf(layer);
    if (source && unitSpec(source.kind).sample && source.sample === undefined)
      notes.push(`${source.name}: no sample is selected yet`);
  }
  const repeats = by(REASON.repeat).map((z) => zones[z.zone]?.repeat ?? 0);
  if (repeats.length > 0) notes.push(`repeat ${list(repeats.map(String))} waited`);
  const velocity = by(REASON.velocity).map((z) => zones[z.zone]);
  if (velocity.length > 0) {
    const spans = [...new Set(velocity.map((z) => `${z?.velLow}–${z?.velHigh}`))];
    notes.push(`velocity ${list(spans)} passed over`);
  }
  const missing = by(REASON.missing);
  if (missing.length > 0)
    notes.push(
      `${list(missing.map((z) => nameOf(z.zone)))}: the sound ${loading ? "was still loading" : "is missing"}`,
    );
  for (const [reason, words] of PASSED) {
    const count = by(reason).length;
    if (count > 0) notes.push(`${plural(count, "zone")} ${words}`);
  }
  const changes: string[] = [];
  if (trace.key !== trace.playedKey) changes.push(`key from ${nameOfNote(trace.playedKey)}`);
  if (trace.velocity !== trace.playedVelocity) changes.push(`velocity from ${trace.playedVelocity}`);
  if (trace.delay >= 0.00005) changes.push(`${formatNumber("seconds", trace.delay)} later`);
  if (trace.rules === "changed") notes.push(`rules: ${changes.join(", ") || "notes added"}`);
  if (trace.rules === "failed") notes.push("rules failed: the note sounds as played");
  if (trace.stolen > 0)
    notes.push(
      `${trace.stolen === 1 ? "an older voice" : `${trace.stolen} older voices`} gave way: there are ${instrument.play.params.voices} at most`,
    );
  if (trace.bound === "bound") notes.push("legato: carries on the note before");
  if (trace.release) notes.push("the key was released");
  const silent = played.length === 0;
  if (trace.bound === "waits") notes.unshift("waits: another held key comes first");
  else if (trace.rules === "dropped") notes.unshift("silent: the rules dropped it");
  else if (silent && trace.zones === 0) notes.unshift("silent: nothing is mapped yet");
  else if (silent && trace.at.length === 0)
    notes.unshift(`silent: none of ${plural(trace.zones, "zone")} answers this key`);
  else if (silent && velocity.length === trace.at.length) notes.unshift("silent: no zone answers this velocity");
  else if (silent) notes[0] = `silent: ${notes[0] ?? "no zone was selected"}`;
  return { headline: `${nameOfNote(trace.key)} · ${Math.round(trace.velocity)}`, played, notes, silent };
}
