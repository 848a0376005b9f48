import type { Audio } from "../../core/audio";
import { compile, type Phrase, phraseEvents, phraseFor, renderSong } from "../../core/engine";
import { writeWav } from "../../core/formats";
import type { Instrument } from "../../core/instrument";
import { mappedKeys } from "../../core/mapping";
import { Sandbox } from "../../core/rules";

const RATE = 48000;
/** What is rendered after the last beat, in seconds. */
const TAIL = 3;

interface BounceOptions {
  readonly instrument: Instrument;
  readonly phrase: Phrase;
  readonly tempo: number;
  readonly audioOf: (sha: string) => Promise<Audio | null>;
  /** The script interpreter. */
  readonly rules: WebAssembly.Module;
  readonly progress?: (share: number) => void;
}

/** A phrase played through an instrument, as a 32-bit float WAV file at 48 kHz; editor and player bounce by this. */
export async function bouncePhrase({
  instrument,
  phrase,
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
  const seconds = (phrase.beats * 60) / tempo + TAIL;
  const audio = renderSong({
    plan,
    samples,
    events: phraseEvents(phraseFor(phrase, mappedKeys(instrument)), tempo),
    rate: RATE,
    seconds,
    tempo,
    rules: script,
    progress,
  });
  return new Blob([writeWav(audio, 32)], { type: "audio/wav" });
}
