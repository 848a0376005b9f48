import { Dialog } from "radix-ui";
import { useState } from "react";
import { namesOfSlices } from "../../../core/formats";
import type { Slice, Take } from "../../../core/instrument";
import { plural } from "../../../core/params";
import { reasonOf } from "../../basis/reason-of";
import { saveFile } from "../../basis/save-file";
import { fileName } from "../../state/file-name";
import { tell } from "../../state/notices";
import { useInstrument } from "../../state/use-session";
import { withProgress } from "../../state/with-progress";
import { Button } from "../../widgets/Button";
import { Choice } from "../../widgets/Choice";
import { Row } from "../../widgets/ParamControl";
import { Cancelled } from "../../workers/audio-worker";
import { type ExportOptions, estimateBytes } from "../../workers/export-slice";

const FORMATS = [
  { id: "wav16", label: "WAV, 16 bits, dithered" },
  { id: "wav24", label: "WAV, 24 bits" },
  { id: "wav32", label: "WAV, 32-bit float" },
  { id: "flac16", label: "FLAC, 16 bits, dithered" },
  { id: "flac24", label: "FLAC, 24 bits" },
] as const;

const optionsOf = (id: string): ExportOptions => ({
  format: id.startsWith("flac") ? "flac" : "wav",
  depth: Number(id.slice(-2)) as ExportOptions["depth"],
});

const megabytes = (bytes: number): string =>
  bytes < 1e6 ? `${Math.max(1, Math.round(bytes / 1000))} kB` : `${(bytes / 1e6).toFixed(1)} MB`;

interface ExportDialogProps {
  readonly take: Take;
  readonly slices: readonly Slice[];
  readonly open: boolean;
  readonly onOpen: (open: boolean) => void;
}

/** Writes slices as files: into a folder where the browser can, else as one zip. */
export function ExportDialog({ take, slices, open, onOpen }: ExportDialogProps) {
  const naming = useInstrument((i) => i.naming);
  const [format, setFormat] = useState<string>("wav24");
  const names = namesOfSlices(naming, take, slices);
  const options = optionsOf(format);
  const failed = (error: unknown) => {
    if (error instanceof Cancelled || (error instanceof DOMException && error.name === "AbortError")) return;
    tell("error", `The files were not exported: ${reasonOf(error)}.`);
  };
  const zip = async () => {
    onOpen(false);
    try {
      const blob = await withProgress(`Exporting ${plural(slices.length, "file")}`, (worker, progress) =>
        worker.sliceZip(take, slices, names, options, progress),
      );
      saveFile(`${fileName(take.name)}-slices.zip`, blob);
      tell("good", `${plural(slices.length, "file")}, ${megabytes(blob.size)}, in one zip.`);
    } catch (error) {
      failed(error);
    }
  };
  const folder = async () => {
    try {
      const target = await (window as unknown as FolderPicking).showDirectoryPicker({ mode: "readwrite" });
      onOpen(false);
      await withProgress(`Exporting ${plural(slices.length, "file")}`, async (worker, progress) => {
        for (const [i, slice] of slices.entries()) {
          const bytes = await worker.sliceFile(take, slice, options);
          const handle = await target.getFileHandle(`${names[i] ?? slice.id}.${options.format}`, { create: true });
          const stream = await handle.createWritable();
          await stream.write(bytes);
          await stream.close();
          progress((i + 1) / slices.length);
        }
      });
      tell("good", `${plural(slices.length, "file was", "files were")} written into ${target.name}.`);
    } catch (error) {
      failed(error);
    }
  };
  return (
    <Dialog.Root open={open} onOpenChange={onOpen}>
      <Dialog.Portal>
        <Dialog.Overlay className="fixed inset-0 z-40 bg-ground opacity-60" />
        <Dialog.Content className="fixed top-[18%] left-1/2 z-50 w-[460px] -translate-x-1/2 rounded-m border border-rule-strong bg-sheet p-5 shadow-md">
          <Dialog.Title className="font-display font-semibold text-l">
            Export {plural(slices.length, "file")}
          </Dialog.Title>
          <Dialog.Description className="mt-1 mb-3 text-ink-soft">
            Only the slices, treated as the list says. WAV files hold root note, tuning and the attack as a marker.
          </Dialog.Description>
          <Row label="Format">
            <Choice label="Format" value={format} options={FORMATS} onChange={setFormat} className="w-[220px]" />
          </Row>
          <Row label="Size">
            <span className="num">about {megabytes(estimateBytes(take, slices, options))}</span>
          </Row>
          <Row label="Names">
            <span className="num truncate text-[12px]">
              {names[0]}.{options.format} … {names.at(-1)}.{options.format}
            </span>
          </Row>
          <div className="mt-4 flex justify-end gap-2">
            <Dialog.Close asChild>
              <Button>Cancel</Button>
            </Dialog.Close>
            {"showDirectoryPicker" in window && <Button onClick={() => void folder()}>Into a folder …</Button>}
            <Button look="primary" onClick={() => void zip()}>
              As one zip
            </Button>
          </div>
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  );
}

/** The folder picker of the File System Access draft, as far as it is used here. */
interface FolderPicking {
  showDirectoryPicker(options: { mode: "readwrite" }): Promise<{
    readonly name: string;
    getFileHandle(
      name: string,
      options: { create: boolean },
    ): Promise<{ createWritable(): Promise<{ write(bytes: Uint8Array): Promise<void>; close(): Promise<void> }> }>;
  }>;
}
