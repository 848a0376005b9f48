import { readFile, writeFile } from "node:fs/promises";
import { createRequire } from "node:module";
import { basename } from "node:path";
import { framesOf, peakOf } from "../core/audio";
import { compile, type NoteRules, renderSong } from "../core/engine";
import { readMidi, readPackage, readWav, writeWav } from "../core/formats";
import { plural } from "../core/params";
import { type RuleProblem, Sandbox } from "../core/rules";
import { readArguments, UsageError } from "./arguments";
import { bytesOfFile, reading } from "./files";

/** The script interpreter, from the package that holds it. */
async function openSandbox(): Promise<Sandbox> {
  const path = createRequire(import.meta.url).resolve("@jitl/quickjs-wasmfile-release-sync/wasm");
  return Sandbox.open(new WebAssembly.Module(new Uint8Array(await readFile(path))));
}

const HOUR = 3600;
/** Seconds for which it is rendered on after the song at the most, as long as it still sounds. */
const LONGEST_TAIL = 60;
/** Longer songs are seldom meant: a single note at the end of a huge pause. */
const LONGEST = 6 * HOUR;
/** Bytes of sound that a WAV file can hold, and of a frame of it. */
const MOST_BYTES = 2 ** 32 - 2 ** 16;
const FRAME_BYTES = 8;

const lengthText = (seconds: number): string =>
  seconds < 120
    ? `${seconds.toFixed(1)} s`
    : `${Math.floor(seconds / HOUR)} h ${Math.floor((seconds % HOUR) / 60)} min ${Math.round(seconds % 60)} s`;

function refuseLength(seconds: number, rate: number, long: boolean): void {
  if (seconds > LONGEST && !long)
    throw new UsageError(
      `it would be ${lengthText(seconds)} long, perhaps by a pause in the song; --long renders it all the same`,
    );
  if (seconds * rate * FRAME_BYTES > MOST_BYTES)
    throw new UsageError(
      `it would be ${lengthText(seconds)} long: at ${rate} Hz a WAV file holds ${lengthText(MOST_BYTES / FRAME_BYTES / rate)}`,
    );
}

/** `vise render X.vise SONG.mid OUT.wav`: plays a Standard MIDI File through a package, offline. */
export async function render(args: readonly string[]): Promise<{ json: unknown; text: string }> {
  const { files, number, flag } = readArguments(args, ["rate", "tail", "seed"], ["long"]);
  const [packagePath, songPath, outPath, ...rest] = files;
  if (!packagePath || !songPath || !outPath || rest.length > 0)
    throw new UsageError(
      "render takes a package, a song and a file to write: vise render X.vise SONG.mid OUT.wav [--rate HZ] [--tail SECONDS] [--long]",
    );
  const packageBytes = await bytesOfFile(packagePath);
  const opened = reading(packagePath, () => readPackage(packageBytes));
  const songBytes = await bytesOfFile(songPath);
  const song = reading(songPath, () => readMidi(songBytes));
  const rate = number("rate", 48000);
  if (rate < 8000 || rate > 192000) throw new UsageError(`--rate is between 8000 and 192000 Hz, not ${rate}`);
  const plan = compile(opened.instrument);
  const problems: RuleProblem[] = [];
  let rules: NoteRules | null = null;
  if (plan.rules) rules = (await openSandbox()).load(plan.rules.script, plan.rules.seed, (p) => problems.push(p));
  const samples = new Map(
    [...opened.samples].map(([sha, bytes]) => [sha, reading(packagePath, () => readWav(bytes)).audio]),
  );
  // As long as it sounds, unless somebody says how long.
  const given = number("tail", -1);
  const tail = given < 0 ? LONGEST_TAIL : given;
  refuseLength(song.seconds + tail, rate, flag("long"));
  process.stderr.write(`${basename(songPath)} is ${lengthText(song.seconds)} long\n`);
  let limited = 0;
  let told = 0;
  const progress = (share: number) => {
    const tenth = Math.floor(share * 10);
    if (tenth <= told) return;
    told = tenth;
    process.stderr.write(`${tenth * 10} %\n`);
  };
  const started = process.hrtime.bigint();
  const audio = renderSong({
    plan,
    samples,
    events: song.events,
    rate,
    seconds: song.seconds + (given < 0 ? 0 : given),
    tail: given < 0 ? LONGEST_TAIL : 0,
    tempo: song.tempo,
    seed: number("seed", 1),
    rules,
    progress,
    done: (status) => {
      limited = status.limiter;
    },
  });
  const seconds = framesOf(audio) / rate;
  const took = Number(process.hrtime.bigint() - started) / 1e9;
  await writeFile(outPath, writeWav(audio, 32));
  const peakDb = Math.round(peakOf(audio) * 10) / 10;
  const notes = song.events.filter((e) => (e.status & 0xf0) === 0x90 && e.data2 > 0).length;
  const ruleProblems = problems.slice(0, 20);
  return {
    json: {
      out: outPath,
      seconds,
      notes,
      peakDb,
      limitedDb: Math.round(limited * 10) / 10,
      rate,
      timesRealTime: Math.round(seconds / took),
      problems: opened.problems,
      ruleProblems,
    },
    text: [
      ...opened.problems,
      ...song.warnings,
      ...ruleProblems.map((p) => `rule, line ${p.line ?? "?"}: ${p.reason}`),
      `${plural(notes, "note")}, ${seconds.toFixed(1)} s, peak ${peakDb} dB${limited < -0.1 ? `, the limiter took off up to ${(-limited).toFixed(1)} dB` : ""}, written to ${outPath}`,
    ].join("\n"),
  };
}
