import { strToU8 } from "fflate";
import { type Instrument, MOST_KEPT, newInstrument, newSample, type Sample, type Zone } from "../../instrument";
import { withoutExtension } from "../../mapping";
import { plural } from "../../params";
import { sha256Of } from "../hash";
import { Builder, type GateParts, type SoundParts } from "./build";
import { chokesOf } from "./chokes";
import { Controllers } from "./controllers";
import type { GateDraft, SoundDraft } from "./drafts";
import { gateOf } from "./gate";
import type { SfzProgram, SfzRegion } from "./program";
import { RegionReader } from "./region-reader";
import { repeatsOf } from "./repeats";
import { computedSource, soundOf } from "./sound";
import type { SfzOpcode } from "./text";
import { zoneOf } from "./zone";

/** A setting that has no counterpart, or a value that can't be read: how often, where first, and why. */
export interface SfzLoss {
  readonly opcode: string;
  readonly count: number;
  readonly file: string;
  readonly line: number;
  readonly why: string;
}

export interface OpenedSfz {
  readonly instrument: Instrument;
  readonly lost: readonly SfzLoss[];
  readonly problems: readonly string[];
  /** Paths of samples that aren't there; their zones stay silent until they are found. */
  readonly missing: readonly string[];
}

/** A sample that isn't there: known by its path, so that it can be found again. */
function missingSample(path: string, reader: RegionReader): Sample {
  const least = ["end", "loop_end", "offset"].map((n) => (reader.number(n, -1, 2 ** 31 - 3) ?? 0) + 2);
  reader.giveBack("end", "loop_end", "offset");
  const name = withoutExtension(path.slice(path.lastIndexOf("/") + 1));
  return newSample({
    sha: sha256Of(strToU8(`missing ${path}`)),
    name: name.slice(0, 200) || "unnamed",
    frames: Math.max(...least),
    file: { path: path.slice(-1000), root: null, loop: null, further: [], range: null, text: "" },
  });
}

/** Counts what was lost, by setting and reason. */
class Losses {
  private readonly all = new Map<string, { opcode: string; count: number; file: string; line: number; why: string }>();
  add(opcode: SfzOpcode, why: string): void {
    const key = `${opcode.name}\n${why}`;
    const known = this.all.get(key);
    if (known) known.count++;
    else this.all.set(key, { opcode: opcode.name, count: 1, file: opcode.file, line: opcode.line, why });
  }
  list(): SfzLoss[] {
    return [...this.all.values()].sort((a, b) => b.count - a.count);
  }
}

/** Makes an instrument of what an SFZ file says. */
class SfzReader {
  private readonly controllers: Controllers;
  private readonly losses = new Losses();
  private readonly problems: string[];
  private readonly missing = new Map<string, Sample>();
  private readonly samples = new Map<string, Sample>();
  private readonly sounds = new Map<string, SoundParts>();
  private readonly bends = new Map<number, number>();
  private readonly mics = new Set<string>();

  constructor(
    private readonly program: SfzProgram,
    private readonly sampleOf: (path: string) => Sample | null,
  ) {
    this.controllers = new Controllers(program);
    this.problems = [...program.problems];
  }

  read(id: string, name: string): OpenedSfz {
    const { program, problems } = this;
    const chokes = chokesOf(program.regions);
    problems.push(...chokes.problems);
    const repeats = repeatsOf(program.regions);
    const leftOut = new Map<string, { count: number; region: SfzRegion }>();
    program.regions.forEach((region, i) => {
      const why = this.region(region, `z${i + 1}`, chokes.of(region), repeats);
      if (why === null) return;
      const known = leftOut.get(why);
      if (known) known.count++;
      else leftOut.set(why, { count: 1, region });
    });
    for (const [why, { count, region }] of leftOut)
      problems.push(`${plural(count, "region")} skipped, the first in ${region.file}, line ${region.line}: ${why}.`);
    for (const opcode of program.unread) this.losses.add(opcode, "it stands below a header that has no counterpart");
    const built = new Builder(this.controllers, problems).build([...this.sounds.values()], newInstrument(id, name));
    for (const [key, opcode] of program.control)
      if (!this.controllers.used.has(key) && !PATHS.has(key)) this.losses.add(opcode, NO_COUNTERPART);
    const instrument: Instrument = {
      ...built,
      samples: [...this.samples.values()],
      play: { ...built.play, params: { ...built.play.params, bendRange: this.bend() } },
      kept: program.kept.slice(0, 50 * MOST_KEPT),
    };
    return { instrument, lost: this.losses.list(), problems, missing: [...this.missing.keys()] };
  }

  /** How far the wheel bends; where regions differ, what most of them have. */
  private bend(): number {
    const [most, other] = [...this.bends].sort((a, b) => b[1] - a[1]);
    if (other)
      this.problems.push("The pitch wheel bends regions by different amounts; here all follow the most frequent.");
    return most ? most[0] : 2;
  }

  /** Takes one region in; why it is left out, null where it isn't. */
  private region(
    region: SfzRegion,
    id: string,
    choke: number,
    repeats: (region: SfzRegion) => ReturnType<ReturnType<typeof repeatsOf>>,
  ): string | null {
    const path = region.sample;
    if (path === null) return `its sample “${region.opcodes.get("sample")?.value}” leads out of the folder`;
    if (path === "") return "it names no sample";
    const reader = new RegionReader(region);
    reader.pass("sample");
    const computed = path.startsWith("*") ? computedSource(path) : null;
    if (path.startsWith("*") && !computed) return `“${path}” can't be computed here`;
    const sample = computed ? null : this.sample(path, reader);
    const turn = repeats(region);
    reader.pass("lorand", "hirand", "seq_position", "group", "off_by");
    const zone = zoneOf(reader, id, sample, turn.repeat);
    if (typeof zone === "string") return zone;
    this.readBend(reader);
    const sound = soundOf(reader, this.controllers, computed ?? { kind: "samples", params: {} });
    const gate = gateOf(reader, this.controllers, choke, sound.filters.length > 0, turn);
    this.put(reader, region, zone, sound, gate);
    return null;
  }

  private sample(path: string, reader: RegionReader): Sample {
    const found = this.sampleOf(path) ?? this.missing.get(path) ?? missingSample(path, reader);
    if (!this.sampleOf(path)) this.missing.set(path, found);
    this.samples.set(found.sha, found);
    return found;
  }

  private readBend(reader: RegionReader): void {
    const up = reader.number("bend_up", -9600, 9600) ?? 200;
    const down = reader.number("bend_down", -9600, 9600) ?? -200;
    if (down !== -up || up < 0 || up > 2400) reader.giveBack("bend_up", "bend_down");
    const semitones = Math.max(0, Math.min(24, up / 100));
    this.bends.set(semitones, (this.bends.get(semitones) ?? 0) + 1);
  }

  /** The microphone of a region that this program has written; null for none, and for what can't be one. */
  private mic(reader: RegionReader): string | null {
    const mic = reader.text("vise_mic");
    if (mic !== null && MIC.test(mic) && (this.mics.has(mic) || this.mics.size < MOST_MICS)) {
      this.mics.add(mic);
      return mic;
    }
    if (mic !== null) reader.giveBack("vise_mic");
    return null;
  }

  /** Puts a zone with others of its sound and its conditions; what drives its layer's filter goes there. */
  private put(reader: RegionReader, region: SfzRegion, zone: Zone, sound: SoundDraft, gate: GateDraft): void {
    const own: GateDraft = { ...gate, routes: gate.routes.filter((r) => r.place === "group") };
    const draft: SoundDraft = {
      ...sound,
      routes: [...sound.routes, ...gate.routes.filter((r) => r.place !== "group")],
    };
    const soundKey = JSON.stringify(draft);
    const parts = this.sounds.get(soundKey) ?? {
      draft,
      gates: new Map<string, GateParts>(),
      folders: new Set<string>(),
      labels: new Set<string>(),
    };
    this.sounds.set(soundKey, parts);
    parts.labels.add(reader.text("master_label") ?? reader.text("global_label") ?? "");
    if (region.sample) parts.folders.add(folderName(region.sample));
    const standard = reader.key("sw_default");
    const first = standard !== null && own.params.keyswitch === "latched" && own.params.switchKey === standard;
    const gateKey = JSON.stringify(own);
    const into = parts.gates.get(gateKey) ?? { draft: own, zones: [], first };
    parts.gates.set(gateKey, into);
    const mic = this.mic(reader);
    const rest = reader.rest();
    for (const opcode of rest) {
      const wrong = reader.wrong.find((w) => w.opcode === opcode);
      this.losses.add(opcode, wrong?.why ?? NO_COUNTERPART);
    }
    into.zones.push({ ...zone, mic, kept: keptText(rest) });
  }
}

const MIC = /^[\w.-]{1,64}$/;
const MOST_MICS = 32;
const NO_COUNTERPART = "it has no counterpart";
const PATHS: ReadonlySet<string> = new Set(["default_path", "note_offset", "octave_offset"]);

const folderName = (path: string): string => path.split("/").at(-2) ?? "";

/** Settings as text of one to a line, as many as a zone keeps. */
function keptText(opcodes: readonly SfzOpcode[]): string {
  let text = "";
  for (const { name, value } of opcodes) {
    const line = `${name}=${value}`;
    if (text.length + line.length + 1 > MOST_KEPT) break;
    text += text === "" ? line : `\n${line}`;
  }
  return text;
}

/**
 * Makes an instrument of an SFZ file's program (SFZ 1, and of SFZ 2 what the engine has). Regions of one envelope, filter and velocity law become a
 * layer, of one condition a group; what moves them becomes routes; controllers with a name or a standing become macros. `sampleOf` gives the sample at
 * a path, null where it isn't there. What has no counterpart is listed, and kept with the zones so that it can be written again.
 */
export const instrumentOfSfz = (
  program: SfzProgram,
  sampleOf: (path: string) => Sample | null,
  id: string,
  name: string,
): OpenedSfz => new SfzReader(program, sampleOf).read(id, name);
