import { missingAudio, readSound, writeSfz } from "../../../core/formats";
import type { Instrument } from "../../../core/instrument";
import { bouncePhrase, type Played } from "../../audio/bounce-phrase";
import { audioBlob, audioBytes } from "../../storage/audio-files";
import { fillPlayer } from "../fill-player";
import { packBlob, zipBlob } from "../package-blob";

/** Makes what leaves the browser: packages, players, rendered phrases. */
export const shipping = {
  /** Writes an instrument with its samples as a package. */
  pack: (instrument: Instrument, progress: (share: number) => void): Promise<Blob> =>
    packBlob(instrument, audioBlob, progress),

  /** Writes an instrument as an SFZ file with its samples, in a zip; and what has no counterpart there. */
  async packSfz(
    instrument: Instrument,
    name: string,
    progress: (share: number) => void,
  ): Promise<{ readonly blob: Blob; readonly lost: readonly string[] }> {
    const { text, files, lost } = writeSfz(instrument);
    const blob = await zipBlob(
      [
        { name: `${name}/${name}.sfz`, blob: async () => new Blob([text], { type: "text/plain" }) },
        ...files.map(({ sample, path }) => ({
          name: `${name}/${path}`,
          blob: async () => {
            const audio = await audioBlob(sample.sha);
            if (!audio) throw missingAudio(sample.name);
            return audio;
          },
        })),
      ],
      progress,
    );
    return { blob, lost };
  },

  /** Puts an instrument with its samples into the player's page. */
  async player(instrument: Instrument, template: string, progress: (share: number) => void): Promise<Blob> {
    const file = await packBlob(instrument, audioBlob, progress);
    return new Blob(await fillPlayer(template, instrument.about.name, file), { type: "text/html" });
  },

  /** Renders a phrase to a 32-bit float WAV file. */
  async bounce(
    instrument: Instrument,
    played: Played,
    rules: WebAssembly.Module,
    progress: (share: number) => void,
  ): Promise<Blob> {
    const audioOf = async (sha: string) => {
      const bytes = await audioBytes(sha);
      return bytes ? readSound(bytes, { salvage: true }).audio : null;
    };
    return bouncePhrase({ instrument, played, audioOf, rules, progress });
  },
};
