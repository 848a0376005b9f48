import { nameOfNote } from "../../../../core/audio";
import { formatNumber, plural } from "../../../../core/params";
import type { Proposal } from "../../../state/proposal";

/** A reason: what it is about, and a sentence with figures. */
export interface Reason {
  readonly about: string;
  readonly text: string;
}

/** Why the proposal is as it is. */
export function reasonsOf({ readings, shown, evidence, placement, samples, into }: Proposal): Reason[] {
  const reading = readings[shown];
  const { weighed } = evidence;
  const named = weighed.filter((w) => w.from === "name").length;
  const heard = weighed.filter((w) => w.heard !== null && w.called !== null);
  const agreeing = heard.filter((w) => Math.abs((w.called ?? 0) - (w.heard ?? 0)) <= 0.6).length;
  const reasons: Reason[] = [];
  if (placement.kit) return kitReasons(placement);
  if (reading?.columns.note) {
    const octave = reading.shift === 0 ? "" : `their C4 is our ${nameOfNote(60 + reading.shift)}; `;
    const how =
      reading.columns.note.manner === "class"
        ? "from the name, the octave from the sound; "
        : `from the name; ${octave}`;
    reasons.push({
      about: "Note",
      text: `${how}${heard.length === 0 ? "no pitch is clear enough to say more" : `${agreeing} of ${heard.length} sound as they are called`}`,
    });
  } else {
    const off = Math.round(placement.detune);
    reasons.push({
      about: "Note",
      text: `from the sound${named > 0 ? "" : ", as no name tells it"}${off === 0 ? "" : `; all together ${off > 0 ? "+" : "−"}${Math.abs(off)} cents off, which is taken back`}`,
    });
  }
  reasons.push({ about: "Layers", text: layersText(reading ?? null, placement.layered) });
  const most = placement.zones.reduce((m, z) => Math.max(m, z.repeat), 1);
  const told = reading?.columns.repeat !== undefined;
  reasons.push({
    about: "Repeats",
    text: most === 1 ? "none" : `up to ${most}, ${told ? "from the name" : "in the order in which they came"}`,
  });
  if (placement.microphones.length > 0)
    reasons.push({ about: "Microphones", text: `${placement.microphones.join(", ")}: they sound together` });
  const others = placement.groups.filter((g) => g.name !== "" || g.trigger === "noteOff");
  if (others.length > 0)
    reasons.push({
      about: "Groups",
      text: others
        .map(
          (g) =>
            `${g.name || "released"}: ${plural(g.zones.length, "zone")}${g.trigger === "noteOff" ? " at note off" : ""}`,
        )
        .join("; "),
    });
  if (placement.layered)
    reasons.push({
      about: "Velocity",
      text:
        into === "replace" || into === "layer"
          ? "to level will be 0 dB, since layers were recorded"
          : "to level stays as the layer has it",
    });
  if (placement.release && (into === "replace" || into === "layer"))
    reasons.push({
      about: "Release",
      text: `${formatNumber("seconds", placement.release.seconds)}, ${placement.release.why}, unless it was set by hand`,
    });
  const keyed = evidence.weighed.filter((w) => w.keys !== null).length;
  if (keyed > 0) reasons.push({ about: "Keys", text: `${keyed} of ${samples.length} files name theirs` });
  const loops = samples.filter((s) => s.file?.loop).length;
  if (loops > 0) reasons.push({ about: "Loops", text: `${loops} of ${samples.length} bring one in their files` });
  return reasons;
}

/** Why a kit is as it is. */
function kitReasons({ zones, groups, layered, roots, microphones }: Proposal["placement"]): Reason[] {
  const keys = zones.map((z) => z.root);
  const range = zones.length > 0 ? `, ${nameOfNote(Math.min(...keys))} to ${nameOfNote(Math.max(...keys))}` : "";
  const named = groups.filter((g) => g.name !== "").length;
  const most = zones.reduce((m, z) => Math.max(m, z.repeat), 1);
  const reasons: Reason[] = [
    { about: "Keys", text: `${plural(roots, "sound")} on a key each${range}; nothing is tuned` },
    {
      about: "Groups",
      text: named > 0 ? `one for each name: ${named}` : "one: names tell no two sounds apart",
    },
    { about: "Layers", text: layered ? "as names or levels tell them, for each sound by itself" : "one" },
    { about: "Repeats", text: most === 1 ? "none" : `up to ${most} of a sound` },
  ];
  if (microphones.length > 0)
    reasons.push({ about: "Microphones", text: `${microphones.join(", ")}: they sound together` });
  return reasons;
}

function layersText(reading: Proposal["readings"][number] | null, layered: boolean): string {
  const strength = reading?.columns.strength;
  if (!strength)
    return layered
      ? "by the levels of all notes together, as no name tells them"
      : "one: the levels of a note leave no gap";
  const values = new Map<number | string, { text: string; value: number }>();
  for (const m of strength.meanings) if (m) values.set(m.value, { text: String(m.value), value: Number(m.value) });
  const levels = reading?.levels ?? null;
  const sure =
    levels === null
      ? ""
      : Math.abs(levels) > 0.95
        ? "; every harder one is louder"
        : Math.abs(levels) > 0.5
          ? `; ${Math.round(((Math.abs(levels) + 1) / 2) * 100)} % of the harder ones are louder`
          : "; but the harder ones are seldom louder";
  const manner = { word: "words", top: "numbers", range: "ranges", percent: "percents", decibels: "decibels" } as const;
  const named = manner[strength.manner as keyof typeof manner] ?? "names";
  return `${values.size} by ${named}${reading?.falling ? ", the least the hardest" : ""}${sure}`;
}
