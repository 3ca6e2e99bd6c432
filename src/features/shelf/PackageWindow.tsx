'use client';
import { useRouter } from 'next/navigation';
import { useEffect, useRef, useState } from 'react';
import type { CheckedPackage } from '@/contracts/package';
import { countText, plural } from '@/core/time/counts';
import { CANCEL, STOP } from '@/core/words';
import { checkPackage, dropPackage, takePackage } from '@/features/sync/packages';
import { reasonOf } from '@/features/sync/reasonOf';
import { Button } from '@/ui/Button';
import { Dialog } from '@/ui/Dialog';

type State =
  | { readonly kind: 'sending' }
  | { readonly kind: 'working'; readonly words: string; readonly done: number; readonly all: number }
  | { readonly kind: 'checked'; readonly found: CheckedPackage }
  | { readonly kind: 'refused'; readonly reason: string };

/** What a package holds, in words. */
const heldWords = ({ shots, frames, pictures, originals, changes }: CheckedPackage): string =>
  [
    plural(shots, 'shot'),
    plural(frames, 'frame'),
    plural(pictures, 'picture'),
    ...(originals > 0 ? [`${plural(originals, 'file')} that ${originals === 1 ? 'was' : 'were'} brought in`] : []),
    ...(changes > 0 ? [`${plural(changes, 'change')} it was made by`] : []),
  ].join(', ');

const MOST_SAID = 8;

function Found({ found }: { found: CheckedPackage }) {
  const { differs, missing } = found;
  return (
    <div className="mt-3 space-y-2">
      <p>
        <b>{found.title}</b>: {heldWords(found)}. Every one of them is what its name says.
      </p>
      {missing > 0 && (
        <p className="text-rust">
          {plural(missing, 'file')} it names {missing === 1 ? 'was' : 'were'} missing where it was made.
        </p>
      )}
      {differs && (
        <div className="rounded-lg bg-sunk p-3 text-xs">
          <p className="font-semibold">
            {differs.length === 0 ? 'The project on your shelf is just the same.' : 'This project is on your shelf already, and differs:'}
          </p>
          <ul className="mt-1 list-disc pl-4">
            {differs.slice(0, MOST_SAID).map((sentence) => (
              <li key={sentence}>{sentence}</li>
            ))}
            {differs.length > MOST_SAID && <li>and {countText(differs.length - MOST_SAID)} more</li>}
          </ul>
          <p className="mt-1 text-soft">Brought in, it stands beside that one: nothing on the shelf is changed.</p>
        </div>
      )}
    </div>
  );
}

/** A package that was chosen: it is checked whole, what it holds is said, and then it is brought in or not. */
export function PackageWindow({ file, onClose }: { file: File; onClose: () => void }) {
  const router = useRouter();
  const stopper = useRef<AbortController | null>(null);
  const [state, setState] = useState<State>({ kind: 'sending' });

  const working = (words: string) => (done: number, all: number) => setState({ kind: 'working', words, done, all });
  const failed = (own: AbortController) => (error: unknown) => {
    if (own.signal.aborted) return;
    setState({
      kind: 'refused',
      reason: reasonOf(error, 'The server does not answer. Nothing was changed.'),
    });
  };
  const begin = (next: State): AbortController => {
    const own = new AbortController();
    stopper.current = own;
    setState(next);
    return own;
  };
  const bring = ({ token }: CheckedPackage) => {
    const own = begin({ kind: 'working', words: 'Bringing in', done: 0, all: 1 });
    takePackage(token, working('Bringing in'), own.signal).then((taken) => {
      if (taken.ok) router.push(`/projects/${taken.value}/plan`);
      else setState({ kind: 'refused', reason: taken.reason });
    }, failed(own));
  };
  const close = () => {
    stopper.current?.abort();
    if (state.kind === 'checked') void dropPackage(state.found.token);
    onClose();
  };

  // biome-ignore lint/correctness/useExhaustiveDependencies: one file that was chosen is checked once
  useEffect(() => {
    const own = begin({ kind: 'sending' });
    checkPackage(file, working('Checking'), own.signal).then(
      (found) => setState(found.ok ? { kind: 'checked', found: found.value } : { kind: 'refused', reason: found.reason }),
      failed(own),
    );
    return () => own.abort();
  }, [file]);

  return (
    <Dialog
      title="Bring in a package"
      about="A whole project in one file, or drawings with their exposures. All of it is checked before anything is written."
      open
      onOpenChange={(open) => !open && close()}
    >
      <div aria-live="polite">
        {state.kind === 'sending' && <p className="mt-3">Being received …</p>}
        {state.kind === 'working' && (
          <p className="numbers mt-3">
            {state.words}: {countText(state.done)} of {countText(state.all)}
          </p>
        )}
        {state.kind === 'checked' && <Found found={state.found} />}
        {state.kind === 'refused' && <p className="mt-3 text-rust">{state.reason}</p>}
      </div>
      <div className="mt-4 flex justify-end gap-2">
        <Button onClick={close}>{state.kind === 'working' || state.kind === 'sending' ? STOP : CANCEL}</Button>
        {state.kind === 'checked' && (
          <Button kind="go" onClick={() => bring(state.found)}>
            Bring in as a project
          </Button>
        )}
      </div>
    </Dialog>
  );
}
