import { PACKAGE_EXTENSION } from "../../../core/formats";
import type { Instrument } from "../../../core/instrument";
import { reasonOf } from "../../basis/reason-of";
import { saveFile } from "../../basis/save-file";
import { rulesModule } from "../../state/engine";
import { fileName } from "../../state/file-name";
import { tell } from "../../state/notices";
import { showReport } from "../../state/opening-report";
import { playedBy } from "../../state/played";
import { playerTemplate } from "../../state/player-template";
import { withProgress } from "../../state/with-progress";
import { type AudioCalls, Cancelled } from "../../workers/audio-worker";

const megabytes = (bytes: number): string => `${(bytes / 1e6).toFixed(1)} MB`;

/** Runs an export with progress, saves its file, and says what came of it. */
async function exporting(
  label: string,
  file: string,
  make: (worker: AudioCalls, progress: (share: number) => void) => Promise<Blob>,
): Promise<void> {
  try {
    const blob = await withProgress(label, make);
    saveFile(file, blob);
    tell("good", `${file} was exported: ${megabytes(blob.size)}.`);
  } catch (error) {
    if (!(error instanceof Cancelled)) tell("error", `${file} was not exported: ${reasonOf(error)}.`);
  }
}

export const exportPackage = (instrument: Instrument): Promise<void> =>
  exporting("Packing", `${fileName(instrument.about.name)}${PACKAGE_EXTENSION}`, (worker, progress) =>
    worker.pack(instrument, progress),
  );

/** Writes an SFZ file with its samples; what has no counterpart there is shown. */
export async function exportSfz(instrument: Instrument): Promise<void> {
  const name = fileName(instrument.about.name);
  let lost: readonly string[] = [];
  await exporting("Writing SFZ", `${name}-sfz.zip`, async (worker, progress) => {
    const made = await worker.packSfz(instrument, name, progress);
    lost = made.lost;
    return made.blob;
  });
  if (lost.length === 0) return;
  const text = "It was exported, all but what is listed here. The package keeps everything.";
  showReport({ title: `${name}-sfz.zip`, text, lost: [], problems: lost, missing: [] });
}

export async function bouncePhrase(instrument: Instrument, phrase: string): Promise<void> {
  const played = playedBy(instrument, phrase);
  const file = `${fileName(instrument.about.name)}-${phrase}.wav`;
  if (!played) tell("error", `${file} was not exported: there is nothing that this phrase could play.`);
  else
    await exporting("Bouncing", file, async (worker, progress) =>
      worker.bounce(instrument, played, await rulesModule(), progress),
    );
}

export const exportPlayer = (instrument: Instrument): Promise<void> =>
  exporting("Making the player", `${fileName(instrument.about.name)}.html`, async (worker, progress) =>
    worker.player(instrument, await playerTemplate(), progress),
  );
