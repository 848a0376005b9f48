import {
  addFaceItem,
  addRoute,
  addUnit,
  changeAbout,
  type Instrument,
  newInstrument,
  newUnit,
  removeUnit,
  renameUnit,
  setParam,
  setSource,
  setTable,
  together,
} from "../core/instrument";

/**
 * Modes of a bicycle's frame tube, tapped with a wooden spoon: those of a steel tube that is free at both ends (Euler and Bernoulli's beam), each with a neighbour a
 * little beside it, for no tube is quite round; the seat lug's two rattle above them.
 */
const MODES = [
  { ratio: 1, level: 0, decay: 2.6 },
  { ratio: 1.0035, level: -5, decay: 2.2 },
  { ratio: 2.757, level: -3, decay: 1.9 },
  { ratio: 2.771, level: -9, decay: 1.6 },
  { ratio: 5.404, level: -7, decay: 1.2 },
  { ratio: 5.43, level: -12, decay: 1 },
  { ratio: 7.12, level: -19, decay: 0.35 },
  { ratio: 8.933, level: -12, decay: 0.8 },
  { ratio: 10.6, level: -24, decay: 0.22 },
  { ratio: 13.344, level: -18, decay: 0.5 },
  { ratio: 18.638, level: -24, decay: 0.3 },
];

/** The computed demo instrument: a frame in the repair stand, tapped; nothing of it was recorded. */
export function makeTappedFrame(): Instrument {
  const at = "layers/main";
  const empty = newInstrument("tappedframe", "Tapped frame");
  const body = { ...newUnit("resonator", "body", "Frame"), table: MODES };
  const made = together("", [
    changeAbout({
      maker: "Corner workshop",
      description:
        "The frame in the repair stand, tapped with a wooden spoon: a strike, and what rings. Computed, without a sample.",
      licence: "CC0-1.0",
    }),
    setSource("main", "strike"),
    removeUnit(`${at}/stages`, "filter"),
    addUnit(`${at}/stages`, body),
  ]).apply(empty);
  const dial = (id: string, x: number, text: string, bind: string) =>
    addFaceItem({ id, kind: "dial", x, y: 130, width: 120, height: 150, text, bind });
  const colour = `${at}/source/colour`;
  const ring = `${at}/stages/body/decay`;
  const set = (address: string, value: number) => setParam(made, address, value);
  const instrument = together("", [
    setTable(`${at}/stages/body`, MODES, "Set modes"),
    set(`${at}/source/tone`, -30),
    set(`${at}/source/drop`, 0),
    set(`${at}/source/toneLength`, 0.03),
    set(`${at}/source/noise`, -6),
    set(`${at}/source/noiseLength`, 0.012),
    set(colour, 1800),
    set(`${at}/stages/body/mix`, 0.97),
    set(`${at}/stages/body/level`, 17),
    set(`${at}/stages/body/damping`, 0.15),
    set(`${at}/strip/velocity`, 18),
    set(`${at}/strip/level`, -6),
    set(`${at}/amp/attack`, 0),
    set(`${at}/amp/release`, 0.5),
    set("effects/reverb/mix", 0.12),
    renameUnit("macros/macro1", "Spoon"),
    addUnit("macros", newUnit("macro", "ring", "Ring")),
    addRoute({ id: "spoon", source: "macros/macro1", target: colour, amount: 3.3, on: true }),
    addRoute({ id: "harder", source: "velocity", target: colour, amount: 1.5, on: true }),
    addRoute({ id: "ring", source: "macros/ring", target: ring, amount: 2.5, on: true }),
    addRoute({ id: "hand", source: "wheel", target: ring, amount: -4, on: true }),
    addFaceItem({ id: "title", kind: "label", x: 40, y: 36, width: 560, height: 44, text: "Tapped frame", bind: null }),
    addFaceItem({
      id: "under",
      kind: "label",
      x: 40,
      y: 82,
      width: 560,
      height: 24,
      text: "A steel tube in the repair stand; the wheel lays a hand on it",
      bind: null,
    }),
    dial("d1", 60, "Spoon", "macros/macro1/value"),
    dial("d2", 260, "Ring", "macros/ring/value"),
    dial("d3", 460, "Release", `${at}/amp/release`),
  ]).apply(made);
  return setParam(instrument, "macros/macro1/value", 0.3).apply(instrument);
}
