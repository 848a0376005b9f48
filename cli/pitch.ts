import { measureSlices, SURE } from "../core/analysis";
import { framesOf, hertzOf, nameOfNote } from "../core/audio";
import { readArguments, UsageError } from "./arguments";
import { soundFiles } from "./cut";
import { soundOfFile } from "./files";

/** `vise pitch FILES…`: the pitch of each file as one sound. */
export async function pitch(args: readonly string[]): Promise<{ json: unknown; text: string }> {
  const { files } = readArguments(args, []);
  if (files.length === 0) throw new UsageError("pitch takes sounds, or folders of them: vise pitch FILES… [--json]");
  const rows = [];
  for (const path of await soundFiles(files)) {
    const { audio } = await soundOfFile(path);
    const end = framesOf(audio);
    const [found] = measureSlices(audio, [{ start: 0, end, onset: 0 }]);
    const sure = found?.pitch != null && found.confidence >= SURE;
    const note = sure ? Math.round(found.pitch ?? 0) : null;
    rows.push({
      file: path,
      note: note === null ? null : nameOfNote(note),
      cents: note === null ? null : Math.round(((found?.pitch ?? 0) - note) * 1000) / 10,
      hertz: sure ? Math.round(hertzOf(found.pitch ?? 0) * 1000) / 1000 : null,
      confidence: Math.round((found?.confidence ?? 0) * 1000) / 1000,
    });
  }
  const text = rows.map((r) =>
    r.note === null
      ? `${r.file}  no clear pitch (${r.confidence})`
      : `${r.file}  ${r.note} ${(r.cents ?? 0) >= 0 ? "+" : ""}${r.cents} ct  ${r.hertz} Hz  (${r.confidence})`,
  );
  return { json: rows, text: text.join("\n") };
}
