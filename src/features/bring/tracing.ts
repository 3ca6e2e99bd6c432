import { type Clip, type ClipFrame, type TracingChoices, traceOver } from '@/core/bring/trace';
import type { Digest, Shot, Size } from '@/core/document/model';
import { fileTitle } from '@/core/sheet/fileTitle';
import { contextNow } from '@/features/project/editContext';
import { inView } from '@/features/project/hooks';
import { postPictures } from '@/features/sync/api';
import { type ClipFacts, type ReadClipFrame, readClip } from '@/workers/client';

/** A clip's reading: how it ends — the clip, or why not — and how to stop it; null when it was stopped. */
export type RunningClipRead = { readonly end: Promise<Clip | { readonly reason: string } | null>; readonly stop: () => void };

/** Reads a clip: its pictures are stored on the server as they come; the document knows nothing of it yet. */
export function startReading(file: File, size: Size, onProgress: (done: number, of: number) => void): RunningClipRead {
  const frames: ClipFrame[] = [];
  let facts: ClipFacts | null = null;
  const onFrames = async (read: readonly ReadClipFrame[]) => {
    const pictures = new Map<Digest, Uint8Array>();
    for (const { startMicroseconds, picture } of read) {
      const before = frames.at(-1)?.picture;
      if (picture) pictures.set(picture.digest, picture.png);
      const shown = picture?.digest ?? before;
      if (shown) frames.push({ startMicroseconds, repeats: picture === null, picture: shown });
    }
    if (pictures.size > 0) await postPictures(pictures);
    onProgress(frames.length, facts?.frames ?? frames.length);
  };
  const running = readClip(
    file,
    size,
    (known) => {
      facts = known;
      onProgress(0, known.frames);
    },
    onFrames,
  );
  const end = running.end.then((ended) => {
    if (ended.kind === 'stopped') return null;
    if (ended.kind === 'refused') return { reason: ended.reason };
    return { name: file.name, frames, endMicroseconds: ended.endMicroseconds };
  });
  return { end, stop: running.stop };
}

/** What a person chooses of how a clip is traced over. */
export type TraceAnswers = Pick<TracingChoices, 'way' | 'repeats' | 'emptyDrawings'> & {
  readonly startsAt: 'first' | 'now';
  readonly grows: boolean;
};

export const FIRST_ANSWERS: TraceAnswers = { way: 'converted', repeats: 'held', emptyDrawings: false, startsAt: 'first', grows: true };

/** A name for the guide: the file's, one that no level has. */
export const guideName = (fileName: string, shot: Shot): string =>
  fileTitle(fileName, 'Clip', new Set(shot.levels.map((level) => level.name)));

/** What tracing over a clip would come to now; null when no shot is open. */
export function previewTracing(clip: Clip, answers: TraceAnswers) {
  const view = inView();
  if (!view) return null;
  const { startsAt, grows, ...choices } = answers;
  return traceOver(
    contextNow(view),
    clip,
    {
      ...choices,
      startFrame: startsAt === 'now' ? view.frame : 0,
      roomFrames: grows ? 'growShot' : 'keepLength',
      levelName: guideName(clip.name, view.shot),
    },
    view.project.rate,
  );
}
