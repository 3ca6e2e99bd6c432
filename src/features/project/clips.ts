import { useEffect } from 'react';
import { create } from 'zustand';
import type { ClipFacts } from '@/core/analysis/facts';
import type { Project } from '@/core/document/model';
import { hasOriginal } from '@/features/sync/api';
import { whenClosed } from '@/features/sync/projectStore';
import { serverRetryer } from '@/features/sync/server';

/** Which originals of clips are in the store, as far as it has been asked. */
export const useClipStore = create<{ readonly facts: ClipFacts }>(() => ({ facts: new Map() }));

whenClosed(() => useClipStore.setState({ facts: new Map() }));

/** Asks the store for the originals of a project's clips, one after another, so that one that is gone is told. */
export function useClipsThere(project: Project): void {
  const wanted = [...new Set(project.reel.items.flatMap((item) => (item.kind === 'clip' ? item.clip.original : [])))].join(' ');
  useEffect(() => {
    let current = true;
    const ask = async () => {
      const left = wanted === '' ? [] : wanted.split(' ').filter((original) => useClipStore.getState().facts.get(original) !== 'there');
      while (left.length > 0 && current) {
        const original = left[0] as string;
        try {
          const fact = (await hasOriginal(original)) ? 'there' : 'missing';
          useClipStore.setState(({ facts }) => ({ facts: new Map(facts).set(original, fact) }));
          left.shift();
        } catch {
          await serverRetryer.wait();
        }
      }
    };
    void ask();
    return () => {
      current = false;
    };
  }, [wanted]);
}
