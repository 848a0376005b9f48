import { byIdentity, type Instrument, type Unit, type Zone } from "../../../core/instrument";

const MOMENTS: Readonly<Record<string, string>> = { release: "key up", first: "first", legato: "legato" };

/** When a group sounds, if it doesn't always; empty where it does. */
function markOfGroup({ params }: Unit): string {
  const { trigger, switch: kind, controller, chance } = params;
  return [
    MOMENTS[String(trigger)] ?? "",
    kind === "none" ? "" : "switch",
    Number(controller) < 0 ? "" : `CC ${controller}`,
    Number(chance) < 1 ? `${Math.round(Number(chance) * 100)} %` : "",
  ]
    .filter((m) => m !== "")
    .join(" ");
}

/** The marks of groups, one to a line: the same text as long as nothing of them is another, whatever becomes of their zones. */
export const groupMarks = byIdentity((layers: Instrument["layers"]): string =>
  layers.flatMap((l) => l.groups.map((g) => markOfGroup(g.settings))).join("\n"),
);

/**
 * What zones are marked with beside their roots: when their group sounds, and their microphone. `marks` is what groupMarks gives; the groups are looked up as
 * they are when a zone is asked for.
 */
export function zoneMarks(
  marks: string,
  mics: Instrument["mics"],
  layersNow: () => Instrument["layers"],
): (zone: Zone) => string {
  const lines = marks.split("\n");
  const micNames = new Map(mics.map((m) => [m.id, m.name]));
  const micOf = ({ mic }: Zone): string => (mic === null ? "" : (micNames.get(mic) ?? ""));
  if (lines.every((line) => line === "")) return micOf;
  let of: { readonly layers: Instrument["layers"]; readonly marks: ReadonlyMap<string, string> } | null = null;
  return (zone) => {
    const layers = layersNow();
    if (of?.layers !== layers) {
      const groups = layers.flatMap((l) => l.groups);
      of = {
        layers,
        marks: new Map(groups.flatMap((g, i) => (lines[i] ? g.zones.map((z) => [z.id, lines[i] ?? ""] as const) : []))),
      };
    }
    return [of.marks.get(zone.id) ?? "", micOf(zone)].filter((m) => m !== "").join(" ");
  };
}
