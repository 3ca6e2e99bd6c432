'use client';
import { useRef, useState } from 'react';
import { bytesText } from '@/core/bytes';
import { STOP } from '@/core/words';
import { restPreviews } from '@/features/clock/previews';
import { restLooking } from '@/features/path/inspecting';
import { useProject } from '@/features/project/hooks';
import { saveBlob } from '@/features/project/saveText';
import { fetchPackage, type PackageKind } from '@/features/sync/packages';
import { untilKept } from '@/features/sync/session';
import { settled } from '@/features/sync/settling';
import { Button } from '@/ui/Button';

type State =
  | { readonly kind: 'making'; readonly done: number; readonly all: number }
  | { readonly kind: 'saved'; readonly fileName: string; readonly sizeBytes: number }
  | { readonly kind: 'failed'; readonly reason: string };

/** The whole project in one open file. */
export function WholeProject() {
  const project = useProject();
  const [state, setState] = useState<State | null>(null);
  const [withPast, setWithPast] = useState(false);
  const stopper = useRef<AbortController | null>(null);
  const make = async (what: PackageKind) => {
    const own = new AbortController();
    stopper.current = own;
    const wakeLooking = restLooking();
    let wakePreviews: (() => void) | undefined;
    setState({ kind: 'making', done: 0, all: 0 });
    try {
      wakePreviews = await restPreviews();
      await settled();
      if (!(await untilKept()))
        return setState({ kind: 'failed', reason: 'The server does not answer, so not everything is saved yet. Nothing was handed over.' });
      const { file, fileName } = await fetchPackage(project.id, what, (done, all) => setState({ kind: 'making', done, all }), own.signal);
      saveBlob(file, fileName);
      setState({ kind: 'saved', fileName, sizeBytes: file.size });
    } catch (error) {
      if (own.signal.aborted) return setState(null);
      const reason = error instanceof Error && error.message !== '' ? error.message : 'the server does not answer';
      setState({ kind: 'failed', reason: `It could not be made: ${reason}. Nothing was saved.` });
    } finally {
      wakeLooking();
      wakePreviews?.();
    }
  };
  return (
    <section className="space-y-2 border-line border-t pt-4" aria-label="The whole project">
      <h2 className="font-bold">The whole project, in one file</h2>
      <p className="text-soft text-xs">
        A ZIP of plain files with every drawing, recording, clip and receipt, as it is at this moment; or the drawings alone, in a folder a
        level, with tables anyone can read. Either is brought in again from the shelf, here or on another machine.
      </p>
      <label className="flex min-h-6 items-center gap-2 text-xs">
        <input type="checkbox" className="size-4 accent-ink" checked={withPast} onChange={(event) => setWithPast(event.target.checked)} />
        The package with every change it was made by
      </label>
      {state?.kind === 'making' ? (
        <div className="flex items-center gap-2 text-xs">
          <span className="numbers">{state.all === 0 ? 'Being made …' : `${bytesText(state.done)} of about ${bytesText(state.all)}`}</span>
          <Button onClick={() => stopper.current?.abort()}>{STOP}</Button>
        </div>
      ) : (
        <div className="flex flex-wrap gap-1.5">
          <Button onClick={() => void make(withPast ? 'package?journal=1' : 'package')}>Save as a package</Button>
          <Button onClick={() => void make('drawings')}>Drawings alone, with their exposures</Button>
        </div>
      )}
      <p aria-live="polite" className="text-xs empty:hidden">
        {state?.kind === 'saved' && (
          <>
            <span className="numbers break-all">{state.fileName}</span> <span className="text-moss">saved,</span>{' '}
            {bytesText(state.sizeBytes)}.
          </>
        )}
        {state?.kind === 'failed' && <span className="text-rust">{state.reason}</span>}
      </p>
    </section>
  );
}
