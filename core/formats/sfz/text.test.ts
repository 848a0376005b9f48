import { describe, expect, it } from "@jest/globals";
import { seededRandom } from "../../audio";
import { checkInstrument } from "../../instrument";
import { FormatError } from "../format-error";
import { programOf } from "./program";
import { instrumentOfSfz } from "./read";
import { insidePath, readSfzText } from "./text";

const none = () => null;
const headersOf = (text: string, include: (path: string) => string | null = none) =>
  readSfzText("kit/bells.sfz", text, include).headers.map((h) => [
    h.name,
    Object.fromEntries(h.opcodes.map((o) => [o.name, o.value])),
  ]);

describe("the text of an SFZ file", () => {
  it("has headers, and settings of which values may hold spaces", () => {
    expect(headersOf("<group> volume=-3\n<region>sample=big bell 1.wav key=60 // rim\nlovel=3")).toEqual([
      ["group", { volume: "-3" }],
      ["region", { sample: "big bell 1.wav", key: "60", lovel: "3" }],
    ]);
  });

  it("leaves out comments of both kinds, over lines", () => {
    expect(headersOf("/* <region> key=1\nkey=2 */ <region> key=3 // key=4\n/*x*/tune=5 /* open")).toEqual([
      ["region", { key: "3", tune: "5" }],
    ]);
  });

  it("replaces definitions, the longest name first, also in other definitions and in names", () => {
    const text = "#define $K 6\n#define $KEY $K0\n#define $KEYS 99\n<region> key=$KEY hi$Kx=1 sample=$NO.wav";
    expect(headersOf(text)).toEqual([["region", { key: "60", hi6x: "1", sample: "$NO.wav" }]]);
  });

  it("includes files beside it, where they are asked for", () => {
    const files: Record<string, string> = { "kit/parts/soft.txt": "<region> key=$K\n", "kit/keys.txt": "#define $K 7" };
    const asked: string[] = [];
    const found = headersOf('#include "keys.txt"\n<group> pan=1\n#include "parts\\soft.txt"', (path) => {
      asked.push(path);
      return files[path] ?? null;
    });
    expect(found).toEqual([
      ["group", { pan: "1" }],
      ["region", { key: "7" }],
    ]);
    expect(asked).toEqual(["kit/keys.txt", "kit/parts/soft.txt"]);
  });

  it("survives a file that includes itself, is missing or leads out, and says so with file and line", () => {
    const text = '<region> key=1\n#include "bells.sfz"\n#include "../../etc/secret"\n#include "gone.txt"';
    const { headers, problems } = readSfzText("kit/bells.sfz", text, (path) =>
      path === "kit/bells.sfz" ? text : null,
    );
    expect(headers).toHaveLength(1);
    expect(problems).toEqual([
      "kit/bells.sfz, line 2: “bells.sfz” includes itself and was not included",
      "kit/bells.sfz, line 3: “../../etc/secret” leads out of the folder and was not included",
      "kit/bells.sfz, line 4: “gone.txt” isn't there and was not included",
    ]);
  });

  it("stops definitions and includes that blow up", () => {
    let text = "#define $A0 xxxxxxxxxx\n";
    for (let i = 1; i < 60; i++) text += `#define $A${i} $A${i - 1}$A${i - 1}\n`;
    const { problems } = readSfzText("x.sfz", `${text}<region> sample=$A59`, none);
    expect(problems[0]).toMatch(/\$A7 is longer than 1000 characters/);
    const twice = (path: string) => `#include "${Number(path) + 1}"\n#include "${Number(path) + 1}"\n`;
    expect(() => readSfzText("0", twice("0"), twice)).toThrow(/more than 2000 files/);
  });

  it("tells what isn't an SFZ file at all", () => {
    expect(() => readSfzText("x.sfz", "", none)).toThrow(FormatError);
    expect(() => readSfzText("x.sfz", "key=60\n", none)).toThrow(/no header/);
    expect(() => programOf(readSfzText("x.sfz", "<group>key=60", none), "x.sfz")).toThrow(/no <region>/);
  });
});

describe("paths", () => {
  it("stay inside the folder in which they begin", () => {
    expect(insidePath("kit/..\\samples/./a.wav")).toBe("samples/a.wav");
    expect(insidePath("kit/../../a.wav")).toBeNull();
    expect(insidePath("C:\\sounds\\a.wav")).toBeNull();
    expect(insidePath("/a.wav")).toBe("a.wav");
  });
});

/** Text made of what SFZ files are made of, in any order, with damage. */
function oddText(random: () => number, length: number): string {
  const pick = <T>(list: readonly T[]): T => list[Math.floor(random() * list.length)] as T;
  const words = [
    ..."<region> <group> <master> <global> <control> <curve> <effect> <what> < > = // /* */ #define $A $AB #include".split(
      " ",
    ),
    ..."sample= key= lokey= hikey= lovel= hivel= seq_position= lorand= hirand= trigger= sw_last= sw_default= locc1= hicc1=".split(
      " ",
    ),
    ..."loop_mode= loop_start= loop_end= cutoff= fil_type= ampeg_attack= lfo1_freq= lfo1_pitch= eg1_time0= eg1_level0=".split(
      " ",
    ),
    ..."volume_oncc7= volume_curvecc7= curve_index= v000= v127= xfin_lokey= xfin_hikey= set_cc7= label_cc7= group= off_by=".split(
      " ",
    ),
    ..."pitcheg_depth= fileg_depth= amplfo_depth= amp_velcurve_64= vise_mic= bend_up= end= offset= default_path= note_offset=".split(
      " ",
    ),
    ..."60 -1 1e9 -1e9 1,5 c4 F#3 nan inf 0.333 release one_shot loop_continuous lpf_2p *sine *what ../../x.wav a.wav b\\c.wav".split(
      " ",
    ),
    "\n",
    "\r\n",
    '"x.sfz"',
    "\u0000",
    "𝄞",
    "\ufeff",
    "${",
    "é",
  ];
  let text = "";
  while (text.length < length) text += pick(words) + (random() < 0.5 ? " " : "");
  return text;
}

const open = (text: string) =>
  instrumentOfSfz(
    programOf(
      readSfzText("x.sfz", text, (path) => (path === "x.sfz" ? text : null)),
      "x.sfz",
    ),
    none,
    "odd",
    "Odd",
  );

describe("odd text", () => {
  it("never throws anything but FormatError, and what opens is a document that opens again", () => {
    const random = seededRandom(12);
    let opened = 0;
    for (let i = 0; i < 400; i++) {
      const text = oddText(random, 200 + random() * 3000);
      try {
        const { instrument } = open(text);
        const checked = checkInstrument(JSON.parse(JSON.stringify(instrument)));
        expect(checked.ok ? [] : checked.problems).toEqual([]);
        opened++;
      } catch (error) {
        expect(error).toBeInstanceOf(FormatError);
      }
    }
    expect(opened).toBeGreaterThan(50);
  });

  it("looks at as many characters as there are, whatever they are", () => {
    const looked = (text: string): number => readSfzText("odd.sfz", text, () => null).characters;
    const shapes = [
      (n: number) => `<region>sample=a.wav ${"a".repeat(n)}`,
      (n: number) => `<region>${"/*".repeat(n / 2)}`,
      (n: number) => `#define $A x\n<region>sample=${"$".repeat(n)}`,
      (n: number) => `#define $A x\n<region>sample=${"$AAAAAAAA".repeat(n / 9)}`,
      (n: number) => `<region>\n${"tune=1\n".repeat(n / 7)}`,
    ];
    for (const shape of shapes) expect(looked(shape(160000))).toBeLessThan(9 * looked(shape(20000)));
  });

  it("is refused where what it includes is endless, comments too", () => {
    let read = 0;
    const comment = `/*${"x".repeat(2 ** 22)}*/`;
    const include = () => {
      read++;
      return comment;
    };
    const text = `<region>sample=a.wav\n${'#include "long.txt"\n'.repeat(500)}`;
    expect(() => readSfzText("odd.sfz", text, include)).toThrow(FormatError);
    expect(read).toBeLessThan(20);
  });
});
