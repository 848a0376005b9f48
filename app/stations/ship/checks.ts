import { nameOfNote } from "../../../core/audio";
import { isControl } from "../../../core/face";
import { bindsOf, type Instrument, listZones, usedSamples } from "../../../core/instrument";
import { type KeyAnswer, keyAnswers, mappedKeys } from "../../../core/mapping";
import { plural } from "../../../core/params";

export interface Check {
  readonly kind: "good" | "warning" | "error";
  readonly text: string;
}

const named = (keys: readonly number[]): string =>
  `${keys.slice(0, 5).map(nameOfNote).join(", ")}${keys.length > 5 ? " …" : ""}`;

/** Which keys between the outermost sound, at every velocity and without conditions. */
function keyChecks(instrument: Instrument): Check[] {
  const range = mappedKeys(instrument);
  if (!range) return [];
  const { low, high } = range;
  const answers = keyAnswers(instrument);
  const keys = (kind: KeyAnswer["kind"]) =>
    Array.from({ length: high - low + 1 }, (_, i) => low + i).filter((key) => answers[key]?.kind === kind);
  const [silent, some, conditional] = [keys("silent"), keys("some"), keys("conditional")];
  const between = `between ${nameOfNote(low)} and ${nameOfNote(high)}`;
  const found: Check[] = [];
  if (silent.length > 0)
    found.push({
      kind: "warning",
      text: `${plural(silent.length, "key")} ${between} ${silent.length === 1 ? "has" : "have"} no zone that answers: ${named(silent)}`,
    });
  if (some.length > 0) {
    const [[from, to] = [0, 0]] = answers[some[0] ?? 0]?.gaps ?? [];
    found.push({
      kind: "warning",
      text: `${plural(some.length, "key")} ${between} ${some.length === 1 ? "has" : "have"} none at some velocities (${nameOfNote(some[0] ?? 0)} at ${from}–${to}): ${named(some)}`,
    });
  }
  if (conditional.length > 0)
    found.push({
      kind: "good",
      text: `${plural(conditional.length, "key")} ${conditional.length === 1 ? "answers" : "answer"} only under a condition, such as a keyswitch or a chance: ${named(conditional)}`,
    });
  if (found.length === 0)
    found.push({
      kind: "good",
      text: `A zone answers every key from ${nameOfNote(low)} to ${nameOfNote(high)}, at every velocity. How it sounds was not listened to.`,
    });
  return found;
}

/** What should be looked at before an instrument leaves the workshop. */
export function checks(instrument: Instrument): Check[] {
  const zones = listZones(instrument);
  if (zones.length === 0) return [{ kind: "error", text: "No zone is mapped: the instrument would be silent." }];
  const found: Check[] = [];
  found.push(...keyChecks(instrument));
  const used = usedSamples(instrument);
  const unused = instrument.samples.filter((s) => !used.has(s.sha)).length;
  if (unused > 0)
    found.push({
      kind: "good",
      text: `${plural(unused, "sample is", "samples are")} not mapped and ${unused === 1 ? "stays" : "stay"} behind.`,
    });
  const { name, maker, licence } = instrument.about;
  if (name.trim() === "" || name === "New instrument")
    found.push({ kind: "warning", text: "It has no name of its own yet." });
  if (maker.trim() === "") found.push({ kind: "warning", text: "It doesn't say who made it." });
  if (licence.trim() === "") found.push({ kind: "warning", text: "It doesn't say what others may do with it." });
  const loose = instrument.face.items.filter((i) => isControl(i.kind) && bindsOf(i).length === 0).length;
  if (instrument.face.items.length === 0)
    found.push({ kind: "warning", text: "Its face is empty: the player will show only a keyboard." });
  else if (loose > 0)
    found.push({
      kind: "warning",
      text: `${plural(loose, "control on its face is", "controls on its face are")} not bound and ${loose === 1 ? "does" : "do"} nothing.`,
    });
  return found;
}
