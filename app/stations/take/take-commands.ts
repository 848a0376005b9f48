import { soundKindOf } from "../../../core/formats";
import type { Take } from "../../../core/instrument";
import { reasonOf } from "../../basis/reason-of";
import { saveFile } from "../../basis/save-file";
import { audition } from "../../state/audio-queries";
import type { Command } from "../../state/commands";
import { engine } from "../../state/engine";
import { fileName } from "../../state/file-name";
import { dropTake } from "../../state/files";
import { tell } from "../../state/notices";
import { bytesText } from "../../state/storage-space";
import { setView } from "../../state/view";
import { audioBlob } from "../../storage/audio-files";

/** Gives a take's file to the browser to save, as it was recorded or brought in. */
async function exportTake({ sha, name }: Take): Promise<void> {
  try {
    const blob = await audioBlob(sha);
    if (!blob) throw new Error("its sound isn’t in this browser any more");
    const kind = soundKindOf(new Uint8Array(await blob.slice(0, 16).arrayBuffer())) ?? "wav";
    const file = `${fileName(name)}.${kind === "aiff" ? "aif" : kind}`;
    saveFile(file, blob);
    tell("good", `${file} was exported: ${bytesText(blob.size)}.`);
  } catch (error) {
    tell("error", `${name} was not exported: ${reasonOf(error)}.`);
  }
}

/** What can be done with a take. */
export const takeCommands = (take: Take, navigate: (to: string) => void): readonly Command[] => [
  { id: "hear", label: "Hear it", run: () => void audition(take.sha, 0, take.frames) },
  { id: "hush", label: "Stop hearing it", chords: ["Escape"], run: () => engine.hush() },
  {
    id: "cut",
    label: "Cut it",
    run: () => {
      setView({ takeId: take.id, sliceIds: new Set() });
      navigate("/cut");
    },
  },
  { id: "export", label: "Export its file", run: () => void exportTake(take) },
  { id: "remove", label: "Remove", run: () => dropTake(take.id, take.name) },
];
