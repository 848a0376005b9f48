import type { Audio } from "../../core/audio";
import { compile, type Phrase, phraseEvents, renderSong } from "../../core/engine";
import { writeWav } from "../../core/formats";
import type { Instrument } from "../../core/instrument";
import { Sandbox } from "../../core/rules";

/** Renders a phrase through the instrument and saves it as a 32-bit WAV file at 48 kHz. */
export async function bounce(
  instrument: Instrument,
  phrase: Phrase,
  tempo: number,
  audioOf: (sha: string) => Audio | null,
  rules: WebAssembly.Module,
): Promise<void> {
  const plan = compile(instrument);
  const samples = new Map(
    instrument.samples.flatMap(({ sha }) => {
      const audio = audioOf(sha);
      return audio ? [[sha, audio] as const] : [];
    }),
  );
  const script = plan.rules ? (await Sandbox.open(rules)).load(plan.rules.script, plan.rules.seed, () => {}) : null;
  const audio = renderSong({
    plan,
    samples,
    events: phraseEvents(phrase, tempo),
    rate: 48000,
    seconds: (phrase.beats * 60) / tempo + 3,
    rules: script,
  });
  const url = URL.createObjectURL(new Blob([writeWav(audio, 32)], { type: "audio/wav" }));
  const link = document.createElement("a");
  link.href = url;
  link.download = `${instrument.about.name || "phrase"}-${phrase.id}.wav`;
  link.click();
  setTimeout(() => URL.revokeObjectURL(url), 10000);
}
