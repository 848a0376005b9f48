import { type Instrument, listNotes, playedSamples, type Sample } from "../../../core/instrument";
import { openDropped } from "../../state/importing";
import { pickFiles, SOUND_FILES } from "../../state/pick-files";

/** Asks for samples, or for a folder of them, and brings them in. */
export async function bringIn(navigate: (to: string) => unknown, folder = false): Promise<void> {
  const files = await pickFiles({ folder, accept: SOUND_FILES });
  if (files.length > 0) await openDropped(files, (to) => void navigate(to));
}

/** The samples that nothing plays yet. */
export function listWaiting(instrument: Instrument): readonly Sample[] {
  const played = playedSamples(instrument);
  return listNotes(instrument).filter((s) => !played.has(s.sha));
}
