import {
  addFaceItem,
  addLayer,
  addRoute,
  addUnit,
  changeAbout,
  changeLayer,
  changeUnit,
  type Edit,
  type Instrument,
  moving,
  newInstrument,
  newLayer,
  newUnit,
  removeUnit,
  setParam,
  setSource,
  together,
} from "../core/instrument";
import { dials, macro, titled } from "./computed-face";

/** Leads one layer's sound into another's source. */
const fed = (into: string, from: string): Edit => ({
  name: "Lead in",
  apply: (doc: Instrument) => changeUnit(doc, `layers/${into}/source`, (unit) => ({ ...unit, from })),
});

/** A dry bearing that hums: noise moves the phase of one oscillator, that one the phase of the next; nothing of it was recorded. */
export function makeBearingHum(): Instrument {
  const empty = newInstrument("bearinghum", "Bearing hum");
  const inner = (id: string) => `layers/${id}`;
  const made = together("", [
    changeAbout({
      maker: "Corner workshop",
      description:
        "A hub with a dry bearing on the truing stand: balls that rattle, a race that they rub, an axle that hums with both.",
      licence: "CC0-1.0",
    }),
    changeLayer("main", { name: "Axle" }),
    setSource("main", "oscillator"),
    addLayer(newLayer("race", "Race")),
    setSource("race", "oscillator"),
    removeUnit("layers/race/stages", "filter"),
    addLayer(newLayer("balls", "Balls")),
    setSource("balls", "noise"),
    addLayer(newLayer("hub", "Hub")),
    setSource("hub", "oscillator"),
    addUnit("layers/hub/stages", newUnit("shaper", "dry", "Dry")),
    fed("main", "race"),
    fed("race", "balls"),
  ]).apply(empty);
  const set = (address: string, value: number | string) => setParam(made, address, value);
  const held = (id: string): Edit[] => [
    set(`${inner(id)}/amp/attack`, 0.3),
    set(`${inner(id)}/amp/sustain`, 1),
    set(`${inner(id)}/amp/release`, 0.8),
  ];
  return together("", [
    ...["main", "race", "balls", "hub"].flatMap(held),
    set("layers/main/source/wave", "sine"),
    set("layers/main/source/phaseModulation", 0.35),
    set("layers/main/source/startPhase", "free"),
    set("layers/main/stages/filter/type", "low"),
    set("layers/main/stages/filter/cutoff", 3000),
    set("layers/main/strip/level", -6),
    // The race turns a little faster than twice: it beats with the axle.
    set("layers/race/source/wave", "sine"),
    set("layers/race/source/transpose", 12),
    set("layers/race/source/fine", 7),
    set("layers/race/source/phaseModulation", 1),
    set("layers/race/source/feedback", 0.15),
    set("layers/race/strip/mute", 1),
    set("layers/balls/source/colour", "pink"),
    set("layers/balls/source/width", 0.3),
    set("layers/balls/source/bursts", 0.7),
    set("layers/balls/source/sync", "1/16"),
    set("layers/balls/source/burstLength", 0.12),
    set("layers/balls/source/levelJitter", 0.6),
    set("layers/balls/stages/filter/type", "band"),
    set("layers/balls/stages/filter/cutoff", 900),
    set("layers/balls/strip/mute", 1),
    set("layers/balls/strip/level", 6),
    set("layers/hub/source/wave", "triangle"),
    set("layers/hub/source/unison", 5),
    set("layers/hub/source/detune", 9),
    set("layers/hub/source/drift", 10),
    set("layers/hub/source/transpose", -12),
    set("layers/hub/stages/filter/type", "low"),
    set("layers/hub/stages/filter/cutoff", 500),
    set("layers/hub/stages/dry/drive", 9),
    set("layers/hub/strip/level", -12),
    set("effects/reverb/mix", 0.2),
    ...macro("load", "Load", [
      ["layers/main/source/phaseModulation", 1.6],
      ["layers/main/stages/filter/cutoff", 1.5],
    ]),
    ...macro("grit", "Grit", [["layers/race/source/phaseModulation", 7]]),
    ...macro("hub", "Hub", [["layers/hub/stages/dry/drive", 24]]),
    addRoute({ id: "wheel", source: "wheel", target: "layers/main/source/phaseModulation", amount: 1 }),
    addRoute({ id: "harder", source: "velocity", target: "layers/main/stages/filter/cutoff", amount: 1 }),
    ...titled("tube", "Bearing hum", "A dry hub on the truing stand; the wheel leans on it"),
    addFaceItem({
      ...{ id: "lean", kind: "xy", x: 40, y: 116, width: 260, height: 216, text: "Load and grit" },
      moves: moving("macros/load/value", "macros/grit/value"),
    }),
    ...dials(
      116,
      104,
      [
        ["Hub", "macros/hub/value"],
        ["Room", "effects/reverb/mix"],
      ],
      280,
      320,
    ),
    addFaceItem({ id: "wave", kind: "scope", x: 320, y: 256, width: 210, height: 76 }),
    addFaceItem({ id: "voices", kind: "voices", x: 536, y: 262, width: 70, height: 64, text: "Voices" }),
  ]).apply(made);
}
