import { writeFile } from "node:fs/promises";
import { basename } from "node:path";
import { SURE } from "../core/analysis";
import { readPackage, readSound, type SoundFile, writePackage } from "../core/formats";
import { changeZones, listSampled, type SampledZone } from "../core/instrument";
import {
  findLoops,
  kindText,
  type LoopAnswer,
  type LoopCandidate,
  type LoopWish,
  loopOfCandidate,
} from "../core/looping";
import { readArguments, UsageError } from "./arguments";
import { soundFiles } from "./cut";
import { bytesOfFile, kindOf, reading, soundBytes, soundOfFile } from "./files";

interface Outcome {
  readonly json: unknown;
  readonly text: string;
}

/** Candidates that are printed of each sound where they aren't asked for as JSON. */
const PRINTED = 3;

const line = ({ start, end, score, reason }: LoopCandidate): string =>
  `  ${String(score).padStart(3)}  [${start}, ${end})  ${reason}`;

const textOf = (name: string, answer: LoopAnswer): string =>
  [
    `${name}: ${kindText(answer)}${answer.none ? `; ${answer.none}` : ""}`,
    ...answer.candidates.slice(0, PRINTED).map(line),
  ].join("\n");

/** `vise loop FILES…`: proposes loops, best first, each with its score and the reason; or for all zones of an instrument. */
export async function loop(args: readonly string[]): Promise<Outcome> {
  const { files, text, number, flag } = readArguments(
    args,
    ["instrument", "shortest", "longest", "count", "prefer", "kind"],
    ["write"],
  );
  const chosen = <T extends string>(name: string, of: readonly T[]): T | undefined => {
    const typed = text(name);
    if (typed === null) return undefined;
    const one = of.find((choice) => choice === typed);
    if (!one) throw new UsageError(`--${name} is ${of.join(" or ")}, not “${typed}”`);
    return one;
  };
  const prefer = chosen("prefer", ["short", "long"]);
  const kind = chosen("kind", ["tone", "texture", "beat"]);
  const wish: LoopWish = {
    shortest: number("shortest", 0),
    // Without it as long as the kind of sound allows.
    ...(text("longest") === null ? {} : { longest: number("longest", 8) }),
    count: number("count", 8),
    ...(prefer ? { prefer } : {}),
    ...(kind ? { kind } : {}),
  };
  if (!(Number(wish.shortest) >= 0 && (wish.longest ?? Infinity) > Number(wish.shortest)))
    throw new UsageError("--shortest and --longest are seconds, the longest above the shortest");
  const instrument = text("instrument");
  if (instrument !== null && files.length === 0) return loopInstrument(instrument, wish, flag("write"));
  if (instrument !== null || files.length === 0)
    throw new UsageError("loop takes sounds, or folders of them: vise loop FILES… [--write], or --instrument X.vise");
  const rows = [];
  for (const path of await soundFiles(files)) {
    const sound = await soundOfFile(path);
    const root = sound.info.root;
    const answer = findLoops(sound.audio, { ...wish, note: root ? root.note + root.cents / 100 : null });
    // A file can't say that its loop is kept even.
    const best = answer.candidates.find((c) => c.flat === null);
    if (best && flag("write")) await writeFile(path, withLoop(path, sound, best));
    rows.push({ file: path, ...answer });
  }
  return { json: rows, text: rows.map((r) => textOf(r.file, r)).join("\n") };
}

/** The file with a loop in it, as deep as it was. */
function withLoop(path: string, sound: SoundFile, { start, end, mode }: LoopCandidate): Uint8Array {
  const { info } = sound;
  const depth = info.float ? 32 : info.bits <= 16 ? 16 : 24;
  const sampler = { root: 60, fine: 0, ...info.extras.sampler, loop: { start, end, mode } };
  return soundBytes(sound, kindOf(path), depth, { ...info.extras, sampler });
}

async function loopInstrument(path: string, wish: LoopWish, write: boolean): Promise<Outcome> {
  const bytes = await bytesOfFile(path);
  const { instrument, samples, problems } = reading(path, () => readPackage(bytes));
  const facts = new Map(instrument.samples.map((s) => [s.sha, s]));
  const rows = listSampled(instrument).map((zone: SampledZone) => {
    const wav = samples.get(zone.sample);
    const sample = facts.get(zone.sample);
    const name = sample?.name ?? zone.id;
    if (!wav)
      return {
        zone: zone.id,
        file: name,
        kind: "texture" as const,
        note: null,
        beat: null,
        candidates: [],
        none: "its sample is missing",
      };
    const { audio } = readSound(wav, { salvage: true });
    const note = sample && sample.pitch !== null && sample.confidence >= SURE ? sample.pitch : null;
    return { zone: zone.id, file: name, ...findLoops(audio, { ...wish, start: zone.start, end: zone.end, note }) };
  });
  if (write) {
    const best = new Map(rows.flatMap((r) => (r.candidates[0] ? [[r.zone, r.candidates[0]] as const] : [])));
    const looped = changeZones(new Set(best.keys()), "Find loops", (zone) => {
      const found = best.get(zone.id);
      if (!found) return zone;
      return { ...zone, loop: loopOfCandidate(found) };
    }).apply(instrument);
    await writeFile(
      path,
      writePackage(looped, (sha) => samples.get(sha) ?? null),
    );
  }
  const found = rows.filter((r) => r.candidates.length > 0).length;
  return {
    json: { zones: rows, problems },
    text: [
      ...problems.map((p) => `problem: ${p}`),
      ...rows.map((r) => textOf(`${r.zone} ${r.file}`, r)),
      `${basename(path)}: loops for ${found} of ${rows.length} zones${write ? ", the best of each stored" : ""}`,
    ].join("\n"),
  };
}
