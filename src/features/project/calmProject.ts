'use client';
import { startTransition, useEffect, useState } from 'react';
import type { Project, Shot } from '@/core/document/model';
import { shotInView } from '@/features/project/hooks';
import { tellLater } from '@/features/project/tellLater';
import { CALM_MILLISECONDS } from '@/features/project/useCalm';
import { useViewStore } from '@/features/project/viewStore';
import { useProjectStore } from '@/features/sync/projectStore';

/*
 * The open project, and the shot being worked on, as they were when nothing had changed for a moment. Unlike `useCalm` of what
 * `useProject` gives, whoever asks is not drawn anew by every step in between: what is worked out from a whole film or shot stands
 * beside the sheet, and no key waits for it.
 */

const projectNow = (): Project => {
  const { project } = useProjectStore.getState();
  if (!project) throw new Error('No project is open here.');
  return project;
};

/** The open project and the shot being worked on in it. */
type InView = { readonly project: Project; readonly shot: Shot | undefined };

const inViewNow = (): InView => {
  const project = projectNow();
  return { project, shot: shotInView(project, useViewStore.getState().shotId) };
};

const sameView = (one: InView, other: InView): boolean => one.project === other.project && one.shot === other.shot;

/** Calls `tell` once what is read has been the same for a moment, after it was another; returns what ends it. */
function whenCalm<T>(read: () => T, isSame: (one: T, other: T) => boolean, tell: (value: T) => void): () => void {
  let last = read();
  let takeBack = () => {};
  const heard = () => {
    const value = useProjectStore.getState().project ? read() : last;
    if (isSame(value, last)) return;
    last = value;
    takeBack();
    takeBack = tellLater(() => tell(value), CALM_MILLISECONDS);
  };
  const ends = [useProjectStore.subscribe(heard), useViewStore.subscribe(heard)];
  // It may have changed between the first drawing and now.
  startTransition(() => tell(last));
  return () => {
    takeBack();
    for (const end of ends) end();
  };
}

function useWhenCalm<T>(read: () => T, isSame: (one: T, other: T) => boolean): T {
  const [calm, setCalm] = useState(read);
  useEffect(() => whenCalm(read, isSame, (now) => setCalm((before) => (isSame(before, now) ? before : now))), [read, isSame]);
  return calm;
}

/** The open project once nothing has changed for a moment; only within pages that show one. */
export const useCalmProject = (): Project => useWhenCalm(projectNow, Object.is);

/** The same with the shot being worked on, undefined in a project without shots. */
export const useCalmView = (): InView => useWhenCalm(inViewNow, sameView);
