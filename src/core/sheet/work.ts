import type { Drawing, Exposure, Level, Project, Shot } from '@/core/document/model';
import { remembered, rememberedUnder } from '@/core/remembered';
import { nominalRate } from '@/core/time/rate';

/** Drawings of a level, shot or project: how many there are to make, how many have a picture. */
export type Work = { readonly drawings: number; readonly drawn: number };

export const addWork = (a: Work, b: Work): Work => ({ drawings: a.drawings + b.drawings, drawn: a.drawn + b.drawn });
export const NO_WORK: Work = { drawings: 0, drawn: 0 };

/** The work on one level; guides are material, not work. */
export const workOfLevel = (level: Level): Work => (level.kind === 'guide' ? NO_WORK : workOfDrawings(level.drawings));

/** While exposures change, drawings stay. */
const workOfDrawings = remembered(
  (drawings: readonly Drawing[]): Work => ({
    drawings: drawings.length,
    drawn: drawings.filter((drawing) => drawing.picture !== null).length,
  }),
);

/** The work in one shot. */
export const workOfShot = (shot: Shot): Work => shot.levels.map(workOfLevel).reduce(addWork, NO_WORK);

/** The work in a project. */
export const workOfProject = (project: Project): Work => project.shots.map(workOfShot).reduce(addWork, NO_WORK);

/** Frames of a shot's animated levels by how long their drawings stand; `holds` are longer than a third of a second. */
export type TimingShare = {
  readonly ones: number;
  readonly twos: number;
  readonly threes: number;
  readonly longer: number;
  readonly holds: number;
};

/** Counts exposed frames by exposure length over all animated levels of shots. */
export function timingShare(shots: readonly Shot[], rate: Project['rate']): TimingShare {
  const holdFrames = nominalRate(rate) / 3;
  const shares = shots
    .flatMap((shot) => shot.levels)
    .filter(({ kind }) => kind === 'animated')
    .map(({ exposures }) => shareUnder(exposures, holdFrames, () => shareOf(exposures, holdFrames)));
  const sum = (of: keyof TimingShare) => shares.reduce((all, share) => all + share[of], 0);
  return { ones: sum('ones'), twos: sum('twos'), threes: sum('threes'), longer: sum('longer'), holds: sum('holds') };
}

/** While one level is changed, the others are as they were. */
const shareUnder = rememberedUnder<readonly Exposure[], number, TimingShare>();

function shareOf(exposures: readonly Exposure[], holdFrames: number): TimingShare {
  const share = { ones: 0, twos: 0, threes: 0, longer: 0, holds: 0 };
  for (const run of exposures) {
    if (run.drawing === null) continue;
    if (run.frames > holdFrames) share.holds += run.frames;
    else if (run.frames === 1) share.ones += 1;
    else if (run.frames === 2) share.twos += 2;
    else if (run.frames === 3) share.threes += 3;
    else share.longer += run.frames;
  }
  return share;
}
