import {
  addFaceItem,
  addLayer,
  addRoute,
  addressInTable,
  addUnit,
  changeAbout,
  changeLayer,
  type Edit,
  type Instrument,
  moving,
  newInstrument,
  newLayer,
  newUnit,
  removeUnit,
  setParam,
  setSource,
  setTable,
  together,
} from "../core/instrument";
import { dials, macro, titled } from "./computed-face";

/** The lowest key of the tubes; below it stand the thick ones. */
const SPLIT = 48;
/** Partials of the face's bank. */
const BANK = 6;

/** Lets a computed layer answer only some keys. */
const onKeys = (layer: string, keyLow: number, keyHigh: number): Edit => ({
  name: "Set keys",
  apply: (doc: Instrument): Instrument => ({
    ...doc,
    layers: doc.layers.map((l) =>
      l.id === layer
        ? { ...l, groups: l.groups.map((g) => ({ ...g, zones: g.zones.map((z) => ({ ...z, keyLow, keyHigh })) })) }
        : l,
    ),
  }),
});

/** Inner tubes that are blown: clicks that wander drive what rings in a tube, with partials below it; nothing of it was recorded. */
export function makeTubeChoir(): Instrument {
  const empty = newInstrument("tubechoir", "Tube choir");
  const tube = "layers/main";
  const body = `${tube}/stages/body`;
  const below = "layers/below";
  const thick = "layers/thick";
  const made = together("", [
    changeAbout({
      maker: "Corner workshop",
      description:
        "Inner tubes of four sizes, blown over their valves: a breath that wanders, what rings in the tubes, and a bank of partials below.",
      licence: "CC0-1.0",
    }),
    changeLayer("main", { name: "Tubes" }),
    setSource("main", "impulses"),
    removeUnit(`${tube}/stages`, "filter"),
    addUnit(`${tube}/stages`, newUnit("resonator", "body", "Tube")),
    addUnit(`${tube}/stages`, newUnit("vowel", "mouth", "Mouth")),
    addLayer(newLayer("below", "Below")),
    setSource("below", "partials"),
    removeUnit(`${below}/stages`, "filter"),
    addLayer(newLayer("thick", "Thick tubes")),
    setSource("thick", "oscillator"),
    addUnit(`${thick}/stages`, newUnit("comb", "pipe", "Pipe")),
    onKeys("main", SPLIT, 127),
    onKeys("below", SPLIT, 127),
    onKeys("thick", 0, SPLIT - 1),
    setTable(
      body,
      Array.from({ length: 24 }, (_, i) => ({
        ratio: i + 1,
        level: 0 - 0.9 * i - (i % 2 ? 4 : 0),
        decay: 0.35 / (i + 1) ** 0.4,
      })),
      "Set modes",
    ),
    setTable(
      `${below}/source`,
      [0.25, 0.5, 0.75, 1, 1.5, 2].map((ratio, i) => ({
        ratio,
        level: [-24, -8, -22, -14, -26, -30][i] ?? -40,
        pan: [0, 0, -0.6, 0.3, 0.6, -0.3][i] ?? 0,
      })),
      "Set partials",
    ),
  ]).apply(empty);
  const set = (address: string, value: number | string) => setParam(made, address, value);
  const bank = (row: number) => addressInTable(`${below}/source`, row, "level");
  const slow = (layer: string): Edit[] => [
    set(`layers/${layer}/amp/attack`, 0.12),
    set(`layers/${layer}/amp/sustain`, 1),
    set(`layers/${layer}/amp/release`, 0.5),
    // Each key stands where its tube hangs on the wall.
    addRoute({ id: `place-${layer}`, source: "key", target: `layers/${layer}/strip/pan`, amount: 1.2 }),
  ];
  return together("", [
    ...["main", "below", "thick"].flatMap(slow),
    set(`${tube}/source/tilt`, -5),
    set(`${tube}/source/jitter`, 0.015),
    set(`${body}/mix`, 0.9),
    set(`${body}/level`, -2),
    set(`${tube}/stages/mouth/vowel`, 0.65),
    set(`${tube}/stages/mouth/mix`, 0.5),
    set(`${tube}/stages/mouth/width`, 2),
    set(`${tube}/strip/level`, -6),
    set(`${below}/source/phases`, 1),
    set(`${below}/strip/level`, -1),
    set(`${thick}/source/wave`, "pulse"),
    set(`${thick}/source/width`, 0.3),
    set(`${thick}/source/drift`, 8),
    set(`${thick}/stages/filter/type`, "low"),
    set(`${thick}/stages/filter/cutoff`, 700),
    set(`${thick}/stages/pipe/ends`, "open"),
    set(`${thick}/stages/pipe/mix`, 0.6),
    set(`${thick}/strip/level`, -4),
    set("effects/reverb/mix", 0.3),
    ...macro("breath", "Breath", [
      [`${tube}/source/jitter`, 0.12],
      [`${tube}/source/tilt`, 4],
    ]),
    ...macro("mouth", "Mouth", [[`${tube}/stages/mouth/vowel`, -0.5]]),
    addRoute({ id: "press", source: "wheel", target: `${tube}/stages/mouth/mix`, amount: 0.5 }),
    addRoute({ id: "louder", source: "velocity", target: `${tube}/source/tilt`, amount: 3 }),
    ...titled("chalk", "Tube choir", "Inner tubes on the wall, blown over their valves"),
    ...dials(110, 96, [
      ["Breath", "macros/breath/value"],
      ["Mouth", "macros/mouth/value"],
      ["Press", `${tube}/stages/mouth/mix`],
      ["Room", "effects/reverb/mix"],
    ]),
    // The bank of what sounds below, drawn across.
    addFaceItem({
      id: "bank",
      kind: "columns",
      x: 40,
      y: 236,
      width: 400,
      height: 104,
      text: "Below: a quarter to twice the tube",
      moves: moving(...Array.from({ length: BANK }, (_, row) => bank(row))),
    }),
    addFaceItem({ id: "wave", kind: "scope", x: 464, y: 236, width: 136, height: 104 }),
  ]).apply(made);
}
