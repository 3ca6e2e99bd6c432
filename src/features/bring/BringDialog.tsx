'use client';
import { Dialog as RadixDialog } from 'radix-ui';
import { useEffect, useMemo, useState } from 'react';
import { plural } from '@/core/time/counts';
import { CANCEL, STOP } from '@/core/words';
import { BringChoices } from '@/features/bring/BringChoices';
import { BringPreview } from '@/features/bring/BringPreview';
import {
  type Choices,
  finishBringing,
  firstChoices,
  picturesOf,
  previewBringing,
  type ReadResult,
  readFiles,
  remarks,
} from '@/features/bring/bringing';
import { useBringStore } from '@/features/commands/bringFiles';
import { useProject } from '@/features/project/hooks';
import { useViewStore } from '@/features/project/viewStore';
import { Button } from '@/ui/Button';
import { DialogCross } from '@/ui/Dialog';

type Progress = { readonly words: string; readonly done: number; readonly of: number };

const close = () => useBringStore.setState({ files: null });

function ProgressRow({ progress, onStop }: { progress: Progress; onStop: () => void }) {
  return (
    <div className="flex items-center gap-3">
      <progress className="h-2 flex-1 accent-lime" value={progress.done} max={progress.of} aria-label={progress.words} />
      <span className="numbers text-xs">
        {progress.words} {progress.done} of {progress.of}
      </span>
      <Button onClick={onStop}>{STOP}</Button>
    </div>
  );
}

/** Files that can't be brought in, each with why. */
function BadFiles({ reading }: { reading: ReadResult }) {
  if (reading.bad.length === 0) return null;
  return (
    <div role="alert" className="max-h-28 overflow-y-auto rounded-lg bg-rust-wash p-2 text-xs">
      <p className="font-semibold text-rust">{plural(reading.bad.length, 'file')} can’t be brought in:</p>
      <ul>
        {reading.bad.map(({ fileName, reason }) => (
          <li key={fileName}>
            {fileName}: {reason}
          </li>
        ))}
      </ul>
    </div>
  );
}

/** Reads the files and shows what will come of them, until a person takes it or leaves it. */
function Bringing({ files }: { files: readonly File[] }) {
  const project = useProject();
  const [reading, setReading] = useState<ReadResult | null>(null);
  const [choices, setChoices] = useState<Choices | null>(null);
  const [progress, setProgress] = useState<Progress | null>(null);
  const [stop, setStop] = useState(() => new AbortController());
  const [trouble, setTrouble] = useState<string | null>(null);
  const alpha = choices?.alpha ?? 'straight';

  useEffect(() => {
    const own = new AbortController();
    setStop(own);
    setProgress({ words: 'reading', done: 0, of: files.length });
    readFiles(project.id, files, alpha, own.signal, (done) => setProgress({ words: 'reading', done, of: files.length })).then(
      (read) => {
        setReading(read);
        setChoices((before) => before ?? firstChoices(read, useViewStore.getState().onReel));
        setProgress(null);
      },
      () => undefined,
    );
    return () => own.abort();
  }, [files, alpha, project.id]);

  const bringing = useMemo(() => (reading && choices ? previewBringing(reading, choices) : null), [reading, choices]);

  const bring = async () => {
    if (!reading || !choices) return;
    const own = new AbortController();
    setStop(own);
    setTrouble(null);
    try {
      if (await finishBringing(reading, choices, own.signal, (done, of) => setProgress({ words: 'laying', done, of }))) close();
    } catch (error) {
      if (!own.signal.aborted)
        setTrouble(
          `The pictures could not be brought in: ${error instanceof Error ? error.message : 'unknown reason'} Nothing was changed.`,
        );
    } finally {
      setProgress(null);
    }
  };

  const halt = () => {
    stop.abort();
    // Stopped while reading there is nothing to choose from yet; stopped while laying, all is as it was before.
    if (!reading) close();
  };

  const count = reading ? picturesOf(reading).length : 0;
  const said = reading ? remarks(reading, project.size) : [];
  return (
    <>
      {reading && choices && bringing && (
        <>
          <div className="flex min-h-0 flex-1 gap-4">
            <BringChoices reading={reading} choices={choices} change={(part) => setChoices({ ...choices, ...part })} />
            <div className="flex min-w-0 flex-1 flex-col gap-2">
              <BringPreview bringing={bringing} size={project.size} firstNumber={project.firstFrameNumber} />
              {said.map((remark) => (
                <p key={remark} className="text-xs">
                  {remark}
                </p>
              ))}
              <BadFiles reading={reading} />
            </div>
          </div>
          <p className={bringing.edit.ok ? 'font-semibold' : 'text-rust'}>
            {bringing.edit.ok ? bringing.edit.value.says : bringing.edit.reason}
          </p>
        </>
      )}
      {trouble && (
        <p role="alert" className="text-rust text-xs">
          {trouble}
        </p>
      )}
      {progress ? (
        <ProgressRow progress={progress} onStop={halt} />
      ) : (
        <div className="flex justify-end gap-2">
          <Button kind="quiet" onClick={close}>
            {CANCEL}
          </Button>
          <Button kind="go" disabled={!bringing?.edit.ok} onClick={() => void bring()}>
            Bring in {plural(count, 'picture')}
            {reading && reading.bad.length > 0 ? ` from ${reading.good.length} of ${files.length} files` : ''}
          </Button>
        </div>
      )}
    </>
  );
}

/** The window in which files become drawings: what they hold, how they are taken, and the sheet that comes of it. */
export function BringDialog() {
  const files = useBringStore((state) => state.files);
  return (
    <RadixDialog.Root open={files !== null} onOpenChange={(open) => !open && close()}>
      <RadixDialog.Portal>
        <RadixDialog.Overlay className="fixed inset-0 z-40 bg-black/35" />
        <RadixDialog.Content className="panel fixed top-1/2 left-1/2 z-50 flex max-h-[92vh] min-h-40 w-[min(940px,96vw)] -translate-x-1/2 -translate-y-1/2 flex-col gap-3 p-5 shadow-xl outline-none has-[ul]:h-[86vh]">
          <div>
            <RadixDialog.Title className="pr-9 font-bold font-head text-xl">Bring pictures in</RadixDialog.Title>
            <RadixDialog.Description className="text-soft">
              {files ? plural(files.length, 'file') : ''}. The files stay as they are, and a copy of each is kept with the film. Nothing
              changes on the sheet until you take it.
            </RadixDialog.Description>
          </div>
          {files && <Bringing files={files} />}
          <DialogCross />
        </RadixDialog.Content>
      </RadixDialog.Portal>
    </RadixDialog.Root>
  );
}
