import { FormatError } from "../format-error";
import { folderOf, insidePath, type SfzHeader, type SfzOpcode, type SfzText } from "./text";

/** A region with everything that it inherits. */
export interface SfzRegion {
  readonly opcodes: ReadonlyMap<string, SfzOpcode>;
  readonly file: string;
  readonly line: number;
  /** Where its sample lies; null where it leads out of the folder; a name with `*` for what is computed; empty for none. */
  readonly sample: string | null;
  /** What is added to its notes, in semitones. */
  readonly offset: number;
}

/** What an SFZ file says, worked out but not yet understood. */
export interface SfzProgram {
  readonly regions: readonly SfzRegion[];
  /** Values (0 to 127 along x) of each curve, by its number; only those given. */
  readonly curves: ReadonlyMap<number, ReadonlyMap<number, number>>;
  /** Settings of `<control>` headers other than paths and offsets, the last of each name. */
  readonly control: ReadonlyMap<string, SfzOpcode>;
  /** Headers that mean nothing here, as text that can be written back. */
  readonly kept: string;
  /** The settings in them. */
  readonly unread: readonly SfzOpcode[];
  readonly problems: readonly string[];
}

/** Most regions that are read. */
export const MOST_REGIONS = 20000;

const LEVELS = ["global", "master", "group"] as const;

/** Other names of settings, by the name under which they are read. */
const ALIASES = new Map(
  Object.entries({
    loopmode: "loop_mode",
    loopstart: "loop_start",
    loopend: "loop_end",
    looptype: "loop_type",
    loopcount: "loop_count",
    offby: "off_by",
    pitch: "tune",
    filtype: "fil_type",
    gain: "volume",
    delay_cc: "delay_oncc",
  }),
);
const OLD_DEPTH = /^((?:amp|fil|pitch)(?:eg|lfo)_[a-z\d]+?)cc(\d+)$/;
const MOVED = /^(.+)_cc(\d+)$/;
const NOT_MOVED = /^(?:set|label)$/;

/** The name under which a setting is read, whatever it is called in the file. */
export function plainName(name: string): string {
  const known = ALIASES.get(name);
  if (known) return known;
  if (!/\d$/.test(name)) return name;
  const old = OLD_DEPTH.exec(name);
  if (old) return `${old[1]}_oncc${old[2]}`;
  const moved = MOVED.exec(name);
  const full = moved && !NOT_MOVED.test(moved[1] ?? "") ? `${moved[1]}_oncc${moved[2]}` : name;
  return full.replace(/^(?:pitch|tune)_oncc/, "tune_oncc").replace(/^gain_oncc/, "volume_oncc");
}

/** Adds settings to those inherited; `key` stands for three of them. */
function put(into: Map<string, SfzOpcode>, opcodes: readonly SfzOpcode[]): void {
  for (const opcode of opcodes) {
    const name = plainName(opcode.name);
    if (name === "key")
      for (const own of ["lokey", "hikey", "pitch_keycenter"]) into.set(own, { ...opcode, name: own });
    else into.set(name, name === opcode.name ? opcode : { ...opcode, name });
  }
}

const asText = ({ name, opcodes }: SfzHeader): string =>
  `<${name}>\n${opcodes.map((o) => `${o.name}=${o.value}\n`).join("")}`;

function curveOf({ opcodes }: SfzHeader): { index: number; values: Map<number, number> } | null {
  const index = Number(opcodes.find((o) => o.name === "curve_index")?.value ?? Number.NaN);
  if (!Number.isInteger(index)) return null;
  const values = new Map<number, number>();
  for (const { name, value } of opcodes) {
    const at = /^v(\d{1,3})$/.exec(name);
    const y = Number(value);
    if (at && Number(at[1]) < 128 && Number.isFinite(y)) values.set(Number(at[1]), Math.max(-1, Math.min(1, y)));
  }
  return { index, values };
}

/** Works out what every region inherits from the headers above it. Throws FormatError where there is no region. */
export function programOf({ headers, problems: odd }: SfzText, path: string): SfzProgram {
  const problems = [...odd];
  const levels = new Map<string, Map<string, SfzOpcode>>();
  const regions: SfzRegion[] = [];
  const curves = new Map<number, Map<number, number>>();
  const control = new Map<string, SfzOpcode>();
  const unread: SfzOpcode[] = [];
  let kept = "";
  let left = 0;
  /** What levels give, worked out once for all regions below them. */
  let above: Map<string, SfzOpcode> | null = null;
  const number = (name: string): number => {
    const n = Number(control.get(name)?.value ?? 0);
    return Number.isFinite(n) ? Math.round(n) : 0;
  };
  for (const header of headers) {
    const level = (LEVELS as readonly string[]).indexOf(header.name);
    if (level >= 0) {
      const own = new Map<string, SfzOpcode>();
      put(own, header.opcodes);
      levels.set(header.name, own);
      for (const below of LEVELS.slice(level + 1)) levels.delete(below);
      above = null;
    } else if (header.name === "region") {
      if (regions.length === MOST_REGIONS) {
        left++;
        continue;
      }
      above ??= new Map(LEVELS.flatMap((l) => [...(levels.get(l) ?? [])]));
      const opcodes = new Map(above);
      put(opcodes, header.opcodes);
      const name = opcodes.get("sample")?.value ?? "";
      const computed = name.startsWith("*");
      regions.push({
        opcodes,
        file: header.file,
        line: header.line,
        sample:
          computed || name === ""
            ? name
            : insidePath(`${folderOf(path)}${control.get("default_path")?.value ?? ""}${name}`),
        offset: number("note_offset") + 12 * number("octave_offset"),
      });
    } else if (header.name === "control") for (const o of header.opcodes) control.set(o.name, o);
    else if (header.name === "curve") {
      const curve = curveOf(header);
      if (curve) curves.set(curve.index, curve.values);
      else problems.push(`${header.file}, line ${header.line}: the curve has no curve_index and was passed over`);
    } else {
      kept += asText(header);
      unread.push(...header.opcodes);
    }
  }
  if (regions.length === 0) throw new FormatError("no-audio", 0, "there is no <region> in it, so nothing would sound");
  if (left > 0) problems.push(`It has ${left} regions more than the ${MOST_REGIONS} that are read.`);
  return { regions, curves, control, kept, unread, problems };
}
