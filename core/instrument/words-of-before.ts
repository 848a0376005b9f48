import { isUnitKind, type ParamId, type UnitKind } from "../units";

type Json = Readonly<Record<string, unknown>>;
type Value = number | string;

/** What a parameter or a column was called before version 14, and how its values are said now. */
interface Renamed {
  readonly to: ParamId;
  /** Choices that have another id. */
  readonly choices?: Readonly<Record<string, string>>;
  /** Whether its values, from 0 to 1, are turned round. */
  readonly turned?: true;
}

const SYNC: Renamed = { to: "sync", choices: { free: "off" } };

/** Parameters by their ids before version 14, by the kind of their unit. No id of before is one of the same kind's now. */
export const RENAMED: Partial<Record<UnitKind, Readonly<Record<string, Renamed>>>> = {
  oscillator: {
    into: { to: "secondWave" },
    subDown: { to: "subInterval" },
    sync: { to: "hardSync" },
    above: { to: "syncPitch" },
    bend: { to: "phaseDistortion" },
    fed: { to: "feedback" },
    begins: { to: "startPhase" },
    depth: { to: "phaseModulation" },
  },
  wavetable: { between: { to: "interpolation" }, cycle: { to: "cycleLength" } },
  partials: { odd: { to: "oddEven" }, rise: { to: "attack" }, scatter: { to: "phases" }, place: { to: "pan" } },
  grains: { around: { to: "positionJitter" }, irregular: { to: "timingJitter" }, track: { to: "keyTracking" } },
  noise: {
    beat: SYNC,
    length: { to: "burstLength" },
    chance: { to: "probability" },
    uneven: { to: "levelJitter" },
  },
  strike: { drop: { to: "pitchDrop" }, dropLength: { to: "dropTime" }, colour: { to: "cutoff" } },
  group: {
    tune: { to: "tuning" },
    repeats: { to: "roundRobin", choices: { order: "cycle", fresh: "noRepeats" } },
    trigger: { to: "trigger", choices: { press: "noteOn", release: "noteOff", first: "firstNote" } },
    fall: { to: "releaseDecay" },
    chance: { to: "probability" },
    switch: { to: "keyswitch", choices: { held: "momentary" } },
    choke: { to: "chokeGroup" },
  },
  filter: {
    mode: { to: "type" },
    character: { to: "model" },
    follow: { to: "keyTracking" },
    lift: { to: "gain" },
    rings: { to: "resonanceWidth", choices: { ratio: "constantQ", time: "constantDecay" } },
  },
  resonator: { place: { to: "strikePosition" }, evened: { to: "compensation" } },
  comb: { ends: { to: "ends", choices: { same: "closed", other: "open" } } },
  shaper: { tame: { to: "lowNoteDrive" } },
  ring: { by: { to: "tunedBy", choices: { hertz: "frequency" } } },
  coarse: { follow: { to: "keyTracking" } },
  transient: { begins: { to: "attack" }, goesOn: { to: "sustain" } },
  level: { way: { to: "polarity", choices: { kept: "normal", turned: "inverted" } } },
  place: { amount: { to: "width" }, middle: { to: "centreKey" } },
  strip: { heard: { to: "mute", turned: true } },
  path: { loopFrom: { to: "loopStart" }, loopTo: { to: "loopEnd" } },
  lfo: {
    shape: { to: "shape", choices: { held: "sampleAndHold" } },
    beat: SYNC,
    scope: { to: "retrigger", choices: { phrase: "firstNote" } },
    fade: { to: "fadeIn" },
  },
  compressor: { ahead: { to: "lookAhead" } },
  gate: { lower: { to: "hysteresis" } },
  chorus: { beat: SYNC, time: { to: "delay" } },
  flanger: { beat: SYNC, time: { to: "delay" } },
  phaser: { beat: SYNC },
  tremolo: { beat: SYNC },
  rotary: {
    speed: { to: "speed", choices: { still: "stopped" } },
    slow: { to: "slowRate" },
    fast: { to: "fastRate" },
    inertia: { to: "rampTime" },
    split: { to: "crossover" },
    near: { to: "micDistance", turned: true },
  },
  delay: {
    beat: SYNC,
    duck: { to: "ducking" },
    back: { to: "duckRelease" },
    way: { to: "mode", choices: { straight: "stereo", crossing: "pingPong" } },
  },
  hall: {
    low: { to: "lowDecay" },
    high: { to: "highDecay" },
    lowBelow: { to: "lowCrossover" },
    highAbove: { to: "highCrossover" },
    early: { to: "earlyReflections" },
    motion: { to: "modulation" },
  },
  convolution: {
    delay: { to: "preDelay" },
    fade: { to: "fadeOut" },
    rise: { to: "fadeIn" },
    way: { to: "direction" },
  },
  set: { chosen: { to: "selected" } },
  play: {
    mode: { to: "voiceMode" },
    bend: { to: "bendRange" },
    glideWhen: { to: "glideWhen", choices: { bound: "legato" } },
    memory: { to: "sampleMemory", choices: { exact: "asRecorded", float: "float32", half: "int16" } },
  },
  denoise: {
    amount: { to: "reduction" },
    above: { to: "threshold" },
    from: { to: "learnFrom" },
    to: { to: "learnTo" },
  },
};

const isJson = (value: unknown): value is Json => typeof value === "object" && value !== null && !Array.isArray(value);

const renamedOf = (kind: unknown, id: string): Renamed | null => {
  const ids = typeof kind === "string" && isUnitKind(kind) ? RENAMED[kind] : undefined;
  return ids && Object.hasOwn(ids, id) ? (ids[id] as Renamed) : null;
};

function valueNow(renamed: Renamed, value: unknown): unknown {
  if (renamed.turned) return typeof value === "number" ? 1 - value : value;
  const choices = renamed.choices ?? {};
  return typeof value === "string" && Object.hasOwn(choices, value) ? choices[value] : value;
}

/** Values by the ids of a kind's parameters or columns as they are now, out of those of before; ids that mean nothing stay. Values by ids of now stay, too. */
export function paramsNow(kind: unknown, values: unknown): unknown {
  if (!isJson(values)) return values;
  return Object.fromEntries(
    Object.entries(values).flatMap(([id, value]): [string, unknown][] => {
      const renamed = renamedOf(kind, id);
      if (!renamed) return [[id, value]];
      if (renamed.to !== id && Object.hasOwn(values, renamed.to)) return [];
      return [[renamed.to, valueNow(renamed, value)]];
    }),
  );
}

/** A unit, or what a preset of one says (`kind`, `params`, `table`), with the ids of now. */
export function unitNow<T>(unit: T): T {
  if (!isJson(unit)) return unit;
  const { kind, params, table } = unit;
  return {
    ...unit,
    ...(params === undefined ? {} : { params: paramsNow(kind, params) }),
    ...(Array.isArray(table) ? { table: table.map((row) => paramsNow(kind, row)) } : {}),
  };
}

/** What an address is now, and whether its values are turned round; `kindAt` gives the kind of the unit at an address. */
function addressNow(address: unknown, kindAt: (unit: string) => unknown): { address: unknown; turned: boolean } {
  if (typeof address !== "string") return { address, turned: false };
  const cut = address.lastIndexOf("/");
  const id = address.slice(cut + 1);
  const row = /\/rows\/\d+$/.exec(address.slice(0, cut));
  const unit = address.slice(0, row ? row.index : Math.max(0, cut));
  const renamed = renamedOf(kindAt(unit), id);
  if (!renamed || renamed.to === id) return { address, turned: false };
  return { address: `${address.slice(0, cut + 1)}${renamed.to}`, turned: renamed.turned === true };
}

const mapped = (value: unknown, fn: (one: Json) => unknown): unknown =>
  Array.isArray(value) ? value.map((one) => (isJson(one) ? fn(one) : one)) : value;

const turnedRound = (x: unknown): unknown => (typeof x === "number" ? 1 - x : x);

/** A condition of the face with the address of now. */
function conditionNow(kindAt: (unit: string) => unknown) {
  return (when: Json): Json => {
    const { address, turned } = addressNow(when.address, kindAt);
    if (!turned) return { ...when, address };
    const { is, share, upTo } = when;
    if (is === "between") return { ...when, address, share: turnedRound(upTo), upTo: turnedRound(share) };
    return { ...when, address, is: is === "above" ? "below" : "above", share: turnedRound(share) };
  };
}

/** Units by their addresses, as far as the document is one. */
function unitsByAddress(doc: Json): ReadonlyMap<string, unknown> {
  const kinds = new Map<string, unknown>();
  const put = (address: string, unit: unknown): void => {
    if (isJson(unit)) kinds.set(address, unit.kind);
  };
  const each = (value: unknown, fn: (one: Json) => void): void => {
    for (const one of Array.isArray(value) ? value : []) if (isJson(one)) fn(one);
  };
  const list = (at: string, units: unknown): void => each(units, (u) => put(`${at}/${u.id}`, u));
  put("play", doc.play);
  for (const name of ["envelopes", "lfos", "macros", "mics", "sets", "effects"]) list(name, doc[name]);
  each(doc.sends, (send) => list(`sends/${send.id}`, send.units));
  each(doc.layers, (layer) => {
    const at = `layers/${layer.id}`;
    for (const part of ["source", "amp", "strip", "sends"]) put(`${at}/${part}`, layer[part]);
    for (const part of ["stages", "inserts"]) list(`${at}/${part}`, layer[part]);
    each(layer.groups, (group) => put(`${at}/groups/${group.id}`, group.settings));
  });
  return kinds;
}

/** The whole document with the ids of now: every unit, and every address in routes, on the face and in its conditions. */
export function documentNow(doc: Json): Json {
  const kinds = unitsByAddress(doc);
  const kindAt = (unit: string): unknown => kinds.get(unit);
  const condition = conditionNow(kindAt);
  const units = (value: unknown) => mapped(value, unitNow);
  const lists = (of: Json, names: readonly string[]): Json =>
    Object.fromEntries(names.flatMap((name) => (name in of ? [[name, units(of[name])]] : [])));
  const move = (given: Json): Json => {
    const { address, turned } = addressNow(given.address, kindAt);
    return turned
      ? { ...given, address, from: turnedRound(given.from), to: turnedRound(given.to) }
      : { ...given, address };
  };
  const route = (given: Json): Json => {
    const { address, turned } = addressNow(given.target, kindAt);
    const amount = turned && typeof given.amount === "number" ? -given.amount : given.amount;
    return { ...given, target: address, amount };
  };
  const layer = (given: Json): Json => ({
    ...given,
    ...lists(given, ["stages", "inserts"]),
    ...Object.fromEntries(["source", "amp", "strip", "sends"].map((part) => [part, unitNow(given[part])])),
    groups: mapped(given.groups, (group) => ({ ...group, settings: unitNow(group.settings) })),
  });
  const face = isJson(doc.face) ? doc.face : {};
  const conditions = (when: unknown) => (isJson(when) ? condition(when) : mapped(when, condition));
  return {
    ...doc,
    ...lists(doc, ["envelopes", "lfos", "macros", "mics", "sets", "effects"]),
    play: unitNow(doc.play),
    sends: mapped(doc.sends, (send) => ({ ...send, units: units(send.units) })),
    layers: mapped(doc.layers, layer),
    routes: mapped(doc.routes, route),
    takes: mapped(doc.takes, (take) => ({
      ...take,
      treatments: units(take.treatments),
      slices: mapped(take.slices, (slice) => ({ ...slice, treatments: units(slice.treatments) })),
    })),
    face: {
      ...face,
      items: mapped(face.items, (item) => ({
        ...item,
        moves: mapped(item.moves, move),
        when: conditions(item.when),
      })),
      pages: mapped(face.pages, (page) => ({ ...page, when: conditions(page.when) })),
    },
  };
}

/** What a parameter of a kind was called before, and its value of now out of one of then; null where it was called the same. */
export function formerly(
  kind: UnitKind,
  id: string,
): { readonly id: string; readonly now: (value: Value) => Value } | null {
  const found = Object.entries(RENAMED[kind] ?? {}).find(([, renamed]) => renamed.to === id);
  if (!found) return null;
  const [before, renamed] = found;
  return { id: before, now: (value) => valueNow(renamed, value) as Value };
}
