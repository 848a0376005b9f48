import { type Audio, hertzOf, type Note, nameOfNote } from "../core/audio";
import { type FacePlan, makeFace } from "../core/face";
import { type MadeSample, makeSample } from "../core/formats";
import {
  addFaceItem,
  addFaceItems,
  addSamples,
  changeAbout,
  changeFace,
  type Edit,
  type FaceTheme,
  type Instrument,
  newInstrument,
  newSlice,
  newTake,
  newZone,
  placeZones,
  setParam,
  together,
  type Zone,
} from "../core/instrument";
import { findLoops, type LoopWish, loopOfCandidate } from "../core/looping";
import { breath } from "./pump";
import { RATE } from "./room";
import { rubbedTube, TUBE_NOTES } from "./tube";

/** A sound as a sample, measured as any that comes in. */
export function sampleOf(sound: Float32Array<ArrayBuffer>, name: string, note: Note | null): MadeSample {
  const audio: Audio = { rate: RATE, channels: [sound] };
  const take = newTake({ id: name, name, sha: "", rate: RATE, channels: 1, frames: sound.length, origin: "demo" });
  const slice = newSlice({ id: name, start: 0, end: sound.length, onset: 0 });
  const made = makeSample(audio, take, { ...slice, note, cents: note === null ? null : 0 }, name, 16);
  return { ...made, sample: { ...made.sample, from: null } };
}

/** A zone that plays a sample endlessly, by the loop that is found in it as anybody would find it. */
function looped(sound: Float32Array, zone: Zone, wish: LoopWish): Zone {
  const [best] = findLoops({ rate: RATE, channels: [sound] }, wish).candidates;
  if (!best) throw new Error("no loop was found in a demo sound that is to have one");
  return { ...zone, loop: loopOfCandidate(best) };
}

interface Looped {
  readonly instrument: Instrument;
  readonly samples: readonly MadeSample[];
}

const build = (
  id: string,
  name: string,
  description: string,
  samples: readonly MadeSample[],
  zones: readonly Zone[],
  sounds: (empty: Instrument) => readonly Edit[],
  theme: FaceTheme,
  plan: FacePlan,
  more: readonly Edit[] = [],
): Looped => {
  const empty = newInstrument(id, name);
  const made = together("", [
    changeAbout({ maker: "Corner workshop", description, licence: "CC0-1.0" }),
    addSamples(samples.map((s) => s.sample)),
    placeZones("main", "main", zones, true),
    ...sounds(empty),
    changeFace("Set theme", { theme }),
  ]).apply(empty);
  let n = 0;
  const face = makeFace(made, plan, () => `face-${++n}`);
  return { instrument: together("", [addFaceItems(face, "Make a face"), ...more]).apply(made), samples };
};

/** An inner tube, rubbed with a wet thumb: six notes, each of which sounds as long as its key is held. */
export function makeRubbedTube(): Looped {
  const made = TUBE_NOTES.map((note, i) => {
    const sound = rubbedTube(hertzOf(note), 60 + i);
    return { note, sound, file: sampleOf(sound, `tube-${nameOfNote(note)}`, note) };
  });
  const zones = made.map(({ note, sound, file }, i) => {
    const below = made[i - 1]?.note;
    const above = made[i + 1]?.note;
    const zone = newZone({
      ...{ id: `z${i + 1}`, sample: file.sample.sha, end: sound.length, root: note },
      keyLow: below === undefined ? note - 5 : Math.floor((below + note) / 2) + 1,
      keyHigh: above === undefined ? note + 7 : Math.floor((note + above) / 2),
    });
    return looped(sound, zone, { note });
  });
  return build(
    "rubbedtube",
    "Rubbed tube",
    "An inner tube, blown up and rubbed with a wet thumb; each note goes round a loop for as long as its key is held.",
    made.map((m) => m.file),
    zones,
    (empty) => [
      setParam(empty, "layers/main/amp/attack", 0.06),
      setParam(empty, "layers/main/amp/release", 0.6),
      setParam(empty, "layers/main/strip/velocity", 12),
      setParam(empty, "layers/main/strip/level", -4),
      setParam(empty, "layers/main/stages/filter/type", "off"),
      setParam(empty, "effects/reverb/mix", 0.16),
    ],
    "enamel",
    "poster",
    // A finger rubs along it, and the note bends from where it was put down.
    [addFaceItem({ id: "thumb", kind: "ribbon", x: 38, y: 316, width: 269, height: 38, text: "Thumb" })],
  );
}

/** One long breath of the floor pump as a pad over all keys: a loop of noise, its colour following the keys. */
export function makePumpPad(): Looped {
  const root = 57;
  const sound = breath(6, hertzOf(root), 91);
  const file = sampleOf(sound, "pump-breath", root);
  const zone = newZone({ id: "z1", sample: file.sample.sha, end: sound.length, root, keyLow: 33, keyHigh: 84 });
  return build(
    "pumppad",
    "Pump pad",
    "One long breath through the floor pump’s hose, without beginning or end: a pad over all keys.",
    [file],
    [looped(sound, zone, { kind: "texture", prefer: "long" })],
    (empty) => [
      setParam(empty, "layers/main/amp/attack", 0.8),
      setParam(empty, "layers/main/amp/release", 1.6),
      setParam(empty, "layers/main/strip/velocity", 9),
      setParam(empty, "layers/main/strip/level", -2),
      setParam(empty, "layers/main/stages/filter/type", "off"),
      setParam(empty, "effects/reverb/mix", 0.35),
    ],
    "blueprint",
    "desk",
  );
}
