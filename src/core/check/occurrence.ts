import { once } from '@/core/remembered';
import type { PlacedRun } from '@/core/sheet/runs';

/*
 * A drawing may be shown again and again, and the same thing be found wrong each time. Which of its exposures is meant
 * is told by which of how many it is: what is fixed elsewhere changes neither, and where exposures of the drawing come
 * or go, nothing that was kept as intended is handed to another.
 */

/** What tells an exposure from others of its drawing, for ids: ` 2/3`; nothing for a drawing that is shown once. */
export function occurrencesOf(runs: readonly PlacedRun[]): (index: number) => string {
  // Most levels have nothing wrong with them, and need none of it.
  const counted = once(() => {
    const counts = new Map<string, number>();
    const places = runs.map(({ drawing }) => {
      if (drawing === null) return 0;
      const place = (counts.get(drawing) ?? 0) + 1;
      counts.set(drawing, place);
      return place;
    });
    return { counts, places };
  });
  return (index) => {
    const { counts, places } = counted();
    const all = counts.get(runs[index]?.drawing ?? '') ?? 1;
    return all === 1 ? '' : ` ${places[index]}/${all}`;
  };
}
