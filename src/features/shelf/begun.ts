import type { Size } from '@/core/document/model';
import { fileTitle } from '@/core/sheet/fileTitle';
import { plural } from '@/core/time/counts';
import { type Rate, rateName } from '@/core/time/rate';
import { isClipFile, isRecordingFile } from '@/features/commands/bringFiles';
import { countClip } from '@/workers/client';

/** What a new project begins with when files were dropped on the shelf: what could be read of them, and the files to be brought in. */
export type Begun = {
  readonly files: readonly File[];
  readonly title: string;
  /** The size of the first picture, or of the film; null where this browser can't tell. */
  readonly size: Size | null;
  /** The film's rate; null for pictures, which have none, and where a film's frames don't come evenly. */
  readonly rate: Rate | null;
  /** How long the first shot is to be, in frames. */
  readonly frames: number | null;
  readonly says: string;
};

/** Pictures are held two frames each unless told otherwise, as when they are brought in. */
const HELD_FRAMES = 2;

/** Numbers at a name's end tell the picture, and not the film. */
const withoutNumber = (fileName: string) => fileName.replace(/[ _.-]*\d+(?=\.[^.]*$)/, '');

async function sizeOfPicture(file: File): Promise<Size | null> {
  try {
    const bitmap = await createImageBitmap(file);
    const { width, height } = bitmap;
    bitmap.close();
    return { width, height };
  } catch {
    return null;
  }
}

/** Reads what a project could be made of, telling how much of a film is read, from 0 to 1; rejects when it is stopped. */
export async function beginWith(files: readonly File[], onProgress: (part: number) => void, stop: AbortSignal): Promise<Begun> {
  const others = files.filter((file) => !isRecordingFile(file));
  const [first] = others;
  const title = fileTitle(withoutNumber((first ?? files[0])?.name ?? ''), 'New project', new Set());
  if (!first) return { files, title, size: null, rate: null, frames: null, says: plural(files.length, 'recording') };
  if (others.length === 1 && isClipFile(first)) {
    const counted = await countClip(first, onProgress, stop);
    if (counted.kind !== 'counted')
      return {
        files,
        title,
        size: null,
        rate: null,
        frames: null,
        says: counted.kind === 'refused' ? counted.reason.replace(/\.$/, '') : 'Not read',
      };
    const { size, frames, timing } = counted.clip;
    const rate = timing.kind === 'constant' ? timing.rate : null;
    const evenly = rate ? `${rateName(rate)} a second` : 'which do not come evenly: choose the rate';
    return { files, title, size, rate, frames, says: `A film of ${size.width} × ${size.height}, ${plural(frames, 'frame')}, ${evenly}` };
  }
  const size = await sizeOfPicture(first);
  stop.throwIfAborted();
  const of = size ? `of ${size.width} × ${size.height}` : 'whose size this browser can’t tell: choose one';
  return { files, title, size, rate: null, frames: others.length * HELD_FRAMES, says: `${plural(others.length, 'picture')} ${of}` };
}
