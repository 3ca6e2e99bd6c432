import { keptJobIds } from '@/features/handover/keptQueues';
import { livingWindows } from '@/features/sync/windows';

/*
 * Written files lie in the browser's private folder until their window is closed, so that they can be saved
 * again. Their names begin with the window they belong to.
 */

const FOLDER = 'handovers';
/** Finished pictures of jobs that aren't over, a folder a job; see `@/workers/output/pictures/keptPictures`. */
const PICTURES_FOLDER = 'handover-pictures';
/** Files of the first form bear no window's name: old ones were saved, or given up, long ago. */
const OLD_MILLISECONDS = 24 * 60 * 60 * 1000;

async function ownFolder(): Promise<FileSystemDirectoryHandle> {
  const root = await navigator.storage.getDirectory();
  return root.getDirectoryHandle(FOLDER, { create: true });
}

/** Saves a written file to where downloads go. */
export async function saveFile(storedAs: string, fileName: string): Promise<void> {
  const file = await namedFile(storedAs, fileName);
  const link = document.createElement('a');
  link.href = URL.createObjectURL(file);
  link.download = fileName;
  link.click();
  setTimeout(() => URL.revokeObjectURL(link.href), 60_000);
}

/** A written file under the name it is saved by. */
async function namedFile(storedAs: string, fileName: string): Promise<File> {
  const file = await (await (await ownFolder()).getFileHandle(storedAs)).getFile();
  return new File([file], fileName, { type: file.type });
}

/** Whether the system has a share sheet that takes files. */
export const canShare = (): boolean =>
  typeof navigator.canShare === 'function' && navigator.canShare({ files: [new File([''], 'film.mp4', { type: 'video/mp4' })] });

/** Hands a written file to the system's share sheet; that it was closed again is no failure. */
export async function shareFile(storedAs: string, fileName: string): Promise<void> {
  const file = await namedFile(storedAs, fileName);
  await navigator.share({ files: [file], title: fileName }).catch((error: unknown) => {
    if (!(error instanceof DOMException && error.name === 'AbortError')) throw error;
  });
}

async function isLeftBehind(folder: FileSystemDirectoryHandle, name: string, alive: ReadonlySet<string>): Promise<boolean> {
  const [owner = '', ...rest] = name.split('.');
  const isOurs = rest.length >= 2 && /^[\da-f-]{36}$/.test(rest[0] ?? '');
  if (isOurs) return !alive.has(owner);
  const file = await (await folder.getFileHandle(name)).getFile();
  return Date.now() - file.lastModified > OLD_MILLISECONDS;
}

/** Removes finished pictures of jobs that are in no queue any more. */
async function clearLeftPictures(): Promise<void> {
  const jobs = keptJobIds();
  if (!jobs) return;
  const root = await navigator.storage.getDirectory();
  const folder = await root.getDirectoryHandle(PICTURES_FOLDER, { create: true });
  for await (const name of folder.keys()) if (!jobs.has(name)) await folder.removeEntry(name, { recursive: true }).catch(() => undefined);
}

/** Removes files of windows that are gone; those of living windows are left alone, this one's too. */
export async function clearLeftFiles(): Promise<void> {
  await clearLeftPictures();
  const folder = await ownFolder();
  const alive = await livingWindows();
  for await (const name of folder.keys()) {
    const left = await isLeftBehind(folder, name, alive).catch(() => false);
    if (left) await folder.removeEntry(name).catch(() => undefined);
  }
}
