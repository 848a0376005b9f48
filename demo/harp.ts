import { measureFlux, measureLevels, measureSlices } from "../core/analysis";
import { type Audio, monoOf, outlineOf } from "../core/audio";
import { type MadeSample, makeSample, namesOfSlices, pitchOfSlice } from "../core/formats";
import {
  addFaceItem,
  addRoute,
  addSamples,
  addTake,
  addUnit,
  changeAbout,
  changeFace,
  changeRules,
  type Instrument,
  moving,
  NAMING,
  newFace,
  newInstrument,
  newTake,
  newUnit,
  placeZones,
  renameUnit,
  setParam,
  together,
} from "../core/instrument";
import { mergeSlices, placeSamples, searchTake, sliceId, slicesOf, sortByMeasure } from "../core/mapping";
import { EXAMPLE_SCRIPT } from "../core/rules";

/** The take as it is drawn behind the face, its loudest stroke full. */
function drawn(audio: Audio): readonly number[] {
  const peaks = outlineOf(monoOf(audio), 240);
  const top = Math.max(...peaks);
  return Array.from(peaks, (p) => Math.round((p / top) * 1000) / 1000);
}

/** The finished demo instrument: cut, measured and placed from the spokes take by the very functions that the stations use. */
export function makeHarp(audio: Audio, sha: string): { instrument: Instrument; samples: MadeSample[] } {
  const empty = newInstrument("spokeharp", "Spoke harp");
  const mono = audio.channels[0] ?? new Float32Array(0);
  const levels = measureLevels(mono, audio.rate);
  const bare = newTake({
    id: "spokes",
    name: "spokes",
    sha,
    rate: audio.rate,
    channels: 1,
    frames: mono.length,
    origin: "demo",
  });
  const measured = measureSlices(
    audio,
    searchTake(bare, levels, () => measureFlux(mono, audio.rate, levels.floor)),
  );
  const slices = mergeSlices(
    [],
    slicesOf(measured, (i) => sliceId(measured[i]?.onset ?? i)),
    audio.rate,
  );
  const { roles } = sortByMeasure(slices, pitchOfSlice);
  const sorted = slices.map((s) => ({
    ...s,
    strength: roles.get(s.id)?.strength ?? null,
    repeat: roles.get(s.id)?.repeat ?? null,
  }));
  const take = { ...bare, floor: levels.floor, slices: sorted };
  const kept = sorted.filter((s) => s.keep);
  const names = namesOfSlices(NAMING, take, kept);
  const samples = kept.map((slice, i) => makeSample(audio, take, slice, names[i] ?? slice.id));
  const placement = placeSamples(
    samples.map((s) => s.sample),
    { mode: "nearest", low: 43, high: 79 },
    (i) => `z${i + 1}`,
  );
  const cutoff = "layers/main/stages/filter/cutoff";
  const dial = (id: string, x: number, text: string, bind: string) =>
    addFaceItem({ id, kind: "dial", x, y: 130, width: 120, height: 150, text, moves: moving(bind) });
  const instrument = together("", [
    changeAbout({
      maker: "Corner workshop",
      description: "Eight spokes of a rear wheel, plucked softly and hard after closing time, three times each.",
      licence: "CC0-1.0",
    }),
    addTake(take),
    addSamples(samples.map((s) => s.sample)),
    placeZones("main", "main", placement.zones, true),
    setParam(empty, "layers/main/strip/velocity", 0),
    setParam(empty, "layers/main/strip/level", -3),
    setParam(empty, "layers/main/amp/release", 0.9),
    setParam(empty, cutoff, 2600),
    renameUnit("macros/macro1", "Brightness"),
    addUnit("macros", newUnit("macro", "room", "Room")),
    addRoute({ id: "bright", source: "macros/macro1", target: cutoff, amount: 3, on: true }),
    addRoute({ id: "velo", source: "velocity", target: cutoff, amount: 1.5, on: true }),
    addRoute({ id: "muffle", source: "wheel", target: cutoff, amount: -3, on: true }),
    addRoute({ id: "room", source: "macros/room", target: "effects/reverb/mix", amount: 0.6, on: true }),
    changeRules({ on: false, script: EXAMPLE_SCRIPT }),
    addFaceItem({ id: "title", kind: "label", x: 40, y: 36, width: 560, height: 44, text: "Spoke harp" }),
    addFaceItem({
      id: "under",
      kind: "label",
      x: 40,
      y: 82,
      width: 560,
      height: 24,
      text: "Eight spokes, two strengths, three strokes each",
    }),
    changeFace("Set ground", { ground: { ...newFace().ground, kind: "wave", outline: drawn(audio) } }),
    dial("d1", 60, "Brightness", "macros/macro1/value"),
    dial("d2", 260, "Room", "macros/room/value"),
    dial("d3", 460, "Release", "layers/main/amp/release"),
  ]).apply(empty);
  const bright = setParam(instrument, "macros/macro1/value", 0.4).apply(instrument);
  return { instrument: setParam(bright, "macros/room/value", 0.2).apply(bright), samples };
}
