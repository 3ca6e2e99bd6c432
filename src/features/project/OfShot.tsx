import type { ReactNode } from 'react';
import type { Level, Shot } from '@/core/document/model';
import { useLevel, useShot } from '@/features/project/hooks';
import { useSoon } from '@/features/project/useCalm';

/*
 * Parts of a stage that are of the open shot: they alone are made anew when the shot changes, and not the whole stage. What they show
 * is best a function beside the stage, not one that is made with it.
 */

/** What is of the open shot. */
export function OfShot({ children }: { readonly children: (shot: Shot) => ReactNode }) {
  const shot = useShot();
  return shot ? children(shot) : null;
}

/** The same a moment after it changed, where what stands there may come later than the sheet; another shot comes at once. */
export function OfShotSoon({ children }: { readonly children: (shot: Shot) => ReactNode }) {
  const shot = useShot();
  const soon = useSoon(shot);
  const shown = soon?.id === shot?.id ? soon : shot;
  return shown ? children(shown) : null;
}

/** What is of the level that is worked on. */
export function OfLevel({ children }: { readonly children: (shot: Shot, level: Level) => ReactNode }) {
  const shot = useShot();
  const level = useLevel();
  return shot && level ? children(shot, level) : null;
}
