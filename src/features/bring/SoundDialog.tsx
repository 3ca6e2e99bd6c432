'use client';
import { useEffect, useMemo, useState } from 'react';
import { framesOfSamples, type Recording, wholeFramesOfSamples } from '@/core/document/sound';
import { recordingWords } from '@/core/edit/soundEdits';
import { plural } from '@/core/time/counts';
import { type Rate, rateName } from '@/core/time/rate';
import { BRING_IN, CANCEL, CURRENT_FRAME, FIRST_FRAME, STOP } from '@/core/words';
import { bringRecording, previewSounds } from '@/features/bring/bringSound';
import { useBringStore } from '@/features/commands/bringFiles';
import { take } from '@/features/project/editContext';
import { useProject, useShot } from '@/features/project/hooks';
import { useViewStore } from '@/features/project/viewStore';
import { Button } from '@/ui/Button';
import { Choice } from '@/ui/Choice';
import { Dialog } from '@/ui/Dialog';

const close = () => useBringStore.setState({ recordings: null });

/** How long a recording is in frames: exactly, or into which frame it reaches. */
function lengthInFrames({ samples, sampleRate }: Recording, rate: Rate): string {
  const whole = wholeFramesOfSamples(samples, rate, sampleRate);
  const touched = framesOfSamples(samples, rate, sampleRate);
  if (whole === 0) return 'less than a frame';
  return whole === touched ? `${plural(whole, 'frame')} exactly` : `${plural(whole, 'frame')} and a part of one`;
}

type SoundReadState = {
  readonly recordings: readonly Recording[];
  readonly refused: readonly string[];
  readonly part: number;
  readonly isOver: boolean;
};
const START: SoundReadState = { recordings: [], refused: [], part: 0, isOver: false };

/** Reads files one after another, and stops when it is left. */
function useReading(projectId: string, files: readonly File[]): SoundReadState {
  const [reading, setReading] = useState(START);
  useEffect(() => {
    const stopper = new AbortController();
    const read = async () => {
      for (const [index, file] of files.entries()) {
        const onProgress = (part: number) =>
          !stopper.signal.aborted && setReading((now) => ({ ...now, part: (index + part) / files.length }));
        let said: string;
        try {
          const taken = await bringRecording(projectId, file, onProgress, stopper.signal);
          if (taken.ok) {
            setReading((now) => ({ ...now, recordings: [...now.recordings, taken.value] }));
            continue;
          }
          said = taken.reason;
        } catch (error) {
          if (stopper.signal.aborted) return;
          said = `${file.name}: ${error instanceof Error ? error.message : 'it could not be read'}`;
        }
        setReading((now) => ({ ...now, refused: [...now.refused, said] }));
      }
      setReading((now) => ({ ...now, isOver: true }));
    };
    setReading(START);
    void read();
    return () => stopper.abort();
  }, [projectId, files]);
  return reading;
}

function Bringing({ files }: { files: readonly File[] }) {
  const project = useProject();
  const shot = useShot();
  const onReel = useViewStore((state) => state.onReel);
  const [startsAt, setStartsAt] = useState<'first' | 'now'>('now');
  const [owner, setOwner] = useState<'shot' | 'reel'>('shot');
  const { recordings, refused, part, isOver } = useReading(project.id, files);
  const edit = useMemo(
    () => (isOver && recordings.length > 0 ? previewSounds(recordings, startsAt, owner) : null),
    [isOver, recordings, startsAt, owner],
  );
  return (
    <div className="mt-3 space-y-3">
      {refused.map((words) => (
        <p key={words} role="alert" className="text-rust text-xs">
          {words}
        </p>
      ))}
      <ul className="space-y-1">
        {recordings.map((recording) => (
          <li key={recording.original} className="text-xs">
            <b>{recording.fileName}</b> <span className="numbers">{recordingWords(recording)}</span>
            <span className="text-soft">
              {' '}
              = {lengthInFrames(recording, project.rate)} at {rateName(project.rate)}
            </span>
          </li>
        ))}
      </ul>
      {isOver ? (
        <>
          {edit && onReel && (
            <div>
              <p className="mb-0.5 text-soft text-xs">Belongs to</p>
              <Choice
                label="What it belongs to"
                value={owner}
                options={[
                  { value: 'shot', label: `Shot ${shot?.code ?? ''}, moves with it` },
                  { value: 'reel', label: 'The reel, stays' },
                ]}
                onChange={setOwner}
              />
            </div>
          )}
          {edit && (
            <div>
              <p className="mb-0.5 text-soft text-xs">Starts on</p>
              <Choice
                label="On which frame it starts"
                value={startsAt}
                options={[
                  { value: 'now', label: CURRENT_FRAME },
                  { value: 'first', label: FIRST_FRAME },
                ]}
                onChange={setStartsAt}
              />
            </div>
          )}
          {edit && <p className={edit.ok ? 'font-semibold' : 'text-rust'}>{edit.ok ? `${edit.value.says}.` : edit.reason}</p>}
          <div className="flex justify-end gap-2">
            <Button kind="quiet" onClick={close}>
              {CANCEL}
            </Button>
            <Button
              kind="go"
              disabled={!edit?.ok}
              onClick={() => {
                if (edit && take(edit)) close();
              }}
            >
              {BRING_IN}
            </Button>
          </div>
        </>
      ) : (
        <div className="flex items-center gap-3">
          <progress className="h-2 flex-1 accent-lime" value={part} max={1} aria-label="Recordings read" />
          <Button onClick={close}>{STOP}</Button>
        </div>
      )}
    </div>
  );
}

/** Brings recordings in: read and counted first, then placed. */
export function SoundDialog() {
  const recordings = useBringStore((state) => state.recordings);
  return (
    <Dialog
      title="Bring in a recording"
      about="Its file is kept as it is. It starts as a frame starts and is never split."
      open={recordings !== null}
      onOpenChange={(open) => !open && close()}
    >
      {recordings && <Bringing files={recordings} />}
    </Dialog>
  );
}
