'use client';
import { useEffect, useState } from 'react';
import type { FreedStore } from '@/contracts/keep';
import { bytesText } from '@/core/bytes';
import { plural } from '@/core/time/counts';
import { reasonOf } from '@/features/sync/reasonOf';
import { fetchFreeable, freeStore } from '@/features/sync/shelfApi';
import { Button } from '@/ui/Button';

type State =
  | { readonly kind: 'looking' | 'freeing' }
  | { readonly kind: 'found' | 'freed'; readonly what: FreedStore }
  | { readonly kind: 'failed'; readonly reason: string };

const whatWords = ({ pictures, originals }: FreedStore): string =>
  [
    ...(pictures > 0 ? [plural(pictures, 'picture')] : []),
    ...(originals > 0 ? [`${plural(originals, 'file')} that ${originals === 1 ? 'was' : 'were'} brought in`] : []),
  ].join(' and ');

/** What nothing names any more, and freeing it. */
export function FreePanel({ onFreed }: { onFreed: () => void }) {
  const [state, setState] = useState<State>({ kind: 'looking' });
  const failed = (error: unknown) => setState({ kind: 'failed', reason: reasonOf(error) });
  // biome-ignore lint/correctness/useExhaustiveDependencies: it is looked once
  useEffect(() => {
    fetchFreeable().then((what) => setState({ kind: 'found', what }), failed);
  }, []);
  const free = () => {
    setState({ kind: 'freeing' });
    freeStore().then((what) => {
      setState({ kind: 'freed', what });
      onFreed();
    }, failed);
  };
  const isNothing = state.kind === 'found' && state.what.pictures + state.what.originals === 0;
  return (
    <section className="panel p-4" aria-labelledby="free">
      <h2 id="free" className="font-bold font-head text-lg">
        What can be freed
      </h2>
      <p className="mt-1 text-soft text-xs">
        Pictures and files that no drawing, no change of the past and nothing that could be undone names. What is less than a day old is
        kept; by itself the rest is freed after thirty days.
      </p>
      <div className="mt-2 flex min-h-8 items-center gap-3 text-sm" aria-live="polite">
        {state.kind === 'looking' && <p>Looking through every change of every project …</p>}
        {state.kind === 'freeing' && <p>Freeing …</p>}
        {state.kind === 'failed' && <p className="text-rust">{state.reason}</p>}
        {isNothing && <p>Nothing: all that is there is named.</p>}
        {state.kind === 'found' && !isNothing && (
          <>
            <p className="numbers">
              {whatWords(state.what)}: {bytesText(state.what.bytes)}
            </p>
            <Button onClick={free}>Free it</Button>
          </>
        )}
        {state.kind === 'freed' && (
          <p className="numbers">
            {bytesText(state.what.bytes)} are free for what comes next
            {state.what.pictures + state.what.originals > 0 && `: ${whatWords(state.what)}`}.
          </p>
        )}
      </div>
    </section>
  );
}
