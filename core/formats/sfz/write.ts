import { dampingOf } from "../../dsp";
import {
  findParam,
  type Group,
  type Instrument,
  type Layer,
  type Route,
  type Sample,
  settingOf,
  type Unit,
  type Zone,
} from "../../instrument";
import { plural } from "../../params";
import { unitSpec } from "../../units";
import { SEGMENTS, STANDING, wordOfFilter } from "./laws";
import {
  ControllerNumbers,
  digits,
  type MovedSetting,
  MoveWriter,
  type Settings,
  WrittenCurves,
} from "./written-moves";
import { zoneSettings } from "./written-zone";

/** An instrument as an SFZ file: its text, the files of its samples below `samples/`, and what has no counterpart there. */
export interface WrittenSfz {
  readonly text: string;
  readonly files: readonly { readonly sample: Sample; readonly path: string }[];
  readonly lost: readonly string[];
}

/** The folder in which the samples lie. */
const FOLDER = "samples/";

/** A name that every system takes for a file, and that an SFZ file can hold. */
function safeName(name: string): string {
  const plain = name
    .normalize("NFC")
    // biome-ignore lint/suspicious/noControlCharactersInRegex: they are what is taken out
    .replace(/[\u0000-\u001f\u007f\\/:*?"<>|=$]/g, "_")
    .replace(/^[\s.]+|[\s.]+$/g, "");
  return plain.slice(0, 120) || "unnamed";
}

/** A file for each sample, no two of one name whatever the case. */
function filesOf(samples: readonly Sample[]): Map<string, string> {
  const taken = new Set<string>();
  return new Map(
    samples.map((sample) => {
      const base = safeName(sample.name);
      let name = base;
      for (let n = 2; taken.has(name.toLowerCase()); n++) name = `${base} (${n})`;
      taken.add(name.toLowerCase());
      return [sample.sha, `${name}.wav`];
    }),
  );
}

const WAVE_NAMES: Readonly<Record<string, string>> = {
  sine: "*sine",
  triangle: "*triangle",
  saw: "*saw",
  pulse: "*square",
};

/** What stands for a source that computes its sound; null where there is nothing like it. */
function computedName({ kind, params }: Unit): string | null {
  if (kind === "oscillator") return WAVE_NAMES[String(params.wave)] ?? null;
  return kind === "noise" ? "*noise" : null;
}

/** Settings of a computed source that SFZ has a counterpart for, or that don't matter without others. */
const WRITTEN: ReadonlySet<string> = new Set([
  "wave",
  "colour",
  "transpose",
  "fine",
  "phase",
  "secondWave",
  "subWave",
  "subInterval",
  "syncPitch",
  "width",
]);

/** Whether a computed source is set to more than a plain wave. */
const isUnusual = ({ kind, params, from }: Unit): boolean =>
  from !== undefined ||
  unitSpec(kind).params.some(
    (p) => !WRITTEN.has(p.id) && ![undefined, p.default].includes(settingOf({ params }, p.id)),
  );

const n = (value: unknown): number => Number(value);
const isOn = (unit: Unit): boolean => n(unit.params.on ?? 1) >= 0.5;

/** Writes an instrument as an SFZ file. */
class SfzWriter {
  private readonly losses = new Map<string, number>();
  private readonly numbers: ControllerNumbers;
  private readonly curves = new WrittenCurves();
  private readonly moves: MoveWriter;
  private readonly files: Map<string, string>;
  private readonly byTarget = new Map<string, Route[]>();
  private readonly written = new Set<Route>();

  constructor(
    private readonly instrument: Instrument,
    private readonly samples: readonly Sample[],
  ) {
    this.numbers = new ControllerNumbers(instrument);
    this.moves = new MoveWriter(instrument, this.numbers, this.curves, (what) => this.lose(what));
    this.files = filesOf(samples);
    for (const route of instrument.routes) {
      if (route.on && route.amount !== 0) this.byTarget.set(route.target, [...this.routesTo(route.target), route]);
    }
  }

  private lose(what: string): void {
    this.losses.set(what, (this.losses.get(what) ?? 0) + 1);
  }

  private routesTo(target: string): Route[] {
    return this.byTarget.get(target) ?? [];
  }

  write(): WrittenSfz {
    const { instrument, files } = this;
    const layers = instrument.layers.map((layer) => this.layer(layer)).join("");
    this.loseTheRest();
    const text = `// ${instrument.about.name.replaceAll("\n", " ")}\n${this.control()}${this.global()}${layers}${this.curves.text()}${instrument.kept === "" ? "" : `\n${instrument.kept}`}`;
    return {
      text,
      files: this.samples.map((sample) => ({ sample, path: `${FOLDER}${files.get(sample.sha)}` })),
      lost: [...this.losses].map(([what, count]) => (count > 1 ? `${what} (${count} times)` : what)),
    };
  }

  private control(): string {
    const settings: Settings = new Map([["default_path", FOLDER]]);
    const { routes } = this.instrument;
    for (const macro of this.instrument.macros) {
      if (!routes.some((r) => r.on && [r.source, r.scale].includes(`macros/${macro.id}`))) continue;
      const number = this.numbers.of(`macros/${macro.id}`);
      const value = n(macro.params.value) * 127;
      settings.set(`label_cc${number}`, labelText(macro.name));
      if (Math.abs(value - Math.round(value)) < 1e-6) settings.set(`set_cc${number}`, digits(value));
      else settings.set(`set_hdcc${number}`, digits(value / 127));
    }
    // Some stand somewhere from the beginning there; here all begin at 0.
    for (const controller of Object.keys(STANDING)) {
      if (this.instrument.routes.some((r) => [r.source, r.scale].includes(`controllers/${controller}`)))
        settings.set(`set_cc${controller}`, "0");
    }
    for (const set of this.instrument.sets) {
      const count = this.instrument.layers.filter((l) => l.set === set.id).length;
      const number = this.numbers.of(`sets/${set.id}`);
      settings.set(`label_cc${number}`, labelText(set.name));
      settings.set(`set_cc${number}`, String(setRange(n(set.params.selected), count).low));
    }
    return header("control", settings);
  }

  private global(): string {
    const { play } = this.instrument;
    const settings: Settings = new Map();
    const bend = n(play.params.bendRange) * 100;
    if (bend !== 200) {
      settings.set("bend_up", digits(bend));
      settings.set("bend_down", digits(-bend));
    }
    if (n(play.params.level) !== 0) settings.set("global_volume", digits(n(play.params.level)));
    if (play.params.voiceMode !== "poly") this.lose("that one note sounds at a time");
    if (n(play.params.a4) !== 440) this.lose("the tuning of A4");
    if (this.instrument.tuning) this.lose("the tuning of the keys");
    if (this.instrument.rules.on) this.lose("the rules");
    const switches = this.instrument.layers.flatMap((l) =>
      l.groups.filter((g) => g.settings.params.keyswitch === "latched").map((g) => n(g.settings.params.switchKey)),
    );
    const [first] = switches;
    if (first !== undefined) {
      settings.set("sw_lokey", String(Math.min(...switches)));
      settings.set("sw_hikey", String(Math.max(...switches)));
      settings.set("sw_default", String(first));
    }
    return settings.size > 0 ? header("global", settings) : "";
  }

  private layer(layer: Layer): string {
    const computed = layer.source.kind === "samples" ? null : computedName(layer.source);
    if (layer.source.kind !== "samples" && computed === null) {
      this.lose(`the layer ${layer.name}, whose ${unitSpec(layer.source.kind).label.toLowerCase()} computes its sound`);
      return "";
    }
    if (computed !== null && isUnusual(layer.source)) this.lose(`what ${layer.name}’s source is beyond its wave`);
    const settings: Settings = new Map([["master_label", labelText(layer.name)]]);
    this.moves.segments(layer.amp, "ampeg", settings);
    for (const id of [...SEGMENTS, "sustain"])
      for (const route of this.routesTo(`layers/${layer.id}/amp/${id}`)) {
        this.written.add(route);
        this.moves.writeSegment(route, "ampeg", id, settings);
      }
    for (const id of ["attackBend", "decayBend", "releaseBend"])
      if (settingOf(layer.amp, id) !== unitSpec("amp").params.find((p) => p.id === id)?.default)
        this.lose(`how the amp envelope of ${layer.name} is bent`);
    this.velocity(layer, settings);
    if (n(layer.strip.params.level) !== 0) settings.set("master_volume", digits(n(layer.strip.params.level)));
    if (n(layer.strip.params.mute) >= 0.5) settings.set("amplitude", "0");
    if (n(layer.strip.params.voices) > 0) this.lose(`the voice limit of ${layer.name}`);
    this.filters(layer, settings);
    this.inserts(layer, settings);
    this.set(layer, settings);
    return `${header("master", settings)}${layer.groups.map((g) => this.group(layer, g, computed)).join("")}`;
  }

  private velocity(layer: Layer, settings: Settings): void {
    const range = n(layer.strip.params.velocity);
    if (range === 0) settings.set("amp_veltrack", "0");
    else for (const v of VELOCITIES) settings.set(`amp_velcurve_${v}`, digits(10 ** ((-range * (127 - v)) / 126 / 20)));
  }

  private filters(layer: Layer, settings: Settings): void {
    let count = 0;
    for (const stage of layer.stages) {
      if (stage.kind !== "filter") {
        if (isOn(stage)) this.lose(`${stage.name} in ${layer.name}`);
        continue;
      }
      const routes = this.routesTo(`layers/${layer.id}/stages/${stage.id}/cutoff`);
      if (stage.params.type === "off" || !isOn(stage)) continue;
      if (isOpen(stage) && routes.length === 0) continue;
      if (++count > 2) {
        this.lose(`a third filter in ${layer.name}`);
        continue;
      }
      const own = count === 1 ? "" : "2";
      const { word, exact } = wordOfFilter(String(stage.params.type), String(stage.params.slope));
      settings.set(`cutoff${own}`, digits(n(stage.params.cutoff)));
      settings.set(`${count === 1 ? "fil" : "fil2"}_type`, word);
      const lift = 20 * Math.log10(Math.SQRT2 / dampingOf(n(stage.params.resonance)));
      settings.set(`resonance${own}`, digits(Math.max(0, lift)));
      if (!exact) this.lose(`the slope of a filter in ${layer.name}`);
      if (stage.params.model === "ladder") this.lose(`that a filter in ${layer.name} saturates`);
      const follow = n(stage.params.keyTracking ?? 0);
      if (follow !== 0 && routes.some((r) => r.source === "key"))
        this.lose(`how far a filter in ${layer.name} follows the keys`);
      else if (follow !== 0) settings.set(`${count === 1 ? "fil" : "fil2"}_keytrack`, digits(follow * 100));
      this.move(routes, { name: `cutoff${own}`, by: 1200 }, settings);
    }
  }

  private move(routes: readonly Route[], to: MovedSetting, settings: Settings): void {
    for (const route of routes) {
      this.written.add(route);
      this.moves.write(route, to, settings);
    }
  }

  private inserts(layer: Layer, settings: Settings): void {
    for (const insert of layer.inserts) {
      if (!isOn(insert)) continue;
      if (insert.kind === "stereo" && n(insert.params.balance) === 0 && n(insert.params.level) === 0)
        settings.set("width", digits(Math.min(100, n(insert.params.width) * 100)));
      else if (insert.kind === "equaliser" && !settings.has("eq1_gain")) this.equaliser(insert, layer, settings);
      else this.lose(`${insert.name} in ${layer.name}`);
    }
    for (const [id, level] of Object.entries(layer.sends.params))
      if (n(level) > -60) this.lose(`what ${layer.name} sends to send ${id.slice(-1)}`);
  }

  private equaliser({ params }: Unit, layer: Layer, settings: Settings): void {
    let band = 0;
    for (let b = 1; b <= 8; b++) {
      const kind = settingOf({ params }, `kind${b}`);
      const type = { bell: "peak", lowShelf: "lshelf", highShelf: "hshelf" }[String(kind)];
      if (kind === "off" || (type && n(settingOf({ params }, `gain${b}`)) === 0)) continue;
      if (!type || ++band > 3) {
        this.lose(`a band of the equaliser in ${layer.name}`);
        continue;
      }
      settings.set(`eq${band}_freq`, digits(n(settingOf({ params }, `frequency${b}`))));
      settings.set(`eq${band}_gain`, digits(n(settingOf({ params }, `gain${b}`))));
      settings.set(`eq${band}_bw`, digits((2 / Math.LN2) * Math.asinh(1 / (2 * n(settingOf({ params }, `q${b}`))))));
      settings.set(`eq${band}_type`, type);
    }
  }

  /** A layer of a set sounds while the set's controller stands in its part. */
  private set(layer: Layer, settings: Settings): void {
    const members = this.instrument.layers.filter((l) => l.set !== null && l.set === layer.set);
    if (members.length === 0) return;
    const number = this.numbers.of(`sets/${layer.set}`);
    const { low, high } = setRange(members.indexOf(layer) + 1, members.length);
    settings.set(`locc${number}`, String(low));
    settings.set(`hicc${number}`, String(high));
  }

  private group(layer: Layer, group: Group, computed: string | null): string {
    const { params } = group.settings;
    const settings: Settings = new Map([["group_label", labelText(group.name)]]);
    if (n(params.level) !== 0) settings.set("group_volume", digits(n(params.level)));
    const trigger = { noteOff: "release", firstNote: "first", legato: "legato" }[String(params.trigger)];
    if (trigger) settings.set("trigger", trigger);
    if (n(params.releaseDecay) > 0) settings.set("rt_decay", digits(n(params.releaseDecay)));
    if (params.keyswitch === "latched") settings.set("sw_last", String(params.switchKey));
    if (params.keyswitch === "momentary") settings.set("sw_down", String(params.switchKey));
    if (n(params.controller) >= 0) {
      settings.set(`locc${params.controller}`, String(params.controllerLow));
      settings.set(`hicc${params.controller}`, String(params.controllerHigh));
    }
    if (n(params.chokeGroup) >= 1) {
      for (const name of ["group", "off_by"]) settings.set(name, String(Math.round(n(params.chokeGroup))));
      settings.set("off_mode", "time");
      settings.set("off_time", digits(n(params.chokeFade)));
    }
    if (n(params.voices) > 0) settings.set("polyphony", String(Math.round(n(params.voices))));
    if (n(params.borrow) > 0) settings.set("vise_borrow", String(Math.round(n(params.borrow))));
    for (const send of [1, 2]) {
      const level = n(settingOf({ params }, `send${send}`));
      if (level > -60) settings.set(`effect${send}`, digits(Math.min(100, 100 * 10 ** (level / 20))));
    }
    if (n(params.send3) > -60 || n(params.send4) > -60) this.lose(`what ${group.name} sends to send 3 or 4`);
    const at = `layers/${layer.id}`;
    const both = (own: string): Route[] => [
      ...this.routesTo(`${at}/strip/${own}`),
      ...this.routesTo(`${at}/groups/${group.id}/${own}`),
    ];
    this.move(both("level"), { name: "volume", by: 1 }, settings);
    this.move(both("pan"), { name: "pan", by: 100 }, settings);
    this.move(this.routesTo(`${at}/source/transpose`), { name: "tune", by: 100 }, settings);
    this.move(this.routesTo(`${at}/source/fine`), { name: "tune", by: 1 }, settings);
    this.move(this.routesTo(`${at}/groups/${group.id}/tuning`), { name: "tune", by: 1 }, settings);
    const regions = zoneSettings(this.instrument, layer, group, (zone) => this.fileOf(zone, computed));
    for (const what of regions.lost) this.lose(what);
    return `${header("group", settings)}${regions.list.map((r) => header("region", r)).join("")}`;
  }

  private fileOf(zone: Zone, computed: string | null): { name: string; rate: number; frames: number } | null {
    if (computed !== null) return { name: computed, rate: 44100, frames: zone.end };
    const sample = this.samples.find((s) => s.sha === zone.sample);
    const name = sample && this.files.get(sample.sha);
    return name ? { name, rate: sample.rate, frames: sample.frames } : null;
  }

  private loseTheRest(): void {
    const { instrument } = this;
    for (const unit of instrument.effects) if (isOn(unit)) this.lose(`${unit.name} of the master`);
    for (const send of instrument.sends)
      for (const unit of send.units) if (isOn(unit)) this.lose(`${unit.name} in ${send.name}`);
    for (const route of instrument.routes) {
      if (!route.on || route.amount === 0 || this.written.has(route)) continue;
      this.lose(`a route to ${findParam(instrument, route.target)?.label ?? "something that is gone"}`);
    }
    if (instrument.face.items.length > 0)
      this.lose(`the face with its ${plural(instrument.face.items.length, "item")}`);
  }
}

/** Whether a filter lets everything pass. */
const isOpen = ({ params }: Unit): boolean =>
  (params.type === "low" && n(params.cutoff) >= 17999 && n(params.resonance) <= 0.1001) ||
  (params.type === "high" && n(params.cutoff) <= 20 && n(params.resonance) <= 0.1001);

/** Velocities at which the law of level is written: close enough for a straight line between them. */
const VELOCITIES = [1, ...Array.from({ length: 31 }, (_, i) => (i + 1) * 4), 127] as const;

/** The part of a controller's travel that chooses one of so many. */
const setRange = (chosen: number, count: number): { low: number; high: number } => ({
  low: Math.ceil(((Math.round(chosen) - 1) * 128) / Math.max(1, count)),
  high: Math.ceil((Math.round(chosen) * 128) / Math.max(1, count)) - 1,
});

/** What in a label would be read as something else, and what stands for it: headers, settings, definitions, comments and further lines. */
const IN_LABELS: readonly (readonly [RegExp, string])[] = [
  [/[\p{Cc}\p{Zl}\p{Zp}\s]+/gu, " "],
  [/=/g, "-"],
  [/</g, "("],
  [/>/g, ")"],
  [/\$/g, "§"],
  [/#(?=include|define)/g, "# "],
  [/\/(?=[/*])/g, "/ "],
];

/** A name as it can stand in an SFZ file. */
const labelText = (name: string): string =>
  IN_LABELS.reduce((text, [odd, instead]) => text.replace(odd, instead), name).trim() || "unnamed";

const header = (name: string, settings: Settings): string =>
  `\n<${name}>\n${[...settings].map(([key, value]) => `${key}=${value}\n`).join("")}`;

/**
 * Writes an instrument as an SFZ file (SFZ 1, with the controllers, curves, LFOs and points of SFZ 2): every zone that plays a sample or a simple wave,
 * with its conditions and its layer's envelope, filters, level and what moves them. What has no counterpart is told in words.
 */
export function writeSfz(instrument: Instrument): WrittenSfz {
  const played = new Set(instrument.layers.flatMap((l) => l.groups.flatMap((g) => g.zones.map((z) => z.sample))));
  return new SfzWriter(
    instrument,
    instrument.samples.filter((s) => played.has(s.sha)),
  ).write();
}
