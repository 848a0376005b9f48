import type { Audio } from "../../core/audio";
import { compile, renderSong } from "../../core/engine";
import { writeWav } from "../../core/formats";
import type { Instrument } from "../../core/instrument";
import { Sandbox } from "../../core/rules";
import type { TimedMidi } from "./protocol";

const RATE = 48000;
/** What is rendered after the last beat at the most, in seconds, as long as it still sounds. */
const LONGEST_TAIL = 60;

/** Channel messages in time order, and how long they last until they begin again, in seconds. */
export interface Played {
  readonly events: readonly TimedMidi[];
  readonly seconds: number;
}

interface BounceOptions {
  readonly instrument: Instrument;
  readonly played: Played;
  readonly audioOf: (sha: string) => Promise<Audio | null>;
  /** The script interpreter. */
  readonly rules: WebAssembly.Module;
  readonly progress?: (share: number) => void;
}

/** A phrase played through an instrument, as a 32-bit float WAV file at 48 kHz; editor and player bounce by this. */
export async function bouncePhrase({ instrument, played, audioOf, rules, progress }: BounceOptions): Promise<Blob> {
  const plan = compile(instrument);
  const samples = new Map<string, Audio>();
  // Only what is played: the pool may hold much more.
  for (const sha of new Set([...plan.samples, ...plan.impulses])) {
    const audio = await audioOf(sha);
    if (audio) samples.set(sha, audio);
  }
  const script = plan.rules ? (await Sandbox.open(rules)).load(plan.rules.script, plan.rules.seed, () => {}) : null;
  const audio = renderSong({
    plan,
    samples,
    events: played.events,
    rate: RATE,
    seconds: played.seconds,
    tail: LONGEST_TAIL,
    tempo: instrument.song.tempo,
    rules: script,
    progress,
  });
  return new Blob([writeWav(audio, 32)], { type: "audio/wav" });
}
