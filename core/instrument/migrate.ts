import { NAMING, newLoop, newSends, newSlice, newTake, newUnit, newZone, SONG } from "./defaults";
import { newFace, newFaceItem, newMove, newPage, newPages } from "./face-defaults";
import type { Slice, Take } from "./instrument";
import { DOCUMENT_VERSION } from "./instrument";
import { type Settled, settleInstrument } from "./settle-document";
import { documentNow } from "./words-of-before";

/** The version that a document from outside says it has; null when it says none. */
export function versionOf(raw: unknown): number | null {
  const version = typeof raw === "object" && raw !== null ? (raw as { version?: unknown }).version : null;
  return typeof version === "number" && Number.isInteger(version) && version >= 1 ? version : null;
}

type Json = Readonly<Record<string, unknown>>;
const listOf = (value: unknown): Json[] =>
  Array.isArray(value) ? value.filter((x): x is Json => typeof x === "object" && x !== null) : [];

/** Version 2: groups have settings, zones more ways to sound, routes curves; envelopes, microphones, sets, tuning. */
function toVersion2(raw: unknown): unknown {
  const doc = raw as Json;
  const zone = (z: Json): Json => ({
    ...newZone({ id: "", sample: "", end: 0 }),
    ...z,
    loop: z.loop ? newLoop(z.loop as { start: number; end: number }) : null,
  });
  return {
    ...doc,
    version: 2,
    envelopes: [],
    mics: [],
    sets: [],
    tuning: null,
    layers: listOf(doc.layers).map((layer) => ({
      ...layer,
      set: null,
      groups: listOf(layer.groups).map((g) => ({
        ...g,
        settings: newUnit("group", "settings", typeof g.name === "string" ? g.name : "Group"),
        zones: listOf(g.zones).map(zone),
      })),
    })),
    routes: listOf(doc.routes).map((r) => ({ curve: null, scale: null, smooth: null, ...r })),
  };
}

/** Version 3: takes know where they come from, how they are searched and what is done to them; slices are sorted; shot lists. */
function toVersion3(raw: unknown): unknown {
  const doc = raw as Json;
  const take = ({ threshold, ...t }: Json): Json => {
    const made: Take = newTake(t as unknown as Take);
    const slices = listOf(t.slices).map((s) => newSlice(s as unknown as Slice));
    const search = typeof threshold === "number" ? { ...made.search, threshold } : made.search;
    return { ...made, search, slices };
  };
  return {
    ...doc,
    version: 3,
    shots: [],
    naming: NAMING,
    takes: listOf(doc.takes).map(take),
    samples: listOf(doc.samples).map((s) => ({ strength: null, repeat: null, use: "note", ...s })),
  };
}

/** Version 4: takes know where sound was lost. */
function toVersion4(raw: unknown): unknown {
  const doc = raw as Json;
  return { ...doc, version: 4, takes: listOf(doc.takes).map((take) => ({ gaps: [], ...take })) };
}

/** Version 5: layers have inserts and go to sends; filters and effects can be switched off, which is at its default in each unit. */
function toVersion5(raw: unknown): unknown {
  const doc = raw as Json;
  const layers = listOf(doc.layers).map((layer) => ({ inserts: [], sends: newUnit("sends", "sends"), ...layer }));
  return { ...doc, version: 5, sends: newSends(), layers };
}

/** Version 6: a layer's sound may be computed: zones without a sample, tables, layers that feed layers. Nothing of an older document changes. */
const toVersion6 = (raw: unknown): unknown => ({ ...(raw as Json), version: 6 });

/** Version 7: samples know what their files said. */
function toVersion7(raw: unknown): unknown {
  const doc = raw as Json;
  return { ...doc, version: 7, samples: listOf(doc.samples).map((s) => ({ file: null, ...s })) };
}

/** Version 8: zones and the whole keep what an open format said that has no counterpart; samples know more of what their files said. */
function toVersion8(raw: unknown): unknown {
  const doc = raw as Json;
  const file = (given: unknown): unknown => {
    if (typeof given !== "object" || given === null) return null;
    const { loop, ...rest } = given as Json;
    const whole = typeof loop === "object" && loop !== null ? { mode: "forward", ...loop } : null;
    return { range: null, text: "", ...rest, loop: whole };
  };
  const layers = listOf(doc.layers).map((layer) => ({
    ...layer,
    groups: listOf(layer.groups).map((g) => ({ ...g, zones: listOf(g.zones).map((z) => ({ kept: "", ...z })) })),
  }));
  const samples = listOf(doc.samples).map((s) => ({ ...s, file: file(s.file) }));
  return { ...doc, version: 8, kept: "", layers, samples };
}

/** Version 9: layers and groups have a mark and a note. */
function toVersion9(raw: unknown): unknown {
  const doc = raw as Json;
  const marked = (part: Json): Json => ({ mark: "none", note: "", ...part });
  const layers = listOf(doc.layers).map((l) => ({ ...marked(l), groups: listOf(l.groups).map(marked) }));
  return { ...doc, version: 9, layers };
}

/** Version 10: loops may be kept even and zones have variants of them; samples know their beat. */
function toVersion10(raw: unknown): unknown {
  const doc = raw as Json;
  const loop = (given: unknown): unknown =>
    typeof given === "object" && given !== null ? { flat: null, ...given } : given;
  const zone = (z: Json): Json => ({
    ...{ variants: [], variant: 0 },
    ...z,
    loop: loop(z.loop),
    releaseLoop: loop(z.releaseLoop),
  });
  const layers = listOf(doc.layers).map((layer) => ({
    ...layer,
    groups: listOf(layer.groups).map((g) => ({ ...g, zones: listOf(g.zones).map(zone) })),
  }));
  return { ...doc, version: 10, layers, samples: listOf(doc.samples).map((s) => ({ beat: null, ...s })) };
}

/** Version 11: faces have pages, a theme, and more than dials and labels. */
function toVersion11(raw: unknown): unknown {
  const doc = raw as Json;
  const face = typeof doc.face === "object" && doc.face !== null ? (doc.face as Json) : {};
  const plain = {
    ...{ name: "", page: "front", bind: null, also: [], from: 0, to: 1, form: "", tone: "ink" },
    ...{ group: null, locked: false, hidden: false, when: null },
  };
  const items = listOf(face.items).map((item) => {
    const { id, kind, x, y, width, height, text, bind } = item;
    return { ...plain, id, kind, x, y, width, height, text, bind };
  });
  const pages = newPages().map(({ id, name }) => ({ id, name }));
  return { ...doc, version: 11, face: { theme: "ledger", pages, ...face, items } };
}

/** Version 12: what an item moves has a range for each; several conditions, pictures, fonts, grounds, other screens. */
function toVersion12(raw: unknown): unknown {
  const doc = raw as Json;
  const face = typeof doc.face === "object" && doc.face !== null ? (doc.face as Json) : {};
  const items = listOf(face.items).map(({ bind, also, from, to, when, ...item }) => ({
    ...newFaceItem({ id: "", kind: "label" }),
    ...item,
    moves: [bind, ...(Array.isArray(also) ? also : [])]
      .filter((address): address is string => typeof address === "string")
      .map((address) => ({ ...newMove(address), from: from ?? 0, to: to ?? 1 })),
    when:
      typeof when === "object" && when !== null ? [{ upTo: 1, tone: "spot", picture: null, ...(when as Json) }] : [],
  }));
  const pages = listOf(face.pages).map((page) => ({ ...newPage("", ""), ...page }));
  return { ...doc, version: 12, face: { ...newFace(), ...face, pages, items } };
}

/** Version 13: samples know how they were cut; tempo and meter are the instrument's. */
function toVersion13(raw: unknown): unknown {
  const doc = raw as Json;
  const filled = (value: unknown, fields: Json) =>
    typeof value === "object" && value !== null ? { ...fields, ...(value as Json) } : value;
  const samples = listOf(doc.samples).map((s) => ({
    ...s,
    from: filled(s.from, { cut: null }),
    file: filled(s.file, { further: [] }),
  }));
  return { ...doc, version: 13, song: SONG, samples };
}

/** Version 14: parameters, their choices and columns are called as the trade calls them. */
function toVersion14(raw: unknown): unknown {
  return { ...documentNow(raw as Json), version: 14 };
}

/** Steps from one version to the next, by the version they begin at. */
const STEPS: Readonly<Record<number, (raw: unknown) => unknown>> = {
  1: toVersion2,
  2: toVersion3,
  3: toVersion4,
  4: toVersion5,
  5: toVersion6,
  6: toVersion7,
  7: toVersion8,
  8: toVersion9,
  9: toVersion10,
  10: toVersion11,
  11: toVersion12,
  12: toVersion13,
  13: toVersion14,
};

/**
 * Brings a document from outside to this version and puts right what isn't as it should be. `instrument` is null where nothing can be made of it:
 * it says no version, a newer one, or isn't a document at all; `faults` say what was found, and whether putting it right loses anything.
 */
export function migrate(raw: unknown): Settled {
  const version = versionOf(raw);
  const hopeless = (path: string, problem: string): Settled => ({
    instrument: null,
    faults: [{ path, problem, repair: "Nothing can be done", loses: true }],
  });
  if (version === null) return hopeless("", "doesn't say which version of the document it is");
  if (version > DOCUMENT_VERSION) {
    return hopeless(
      "",
      `was made by a newer Vise (document ${version}; this one reads up to ${DOCUMENT_VERSION}). Update Vise to open it`,
    );
  }
  let current = raw;
  for (let v = version; v < DOCUMENT_VERSION; v++) current = STEPS[v]?.(current) ?? current;
  return settleInstrument(current);
}
