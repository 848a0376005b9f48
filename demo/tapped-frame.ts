import { findModes } from "../core/analysis";
import { hertzOf } from "../core/audio";
import type { MadeSample } from "../core/formats";
import {
  addFaceItem,
  addFacePictures,
  addRoute,
  addressInTable,
  addSamples,
  addUnit,
  changeAbout,
  type Instrument,
  newInstrument,
  newPictureLayer,
  newUnit,
  removeUnit,
  renameUnit,
  setParam,
  setSource,
  setTable,
  together,
} from "../core/instrument";
import type { TableRow } from "../core/units";
import { dials, drawing, macro, titled } from "./computed-face";
import { sampleOf } from "./looped";
import { RATE } from "./room";
import { recordTap, TAP_NOTE } from "./tap";

/** The frame from the side, as a stencil. */
const FRAME = `<svg xmlns="http://www.w3.org/2000/svg" width="200" height="120" viewBox="0 0 200 120">
<g fill="none" stroke="#1d150c" stroke-width="6" stroke-linejoin="bevel">
<path d="M70 26L150 26L104 92L70 26M104 92L36 92L76 38M150 26L146 14M150 26L166 92"/>
<circle cx="36" cy="92" r="24" stroke-width="4"/><circle cx="166" cy="92" r="24" stroke-width="4"/>
<path d="M56 24L84 24M134 12L158 12" stroke="#8c1f14" stroke-width="7"/></g></svg>`;

/** Octaves in 60 dB. */
const SIXTY = 3 / Math.log10(2);

/** What rings in the recorded tap, as modes that a strike drives: the farther the longer they ring, for under noise they are as loud as each other. */
function modesOf(tap: Float32Array): TableRow[] {
  const found = findModes(tap, RATE, { most: 24, threshold: -40 });
  const driven = found.map((m) => m.level + 10 * Math.log10(m.decay / SIXTY));
  const loudest = Math.max(...driven);
  return found.map(({ hertz, decay }, i) => ({
    ratio: hertz / hertzOf(TAP_NOTE),
    level: Math.round(((driven[i] as number) - loudest) * 10) / 10,
    decay,
  }));
}

/** A frame in the repair stand, tapped: what rings was found in one recorded tap, everything else is computed. */
export function makeTappedFrame(): { readonly instrument: Instrument; readonly samples: readonly MadeSample[] } {
  const at = "layers/main";
  const body = `${at}/stages/body`;
  const tap = recordTap();
  const sample = sampleOf(tap, "tap of the frame", TAP_NOTE);
  const empty = newInstrument("tappedframe", "Tapped frame");
  const made = together("", [
    changeAbout({
      maker: "Corner workshop",
      description:
        "The frame in the repair stand, tapped with a wooden spoon: a strike drives what was found in one recorded tap. Nothing is played back.",
      licence: "CC0-1.0",
    }),
    addSamples([sample.sample]),
    setSource("main", "strike"),
    removeUnit(`${at}/stages`, "filter"),
    addUnit(`${at}/stages`, newUnit("resonator", "body", "Frame")),
    addUnit(`${at}/stages`, newUnit("shaper", "bite", "Bite")),
    addUnit(`${at}/stages`, newUnit("filter", "open", "Open by hit")),
    setTable(body, modesOf(tap), "Set modes"),
    addUnit("envelopes", newUnit("envelope", "fall", "Fall")),
    renameUnit("macros/macro1", "Spoon"),
  ]).apply(empty);
  const set = (address: string, value: number | string) => setParam(made, address, value);
  const cutoff = `${at}/source/cutoff`;
  const instrument = together("", [
    set(`${at}/source/tone`, -40),
    set(`${at}/source/toneLength`, 0.06),
    set(`${at}/source/hold`, 0.004),
    set(`${at}/source/pitchDrop`, 24),
    set(`${at}/source/dropTime`, 0.03),
    set(`${at}/source/noise`, -6),
    set(`${at}/source/noiseLength`, 0.012),
    set(cutoff, 1800),
    set(`${body}/mix`, 0.97),
    set(`${body}/level`, 22),
    set(`${body}/damping`, 0.15),
    set(`${at}/stages/bite/drive`, 6),
    set(`${at}/stages/bite/mix`, 0.6),
    set(`${at}/stages/open/type`, "low"),
    set(`${at}/stages/open/cutoff`, 400),
    set(`${at}/strip/velocity`, 18),
    set(`${at}/strip/level`, -11),
    set(`${at}/amp/attack`, 0),
    set(`${at}/amp/sustain`, 1),
    set(`${at}/amp/release`, 0.5),
    set("envelopes/fall/attack", 0),
    set("envelopes/fall/decay", 0.12),
    set("envelopes/fall/sustain", 0),
    set("effects/reverb/mix", 0.12),
    // The whole frame drops a little, and its lowest mode glides farther than the others.
    addRoute({ id: "drop", source: "envelopes/fall", target: `${body}/transpose`, amount: 0.7 }),
    addRoute({ id: "glide", source: "envelopes/fall", target: addressInTable(body, 0, "ratio"), amount: 0.12 }),
    // Low notes are driven less, or they would growl; a harder hit opens the filter.
    addRoute({ id: "tame", source: "key", target: `${at}/stages/bite/drive`, amount: 24 }),
    addRoute({ id: "open", source: "velocity", target: `${at}/stages/open/cutoff`, amount: 3.5 }),
    addRoute({ id: "follow", source: "key", target: `${at}/stages/open/cutoff`, amount: 5 }),
    addRoute({ id: "harder", source: "velocity", target: cutoff, amount: 1.5 }),
    addRoute({ id: "spoon", source: "macros/macro1", target: cutoff, amount: 3.3 }),
    ...macro("ring", "Ring", [[`${body}/decay`, 2.5]]),
    addRoute({ id: "hand", source: "wheel", target: `${body}/decay`, amount: -4 }),
    ...macro("where", "Where", [[`${body}/strikePosition`, 0.5]]),
    ...titled("kraft", "Tapped frame", "A steel tube in the repair stand; the wheel lays a hand on it"),
    addFacePictures([{ id: "frame", name: "Frame", width: 200, height: 120, data: drawing(FRAME) }]),
    addFaceItem({
      ...{ id: "drawn", kind: "picture", x: 430, y: 104, width: 170, height: 132, text: "A frame in the repair stand" },
      pictures: [newPictureLayer("frame")],
    }),
    ...dials(
      112,
      92,
      [
        ["Spoon", "macros/macro1/value"],
        ["Ring", "macros/ring/value"],
        ["Where", "macros/where/value"],
        ["Release", `${at}/amp/release`],
      ],
      380,
    ),
    addFaceItem({ id: "pads", kind: "pads", x: 40, y: 252, width: 560, height: 84, text: "Taps" }),
  ]).apply(made);
  return { instrument: setParam(instrument, "macros/macro1/value", 0.3).apply(instrument), samples: [sample] };
}
