/** Most files that one drop opens. */
const MOST = 20000;

const paths = new WeakMap<File, string>();

/** Where a file that was dropped or picked lay: its name, after those of the folders that were dropped or picked. */
export const pathOf = (file: File): string => paths.get(file) ?? (file.webkitRelativePath || file.name);

/** A file that lies at a path. */
export function fileAt(path: string, blob: Blob): File {
  const file = new File([blob], path.slice(path.lastIndexOf("/") + 1));
  paths.set(file, path);
  return file;
}

async function filesOfEntry(entry: FileSystemEntry, into: File[]): Promise<void> {
  if (into.length >= MOST) return;
  if (entry.isFile) {
    const file = await new Promise<File>((resolve, reject) => (entry as FileSystemFileEntry).file(resolve, reject));
    paths.set(file, entry.fullPath.replace(/^\//, ""));
    into.push(file);
    return;
  }
  const reader = (entry as FileSystemDirectoryEntry).createReader();
  for (;;) {
    const some = await new Promise<FileSystemEntry[]>((resolve, reject) => reader.readEntries(resolve, reject));
    if (some.length === 0) return;
    for (const inner of some.sort((a, b) => a.name.localeCompare(b.name, "en", { numeric: true })))
      if (!inner.name.startsWith(".")) await filesOfEntry(inner, into);
  }
}

/** The files of a drop, those inside dropped folders included, in the order of their names. */
export async function filesOfDrop(data: DataTransfer): Promise<File[]> {
  // Entries must be asked for before anything is waited for: the drop is gone after that.
  const entries = [...data.items].flatMap((item) => item.webkitGetAsEntry?.() ?? []);
  if (entries.length === 0) return [...data.files];
  const files: File[] = [];
  for (const entry of entries) await filesOfEntry(entry, files);
  return files;
}
