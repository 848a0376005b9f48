import { expose } from "comlink";
import { PHRASES, phraseEvents, phraseFor } from "../../core/engine";
import { readPackage, readWav } from "../../core/formats";
import type { Instrument } from "../../core/instrument";
import { soundingKeys } from "../../core/mapping";
import { bouncePhrase } from "../audio/bounce-phrase";
import { SampleLoader } from "../audio/sample-loader";
import { bytesOfBase64 } from "./base64";

let samples: ReadonlyMap<string, Uint8Array> = new Map();

const audioOf = async (sha: string) => {
  const bytes = samples.get(sha);
  return bytes ? readWav(bytes, { salvage: true }).audio : null;
};

/** Does everything for the player that takes long, so that its page never stands still. */
class PlayerWorker extends SampleLoader {
  /** Reads the package that the page carries, as base64; throws FormatError. */
  open(base64: string): Instrument {
    const read = readPackage(bytesOfBase64(base64));
    samples = read.samples;
    return read.instrument;
  }

  /** Renders a phrase to a WAV file. */
  async bounce(instrument: Instrument, phraseId: string, rules: WebAssembly.Module): Promise<Blob> {
    const phrase = PHRASES.find((p) => p.id === phraseId);
    if (!phrase) throw new RangeError(`there is no phrase ${phraseId}`);
    const { tempo } = instrument.song;
    const played = {
      events: phraseEvents(phraseFor(phrase, soundingKeys(instrument)), tempo),
      seconds: (phrase.beats * 60) / tempo,
    };
    return bouncePhrase({ instrument, played, audioOf, rules });
  }
}

export type { PlayerWorker };

expose(new PlayerWorker(audioOf));
