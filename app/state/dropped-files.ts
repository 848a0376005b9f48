/** Most files that one drop opens. */
const MOST = 5000;

async function filesOfEntry(entry: FileSystemEntry, into: File[]): Promise<void> {
  if (into.length >= MOST) return;
  if (entry.isFile) {
    into.push(await new Promise<File>((resolve, reject) => (entry as FileSystemFileEntry).file(resolve, reject)));
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
