import { FIRST_CHECKS } from '@/core/document/checks';
import { DOCUMENT_VERSION, type Project, wholeShot } from '@/core/document/model';

/** What a project is started with; without a palette or checks it has none yet and the first ones. */
export type ProjectStart = Pick<Project, 'id' | 'title' | 'rate' | 'size' | 'firstFrameNumber' | 'shots'> &
  Partial<Pick<Project, 'palette' | 'checks' | 'finish'>>;

/** A project of the given shots, which lie on the reel whole and in their order. */
export const newProject = (start: ProjectStart): Project => ({
  version: DOCUMENT_VERSION,
  palette: [],
  checks: FIRST_CHECKS,
  finish: [],
  ...start,
  reel: { items: start.shots.map((shot) => wholeShot(shot.id)), sounds: [] },
});
