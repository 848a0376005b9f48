// Writes the demo data into a folder: the takes, and the finished instrument as a document and as a package.
import { mkdirSync, writeFileSync } from "node:fs";
import { join } from "node:path";
import { hertzOf } from "../core/audio";
import { type MadeSample, readWav, sha256Of, writePackage, writeWav } from "../core/formats";
import { type Instrument, usedSamples } from "../core/instrument";
import { makeBearingHum } from "./bearing-hum";
import { makeHarp } from "./harp";
import { makePumpPad, makeRubbedTube } from "./looped";
import { RATE, Room } from "./room";
import { pluck } from "./spokes";
import { DEMO_TAKES } from "./takes";
import { makeTappedFrame } from "./tapped-frame";
import { makeTubeChoir } from "./tube-choir";

const folder = process.argv[2] ?? "dist/demo";
mkdirSync(folder, { recursive: true });
const takes = DEMO_TAKES.map(({ name, record }) => {
  const bytes = writeWav({ rate: RATE, channels: [record()] }, 16);
  writeFileSync(join(folder, `${name}.wav`), bytes);
  return { name, file: `${name}.wav`, sha: sha256Of(bytes), bytes };
});
// What the bench mic plays when it is asked for a note: one spoke at middle C, without the room.
writeFileSync(
  join(folder, "stroke.wav"),
  writeWav({ rate: RATE, channels: [pluck(new Room(1, 5), { frequency: hertzOf(60), hard: true, seconds: 1.3 })] }, 16),
);
const spokes = takes[0];
if (!spokes) throw new Error("there is no spokes take");
const { instrument, samples } = makeHarp(readWav(spokes.bytes).audio, spokes.sha);
const finished = (name: string, made: Instrument, files: readonly MadeSample[]) => {
  const bytes = new Map(files.map((s) => [s.sample.sha, s.bytes]));
  writeFileSync(
    join(folder, `${name}.vise`),
    writePackage(made, (sha) => bytes.get(sha) ?? null),
  );
  writeFileSync(join(folder, `${name}.json`), JSON.stringify(made));
  // What nothing plays, such as the tap in which modes were found, isn't in a package.
  const used = usedSamples(made);
  for (const { sample, bytes: wav } of files)
    if (!used.has(sample.sha)) writeFileSync(join(folder, `${sample.sha}.wav`), wav);
};
finished("spoke-harp", instrument, samples);
const frame = makeTappedFrame();
finished("tapped-frame", frame.instrument, frame.samples);
finished("tube-choir", makeTubeChoir(), []);
finished("bearing-hum", makeBearingHum(), []);
const [tube, pad] = [makeRubbedTube(), makePumpPad()];
finished("rubbed-tube", tube.instrument, tube.samples);
finished("pump-pad", pad.instrument, pad.samples);
writeFileSync(
  join(folder, "index.json"),
  JSON.stringify({ takes: takes.map(({ name, file, sha }) => ({ name, file, sha })) }, null, 1),
);
console.log(
  `demo data in ${folder}: ${takes.length} takes, ${samples.length + tube.samples.length + pad.samples.length + frame.samples.length} samples`,
);
