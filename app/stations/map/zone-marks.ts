import { byIdentity, type Group, type Instrument, type Mark, type Unit, type Zone } from "../../../core/instrument";

const MOMENTS: Readonly<Record<string, string>> = { noteOff: "note off", firstNote: "first", legato: "legato" };

/** When a group sounds, if it doesn't always; empty where it does. */
function markOfGroup({ params }: Unit): string {
  const { trigger, keyswitch: kind, controller, probability: chance } = params;
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

/** Looks zones up by their group: what the groups have, one to each in their order, and null or empty for none. Groups are taken as they are when a zone is asked for. */
function ofGroups<T>(values: readonly T[], none: T, layersNow: () => Instrument["layers"]): (zone: Zone) => T {
  if (values.every((value) => value === none)) return () => none;
  let of: { readonly layers: Instrument["layers"]; readonly values: ReadonlyMap<string, T> } | null = null;
  return (zone) => {
    const layers = layersNow();
    if (of?.layers !== layers) {
      const groups: readonly Group[] = layers.flatMap((l) => l.groups);
      const pairs = groups.flatMap((g, i) => {
        const value = values[i] ?? none;
        return value === none ? [] : g.zones.map((z) => [z.id, value] as const);
      });
      of = { layers, values: new Map(pairs) };
    }
    return of.values.get(zone.id) ?? none;
  };
}

/** The colours of groups, one to a line: a group without takes its layer's. */
export const groupColours = byIdentity((layers: Instrument["layers"]): string =>
  layers.flatMap((l) => l.groups.map((g) => (g.mark === "none" ? l.mark : g.mark))).join("\n"),
);

/** The colour by which a zone's group is told from others; `colours` is what groupColours gives. */
export const zoneColours = (colours: string, layersNow: () => Instrument["layers"]): ((zone: Zone) => Mark) =>
  ofGroups(colours.split("\n") as Mark[], "none", layersNow);

/**
 * What zones are marked with beside their roots: when their group sounds, and their microphone. `marks` is what groupMarks gives; the groups are looked up as
 * they are when a zone is asked for.
 */
export function zoneMarks(
  marks: string,
  mics: Instrument["mics"],
  layersNow: () => Instrument["layers"],
): (zone: Zone) => string {
  const micNames = new Map(mics.map((m) => [m.id, m.name]));
  const micOf = ({ mic }: Zone): string => (mic === null ? "" : (micNames.get(mic) ?? ""));
  const groupOf = ofGroups(marks.split("\n"), "", layersNow);
  return (zone) => [groupOf(zone), micOf(zone)].filter((m) => m !== "").join(" ");
}
