/** Sound files as a picker offers them. */
export const SOUND_FILES = ".wav,.aif,.aiff,.flac,.mp3,.ogg,.opus,.m4a,audio/*";

/** Asks for files, or for a folder with all that is in it; empty where nobody chose any. */
export function pickFiles({ folder = false, accept = "" }: { folder?: boolean; accept?: string }): Promise<File[]> {
  return new Promise((resolve) => {
    const input = document.createElement("input");
    input.type = "file";
    input.multiple = true;
    input.accept = folder ? "" : accept;
    input.webkitdirectory = folder;
    input.onchange = () => resolve([...(input.files ?? [])]);
    input.oncancel = () => resolve([]);
    input.click();
  });
}
