import { useEffect } from 'react';
import { z } from 'zod';
import { create } from 'zustand';
import { type RateMove, rateMoveOf } from '@/core/check/movedCut';
import type { Project, ProjectId } from '@/core/document/model';
import { sameRate } from '@/core/time/rate';
import { useProjectStore, whenClosed } from '@/features/sync/projectStore';

/*
 * What the last change of the film's rate did to the cuts. The document holds one rate and no memory of another, so this
 * browser keeps it, from the change on, made here or come from another window; what can't be read is as if nothing were known.
 */

const VERSION = 1;
const keyOf = (projectId: ProjectId) => `lime-tick-rate ${projectId}`;

const whole = z.number().int();
const rate = z.object({ num: whole.positive(), den: whole.positive() });
const keptSchema = z.object({
  version: z.literal(VERSION),
  rateMove: z
    .object({ from: rate, to: rate, cuts: z.array(z.object({ itemId: z.string(), oldFrame: whole, newFrame: whole })) })
    .nullable(),
});

export const useRateMoveStore = create<{ readonly rateMove: RateMove | null }>(() => ({ rateMove: null }));

whenClosed(() => useRateMoveStore.setState({ rateMove: null }));

function readKept(projectId: ProjectId): RateMove | null {
  try {
    return keptSchema.safeParse(JSON.parse(localStorage.getItem(keyOf(projectId)) ?? 'null')).data?.rateMove ?? null;
  } catch {
    return null;
  }
}

function keep(projectId: ProjectId, rateMove: RateMove | null): void {
  useRateMoveStore.setState({ rateMove });
  try {
    localStorage.setItem(keyOf(projectId), JSON.stringify({ version: VERSION, rateMove }));
  } catch {
    // A browser that keeps nothing for this page knows it until the page is left.
  }
}

/** Notes what a change of the rate of the open project does to its cuts. */
export function useRateMoves({ id }: Project): void {
  useEffect(() => {
    useRateMoveStore.setState({ rateMove: readKept(id) });
    return useProjectStore.subscribe(({ project: now }, { project: before }) => {
      if (!now || before?.id !== now.id || now.id !== id || sameRate(before.rate, now.rate)) return;
      keep(id, rateMoveOf(before, now, useRateMoveStore.getState().rateMove));
    });
  }, [id]);
}
