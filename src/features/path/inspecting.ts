import { useEffect } from 'react';
import { create } from 'zustand';
import { NO_FACTS, type PictureFacts } from '@/core/analysis/facts';
import type { FilmLookedAt } from '@/core/analysis/packedFilm';
import type { Digest, Level, Project } from '@/core/document/model';
import { shotsInOrder } from '@/core/reel/reel';
import { once } from '@/core/remembered';
import { planOfReel } from '@/core/render/renderPlan';
import { whenClosed } from '@/features/sync/projectStore';
import { inspectFilm, stopInspecting } from '@/workers/client';

/** What looking at the film's pictures told, how far it is, and whether somebody stopped it. */
type InspectionState = {
  readonly projectId: string | null;
  readonly facts: PictureFacts;
  /** Pictures looked at of all that are new; null when nothing is being looked at. */
  readonly progress: { readonly done: number; readonly all: number } | null;
  readonly isStopped: boolean;
  readonly failure: string | null;
};

const START: InspectionState = { projectId: null, facts: NO_FACTS, progress: null, isStopped: false, failure: null };

export const useInspectionStore = create<InspectionState>(() => START);
whenClosed(() => useInspectionStore.setState(START));

/** Pictures of a level in the order they first show; those never shown come last. */
function picturesOf(level: Level): readonly Digest[] {
  const byId = new Map(level.drawings.map((drawing) => [drawing.id, drawing.picture]));
  const inOrder = [...level.exposures.map((run) => (run.drawing === null ? null : byId.get(run.drawing))), ...byId.values()];
  return [...new Set(inOrder)].filter((picture): picture is Digest => typeof picture === 'string');
}

/** What there is to look at in a film. */
function filmOf(project: Project): FilmLookedAt {
  return {
    size: project.size,
    levels: shotsInOrder(project).flatMap((shot) => shot.levels.map(picturesOf)),
    plan: planOfReel(project),
  };
}

const sameNear = (a: PictureFacts, b: PictureFacts) =>
  a.near.size === b.near.size && a.troubles.size === b.troubles.size && [...a.near.keys()].every((key) => b.near.has(key));

/** Facts that say about pairs what the ones before said keep those very ones, so that no level is looked over again. */
const withSameFacts = (before: PictureFacts, now: PictureFacts): PictureFacts =>
  sameNear(before, now) ? { ...now, near: before.near, troubles: before.troubles.size === 0 ? before.troubles : now.troubles } : now;

/** How many things need the machine, so that looking rests; see `restLooking`. */
const useRestStore = create<{ readonly needs: number }>(() => ({ needs: 0 }));

/**
 * Has looking at pictures wait until what is returned is called: something is waited for that would have half the machine. What was
 * seen stays.
 */
export function restLooking(): () => void {
  useRestStore.setState(({ needs }) => ({ needs: needs + 1 }));
  return once(() => useRestStore.setState(({ needs }) => ({ needs: needs - 1 })));
}

/** Looking begins once nothing has been changed for this long: to say what there is to look at takes as long as a step under the hand may. */
const CALM_MILLISECONDS = 400;

/** Looks at whatever of a film is new, while `isWanted`; stopped by what is returned. */
export function useInspection(project: Project, isWanted: boolean): void {
  const isStopped = useInspectionStore((state) => state.isStopped);
  const isResting = useRestStore((state) => state.needs > 0);
  useEffect(() => {
    if (useInspectionStore.getState().projectId !== project.id) useInspectionStore.setState({ ...START, projectId: project.id });
    if (!isWanted || isStopped || isResting) return;
    let current = true;
    const told = (done: number, all: number) => current && useInspectionStore.setState({ progress: { done, all } });
    const take = (facts: PictureFacts | null, isAll: boolean) => {
      if (!current) return;
      useInspectionStore.setState((state) => ({
        facts: facts ? withSameFacts(state.facts, facts) : state.facts,
        progress: isAll ? null : state.progress,
        failure: null,
      }));
    };
    const look = async () => take(await inspectFilm(filmOf(project), told, (facts) => take(facts, false)), true);
    let isLooking = false;
    const timer = setTimeout(() => {
      isLooking = true;
      look().catch((error: unknown) => {
        if (!current) return;
        useInspectionStore.setState({ progress: null, failure: error instanceof Error ? error.message : 'it stopped unexpectedly' });
      });
    }, CALM_MILLISECONDS);
    return () => {
      current = false;
      clearTimeout(timer);
      if (!isLooking) return;
      // A worker that can't be started has nothing to stop, and what is asked of it next says why.
      stopInspecting().catch(() => undefined);
    };
  }, [project, isWanted, isStopped, isResting]);
}

/** Stops looking at pictures, or goes on with it. */
export const stopLooking = (isStopped: boolean): void => useInspectionStore.setState({ isStopped, progress: null });
