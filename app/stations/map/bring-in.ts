import { openDropped } from "../../state/importing";
import { pickFiles, SOUND_FILES } from "../../state/pick-files";

/** Asks for samples, or for a folder of them, and brings them in. */
export async function bringIn(navigate: (to: string) => unknown, folder = false): Promise<void> {
  const files = await pickFiles({ folder, accept: SOUND_FILES });
  if (files.length > 0) await openDropped(files, (to) => void navigate(to));
}
