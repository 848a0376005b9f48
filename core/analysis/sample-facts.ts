import { type Audio, framesOf, monoOf, type Seconds } from "../audio";

/** What only the audio of a sample tells: how long it is silent before it sounds, and how far it lies off the middle line as a share of full scale. */
export interface SampleFacts {
  readonly head: Seconds;
  readonly offset: number;
}

/** A sound begins where it comes within so much of its peak, and above what any recording hums. */
const SHARE = 10 ** (-40 / 20);
const LEAST = 10 ** (-66 / 20);

/** Measures the silence before a sound, and its mean. A sound that is silent altogether has no head. */
export function factsOfSample(audio: Audio): SampleFacts {
  const frames = framesOf(audio);
  if (frames === 0) return { head: 0, offset: 0 };
  const mono = monoOf(audio);
  let sum = 0;
  for (let i = 0; i < frames; i++) sum += mono[i] as number;
  const offset = sum / frames;
  let peak = 0;
  for (let i = 0; i < frames; i++) peak = Math.max(peak, Math.abs((mono[i] as number) - offset));
  const least = Math.max(peak * SHARE, LEAST);
  if (peak < least) return { head: 0, offset };
  let first = 0;
  while (first < frames && Math.abs((mono[first] as number) - offset) < least) first++;
  return { head: first / audio.rate, offset };
}
