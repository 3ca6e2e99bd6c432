import type { Clip } from '@/core/document/clip';
import { checkClip } from '@/core/document/clip';
import type { Recording } from '@/core/document/sound';
import { storableText } from '@/core/edit/wellFormed';
import { done, type Outcome, refused } from '@/core/outcome';
import { bringRecording } from '@/features/bring/bringSound';
import { postOriginal } from '@/features/sync/api';
import { countClip } from '@/workers/client';

/** A clip that was brought in and lies on no reel yet. */
export type BroughtClip = {
  readonly clip: Clip;
  /** How many frames its file says it has, where it stops decoding before. */
  readonly framesSaid: number;
  /** How long its sound lasts, in microseconds; null when it has none. */
  readonly soundMicroseconds: number | null;
};

/** What is being done with a clip, and how far that is, from 0 to 1; null where nobody can say. */
export type ClipProgress = { readonly words: string; readonly part: number | null };

/** Counts a clip and keeps its file on the server; the document knows nothing of it yet. Rejects when stopped. */
export async function bringClip(
  projectId: string,
  file: File,
  onProgress: (progress: ClipProgress) => void,
  stop: AbortSignal,
): Promise<Outcome<BroughtClip>> {
  const counted = await countClip(file, (part) => onProgress({ words: 'Counting its frames', part }), stop);
  if (counted.kind === 'stopped') throw new DOMException('Stopped.', 'AbortError');
  if (counted.kind === 'refused') return refused(`${file.name}: ${counted.reason}`);
  onProgress({ words: 'Keeping its file', part: null });
  const { original } = await postOriginal(projectId, 'clips', file, stop);
  const clip = checkClip({ ...counted.clip, original, fileName: storableText(file.name.slice(0, 255)) });
  if (!clip.ok) return clip;
  return done({ clip: clip.value, framesSaid: counted.framesSaid, soundMicroseconds: counted.soundMicroseconds });
}

/** Decodes the sound of a clip whose file is kept already. Rejects when stopped. */
export const bringSoundOfClip = (
  projectId: string,
  file: File,
  { original }: Clip,
  onProgress: (part: number) => void,
  stop: AbortSignal,
): Promise<Outcome<Recording>> => bringRecording(projectId, file, onProgress, stop, async () => ({ original, cutShort: false }));
