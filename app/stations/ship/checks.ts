import { nameOfNote } from "../../../core/audio";
import { type Instrument, listZones, usedSamples } from "../../../core/instrument";

export interface Check {
  readonly kind: "good" | "doubt" | "error";
  readonly text: string;
}

/** What should be looked at before an instrument leaves the workshop. */
export function checks(instrument: Instrument): Check[] {
  const zones = listZones(instrument);
  if (zones.length === 0) return [{ kind: "error", text: "No zone is mapped: the instrument would be silent." }];
  const found: Check[] = [];
  const answers = new Uint8Array(128);
  for (const zone of zones) answers.fill(1, zone.keyLow, zone.keyHigh + 1);
  const low = answers.indexOf(1);
  const high = answers.lastIndexOf(1);
  const silent = Array.from({ length: high - low + 1 }, (_, i) => low + i).filter((key) => answers[key] === 0);
  if (silent.length === 0)
    found.push({ kind: "good", text: `Every key from ${nameOfNote(low)} to ${nameOfNote(high)} sounds.` });
  else
    found.push({
      kind: "doubt",
      text: `${silent.length} keys between ${nameOfNote(low)} and ${nameOfNote(high)} are silent: ${silent.slice(0, 5).map(nameOfNote).join(", ")}${silent.length > 5 ? " …" : ""}`,
    });
  const used = usedSamples(instrument);
  const unused = instrument.samples.filter((s) => !used.has(s.sha)).length;
  if (unused > 0) found.push({ kind: "good", text: `${unused} samples are not mapped; they stay behind.` });
  const { name, maker, licence } = instrument.about;
  if (name.trim() === "" || name === "New instrument")
    found.push({ kind: "doubt", text: "It has no name of its own yet." });
  if (maker.trim() === "") found.push({ kind: "doubt", text: "It doesn't say who made it." });
  if (licence.trim() === "") found.push({ kind: "doubt", text: "It doesn't say what others may do with it." });
  const loose = instrument.face.items.filter((i) => i.kind === "dial" && i.bind === null).length;
  if (instrument.face.items.length === 0)
    found.push({ kind: "doubt", text: "Its face is empty: the player will show only a keyboard." });
  else if (loose > 0) found.push({ kind: "doubt", text: `${loose} dials on its face are not bound and do nothing.` });
  return found;
}
