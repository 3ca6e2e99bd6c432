import { drawingShownAt } from '@/core/sheet/reading';
import { inView } from '@/features/project/hooks';
import { askAtOnceFor } from '@/features/project/pictures';
import { useViewStore } from '@/features/project/viewStore';

/** Steps closer to each other pass over drawings on the way to another: those are not asked for before they are stopped at. */
const PASSED_MILLISECONDS = 100;

/**
 * Asks for the drawing that is stepped to at the very step, before the page is made anew for it: so that it is on its way meanwhile.
 * Whoever lays it on the paper then finds it coming. Returns what ends it.
 */
export function askAtOnce(): () => void {
  let steppedAt = Number.NEGATIVE_INFINITY;
  return useViewStore.subscribe((now, before) => {
    if (now.playing || (now.frame === before.frame && now.levelId === before.levelId && now.shotId === before.shotId)) return;
    const lastAt = steppedAt;
    steppedAt = performance.now();
    if (steppedAt - lastAt < PASSED_MILLISECONDS) return;
    const view = inView();
    const picture = view?.level && drawingShownAt(view.level, view.frame)?.picture;
    if (picture) askAtOnceFor(picture);
  });
}
