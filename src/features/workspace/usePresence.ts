import { useEffect } from 'react';
import type { Where } from '@/contracts/people';
import { inView } from '@/features/project/hooks';
import { useViewStore } from '@/features/project/viewStore';
import { sayWhere, usePeople } from '@/features/sync/people';

/** Whoever steps through frames is told of once in a while. */
const SAYS_MILLISECONDS = 1000;
const AGAIN_MILLISECONDS = 20_000;

function whereNow(stage: string): Where {
  const view = inView();
  return { stage, shotId: view?.shot.id ?? null, frame: view?.frame ?? 0 };
}

/** Has others know where this window is, once its person has said who they are. */
export function usePresence(projectId: string, stage: string, isOpen: boolean): void {
  const isKnown = usePeople((state) => state.me !== null);
  const me = usePeople((state) => state.me);
  // biome-ignore lint/correctness/useExhaustiveDependencies: another name is said at once
  useEffect(() => {
    if (!isOpen || !isKnown) return;
    let timer: ReturnType<typeof setTimeout> | undefined;
    let said = '';
    const say = () => {
      timer = undefined;
      const where = whereNow(stage);
      const words = JSON.stringify(where);
      if (words === said) return;
      said = words;
      sayWhere(projectId, where);
    };
    const soon = () => {
      timer ??= setTimeout(say, SAYS_MILLISECONDS);
    };
    say();
    const again = setInterval(() => sayWhere(projectId, whereNow(stage)), AGAIN_MILLISECONDS);
    const forget = useViewStore.subscribe(soon);
    return () => {
      clearTimeout(timer);
      clearInterval(again);
      forget();
    };
  }, [projectId, stage, isOpen, isKnown, me]);
  // Going from one stage to another is no leaving: said at once after each other, the two could come the wrong way round.
  useEffect(() => {
    if (!isOpen) return;
    const leave = () => sayWhere(projectId, null);
    window.addEventListener('pagehide', leave);
    return () => {
      window.removeEventListener('pagehide', leave);
      leave();
    };
  }, [projectId, isOpen]);
}
