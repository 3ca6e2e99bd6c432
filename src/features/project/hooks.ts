import type { Level, Project, Shot, Size } from '@/core/document/model';
import { levelById, shotById } from '@/core/document/model';
import { shotsInOrder } from '@/core/reel/reel';
import { useViewStore } from '@/features/project/viewStore';
import { useProjectStore } from '@/features/sync/projectStore';

/** The open project; only within pages that show one. */
export function useProject(): Project {
  const project = useProjectStore((state) => state.project);
  if (!project) throw new Error('No project is open here.');
  return project;
}

/** The size of its pictures; whoever asks is not drawn anew by anything else. */
export function useSize(): Size {
  const size = useProjectStore(({ project }) => project?.size);
  if (!size) throw new Error('No project is open here.');
  return size;
}

/** The shot being worked on: the one chosen, else the first. */
export function shotInView(project: Project, shotId: string | null): Shot | undefined {
  return (shotId === null ? undefined : shotById(project, shotId)) ?? shotsInOrder(project)[0];
}

/** The level being worked on: the one chosen, else the topmost animated one. */
export function levelInView(shot: Shot, levelId: string | null): Level | undefined {
  return (
    (levelId === null ? undefined : levelById(shot, levelId)) ??
    shot.levels.findLast((level) => level.kind === 'animated') ??
    shot.levels.at(-1)
  );
}

/** The shot being worked on; undefined in a project without shots. */
export function useShot(): Shot | undefined {
  const shotId = useViewStore((state) => state.shotId);
  return useProjectStore((state) => (state.project ? shotInView(state.project, shotId) : undefined));
}

/** Something of the shot being worked on, undefined where there is none: whoever asks is drawn anew only by what changes that. */
export function useShotPart<T extends string | number | object>(partOf: (shot: Shot) => T): T | undefined {
  const shotId = useViewStore((state) => state.shotId);
  return useProjectStore((state) => {
    const shot = state.project ? shotInView(state.project, shotId) : undefined;
    return shot && partOf(shot);
  });
}

/** Whether there is a shot to be worked on; whoever asks is not drawn anew by what changes in it. */
export const useHasShot = (): boolean => useProjectStore(({ project }) => project !== null && project.shots.length > 0);

/** The level being worked on; undefined in a shot without levels. */
export function useLevel(): Level | undefined {
  const shot = useShot();
  const levelId = useViewStore((state) => state.levelId);
  return shot ? levelInView(shot, levelId) : undefined;
}

/** The current frame of the open shot, at most its last. Whoever asks is drawn anew with every step: that is for small parts of a stage. */
export const useFrameOf = (shot: Shot): number => useViewStore((state) => Math.min(state.frame, shot.frames - 1));

/** What is in view now, read once: for edits. */
export function inView(): { project: Project; shot: Shot; level: Level | undefined; frame: number } | null {
  const { project } = useProjectStore.getState();
  const { shotId, levelId, frame } = useViewStore.getState();
  const shot = project ? shotInView(project, shotId) : undefined;
  if (!project || !shot) return null;
  return { project, shot, level: levelInView(shot, levelId), frame: Math.min(frame, shot.frames - 1) };
}

/** The current frame, or −1 while playing: for what is too costly to draw anew with every frame. */
export const useStillFrame = (): number => useViewStore((state) => (state.playing ? -1 : state.frame));
