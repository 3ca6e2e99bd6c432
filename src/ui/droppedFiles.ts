/* Files of a drop with the folders they lay in: a browser gives a dropped folder as an entry that is walked through. */

const filesOfEntry = (entry: FileSystemFileEntry): Promise<File> => new Promise((resolve, reject) => entry.file(resolve, reject));

async function entriesOf(folder: FileSystemDirectoryEntry): Promise<readonly FileSystemEntry[]> {
  const reader = folder.createReader();
  const all: FileSystemEntry[] = [];
  // A browser gives a hundred at a time.
  for (;;) {
    const some = await new Promise<FileSystemEntry[]>((resolve, reject) => reader.readEntries(resolve, reject));
    if (some.length === 0) return all;
    all.push(...some);
  }
}

async function walk(entry: FileSystemEntry, out: File[]): Promise<void> {
  if (entry.isFile) {
    const file = await filesOfEntry(entry as FileSystemFileEntry);
    // As a picker of folders gives it.
    Object.defineProperty(file, 'webkitRelativePath', { value: entry.fullPath.replace(/^\//, '') });
    out.push(file);
    return;
  }
  for (const inner of await entriesOf(entry as FileSystemDirectoryEntry)) await walk(inner, out);
}

/** Whether a folder is among what was dropped. Asked while the drop is being handled: afterwards nothing is known of it. */
export function droppedFolders(transfer: DataTransfer): readonly FileSystemEntry[] {
  const entries = [...transfer.items].flatMap((item) => item.webkitGetAsEntry?.() ?? []);
  return entries.some(({ isDirectory }) => isDirectory) ? entries : [];
}

/** All files of entries and of the folders among them. */
export async function filesOfEntries(entries: readonly FileSystemEntry[]): Promise<readonly File[]> {
  const out: File[] = [];
  for (const entry of entries) await walk(entry, out);
  return out;
}

/** A file's path within what was dropped or chosen: its folders and its name, or its name alone. */
export const pathOf = (file: File): string => file.webkitRelativePath || file.name;
