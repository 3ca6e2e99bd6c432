'use client';
import { useEffect, useMemo, useState } from 'react';
import { type ClipReading, framesOfClip, microsecondsOfClip } from '@/core/document/clip';
import { sizeText } from '@/core/document/size';
import type { Recording } from '@/core/document/sound';
import { clipLengthWords, clipRateWords, conversionWords, layClip } from '@/core/reel/clipItems';
import { itemAt } from '@/core/reel/reel';
import { countText, plural } from '@/core/time/counts';
import { rateName } from '@/core/time/rate';
import { BRING_IN, CANCEL, STOP } from '@/core/words';
import { type BroughtClip, bringClip, bringSoundOfClip, type ClipProgress } from '@/features/bring/bringClip';
import { useBringStore } from '@/features/commands/bringFiles';
import { newId, take } from '@/features/project/editContext';
import { useProject } from '@/features/project/hooks';
import { useViewStore } from '@/features/project/viewStore';
import { Button } from '@/ui/Button';
import { Choice } from '@/ui/Choice';
import { Dialog } from '@/ui/Dialog';

const close = () => useBringStore.setState({ reelClip: null });

type Reading =
  | { readonly kind: 'reading'; readonly progress: ClipProgress }
  | { readonly kind: 'refused'; readonly reason: string }
  | { readonly kind: 'read'; readonly brought: BroughtClip; readonly recording: Recording | null; readonly soundRefused: string | null };

async function readAll(projectId: string, file: File, tell: (reading: Reading) => void, stop: AbortSignal): Promise<void> {
  const onProgress = (progress: ClipProgress) => !stop.aborted && tell({ kind: 'reading', progress });
  try {
    const brought = await bringClip(projectId, file, onProgress, stop);
    if (!brought.ok) return tell({ kind: 'refused', reason: brought.reason });
    let recording: Recording | null = null;
    let soundRefused: string | null = null;
    if (brought.value.soundMicroseconds !== null) {
      const sound = await bringSoundOfClip(
        projectId,
        file,
        brought.value.clip,
        (part) => onProgress({ words: 'Reading its sound', part }),
        stop,
      );
      if (sound.ok) recording = sound.value;
      else soundRefused = sound.reason;
    }
    tell({ kind: 'read', brought: brought.value, recording, soundRefused });
  } catch (error) {
    if (!stop.aborted)
      tell({ kind: 'refused', reason: `${file.name}: ${error instanceof Error ? error.message : 'it could not be read'}` });
  }
}

function useReading(projectId: string, file: File): Reading {
  const [reading, setReading] = useState<Reading>({ kind: 'reading', progress: { words: 'Counting its frames', part: 0 } });
  useEffect(() => {
    const stopper = new AbortController();
    void readAll(projectId, file, (now) => !stopper.signal.aborted && setReading(now), stopper.signal);
    return () => stopper.abort();
  }, [projectId, file]);
  return reading;
}

const seconds = (microseconds: number) => `${(microseconds / 1e6).toFixed(3)} s`;

/** What a clip is, counted, and what is not as its file says. */
function ClipFacts({ brought, soundRefused }: { brought: BroughtClip; soundRefused: string | null }) {
  const { clip, framesSaid, soundMicroseconds } = brought;
  const length = microsecondsOfClip(clip);
  return (
    <div className="space-y-1 text-xs">
      <p>
        <b>{clip.fileName}</b>{' '}
        <span className="numbers">
          {plural(clip.frames, 'frame')}, {clipRateWords(clip)}, {seconds(length)}, {sizeText(clip.size)}
        </span>
      </p>
      {clip.frames < framesSaid && (
        <p role="alert" className="text-rust">
          Its file says {countText(framesSaid)} frames, but from frame {countText(clip.frames + 1)} on it doesn’t decode: only those before
          come in.
        </p>
      )}
      {soundMicroseconds !== null && Math.abs(soundMicroseconds - length) > 1e5 && (
        <p>
          Its sound lasts {seconds(soundMicroseconds)}, its picture {seconds(length)}.
        </p>
      )}
      {soundRefused && <p className="text-rust">Its sound can’t come with it. {soundRefused}</p>}
    </div>
  );
}

function Laying({ brought, recording, soundRefused }: { brought: BroughtClip; recording: Recording | null; soundRefused: string | null }) {
  const project = useProject();
  const frame = useViewStore((state) => state.reelFrame);
  const [way, setWay] = useState<ClipReading>('converted');
  const [place, setPlace] = useState<'after' | 'end'>('end');
  const [withSound, setWithSound] = useState(true);
  const { clip } = brought;
  const { rate, firstFrameNumber } = project;
  const after = itemAt(project, frame);
  const edit = useMemo(() => {
    const index = place === 'after' && after ? after.index + 1 : project.reel.items.length;
    return layClip(project, { clip, way, index, recording: withSound ? recording : null }, newId);
  }, [project, clip, way, place, after, withSound, recording]);
  const isAlike = framesOfClip(clip, 'readAs', rate) === framesOfClip(clip, 'converted', rate);
  return (
    <>
      <ClipFacts brought={brought} soundRefused={soundRefused} />
      <div>
        <p className="mb-0.5 text-soft text-xs">How it comes into a film of {rateName(rate)} a second</p>
        <Choice
          label="How the clip is read"
          value={way}
          options={[
            { value: 'converted', label: `Keep its time: ${clipLengthWords(clip, 'converted', rate)}` },
            { value: 'readAs', label: `Frame for frame: ${clipLengthWords(clip, 'readAs', rate)}` },
          ]}
          onChange={setWay}
        />
        <p className="mt-1 text-xs">
          {way === 'converted'
            ? `It lasts as long as it did; ${conversionWords(clip, rate, firstFrameNumber)}.`
            : isAlike
              ? 'Each of its frames is one of the film’s.'
              : `Each of its frames is one of the film’s: it lasts ${clipLengthWords(clip, 'readAs', rate)} instead of ${seconds(microsecondsOfClip(clip))}.`}
        </p>
      </div>
      <div>
        <p className="mb-0.5 text-soft text-xs">Where it lies</p>
        <Choice
          label="Where it lies"
          value={place}
          options={[
            { value: 'end', label: 'At the end of the reel' },
            { value: 'after', label: after?.source ? `After ${after.source.name}` : 'After what is on now' },
          ]}
          onChange={setPlace}
        />
      </div>
      {recording && (
        <label className="flex items-center gap-2 text-xs">
          <input type="checkbox" checked={withSound} onChange={(event) => setWithSound(event.target.checked)} />
          With its sound, as one of the reel’s: it starts with the clip, and stays on its frame when the clip moves
        </label>
      )}
      <p className={edit.ok ? 'font-semibold' : 'text-rust'}>{edit.ok ? `${edit.value.says}.` : edit.reason}</p>
      <div className="flex justify-end gap-2">
        <Button kind="quiet" onClick={close}>
          {CANCEL}
        </Button>
        <Button kind="go" disabled={!edit.ok} onClick={() => take(edit) && close()}>
          {BRING_IN}
        </Button>
      </div>
    </>
  );
}

function Bringing({ file }: { file: File }) {
  const reading = useReading(useProject().id, file);
  if (reading.kind === 'read') return <Laying {...reading} />;
  if (reading.kind === 'refused')
    return (
      <>
        <p role="alert" className="text-rust">
          {reading.reason}
        </p>
        <div className="flex justify-end">
          <Button onClick={close}>{CANCEL}</Button>
        </div>
      </>
    );
  const { words, part } = reading.progress;
  return (
    <div className="flex items-center gap-3">
      <p className="whitespace-nowrap text-xs">{words} …</p>
      <progress className="h-2 flex-1 accent-lime" {...(part === null ? {} : { value: part })} max={1} aria-label={words} />
      <Button onClick={close}>{STOP}</Button>
    </div>
  );
}

/** Lays a clip on the reel: counted first, then placed. */
export function ClipDialog() {
  const file = useBringStore((state) => state.reelClip);
  return (
    <Dialog
      title="Bring in a clip"
      about="Its file is kept as it is. Its frames are decoded as they are shown, never drawn anew."
      open={file !== null}
      onOpenChange={(open) => !open && close()}
    >
      {file && <div className="mt-3 space-y-3">{<Bringing file={file} />}</div>}
    </Dialog>
  );
}
