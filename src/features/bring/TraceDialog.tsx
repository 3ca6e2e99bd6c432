'use client';
import { Dialog as RadixDialog } from 'radix-ui';
import { useEffect, useMemo, useRef, useState } from 'react';
import { numberRanges } from '@/core/bring/fileOrder';
import { type Clip, clipRateWords, repeatWords } from '@/core/bring/trace';
import { plural } from '@/core/time/counts';
import { rateName } from '@/core/time/rate';
import { CANCEL, CURRENT_FRAME, FIRST_FRAME, SHOT_GROWS, STOP } from '@/core/words';
import { BringPreview } from '@/features/bring/BringPreview';
import { FIRST_ANSWERS, previewTracing, type RunningClipRead, startReading, type TraceAnswers } from '@/features/bring/tracing';
import { useBringStore } from '@/features/commands/bringFiles';
import { take } from '@/features/project/editContext';
import { useProject } from '@/features/project/hooks';
import { Button } from '@/ui/Button';
import { Choice } from '@/ui/Choice';
import { DialogCross } from '@/ui/Dialog';

const close = () => useBringStore.setState({ clip: null });

function TraceChoices({ answers, change }: { answers: TraceAnswers; change: (part: Partial<TraceAnswers>) => void }) {
  const { rate } = useProject();
  return (
    <div className="w-72 shrink-0 space-y-2.5 text-xs">
      <div>
        <p className="mb-0.5 text-soft">How it is read</p>
        <Choice
          label="How the clip is read"
          value={answers.way}
          options={[
            {
              value: 'converted',
              label: 'Converted',
              title: `The clip keeps its time; its frames are shown at ${rateName(rate)} a second`,
            },
            { value: 'readAs', label: 'Frame for frame', title: `Every frame of the clip is one of the film: its time changes` },
          ]}
          onChange={(way) => change({ way })}
        />
      </div>
      <div>
        <p className="mb-0.5 text-soft">Repeats</p>
        <Choice
          label="What becomes of repeats"
          value={answers.repeats}
          options={[
            { value: 'held', label: 'Skipped', title: 'A repeat is held with its picture: stepping by drawing skips it' },
            { value: 'apart', label: 'Kept apart' },
          ]}
          onChange={(repeats) => change({ repeats })}
        />
      </div>
      <div>
        <p className="mb-0.5 text-soft">From</p>
        <Choice
          label="From which frame"
          value={answers.startsAt}
          options={[
            { value: 'first', label: FIRST_FRAME },
            { value: 'now', label: CURRENT_FRAME },
          ]}
          onChange={(startsAt) => change({ startsAt })}
        />
      </div>
      <label className="flex cursor-pointer items-center gap-2">
        <input type="checkbox" checked={answers.grows} onChange={(event) => change({ grows: event.target.checked })} />
        {SHOT_GROWS}
      </label>
      <label className="flex cursor-pointer items-center gap-2">
        <input type="checkbox" checked={answers.emptyDrawings} onChange={(event) => change({ emptyDrawings: event.target.checked })} />
        An empty drawing for every picture
      </label>
      <p className="text-2xs text-soft">A guide shows while you draw, is numbered by the clip’s own frames, and is never handed over.</p>
    </div>
  );
}

function Tracing({ file }: { file: File }) {
  const project = useProject();
  const [clip, setClip] = useState<Clip | null>(null);
  const [answers, setAnswers] = useState(FIRST_ANSWERS);
  const [progress, setProgress] = useState({ done: 0, of: 1 });
  const [trouble, setTrouble] = useState<string | null>(null);
  const reading = useRef<RunningClipRead | null>(null);

  useEffect(() => {
    let current = true;
    const started = startReading(file, project.size, (done, of) => current && setProgress({ done, of }));
    reading.current = started;
    started.end.then(
      (ended) => {
        if (!current) return;
        if (ended === null) close();
        else if ('reason' in ended) setTrouble(ended.reason);
        else setClip(ended);
      },
      (error: unknown) => current && setTrouble(error instanceof Error ? error.message : 'The clip could not be read.'),
    );
    return () => {
      current = false;
      started.stop();
    };
  }, [file, project.size]);

  const tracing = useMemo(() => (clip ? previewTracing(clip, answers) : null), [clip, answers]);
  if (trouble)
    return (
      <>
        <p role="alert" className="text-rust">
          {trouble}
        </p>
        <div className="flex justify-end">
          <Button onClick={close}>{CANCEL}</Button>
        </div>
      </>
    );
  if (!clip || !tracing)
    return (
      <div className="flex items-center gap-3">
        <progress className="h-2 flex-1 accent-lime" value={progress.done} max={progress.of} aria-label="Frames read" />
        <span className="numbers text-xs">
          frame {progress.done} of {progress.of}
        </span>
        <Button onClick={() => reading.current?.stop()}>{STOP}</Button>
      </div>
    );
  return (
    <>
      <p className="text-xs">
        {plural(clip.frames.length, 'frame')} at {clipRateWords(clip)}. {repeatWords(clip.frames)}
        {tracing.lost.length > 0 && ` Frames of the clip that no frame of the film shows: ${numberRanges(tracing.lost)}.`}
      </p>
      <div className="flex min-h-0 flex-1 gap-4">
        <TraceChoices answers={answers} change={(part) => setAnswers({ ...answers, ...part })} />
        <div className="flex min-w-0 flex-1 flex-col">
          <BringPreview bringing={tracing} size={project.size} firstNumber={project.firstFrameNumber} />
        </div>
      </div>
      <p className={tracing.edit.ok ? 'font-semibold' : 'text-rust'}>{tracing.edit.ok ? tracing.edit.value.says : tracing.edit.reason}</p>
      <div className="flex justify-end gap-2">
        <Button kind="quiet" onClick={close}>
          {CANCEL}
        </Button>
        <Button kind="go" disabled={!tracing.edit.ok} onClick={() => take(tracing.edit, true) && close()}>
          Trace over it
        </Button>
      </div>
    </>
  );
}

/** The window in which a clip becomes a guide to draw over. */
export function TraceDialog() {
  const file = useBringStore((state) => state.clip);
  return (
    <RadixDialog.Root open={file !== null} onOpenChange={(open) => !open && close()}>
      <RadixDialog.Portal>
        <RadixDialog.Overlay className="fixed inset-0 z-40 bg-black/35" />
        <RadixDialog.Content className="panel fixed top-1/2 left-1/2 z-50 flex max-h-[92vh] min-h-40 w-[min(940px,96vw)] -translate-x-1/2 -translate-y-1/2 flex-col gap-3 p-5 shadow-xl outline-none has-[ul]:h-[80vh]">
          <div>
            <RadixDialog.Title className="pr-9 font-bold font-head text-xl">Trace over a clip</RadixDialog.Title>
            <RadixDialog.Description className="text-soft">{file?.name}</RadixDialog.Description>
          </div>
          {file && <Tracing file={file} />}
          <DialogCross />
        </RadixDialog.Content>
      </RadixDialog.Portal>
    </RadixDialog.Root>
  );
}
