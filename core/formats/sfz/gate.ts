import type { Curve } from "../../instrument";
import { defaultParams, type ParamsOf } from "../../units";
import type { Controllers } from "./controllers";
import { draftRoute, type GateDraft, type RouteDraft, type UnitDraft } from "./drafts";
import { depthOf, FLOOR, gainOf } from "./laws";
import type { RegionReader } from "./region-reader";
import { depthRoutes, envelopeRoutes, lfoRoutes, movedRoutes, rateRoutes } from "./sound";

const LEVEL = { place: "group", param: "level" } as const;
const PAN = { place: "group", param: "pan" } as const;
const TUNE = { place: "group", param: "tuning" } as const;

/** What amplitude in percent, moved by a controller, is as a level: a curve down to the floor. */
function amplitudeRoutes(reader: RegionReader, controllers: Controllers): RouteDraft[] {
  return reader.movedBy("amplitude").flatMap((move) => {
    const source = controllers.sourceOf(move.controller);
    if (!source || source.bipolar) {
      reader.giveBack(`amplitude_oncc${move.controller}`, `amplitude_curvecc${move.controller}`);
      return [];
    }
    const shape = controllers.curve(move.curve);
    const curve = controllers.draw(`amplitude ${move.amount} ${move.curve}`, (x) =>
      depthOf(Math.min(1, (move.amount / 100) * shape(x))),
    );
    return [draftRoute({ source: source.source, ...LEVEL, amount: -FLOOR, curve })];
  });
}

/** Crossfades by controllers: `xfin_locc1` … `xfout_hicc1`. */
function controllerFades(reader: RegionReader, controllers: Controllers): RouteDraft[] {
  const routes: RouteDraft[] = [];
  const power = (reader.word("xf_cccurve", ["power", "gain"]) ?? "power") === "power";
  for (const way of ["in", "out"] as const) {
    for (const { number } of reader.numbered(`xf${way}_locc`)) {
      const [lowName, highName] = [`xf${way}_locc${number}`, `xf${way}_hicc${number}`];
      const low = (reader.number(lowName, 0, 127) ?? 0) / 127;
      const high = (reader.number(highName, 0, 127) ?? 127) / 127;
      const source = controllers.sourceOf(number);
      if (!source || source.bipolar) {
        reader.giveBack(lowName, highName);
        continue;
      }
      const rise = (x: number): number =>
        high > low ? Math.max(0, Math.min(1, (x - low) / (high - low))) : x < low ? 0 : 1;
      const share = (x: number): number => (way === "in" ? rise(x) : 1 - rise(x));
      const curve = controllers.draw(`fade ${way} ${low} ${high} ${power}`, (x) =>
        depthOf(power ? Math.sqrt(share(x)) : share(x)),
      );
      routes.push(draftRoute({ source: source.source, ...LEVEL, amount: -FLOOR, curve }));
    }
  }
  return routes;
}

/** What a numbered LFO or envelope moves, by how much, and by which controllers. */
function targetRoutes(
  reader: RegionReader,
  controllers: Controllers,
  own: string,
  source: UnitDraft,
  filtered: boolean,
): RouteDraft[] {
  const cutoff = { name: "cutoff", to: { place: "filter", param: "cutoff" } as const, scale: (x: number) => x / 1200 };
  const targets = [
    { name: "pitch", to: TUNE, scale: (x: number) => x },
    { name: "volume", to: LEVEL, scale: (x: number) => x },
    { name: "pan", to: PAN, scale: (x: number) => x / 100 },
    ...(filtered ? [cutoff] : []),
  ];
  return targets.flatMap(({ name, to, scale }) => {
    const depth = reader.number(`${own}_${name}`, -12000, 12000) ?? 0;
    return depthRoutes(source, controllers, to, depth, reader.movedBy(`${own}_${name}`), scale);
  });
}

const WAVES: Readonly<Record<number, ParamsOf<"lfo">["shape"]>> = {
  0: "triangle",
  1: "sine",
  3: "square",
  7: "saw",
  12: "sampleAndHold",
};

/** LFOs of the second version of the format: `lfo1_freq`, `lfo1_pitch` … */
function numberedLfos(reader: RegionReader, controllers: Controllers, filtered: boolean): RouteDraft[] {
  const routes: RouteDraft[] = [];
  for (let n = 1; n <= 24; n++) {
    const own = reader.has(`lfo${n}_freq`) ? `lfo${n}` : reader.has(`lfo0${n}_freq`) ? `lfo0${n}` : null;
    if (!own) continue;
    const rate = reader.number(`${own}_freq`, 0.02, 40) ?? 1;
    const wave = reader.number(`${own}_wave`, 0, 100) ?? 1;
    const shape = WAVES[wave];
    if (shape === undefined) reader.giveBack(`${own}_wave`);
    const source: UnitDraft = {
      kind: "lfo",
      name: `LFO ${n}`,
      params: {
        ...defaultParams("lfo"),
        rate,
        shape: shape ?? "sine",
        phase: (reader.number(`${own}_phase`, 0, 1) ?? 0) * 360,
        delay: reader.number(`${own}_delay`, 0, 10) ?? 0,
        fadeIn: reader.number(`${own}_fade`, 0, 10) ?? 0,
      },
      curve: null,
      routes: rateRoutes(reader, controllers, `${own}_freq`, rate),
    };
    routes.push(...targetRoutes(reader, controllers, own, source, filtered));
  }
  return routes;
}

/** Envelopes through points: `eg1_time0`, `eg1_level0` …, held at `eg1_sustain`. */
function numberedEnvelopes(reader: RegionReader, controllers: Controllers, filtered: boolean): RouteDraft[] {
  const routes: RouteDraft[] = [];
  for (let n = 1; n <= 24; n++) {
    const own = reader.has(`eg${n}_time0`) ? `eg${n}` : reader.has(`eg0${n}_time0`) ? `eg0${n}` : null;
    if (!own) continue;
    const points: { x: number; y: number; bend: number }[] = [];
    let x = 0;
    for (let p = 0; p < 256 && reader.has(`${own}_time${p}`); p++) {
      x += reader.number(`${own}_time${p}`, 0, 100) ?? 0;
      points.push({ x, y: reader.number(`${own}_level${p}`, -1, 1) ?? 0, bend: 0 });
    }
    const held = reader.number(`${own}_sustain`, 0, 255);
    const source: UnitDraft = {
      kind: "path",
      name: `Envelope ${n}`,
      params: { ...defaultParams("path"), loopEnd: held === null ? 0 : Math.min(64, held + 1) },
      curve: points as Curve,
      routes: [],
    };
    routes.push(...targetRoutes(reader, controllers, own, source, filtered));
  }
  return routes;
}

/** Everything that moves level, place and pitch of a group's zones. */
function gateRoutes(reader: RegionReader, controllers: Controllers, filtered: boolean): RouteDraft[] {
  const routes = [
    ...amplitudeRoutes(reader, controllers),
    ...controllerFades(reader, controllers),
    ...movedRoutes(reader, controllers, "volume", LEVEL, (a) => a),
    ...movedRoutes(reader, controllers, "pan", PAN, (a) => a / 100),
    ...movedRoutes(reader, controllers, "tune", TUNE, (a) => a),
    ...lfoRoutes(reader, controllers, "amplfo", LEVEL, (a) => a),
    ...lfoRoutes(reader, controllers, "pitchlfo", TUNE, (a) => a),
    ...envelopeRoutes(reader, controllers, "pitcheg", TUNE, (a) => a),
    ...numberedLfos(reader, controllers, filtered),
    ...numberedEnvelopes(reader, controllers, filtered),
  ];
  const simple = (name: string, source: string, to: typeof LEVEL | typeof PAN | typeof TUNE, by: number): void => {
    const amount = (reader.number(name, -12000, 12000) ?? 0) * by;
    if (amount !== 0) routes.push(draftRoute({ source, ...to, amount }));
  };
  simple("pitch_veltrack", "velocity", TUNE, 1);
  simple("pitch_random", "random", TUNE, 1);
  simple("amp_random", "random", LEVEL, 0.5);
  simple("amp_keytrack", "key", LEVEL, 60);
  simple("pan_veltrack", "velocity", PAN, 1 / 100);
  simple("pan_random", "random", PAN, 1 / 100);
  simple("pan_keytrack", "key", PAN, 60 / 100);
  return routes;
}

/** Controllers whose ranges decide whether a region sounds. */
function gatingControllers(reader: RegionReader): { controller: number; low: number; high: number }[] {
  const numbers = new Set([...reader.numbered("locc"), ...reader.numbered("hicc")].map((n) => n.number));
  return [...numbers]
    .filter((n) => n < 128)
    .map((n) => ({
      controller: n,
      low: reader.number(`locc${n}`, 0, 127) ?? 0,
      high: reader.number(`hicc${n}`, 0, 127) ?? 127,
    }))
    .filter((g) => g.low > 0 || g.high < 127);
}

/** Level of a send for a share in percent. */
const sendOf = (percent: number): number => (percent <= 0 ? -60 : Math.max(-60, 20 * Math.log10(percent / 100)));

/** How a group without repeats in a row is written: now, and by earlier versions of Vise. */
const NO_REPEATS: ReadonlySet<string> = new Set(["no_repeats", "fresh"]);

const TRIGGERS = ["attack", "release", "release_key", "first", "legato"] as const;

/** Everything of a region that its group has here. `choke` is the number of the group that it silences and is silenced with, 0 for none. */
export function gateOf(
  reader: RegionReader,
  controllers: Controllers,
  choke: number,
  filtered: boolean,
  repeats: { readonly mode: "cycle" | "random"; readonly chance: number },
): GateDraft {
  const trigger = reader.word("trigger", TRIGGERS) ?? "attack";
  const last = reader.key("sw_last");
  const down = last === null ? reader.key("sw_down") : null;
  const [gating, ...more] = gatingControllers(reader);
  for (const { controller } of more) reader.giveBack(`locc${controller}`, `hicc${controller}`);
  reader.pass("sw_lokey", "sw_hikey", "sw_default", "seq_length");
  const offMode = reader.word("off_mode", ["fast", "normal", "time"]) ?? "fast";
  const offTime = reader.number("off_time", 0, 2);
  const params: ParamsOf<"group"> = {
    ...defaultParams("group"),
    roundRobin:
      repeats.mode === "random" && NO_REPEATS.has(reader.text("vise_repeats") ?? "") ? "noRepeats" : repeats.mode,
    borrow: Math.round(reader.number("vise_borrow", 0, 12) ?? 0),
    probability: repeats.chance,
    trigger: (
      {
        attack: "noteOn",
        release: "noteOff",
        release_key: "noteOff",
        first: "firstNote",
        legato: "legato",
      } as const
    )[trigger],
    releaseDecay: reader.number("rt_decay", 0, 60) ?? 0,
    keyswitch: last !== null ? "latched" : down !== null ? "momentary" : "none",
    switchKey: Math.max(0, last ?? down ?? 24),
    controller: gating?.controller ?? -1,
    controllerLow: Math.round(gating?.low ?? 0),
    controllerHigh: Math.round(gating?.high ?? 127),
    chokeGroup: choke,
    chokeFade:
      offMode === "time"
        ? (offTime ?? 0.006)
        : offMode === "normal"
          ? (reader.number("ampeg_release", 0, 2) ?? 0.006)
          : 0.006,
    voices: Math.round(reader.number("polyphony", 0, 512) ?? 0),
    send1: sendOf(reader.number("effect1", 0, 100) ?? 0),
    send2: sendOf(reader.number("effect2", 0, 100) ?? 0),
  };
  const label =
    reader.text("group_label") ?? reader.text("sw_label") ?? reader.text("master_label") ?? reader.text("global_label");
  reader.pass("group_label", "sw_label", "master_label", "global_label", "region_label");
  return { params, routes: gateRoutes(reader, controllers, filtered), label: label?.slice(0, 200) ?? null };
}

/** How loud full amplitude is in so many percent, in decibels. */
export const decibelsOfPercent = (percent: number): number => 20 * Math.log10(Math.max(gainOf(1.6), percent / 100));
