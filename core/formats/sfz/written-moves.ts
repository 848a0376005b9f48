import { lineAt } from "../../dsp";
import { type Curve, controllerOf, type Instrument, type Route, type Unit } from "../../instrument";
import { BUILT_IN, EXTENDED, SEGMENTS } from "./laws";

/** A number as text, with no more digits than it needs. */
export const digits = (x: number): string => String(Number(x.toFixed(6)));

/** Settings by name, of which later ones with the same name are told apart. */
export type Settings = Map<string, string>;

/** Numbers of the controllers that stand for macros and sets. */
export class ControllerNumbers {
  private readonly numbers = new Map<string, number>();
  private readonly taken = new Set<number>();

  constructor(instrument: Instrument) {
    for (const route of instrument.routes) {
      for (const source of [route.source, route.scale ?? ""]) {
        const number = source === "wheel" ? 1 : controllerOf(source);
        if (number !== null) this.taken.add(number);
      }
    }
    for (const layer of instrument.layers)
      for (const group of layer.groups) this.taken.add(Number(group.settings.params.controller));
    // Those that came from a file keep their numbers.
    for (const { id } of instrument.macros) {
      const own = /^cc(\d{1,3})$/.exec(id);
      if (own && !this.taken.has(Number(own[1]))) this.take(`macros/${id}`, Number(own[1]));
    }
    for (const list of ["macros", "sets"] as const)
      for (const { id } of instrument[list])
        if (!this.numbers.has(`${list}/${id}`)) this.take(`${list}/${id}`, this.free());
  }

  private take(source: string, number: number): void {
    this.numbers.set(source, number);
    this.taken.add(number);
  }

  /** The first number that means nothing by itself and is free. */
  private free(): number {
    for (let n = 20; n < 128; n++) if (n !== 64 && !this.taken.has(n)) return n;
    return 127;
  }

  /** The number of what moves something; null for a source that is no controller there. */
  of(source: string): number | null {
    if (source === "wheel") return 1;
    return EXTENDED[source as keyof typeof EXTENDED] ?? controllerOf(source) ?? this.numbers.get(source) ?? null;
  }
}

/** Curves as they are written, each once. */
export class WrittenCurves {
  private readonly texts = new Map<string, number>();

  /** The number of a curve; those of the format come first. */
  numberOf(curve: Curve): number {
    const line = { x: curve.map((p) => p.x), y: curve.map((p) => p.y), bend: curve.map((p) => p.bend) };
    const text = Array.from(
      { length: 128 },
      (_, v) => `v${String(v).padStart(3, "0")}=${digits(lineAt(line, v / 127))}`,
    );
    const key = text.join(" ");
    const known = this.texts.get(key);
    if (known !== undefined) return known;
    const next = BUILT_IN.length + this.texts.size;
    this.texts.set(key, next);
    return next;
  }

  text(): string {
    return [...this.texts].map(([text, number]) => `\n<curve>\ncurve_index=${number}\n${text}\n`).join("");
  }
}

/** What a parameter that routes move is called there: the setting, its factor, and the words for what moves it from within. */
export interface MovedSetting {
  readonly name: "volume" | "pan" | "tune" | "cutoff" | "cutoff2";
  readonly by: number;
}

const TRACKS: Readonly<Record<string, Readonly<Record<string, { readonly name: string; readonly by: number }>>>> = {
  tune: { velocity: { name: "pitch_veltrack", by: 1 }, random: { name: "pitch_random", by: 1 } },
  volume: { random: { name: "amp_random", by: 2 }, key: { name: "amp_keytrack", by: 1 / 60 } },
  pan: {
    velocity: { name: "pan_veltrack", by: 1 },
    random: { name: "pan_random", by: 1 },
    key: { name: "pan_keytrack", by: 1 / 60 },
  },
  cutoff: {
    velocity: { name: "fil_veltrack", by: 1 },
    random: { name: "fil_random", by: 1 },
    key: { name: "fil_keytrack", by: 1 / 60 },
  },
  cutoff2: { velocity: { name: "fil2_veltrack", by: 1 }, key: { name: "fil2_keytrack", by: 1 / 60 } },
};

const LFO_TARGETS: Readonly<Record<string, string>> = { tune: "pitch", volume: "volume", pan: "pan", cutoff: "cutoff" };
const WAVES: Readonly<Record<string, number>> = { triangle: 0, sine: 1, square: 3, saw: 7, sampleAndHold: 12 };

/** Writes routes as settings; what can't be written is told by `lose`. */
export class MoveWriter {
  /** Which envelope stands for `fileg` and `pitcheg` in each header: there is one of each. */
  private readonly envelopes = new WeakMap<Settings, Map<string, string>>();

  constructor(
    private readonly instrument: Instrument,
    private readonly numbers: ControllerNumbers,
    private readonly curves: WrittenCurves,
    private readonly lose: (what: string) => void,
  ) {}

  /** Adds an amount to a setting; routes of one source to one target add up. */
  private put(settings: Settings, name: string, amount: number): void {
    settings.set(name, digits(Number(settings.get(name) ?? 0) + amount));
  }

  /** Writes a route to a parameter. */
  write(route: Route, to: MovedSetting, settings: Settings): void {
    const amount = route.amount * to.by;
    const [list, id] = route.source.split("/");
    const unit = list === "lfos" || list === "envelopes" ? this.instrument[list].find((u) => u.id === id) : undefined;
    if (unit) this.unit(route, unit, to, amount, settings);
    else if (route.scale !== null) this.lose(`a route from ${route.source} to ${to.name} that is scaled`);
    else this.direct(route, to, amount, settings);
  }

  private direct(route: Route, to: MovedSetting, amount: number, settings: Settings): void {
    const track = TRACKS[to.name]?.[route.source];
    if (track && !route.curve) {
      this.put(settings, track.name, amount * track.by);
      return;
    }
    const number = this.numbers.of(route.source);
    const bipolar = route.source === "bend" || route.source === "random";
    const name = `${to.name}_oncc${number}`;
    if (number === null || (route.curve && (bipolar || settings.has(name)))) {
      this.lose(`a route from ${route.source} to ${to.name}`);
      return;
    }
    this.put(settings, name, amount);
    this.shape(route, `${to.name}_curvecc${number}`, `${to.name}_smoothcc${number}`, settings);
  }

  private shape(route: Route, curve: string, smooth: string, settings: Settings): void {
    if (route.curve) settings.set(curve, String(this.curves.numberOf(route.curve)));
    if (route.smooth !== null) settings.set(smooth, digits(route.smooth * 1000));
  }

  private unit(route: Route, unit: Unit, to: MovedSetting, amount: number, settings: Settings): void {
    const target = unit.kind === "envelope" ? null : LFO_TARGETS[to.name];
    const eg = unit.kind === "envelope" ? ({ tune: "pitcheg", cutoff: "fileg" }[to.name as string] ?? null) : null;
    const name = eg ?? (target ? this.numbered(unit) : null);
    const depth = eg ? `${eg}_depth` : `${name}_${target}`;
    const scale = route.scale === null ? null : this.numbers.of(route.scale);
    const own = scale === null ? depth : eg && route.scale === "velocity" ? `${eg}_vel2depth` : `${depth}_oncc${scale}`;
    const there = this.envelopes.get(settings) ?? new Map<string, string>();
    this.envelopes.set(settings, there);
    const other = eg !== null && (there.get(eg) ?? unit.id) !== unit.id;
    if (name === null || other || route.curve || (route.scale !== null && scale === null)) {
      this.lose(`a route from ${unit.name} to ${to.name}`);
      return;
    }
    this.put(settings, own, amount);
    if (eg) there.set(eg, unit.id);
    if (unit.kind === "envelope") this.segments(unit, name, settings);
    else if (unit.kind === "lfo") this.lfo(unit, name, settings);
    else this.path(unit, name, settings);
  }

  private numbered(unit: Unit): string {
    const list = unit.kind === "lfo" ? this.instrument.lfos : this.instrument.envelopes;
    return `${unit.kind === "lfo" ? "lfo" : "eg"}${list.indexOf(unit) + 1}`;
  }

  /** The times of an envelope, and its level while a key is held. */
  segments({ params }: Unit, prefix: string, settings: Settings): void {
    for (const id of SEGMENTS) settings.set(`${prefix}_${id}`, digits(Number(params[id])));
    settings.set(`${prefix}_sustain`, digits(Number(params.sustain) * 100));
  }

  private lfo(unit: Unit, name: string, settings: Settings): void {
    const { params } = unit;
    settings.set(`${name}_freq`, digits(Number(params.rate)));
    const wave = WAVES[String(params.shape)];
    settings.set(`${name}_wave`, String(wave ?? 1));
    if (wave === undefined) this.lose(`the form of ${unit.name}`);
    if (params.sync !== "off") this.lose(`that ${unit.name} follows the tempo`);
    if (Number(params.phase) !== 0) settings.set(`${name}_phase`, digits(Number(params.phase) / 360));
    if (Number(params.delay) !== 0) settings.set(`${name}_delay`, digits(Number(params.delay)));
    if (Number(params.fadeIn) !== 0) settings.set(`${name}_fade`, digits(Number(params.fadeIn)));
  }

  private path(unit: Unit, name: string, settings: Settings): void {
    let before = 0;
    (unit.curve ?? []).forEach((point, i) => {
      settings.set(`${name}_time${i}`, digits(point.x - before));
      settings.set(`${name}_level${i}`, digits(point.y));
      before = point.x;
    });
    const held = Number(unit.params.loopEnd);
    if (held >= 1) settings.set(`${name}_sustain`, String(Math.round(held) - 1));
  }

  /** What moves the times of an envelope. */
  writeSegment(route: Route, prefix: string, id: string, settings: Settings): void {
    const by = id === "sustain" ? 100 : 1;
    const number = this.numbers.of(route.source);
    if (route.scale !== null || number === null || route.curve)
      this.lose(`a route from ${route.source} to ${prefix} ${id}`);
    else if (route.source === "velocity") this.put(settings, `${prefix}_vel2${id}`, route.amount * by);
    else this.put(settings, `${prefix}_${id}_oncc${number}`, route.amount * by);
  }
}
