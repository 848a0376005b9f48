import { describe, expect, it } from "@jest/globals";
import fc from "fast-check";
import { seededRandom } from "../../audio";
import { lineAt } from "../../dsp";
import {
  checkInstrument,
  type Instrument,
  listZones,
  newGroup,
  newInstrument,
  newLayer,
  newLoop,
  newRoute,
  newSample,
  newUnit,
  newZone,
  type Route,
  type Sample,
  type Zone,
} from "../../instrument";
import { programOf } from "./program";
import { instrumentOfSfz, type OpenedSfz } from "./read";
import { readSfzText } from "./text";
import { writeSfz } from "./write";

const sampleAt = (path: string, more: Partial<Sample> = {}): Sample =>
  newSample({
    sha: [...path]
      .reduce((h, c) => (h * 31n + BigInt(c.codePointAt(0) ?? 0)) % 16n ** 60n, 7n)
      .toString(16)
      .padStart(64, "a"),
    name: path.replace(/^.*\//, "").replace(/\.wav$/, ""),
    frames: 48000,
    rate: 48000,
    file: { path, root: null, loop: null, further: [], range: null, text: "" },
    ...more,
  });

function read(text: string, more: Partial<Sample> = {}): OpenedSfz {
  const program = programOf(
    readSfzText("kit/k.sfz", text, () => null),
    "kit/k.sfz",
  );
  const opened = instrumentOfSfz(program, (path) => (path.includes("gone") ? null : sampleAt(path, more)), "i", "Kit");
  const checked = checkInstrument(opened.instrument);
  expect(checked.ok ? [] : checked.problems).toEqual([]);
  return opened;
}
const zonesOf = (text: string, more: Partial<Sample> = {}): readonly Zone[] => listZones(read(text, more).instrument);
const zoneOf = (settings: string, more: Partial<Sample> = {}): Zone =>
  zonesOf(`<region> sample=a.wav ${settings}`, more)[0] as Zone;
const groupOf = (settings: string) =>
  read(`<region> sample=a.wav ${settings}`).instrument.layers[0]?.groups[0]?.settings.params;

describe("regions", () => {
  it("inherit from global, master and group, the nearest first, and a new header forgets those below", () => {
    const zones = zonesOf(
      "<global> volume=-1 pan=10\n<master> volume=-2\n<group> volume=-3 key=40\n<region> sample=a.wav\n<region> sample=b.wav volume=-4\n<master>\n<region> sample=c.wav",
    );
    expect(zones.map((z) => [z.gain, z.pan, z.keyLow])).toEqual([
      [-3, 0.1, 40],
      [-4, 0.1, 40],
      [-1, 0.1, 0],
    ]);
  });

  it("have keys as numbers and names, moved by the offsets of the file", () => {
    expect(zoneOf("lokey=c4 hikey=D#4 pitch_keycenter=cb4")).toMatchObject({ keyLow: 60, keyHigh: 63, root: 59 });
    const [moved] = zonesOf("<control> octave_offset=1 note_offset=-2\n<region> sample=a.wav key=50");
    expect(moved).toMatchObject({ keyLow: 60, keyHigh: 60, root: 60 });
    expect(zoneOf("key=60 lokey=55")).toMatchObject({ keyLow: 55, keyHigh: 60, root: 60 });
  });

  it("have velocity ranges, fades, tuning and tracking", () => {
    expect(zoneOf("lovel=0 hivel=63")).toMatchObject({ velLow: 1, velHigh: 63 });
    expect(zoneOf("xfin_lokey=48 xfin_hikey=52 xfout_lokey=70 xfout_hikey=72")).toMatchObject({
      keyLow: 48,
      keyFadeLow: 4,
      keyHigh: 72,
      keyFadeHigh: 2,
    });
    expect(zoneOf("xfin_lovel=20 xfin_hivel=40 xfout_lovel=100 xfout_hivel=120")).toMatchObject({
      velLow: 20,
      velFadeLow: 20,
      velHigh: 120,
      velFadeHigh: 20,
    });
    expect(zoneOf("tune=-23 transpose=1 pitch_keytrack=0")).toMatchObject({ tune: 77, track: 0 });
    // Two octaves up: the root takes what the tuning can't.
    const far = zoneOf("transpose=24 pitch_keycenter=60");
    expect(60 - far.root + far.tune / 100).toBe(24);
    expect(zoneOf("volume=2,5 amplitude=50").gain).toBeCloseTo(2.5 - 6.0206, 3);
  });

  it("play the part and the loop that they say, or that their file says", () => {
    const file = {
      path: "a.wav",
      root: 61.25,
      loop: { start: 100, end: 900, mode: "forward" as const },
      further: [],
      range: null,
      text: "",
    };
    expect(zoneOf("offset=10 end=999 direction=reverse")).toMatchObject({
      start: 10,
      end: 1000,
      reverse: true,
      loop: null,
    });
    expect(zoneOf("", { file }).loop).toMatchObject({ start: 100, end: 900, until: "end" });
    expect(zoneOf("loop_mode=no_loop", { file }).loop).toBeNull();
    expect(
      zoneOf("loopmode=loop_sustain loopstart=5 loopend=49 loop_crossfade=0,0005 loop_type=alternate").loop,
    ).toEqual(newLoop({ start: 5, end: 50, until: "release", fade: 5, mode: "alternating" }));
    expect(zoneOf("loop_mode=one_shot")).toMatchObject({ oneShot: true, loop: null });
    const own = zoneOf("pitch_keycenter=sample", { file });
    expect(60 - own.root + own.tune / 100).toBeCloseTo(60 - 61.25, 9);
  });

  it("are left out with a reason where they can't sound", () => {
    const { instrument, problems } = read(
      "<region> sample=a.wav hikey=-1\n<region> sample=../../x.wav\n<region> key=3\n<region> sample=*what\n<region> sample=a.wav end=-1\n<region> sample=b.wav",
    );
    expect(listZones(instrument)).toHaveLength(1);
    expect(problems.map((p) => p.replace(/^.*: /, ""))).toEqual([
      "it answers no key.",
      "its sample “../../x.wav” leads out of the folder.",
      "it names no sample.",
      "“*what” can't be computed here.",
      "it is switched off by end=-1.",
    ]);
  });

  it("keep a place for a sample that isn't there, found again by its path", () => {
    const { instrument, missing } = read(
      "<control> default_path=..\\snd\\\n<region> sample=gone one.wav loop_mode=loop_continuous loop_end=70000",
    );
    expect(missing).toEqual(["snd/gone one.wav"]);
    expect(instrument.samples[0]).toMatchObject({ name: "gone one", file: { path: "snd/gone one.wav" } });
    expect(listZones(instrument)[0]?.loop?.end).toBe(70001);
  });

  it("may be simple waves", () => {
    const { instrument } = read("<region> sample=*square\n<region> sample=*noise");
    expect(instrument.layers.map((l) => [l.source.kind, l.source.params.wave ?? l.source.params.colour])).toEqual([
      ["oscillator", "pulse"],
      ["noise", "white"],
    ]);
    expect(listZones(instrument).map((z) => z.sample)).toEqual([null, null]);
  });
});

describe("what has no counterpart", () => {
  it("is listed by setting with count, file and line, and kept with its zone", () => {
    const { instrument, lost } = read(
      "<group> sustain_sw=off\n<region> sample=a.wav volume=loud\n<region> sample=b.wav\n<effect>\ntype=tank",
    );
    expect(lost).toEqual([
      { opcode: "sustain_sw", count: 2, file: "kit/k.sfz", line: 1, why: "it has no counterpart" },
      { opcode: "volume", count: 1, file: "kit/k.sfz", line: 2, why: "“loud” is no number" },
      { opcode: "type", count: 1, file: "kit/k.sfz", line: 5, why: "it stands below a header that has no counterpart" },
    ]);
    expect(listZones(instrument).map((z) => z.kept)).toEqual(["sustain_sw=off\nvolume=loud", "sustain_sw=off"]);
    expect(instrument.kept).toBe("<effect>\ntype=tank\n");
    const { text } = writeSfz(instrument);
    expect(text.match(/sustain_sw=off/g)).toHaveLength(2);
    expect(text).toContain("<effect>\ntype=tank");
  });
});

describe("conditions", () => {
  it("are those of groups: trigger, switch, controller, choke, voices, sends", () => {
    expect(groupOf("trigger=release rt_decay=6")).toMatchObject({ trigger: "noteOff", releaseDecay: 6 });
    expect(groupOf("sw_last=c1")).toMatchObject({ keyswitch: "latched", switchKey: 24 });
    expect(groupOf("sw_down=25")).toMatchObject({ keyswitch: "momentary", switchKey: 25 });
    expect(groupOf("locc64=64")).toMatchObject({ controller: 64, controllerLow: 64, controllerHigh: 127 });
    expect(groupOf("polyphony=2 effect1=50")).toMatchObject({ voices: 2 });
    expect(groupOf("effect1=50")?.send1).toBeCloseTo(-6.0206, 3);
  });

  it("put the standard keyswitch first, for the first one counts until one is pressed", () => {
    const { instrument } = read(
      "<global> sw_default=26 sw_lokey=24 sw_hikey=26\n<region> sample=a.wav sw_last=24\n<region> sample=b.wav sw_last=26\n<region> sample=c.wav sw_last=25",
    );
    expect(instrument.layers[0]?.groups.map((g) => g.settings.params.switchKey)).toEqual([26, 24, 25]);
  });

  it("choke what group and off_by connect, numbered anew", () => {
    const { instrument, problems } = read(
      "<region> sample=a.wav group=700 off_by=900\n<region> sample=b.wav group=900\n<region> sample=c.wav group=5\n<region> sample=d.wav off_by=44 group=44",
    );
    const groups = instrument.layers.flatMap((l) => l.groups);
    const chokeOf = (name: string) =>
      groups.find((g) => g.zones.some((z) => instrument.samples.find((s) => s.sha === z.sample)?.name === name))
        ?.settings.params.chokeGroup;
    expect(["a", "b", "c", "d"].map(chokeOf)).toEqual([2, 2, 0, 1]);
    expect(problems).toEqual(["Groups that silence another one only one way silence each other here."]);
  });

  it("read repeats in order, by chance in even parts, and a chance that stands alone", () => {
    const turns = (text: string) =>
      read(text).instrument.layers.flatMap((l) =>
        l.groups.flatMap((g) =>
          g.zones.map((z) => [g.settings.params.roundRobin, z.repeat, g.settings.params.probability]),
        ),
      );
    expect(
      turns("<region>sample=a.wav seq_length=2 seq_position=1\n<region>sample=b.wav seq_length=2 seq_position=2"),
    ).toEqual([
      ["cycle", 1, 1],
      ["cycle", 2, 1],
    ]);
    expect(
      turns(
        "<region>sample=a.wav hirand=0.33\n<region>sample=b.wav lorand=0.33 hirand=0.67\n<region>sample=c.wav lorand=0.667",
      ),
    ).toEqual([
      ["random", 1, 1],
      ["random", 2, 1],
      ["random", 3, 1],
    ]);
    expect(turns("<region>sample=a.wav hirand=0.3")).toEqual([["cycle", 1, 0.3]]);
  });
});

describe("sound", () => {
  it("parts layers by envelope and filter, and keeps what is alike together", () => {
    const { instrument } = read(
      "<group> ampeg_release=1 cutoff=1000 fil_type=hpf_4p resonance=6 cutoff2=300\n<region> sample=x/a.wav\n<region> sample=x/b.wav\n<group> ampeg_attack=0.2 ampeg_sustain=50\n<region> sample=y/c.wav",
    );
    expect(instrument.layers.map((l) => [l.name, l.groups[0]?.zones.length, l.stages.length])).toEqual([
      ["x", 2, 2],
      ["y", 1, 0],
    ]);
    expect(instrument.layers[0]?.amp.params).toMatchObject({ release: 1, attack: 0, sustain: 1 });
    expect(instrument.layers[1]?.amp.params).toMatchObject({ release: 0, attack: 0.2, sustain: 0.5 });
    expect(instrument.layers[0]?.stages[0]?.params).toMatchObject({ type: "high", slope: "24", cutoff: 1000 });
  });

  it("gives more different sounds than there can be layers to the nearest, and says so", () => {
    const text = Array.from({ length: 80 }, (_, i) => `<region> sample=a.wav key=${i} ampeg_release=${i / 100}`).join(
      "\n",
    );
    const { instrument, problems } = read(text);
    expect(instrument.layers).toHaveLength(64);
    expect(listZones(instrument)).toHaveLength(80);
    expect(problems[0]).toMatch(/80 different envelopes and filters/);
  });

  /** What a route makes of its source's value. */
  const worth = (route: Route | undefined, x: number): number => {
    if (!route) return Number.NaN;
    const { curve } = route;
    const line = curve && { x: curve.map((p) => p.x), y: curve.map((p) => p.y), bend: curve.map((p) => p.bend) };
    return route.amount * (line ? lineAt(line, x) : x);
  };

  it("follows velocity by its square, by a share of it, or by points", () => {
    const levelOf = (settings: string, velocity: number): number => {
      const { instrument } = read(`<region> sample=a.wav ${settings}`);
      const { strip } = instrument.layers[0] ?? newLayer("", "");
      const route = instrument.routes.find((r) => r.target === "layers/main/strip/level");
      const down = (Number(strip.params.velocity) * (127 - velocity)) / 126;
      return (route ? worth(route, velocity / 127) : 0) - down;
    };
    for (const v of [20, 64, 100, 127]) {
      expect(levelOf("", v)).toBeCloseTo(40 * Math.log10(v / 127), 1);
      expect(levelOf("amp_veltrack=0", v)).toBeCloseTo(0, 9);
      expect(levelOf("amp_veltrack=50", v)).toBeCloseTo(20 * Math.log10(0.5 + 0.5 * (v / 127) ** 2), 1);
      expect(levelOf("amp_velcurve_1=1", v)).toBeCloseTo(20 * Math.log10(Math.max(1e-9, v < 1 ? 0 : 1)), 1);
    }
  });

  it("makes routes of tracks, envelopes, LFOs and controllers, with macros for those that have a name or a standing", () => {
    const { instrument, lost } = read(
      `<control> label_cc20=Brightness set_cc20=32
<region> sample=a.wav cutoff=500 fil_veltrack=1200 fil_keytrack=100 fileg_depth=2400 fileg_decay=0.3
 cutoff_oncc20=3600 pitchlfo_freq=6 pitchlfo_depthcc1=50 pitcheg_depth=-1200 amplitude_oncc21=100 pan_oncc10=100
 lfo1_freq=2 lfo1_pitch=30 lfo1_volume_oncc30=3 tune_oncc128=40`,
    );
    expect(lost).toEqual([]);
    expect(instrument.macros.map((m) => [m.id, m.name, Math.round(Number(m.params.value) * 127)])).toEqual([
      ["cc10", "CC 10", 64],
      ["cc20", "Brightness", 32],
    ]);
    const told = instrument.routes.map((r) => [
      r.source,
      r.target.replace("layers/main/", ""),
      Math.round(r.amount * 1000) / 1000,
      r.scale,
    ]);
    expect(told).toEqual(
      expect.arrayContaining([
        ["velocity", "stages/filter/cutoff", 1, null],
        ["key", "stages/filter/cutoff", 5, null],
        ["macros/cc20", "stages/filter/cutoff", 3, null],
        ["envelopes/env1", "stages/filter/cutoff", 2, null],
        ["lfos/lfo1", "source/transpose", 0.5, "wheel"],
        ["envelopes/env2", "source/transpose", -12, null],
        ["macros/cc10", "strip/pan", 1, null],
        ["lfos/lfo2", "source/transpose", 0.3, null],
        ["lfos/lfo2", "strip/level", 3, "controllers/30"],
        ["bend", "source/transpose", 0.4, null],
      ]),
    );
    const swell = instrument.routes.find((r) => r.source === "controllers/21");
    expect(worth(swell, 0.5)).toBeCloseTo(-6.02, 1);
    expect(worth(swell, 0)).toBe(-60);
    expect(instrument.lfos.map((l) => l.params.rate)).toEqual([6, 2]);
    expect(instrument.envelopes[0]?.params.decay).toBe(0.3);
  });

  it("bends controllers by curves of the file, and by those that have a number", () => {
    const { instrument } = read(
      "<region> sample=a.wav volume_oncc2=-20 volume_curvecc2=9 tune_oncc3=100 tune_curvecc3=2 tune_smoothcc3=50\n<curve> curve_index=9 v000=1 v064=0.5 v127=0",
    );
    const [level, tune] = ["controllers/2", "controllers/3"].map((s) => instrument.routes.find((r) => r.source === s));
    expect(worth(level, 0)).toBeCloseTo(-20);
    expect(worth(level, 64 / 127)).toBeCloseTo(-10, 1);
    expect(worth(tune, 0)).toBeCloseTo(1, 5);
    expect(worth(tune, 1)).toBeCloseTo(0, 5);
    expect(tune?.smooth).toBe(0.05);
  });

  it("fades layers by a controller", () => {
    const { instrument } = read(
      "<region> sample=a.wav xfout_locc1=0 xfout_hicc1=127\n<region> sample=b.wav xfin_locc1=0 xfin_hicc1=127",
    );
    const routes = instrument.routes.filter((r) => r.source === "wheel");
    expect(routes).toHaveLength(2);
    for (const x of [0.25, 0.5, 0.8]) {
      const powers = routes.map((r) => 10 ** (worth(r, x) / 10));
      expect((powers[0] ?? 0) + (powers[1] ?? 0)).toBeCloseTo(1, 1);
    }
  });
});

/** An instrument of one of everything that zones and groups can be, by chance. */
function chanceInstrument(seed: number): Instrument {
  const random = seededRandom(seed);
  const int = (low: number, high: number) => low + Math.floor(random() * (high - low + 1));
  const samples = Array.from({ length: 12 }, (_, i) => sampleAt(`s/tube ${i}.wav`, { frames: int(2000, 90000) }));
  let ids = 0;
  const zone = (repeat: number, mic: string | null): Zone => {
    const sample = samples[int(0, 11)] as Sample;
    const keyLow = int(0, 120);
    const keyHigh = int(keyLow, 127);
    const velLow = int(1, 120);
    const velHigh = int(velLow, 127);
    const start = int(0, 500);
    const loop = newLoop({
      start: int(600, 700),
      end: int(800, 1500),
      fade: int(0, 50),
      mode: (["forward", "backward", "alternating"] as const)[int(0, 2)] ?? "forward",
      law: (["match", "gain", "power"] as const)[int(0, 2)] ?? "match",
      times: int(0, 2),
      until: random() < 0.5 ? "end" : "release",
    });
    const oneShot = random() < 0.2;
    return newZone({
      ...{ id: `z${++ids}`, sample: sample.sha, keyLow, keyHigh, velLow, velHigh, start, repeat, mic, oneShot },
      end: random() < 0.5 ? sample.frames : int(1600, sample.frames),
      keyFadeLow: int(0, Math.min(3, keyHigh - keyLow)),
      velFadeHigh: int(0, Math.min(5, velHigh - velLow)),
      root: int(0, 127),
      tune: int(-100, 100),
      track: random() < 0.2 ? 0 : 1,
      gain: int(-30, 10),
      pan: int(-100, 100) / 100,
      reverse: random() < 0.2,
      loop: !oneShot && random() < 0.5 ? loop : null,
      kept: random() < 0.2 ? "sustain_sw=off" : "",
    });
  };
  const group = (name: string) => {
    const made = newGroup(name.toLowerCase(), name);
    const pick = <const T>(...list: T[]): T => list[int(0, list.length - 1)] as T;
    const params = {
      ...made.settings.params,
      roundRobin: pick("cycle", "random", "noRepeats"),
      trigger: pick("noteOn", "noteOff", "firstNote", "legato"),
      keyswitch: pick("none", "none", "momentary", "latched"),
      switchKey: int(20, 30),
      controller: pick(-1, 3),
      controllerLow: 10,
      chokeGroup: int(0, 2),
      voices: pick(0, 3),
      releaseDecay: pick(0, 6),
      borrow: pick(0, 2),
    };
    // Every repeat of the group sounds over the whole, so that it is numbered without gaps.
    const zones = [1, 2, 3].map((repeat) => ({
      ...zone(repeat, pick(null, "near", "far")),
      ...{ keyLow: 0, keyHigh: 127, velLow: 1, velHigh: 127 },
    }));
    return {
      ...made,
      settings: { ...made.settings, params },
      zones: [...zones, ...Array.from({ length: 5 }, () => zone(int(1, 3), null))],
    };
  };
  const layers = ["Tubes", "Bells"].map((name, i) => {
    const layer = newLayer(`l${i}`, name);
    const amp = { ...layer.amp, params: { ...layer.amp.params, attack: 0.01 * (i + 1), release: 0.5, sustain: 0.75 } };
    const strip = { ...layer.strip, params: { ...layer.strip.params, level: -3 * i, velocity: 18 * i } };
    return { ...layer, amp, strip, groups: [group(`${name} a`), group(`${name} b`)] };
  });
  return {
    ...newInstrument("i", "Chance"),
    samples,
    layers,
    mics: ["near", "far"].map((id) => newUnit("mic", id, id)),
    effects: [],
  };
}

/** What must be the same of a zone, wherever its numbers stand. */
const essence = (instrument: Instrument) =>
  instrument.layers
    .flatMap((layer) =>
      layer.groups.flatMap((g) => {
        const { level, ...params } = g.settings.params;
        // What isn't used may stand anywhere.
        const gates = {
          ...params,
          switchKey: params.keyswitch === "none" ? 0 : params.switchKey,
          controllerLow: Number(params.controller) < 0 ? 0 : params.controllerLow,
          chokeFade: Number(params.chokeGroup) < 1 ? 0 : params.chokeFade,
        };
        const total = Number(layer.strip.params.level) + Number(level);
        return g.zones.map(({ id: _, gain, ...zone }) => ({
          ...{ layer: layer.name, group: g.name, gates, amp: layer.amp.params, velocity: layer.strip.params.velocity },
          ...zone,
          gain: Math.round((gain + total) * 1e4) / 1e4,
        }));
      }),
    )
    .map((z) => JSON.stringify(z, (_, v) => (typeof v === "number" ? Math.round(v * 1e5) / 1e5 : v)))
    .sort();

describe("there and back", () => {
  const again = (instrument: Instrument): { opened: OpenedSfz; lost: readonly string[] } => {
    const written = writeSfz(instrument);
    const byPath = new Map(written.files.map((f) => [f.path, f.sample]));
    const program = programOf(
      readSfzText("k.sfz", written.text, () => null),
      "k.sfz",
    );
    return { opened: instrumentOfSfz(program, (p) => byPath.get(p) ?? null, "i", "Kit"), lost: written.lost };
  };

  it("every zone with its range, loop, tuning, level, microphone, conditions, envelope and velocity law is the same", () => {
    for (let seed = 1; seed <= 40; seed++) {
      const made = chanceInstrument(seed);
      const { opened, lost } = again(made);
      expect(lost).toEqual([]);
      expect(opened.problems).toEqual([]);
      expect(opened.missing).toEqual([]);
      const checked = checkInstrument(opened.instrument);
      expect(checked.ok ? [] : checked.problems).toEqual([]);
      const [back, before] = [essence(opened.instrument), essence(made)];
      expect(back).toHaveLength(before.length);
      back.forEach((zone, i) => {
        expect(JSON.parse(zone)).toEqual(JSON.parse(before[i] ?? ""));
      });
    }
  });

  it("keeps filters, what moves them, and macros with their names and values", () => {
    const made = newInstrument("i", "Kit");
    const sample = sampleAt("s/a.wav");
    const layer = newLayer("main", "Main");
    const filter = {
      ...newUnit("filter", "filter"),
      params: { ...newUnit("filter", "filter").params, cutoff: 900, slope: "24" as const, resonance: 0.5 },
    };
    const lfo = {
      ...newUnit("lfo", "lfo1", "LFO 1"),
      params: { ...newUnit("lfo", "lfo1").params, shape: "triangle" as const, rate: 3 },
    };
    const routes = [
      newRoute({ id: "r1", source: "velocity", target: "layers/main/stages/filter/cutoff", amount: 2 }),
      newRoute({
        id: "r2",
        source: "macros/m",
        target: "layers/main/stages/filter/cutoff",
        amount: 3,
        curve: [
          { x: 0, y: 0, bend: 0.5 },
          { x: 1, y: 1, bend: 0 },
        ],
      }),
      newRoute({ id: "r3", source: "lfos/lfo1", target: "layers/main/source/fine", amount: 20, scale: "wheel" }),
      newRoute({ id: "r4", source: "envelopes/e", target: "layers/main/source/transpose", amount: -3 }),
      newRoute({ id: "r5", source: "controllers/11", target: "layers/main/strip/level", amount: 6, smooth: 0.1 }),
    ];
    const instrument: Instrument = {
      ...made,
      samples: [sample],
      layers: [
        {
          ...layer,
          stages: [filter],
          groups: [{ ...newGroup("main", "Main"), zones: [newZone({ id: "z", sample: sample.sha, end: 48000 })] }],
        },
      ],
      macros: [{ ...newUnit("macro", "m", "Open"), params: { value: 0.3 } }],
      lfos: [lfo],
      envelopes: [
        { ...newUnit("envelope", "e", "Fall"), params: { ...newUnit("envelope", "e").params, decay: 0.2, sustain: 0 } },
      ],
      routes,
      effects: [],
    };
    const { opened, lost } = again(instrument);
    expect(lost).toEqual([]);
    const back = opened.instrument;
    const params = back.layers[0]?.stages[0]?.params;
    expect(params).toMatchObject({ type: "low", slope: "24", cutoff: 900 });
    expect(Number(params?.resonance)).toBeCloseTo(0.5, 4);
    expect(back.macros.map((m) => [m.name, m.params.value])).toEqual([["Open", 0.3]]);
    const routed = back.routes.map(
      (r) => `${r.source.split("/")[0]} ${r.target.split("/").at(-1)} ${Math.round(r.amount * 1000) / 1000} ${r.scale}`,
    );
    expect(routed.sort()).toEqual([
      "controllers level 6 null",
      "envelopes transpose -3 null",
      "lfos transpose 0.2 wheel",
      "macros cutoff 3 null",
      "velocity cutoff 2 null",
    ]);
    const bent = back.routes.find((r) => r.target.endsWith("cutoff") && r.source.startsWith("macros"))?.curve ?? [];
    const line = { x: bent.map((p) => p.x), y: bent.map((p) => p.y), bend: bent.map((p) => p.bend) };
    const own = { x: [0, 1], y: [0, 1], bend: [0.5, 0] };
    for (const x of [0.1, 0.4, 0.7]) expect(lineAt(line, x)).toBeCloseTo(lineAt(own, x), 1);
  });

  it("tells in words what can't be written", () => {
    const made = chanceInstrument(3);
    const [layer] = made.layers;
    const { lost } = writeSfz({
      ...made,
      effects: [newUnit("reverb", "reverb")],
      play: { ...made.play, params: { ...made.play.params, voiceMode: "mono" } },
      layers: layer ? [{ ...layer, stages: [newUnit("resonator", "res")], source: newUnit("grains", "source") }] : [],
      routes: [newRoute({ id: "r", source: "wheel", target: "effects/reverb/mix", amount: 1 })],
    });
    expect(lost).toEqual([
      "the layer Tubes, whose grains computes its sound",
      "Reverb of the master",
      "a route to Reverb mix",
      "that one note sounds at a time",
    ]);
  });

  it("writes a filter that follows the keys, and says what of a source is more than its wave", () => {
    const made = chanceInstrument(5);
    const [layer] = made.layers;
    if (!layer) throw new Error("there is no layer");
    const filter = newUnit("filter", "f");
    const written = (source: Partial<Record<string, number | string>>) => {
      const unit = newUnit("oscillator", "source");
      return writeSfz({
        ...made,
        routes: [],
        layers: [
          {
            ...layer,
            source: { ...unit, params: { ...unit.params, ...source } as typeof unit.params },
            stages: [{ ...filter, params: { ...filter.params, cutoff: 800, keyTracking: 0.5 } }],
          },
        ],
      });
    };
    expect(written({ wave: "saw" }).text).toContain("fil_keytrack=50");
    expect(written({ wave: "saw" }).lost.join()).not.toContain("beyond its wave");
    expect(written({ wave: "saw", feedback: 0.3 }).lost).toContain("what Tubes’s source is beyond its wave");
  });

  it("gives each sample a file of its own that every system can hold", () => {
    const made = chanceInstrument(4);
    const samples = made.samples.map((s, i) => ({
      ...s,
      name: ["a/b:c", "A/b:c", "..", "", "x".repeat(300), "über = $1"][i % 6] ?? "",
    }));
    const { files } = writeSfz({ ...made, samples });
    const names = files.map((f) => f.path.toLowerCase());
    expect(new Set(names).size).toBe(names.length);
    for (const name of names) expect(name).toMatch(/^samples\/[^\\/:*?"<>|=$]{1,130}\.wav$/);
  });
});

describe("names that a text format could take for something else", () => {
  const odd = fc.array(
    fc.constantFrom(
      "<p>",
      "Soft",
      "//",
      "/*",
      "*/",
      "$name",
      "=",
      "\n",
      "\r\n",
      "\u2028",
      '#include "x"',
      "#define $A b",
      " key=60",
      "<region>",
      "é",
      "//#define",
    ),
    { maxLength: 8 },
  );

  it("are written so that the file is read back as it was: the same headers, the same settings, a name for each label", () => {
    fc.assert(
      fc.property(odd, odd, odd, (a, b, c) => {
        const doc = (names: readonly string[]): Instrument => ({
          ...newInstrument("i", "I"),
          samples: [sampleAt("a.wav")],
          macros: [{ ...newUnit("macro", "m"), name: names[0] ?? "" }],
          routes: [newRoute({ id: "r", source: "macros/m", target: "layers/l/strip/level", amount: 6 })],
          layers: [
            {
              ...newLayer("l", names[1] ?? ""),
              groups: [
                {
                  ...newGroup("g", names[2] ?? ""),
                  zones: [newZone({ id: "z", sample: sampleAt("a.wav").sha, end: 48000 })],
                },
              ],
            },
          ],
        });
        const shape = (text: string) => {
          const { headers, problems } = readSfzText("i.sfz", text, () => null);
          return [
            problems,
            headers.map((h) => [
              h.name,
              h.opcodes.map((o) => (o.name.includes("label") ? o.name : `${o.name}=${o.value}`)),
            ]),
          ];
        };
        const written = writeSfz(doc([a.join(""), b.join(""), c.join("")])).text;
        expect(shape(written)).toEqual(shape(writeSfz(doc(["A", "B", "C"])).text));
      }),
      { numRuns: 300, seed: 3 },
    );
  });
});
