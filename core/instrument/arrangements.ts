import { type ParamValues, presetsOf, type UnitKind } from "../units";
import { changeUnit } from "./address";
import { newLayer, newUnit } from "./defaults";
import type { Edit } from "./edit";
import type { Instrument } from "./instrument";
import { addLayer, mapLayer, setSource } from "./layer-edits";
import { setUp } from "./param-edits";

/** A layer of an arrangement: its source, what stands behind it, whether it is heard itself, and which of the others comes in. */
interface Member {
  readonly name: string;
  readonly source: UnitKind;
  readonly params?: ParamValues;
  readonly stages?: readonly {
    readonly kind: UnitKind;
    readonly params?: ParamValues;
    /** One of its presets, by name. */
    readonly as?: string;
  }[];
  readonly silent?: true;
  /** The number of the member whose sound moves its source. */
  readonly hears?: number;
}

/** Some layers that work together. */
export interface Arrangement {
  readonly id: string;
  readonly label: string;
  readonly members: readonly Member[];
}

const sine = (name: string, params: ParamValues, more: Partial<Member> = {}): Member => ({
  name,
  source: "oscillator",
  params: { wave: "sine", ...params },
  ...more,
});

/** Arrangements that are there from the beginning: who feeds comes before who hears. */
export const ARRANGEMENTS: readonly Arrangement[] = [
  {
    id: "pair",
    label: "Two-operator FM",
    members: [sine("Modulator", { transpose: 12 }, { silent: true }), sine("Carrier", { depth: 0.4 }, { hears: 0 })],
  },
  {
    id: "row",
    label: "Three-operator FM, in series",
    members: [
      sine("First", { transpose: 19 }, { silent: true }),
      sine("Second", { transpose: 12, depth: 0.3 }, { silent: true, hears: 0 }),
      sine("Third", { depth: 0.5 }, { hears: 1 }),
    ],
  },
  {
    id: "fork",
    label: "One modulator, two carriers",
    members: [
      sine("Modulator", { transpose: 7 }, { silent: true }),
      sine("Left", { depth: 0.4 }, { hears: 0 }),
      sine("Right", { transpose: 12, depth: 0.25 }, { hears: 0 }),
    ],
  },
  {
    id: "rough",
    label: "Noise FM",
    members: [
      { name: "Noise", source: "noise", params: { colour: "pink", width: 0.2 }, silent: true },
      sine("Tone", { depth: 1 }, { hears: 0 }),
    ],
  },
  {
    id: "struck",
    label: "Struck body",
    members: [
      {
        name: "Struck",
        source: "strike",
        params: { tone: -40, noise: -6, noiseLength: 0.012 },
        stages: [{ kind: "resonator", as: "Steel bar", params: { level: 20 } }],
      },
    ],
  },
  {
    id: "blown",
    label: "Blown tube",
    members: [
      {
        name: "Blown",
        source: "impulses",
        params: { tilt: -5, jitter: 0.02 },
        stages: [{ kind: "resonator", as: "Tube, closed at one end", params: { level: 0 } }],
      },
    ],
  },
];

/** Adds the layers of an arrangement, led into each other; `ids` and `names` are those of its members, new in the document. */
export const addArrangement = (
  { label, members }: Arrangement,
  ids: readonly string[],
  names: readonly string[],
): Edit => ({
  name: `Add ${label.toLowerCase()}`,
  apply: (before) => {
    let doc = before;
    members.forEach((member, m) => {
      doc = withMember(doc, member, { id: ids[m] as string, name: names[m] as string }, ids);
    });
    return doc;
  },
});

function withMember(
  before: Instrument,
  { source, params = {}, stages = [], silent, hears }: Member,
  { id, name }: { readonly id: string; readonly name: string },
  ids: readonly string[],
): Instrument {
  const units = stages.map(({ kind }, s) => newUnit(kind, `${kind}${s + 1}`));
  let doc = setSource(id, source).apply(addLayer({ ...newLayer(id, name), stages: units }).apply(before));
  doc = setUp(`layers/${id}/source`, { name: "", params }).apply(doc);
  stages.forEach(({ kind, params: own = {}, as }, s) => {
    const ready = presetsOf(kind).find((r) => r.name === as);
    doc = setUp(`layers/${id}/stages/${kind}${s + 1}`, {
      ...ready,
      name: "",
      params: { ...ready?.params, ...own },
    }).apply(doc);
  });
  if (hears !== undefined)
    doc = changeUnit(doc, `layers/${id}/source`, (unit) => ({ ...unit, from: ids[hears] as string }));
  return silent
    ? mapLayer(doc, id, (l) => ({ ...l, strip: { ...l.strip, params: { ...l.strip.params, mute: 1 } } }))
    : doc;
}
