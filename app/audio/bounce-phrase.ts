import type { Audio } from "../../core/audio";
import { compile, renderSong } from "../../core/engine";
import { writeWav } from "../../core/formats";
import type { Instrument } from "../../core/instrument";
import { Sandbox } from "../../core/rules";
import type { TimedMidi } from "./protocol";

const RATE = 48000;
/** What is rendered after the last beat, in seconds. */
const TAIL = 3;

/** Channel messages in time order, and how long they last until they begin again, in seconds. */
export interface Played {
  readonly events: readonly TimedMidi[];
  readonly seconds: number;
}

interface BounceOptions {
  readonly instrument: Instrument;
  readonly played: Played;
  readonly tempo: number;
  readonly audioOf: (sha: string) => Promise<Audio | null>;
  /** The script interpreter. */
  readonly rules: WebAssembly.Module;
  readonly progress?: (share: number) => void;
}

/** A phrase played through an instrument, as a 32-bit float WAV file at 48 kHz; editor and player bounce by this. */
export async function bouncePhrase({
  instrument,
  played,
  tempo,
  audioOf,
  rules,
  progress,
}: BounceOptions): Promise<Blob> {
  const plan = compile(instrument);
  const samples = new Map<string, Audio>();
  for (const { sha } of instrument.samples) {
    const audio = await audioOf(sha);
    if (audio) samples.set(sha, audio);
  }
  const script = plan.rules ? (await Sandbox.open(rules)).load(plan.rules.script, plan.rules.seed, () => {}) : null;
  const seconds = played.seconds + TAIL;
  const audio = renderSong({
    plan,
    samples,
    events: played.events,
    rate: RATE,
    seconds,
    tempo,
    rules: script,
    progress,
  });
  return new Blob([writeWav(audio, 32)], { type: "audio/wav" });
}
