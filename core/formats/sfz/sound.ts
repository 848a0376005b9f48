import { resonanceOf } from "../../dsp";
import { defaultParams } from "../../units";
import type { Controllers } from "./controllers";
import { draftRoute, type RouteDraft, type SoundDraft, type UnitDraft } from "./drafts";
import { depthOf, FLOOR, filterOfWord, SEGMENTS, throughValues } from "./laws";
import type { Moved, RegionReader } from "./region-reader";

/** Longest of each segment in seconds. */
const LONGEST = { delay: 10, attack: 10, hold: 10, decay: 20, release: 20 } as const;

/** Octaves in so many cents. */
const octaves = (cents: number): number => cents / 1200;

/** A controller's movement as a route: straight, or by its curve. */
export function movedRoute(
  move: Moved,
  controllers: Controllers,
  to: Pick<RouteDraft, "place" | "param">,
  amount: number,
): RouteDraft | null {
  const source = controllers.sourceOf(move.controller);
  if (!source) return null;
  return draftRoute({
    source: source.source,
    ...to,
    amount,
    curve: move.curve === null ? null : controllers.draw(`curve ${move.curve}`, controllers.curve(move.curve)),
    smooth: move.smooth === null ? null : Math.max(0, Math.min(10, move.smooth / 1000)),
  });
}

/** Collects the routes of a setting that controllers move; those that can't be are given back. */
export function movedRoutes(
  reader: RegionReader,
  controllers: Controllers,
  name: string,
  to: Pick<RouteDraft, "place" | "param">,
  scale: (amount: number) => number,
): RouteDraft[] {
  return reader.movedBy(name).flatMap((move) => {
    const route = movedRoute(move, controllers, to, scale(move.amount));
    if (!route) reader.giveBack(`${name}_oncc${move.controller}`, `${name}_curvecc${move.controller}`);
    return route ?? [];
  });
}

/** The segments of an envelope; decays fall evenly in decibels, as both sides have it. */
function segments(reader: RegionReader, prefix: string): Record<string, number> {
  const params: Record<string, number> = { ...defaultParams("amp") };
  for (const id of SEGMENTS) params[id] = reader.number(`${prefix}_${id}`, 0, LONGEST[id]) ?? 0;
  params.sustain = (reader.number(`${prefix}_sustain`, 0, 100) ?? 100) / 100;
  return params;
}

/** What velocity and controllers do to the times of an envelope. */
function segmentRoutes(
  reader: RegionReader,
  controllers: Controllers,
  prefix: string,
  place: RouteDraft["place"],
): RouteDraft[] {
  const routes: RouteDraft[] = [];
  for (const id of [...SEGMENTS, "sustain"] as const) {
    const unit = id === "sustain" ? 100 : 1;
    const amount = reader.number(`${prefix}_vel2${id}`, -100, 100);
    if (amount) routes.push(draftRoute({ source: "velocity", place, param: id, amount: amount / unit }));
    routes.push(...movedRoutes(reader, controllers, `${prefix}_${id}`, { place, param: id }, (a) => a / unit));
  }
  return routes;
}

/** An envelope that is used for something other than level; null where it does nothing. */
export function envelopeRoutes(
  reader: RegionReader,
  controllers: Controllers,
  prefix: "fileg" | "pitcheg",
  to: Pick<RouteDraft, "place" | "param">,
  scale: (cents: number) => number,
): RouteDraft[] {
  const depth = reader.number(`${prefix}_depth`, -12000, 12000) ?? 0;
  const byVelocity = reader.number(`${prefix}_vel2depth`, -12000, 12000) ?? 0;
  const moves = reader.movedBy(`${prefix}_depth`);
  if (depth === 0 && byVelocity === 0 && moves.length === 0) return [];
  const source: UnitDraft = {
    kind: "envelope",
    name: prefix === "fileg" ? "Filter envelope" : "Pitch envelope",
    params: segments(reader, prefix),
    curve: null,
    routes: segmentRoutes(reader, controllers, prefix, "unit"),
  };
  const routes = depth === 0 ? [] : [draftRoute({ source, ...to, amount: scale(depth) })];
  if (byVelocity !== 0) routes.push(draftRoute({ source, ...to, amount: scale(byVelocity), scale: "velocity" }));
  for (const move of moves) {
    const by = controllers.sourceOf(move.controller);
    if (by) routes.push(draftRoute({ source, ...to, amount: scale(move.amount), scale: by.source }));
  }
  return routes;
}

/** An LFO of the first version of the format; nothing where its depth is 0. */
export function lfoRoutes(
  reader: RegionReader,
  controllers: Controllers,
  prefix: "amplfo" | "fillfo" | "pitchlfo",
  to: Pick<RouteDraft, "place" | "param">,
  scale: (depth: number) => number,
): RouteDraft[] {
  const depth = reader.number(`${prefix}_depth`, -12000, 12000) ?? 0;
  const moves = reader.movedBy(`${prefix}_depth`);
  if (depth === 0 && moves.length === 0) return [];
  const rate = reader.number(`${prefix}_freq`, 0.02, 40) ?? 1;
  const source: UnitDraft = {
    kind: "lfo",
    name: { amplfo: "Level LFO", fillfo: "Filter LFO", pitchlfo: "Pitch LFO" }[prefix],
    params: {
      ...defaultParams("lfo"),
      rate,
      delay: reader.number(`${prefix}_delay`, 0, 10) ?? 0,
      fadeIn: reader.number(`${prefix}_fade`, 0, 10) ?? 0,
    },
    curve: null,
    routes: rateRoutes(reader, controllers, `${prefix}_freq`, rate),
  };
  return depthRoutes(source, controllers, to, depth, moves, scale);
}

/** What controllers do to a rate: hertz are added there, octaves here. */
export function rateRoutes(reader: RegionReader, controllers: Controllers, name: string, rate: number): RouteDraft[] {
  return reader.movedBy(name).flatMap((move) => {
    const most = Math.log2(Math.max(0.02, rate + move.amount) / rate);
    const by = controllers.sourceOf(move.controller);
    if (!by || most === 0) return [];
    const shape = controllers.curve(move.curve);
    const curve = controllers.draw(
      `rate ${rate} ${move.amount} ${move.curve}`,
      (x) => Math.log2(Math.max(0.02, rate + move.amount * shape(x)) / rate) / most,
    );
    return [draftRoute({ source: by.source, place: "unit", param: "rate", amount: most, curve })];
  });
}

/** Routes of a unit to something: as deep as it is, and as deep as controllers make it. */
export function depthRoutes(
  source: UnitDraft,
  controllers: Controllers,
  to: Pick<RouteDraft, "place" | "param">,
  depth: number,
  moves: readonly Moved[],
  scale: (depth: number) => number,
): RouteDraft[] {
  const routes = depth === 0 ? [] : [draftRoute({ source, ...to, amount: scale(depth) })];
  for (const move of moves) {
    const by = controllers.sourceOf(move.controller);
    if (by) routes.push(draftRoute({ source, ...to, amount: scale(move.amount), scale: by.source }));
  }
  return routes;
}

/** One of the two filters; null where the file has none, or one of a kind that isn't here. */
function filter(
  reader: RegionReader,
  controllers: Controllers,
  n: "" | "2",
): { params: Record<string, number | string>; routes: RouteDraft[] } | null {
  const prefix = n === "" ? "fil" : "fil2";
  if (!reader.has(`cutoff${n}`) && reader.movedBy(`cutoff${n}`).length === 0) return null;
  const kind = filterOfWord(reader.text(`${prefix}_type`) ?? "lpf_2p");
  if (!kind) {
    reader.giveBack(`${prefix}_type`);
    return null;
  }
  const place = n === "" ? "filter" : "filter2";
  const to = { place, param: "cutoff" } as const;
  const routes: RouteDraft[] = [];
  const track = reader.number(`${prefix}_keytrack`, -1200, 1200) ?? 0;
  const center = reader.key(`${prefix}_keycenter`) ?? 60;
  if (track !== 0) routes.push(draftRoute({ source: "key", ...to, amount: octaves(60 * track) }));
  const byVelocity = reader.number(`${prefix}_veltrack`, -9600, 9600) ?? 0;
  if (byVelocity !== 0) routes.push(draftRoute({ source: "velocity", ...to, amount: octaves(byVelocity) }));
  const random = reader.number(`${prefix}_random`, 0, 9600) ?? 0;
  if (random !== 0) routes.push(draftRoute({ source: "random", ...to, amount: octaves(random) }));
  routes.push(...movedRoutes(reader, controllers, `cutoff${n}`, to, octaves));
  if (n === "") {
    routes.push(
      ...envelopeRoutes(reader, controllers, "fileg", to, octaves),
      ...lfoRoutes(reader, controllers, "fillfo", to, octaves),
    );
  }
  const cutoff = (reader.number(`cutoff${n}`, 0, 100000) ?? 20000) * 2 ** octaves((60 - center) * track);
  const params = {
    ...defaultParams("filter"),
    ...kind,
    cutoff: Math.max(20, Math.min(20000, cutoff)),
    resonance: resonanceOf(Math.SQRT2 * 10 ** (-(reader.number(`resonance${n}`, 0, 96) ?? 0) / 20)),
  };
  return { params, routes };
}

/** Bands of an equaliser as wide as so many octaves. */
const qOfOctaves = (width: number): number => Math.SQRT2 ** width / (2 ** width - 1);

function equaliserOf(reader: RegionReader): Record<string, number | string> | null {
  let params: Record<string, number | string> | null = null;
  for (let n = 1; n <= 3; n++) {
    const gain = reader.number(`eq${n}_gain`, -24, 24) ?? 0;
    if (gain === 0) {
      reader.pass(`eq${n}_freq`, `eq${n}_bw`, `eq${n}_type`);
      continue;
    }
    params ??= Object.fromEntries(
      Object.entries(defaultParams("equaliser")).map(([id, value]) => [id, id.startsWith("kind") ? "off" : value]),
    );
    const type = reader.word(`eq${n}_type`, ["peak", "lshelf", "hshelf"]) ?? "peak";
    params[`kind${n}`] = { peak: "bell", lshelf: "lowShelf", hshelf: "highShelf" }[type];
    params[`gain${n}`] = gain;
    params[`frequency${n}`] = reader.number(`eq${n}_freq`, 20, 20000) ?? [50, 500, 5000][n - 1] ?? 500;
    params[`q${n}`] = Math.max(0.1, Math.min(20, qOfOctaves(reader.number(`eq${n}_bw`, 0.05, 8) ?? 1)));
  }
  return params;
}

/** How level follows velocity: as decibels from softest to hardest where it is such a line, else as a route with its curve. */
function velocityOf(reader: RegionReader, controllers: Controllers): { velocity: number; routes: RouteDraft[] } {
  const track = (reader.number("amp_veltrack", -100, 100) ?? 100) / 100;
  const points = reader.numbered("amp_velcurve_");
  const values = new Map<number, number>();
  for (const { name, number } of points) {
    const value = reader.number(name, 0, 1);
    if (value !== null && number < 128) values.set(number, value);
  }
  if (track === 0) return { velocity: 0, routes: [] };
  const line = values.size > 2 && track === 1 ? lineOf(values) : null;
  if (line !== null) return { velocity: line, routes: [] };
  const curve = values.size > 0 ? throughValues(values) : (x: number) => x * x;
  const gain = (x: number): number => {
    const down = Math.abs(track) * (1 - curve(x));
    return track < 0 ? down : 1 - down;
  };
  const shape = controllers.draw(`velocity ${track} ${[...values].join(" ")}`, (x) => depthOf(gain(x)));
  return {
    velocity: 0,
    routes: [draftRoute({ source: "velocity", place: "strip", param: "level", amount: -FLOOR, curve: shape })],
  };
}

/** Decibels between softest and hardest where gains by velocity lie on one line in decibels; null where they don't. */
function lineOf(values: ReadonlyMap<number, number>): number | null {
  const decibels = [...values]
    .filter(([v]) => v >= 1)
    .map(([v, g]) => [v, 20 * Math.log10(Math.max(1e-6, g))] as const);
  const [low] = [...decibels].sort(([a], [b]) => a - b);
  if (low?.[0] !== 1 || low[1] < -60.05) return null;
  const most = -low[1];
  return decibels.every(([v, db]) => Math.abs(db + (most * (127 - v)) / 126) < 0.05)
    ? Math.round(most * 100) / 100
    : null;
}

const WAVES: Readonly<Record<string, { kind: SoundDraft["source"]["kind"]; set: Record<string, string> }>> = {
  "*sine": { kind: "oscillator", set: { wave: "sine" } },
  "*triangle": { kind: "oscillator", set: { wave: "triangle" } },
  "*tri": { kind: "oscillator", set: { wave: "triangle" } },
  "*saw": { kind: "oscillator", set: { wave: "saw" } },
  "*square": { kind: "oscillator", set: { wave: "pulse" } },
  "*noise": { kind: "noise", set: { colour: "white" } },
};

/** What computes the sound of a region without a sample; null for what isn't known. */
export const computedSource = (name: string): SoundDraft["source"] | null => {
  const wave = WAVES[name.toLowerCase()];
  return wave ? { kind: wave.kind, params: { ...defaultParams(wave.kind), ...wave.set } } : null;
};

/** Everything of a region that its layer has here. */
export function soundOf(reader: RegionReader, controllers: Controllers, source: SoundDraft["source"]): SoundDraft {
  const { velocity, routes } = velocityOf(reader, controllers);
  const first = filter(reader, controllers, "");
  const second = filter(reader, controllers, "2");
  const width = reader.number("width", -100, 100);
  return {
    source,
    amp: segments(reader, "ampeg"),
    filters: [first, second].filter((f) => f !== null).map((f) => f.params),
    equaliser: equaliserOf(reader),
    width: width === null || width === 100 ? null : Math.max(0, width) / 100,
    velocity,
    routes: [
      ...routes,
      ...segmentRoutes(reader, controllers, "ampeg", "amp"),
      ...(first?.routes ?? []),
      ...(second?.routes ?? []).map((r) =>
        first ? r : { ...r, place: r.place === "filter2" ? ("filter" as const) : r.place },
      ),
    ],
  };
}
