import { writeFile } from "node:fs/promises";
import { deconvolve, framesOf, monoOf, trimResponse } from "../core/audio";
import { writeWav } from "../core/formats";
import { readArguments, UsageError } from "./arguments";
import { soundOfFile } from "./files";

/** `vise impulse RECORDED SWEEP OUT`: what a room did to a sweep, as an impulse response. */
export async function impulse(args: readonly string[]): Promise<{ json: unknown; text: string }> {
  const { files } = readArguments(args, []);
  const [recorded, sweep, out, ...rest] = files;
  if (!recorded || !sweep || !out || rest.length > 0)
    throw new UsageError("impulse takes three files: vise impulse RECORDED SWEEP OUT.wav");
  const heard = (await soundOfFile(recorded)).audio;
  const played = (await soundOfFile(sweep)).audio;
  if (heard.rate !== played.rate)
    throw new UsageError(`the recording is at ${heard.rate} Hz and the sweep at ${played.rate} Hz: make them alike`);
  if (framesOf(heard) < framesOf(played) / 2)
    throw new UsageError(`${recorded} is shorter than half of the sweep: it can't hold all of it`);
  const response = trimResponse(deconvolve(heard, monoOf(played)));
  await writeFile(out, writeWav(response, 24));
  const seconds = Math.round((framesOf(response) / response.rate) * 1000) / 1000;
  return { json: { out, seconds, rate: response.rate }, text: `${out}: ${seconds} s at ${response.rate} Hz` };
}
