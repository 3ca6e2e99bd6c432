import { type Project, type Shot, shotById } from '@/core/document/model';

/* What an address says beside the project and the stage: which shot is open, and on which frame; so that a reload, and a link that is sent, shows the same. */

/** A shot by its code, where no other has that one; else by its id. */
const nameOf = ({ shots }: Project, shot: Shot): string =>
  shots.filter(({ code }) => code === shot.code).length === 1 ? shot.code : shot.id;

/** The part of an address behind the stage for a frame (from 0) of a shot: `?shot=020&frame=28`, the frame by the number it is shown with. */
export const searchOf = (project: Project, shot: Shot, frame: number): string =>
  `?${new URLSearchParams({ shot: nameOf(project, shot), frame: String(frame + project.firstFrameNumber) })}`;

/** The shot and frame (from 0, within the shot) that an address says; null where it says none that is there. */
export function viewIn(search: string, project: Project): { readonly shotId: string; readonly frame: number } | null {
  const said = new URLSearchParams(search);
  const name = said.get('shot');
  if (name === null) return null;
  const shot = project.shots.find(({ code }) => code === name) ?? shotById(project, name);
  if (!shot) return null;
  const number = /^\d{1,9}$/.test(said.get('frame') ?? '') ? Number(said.get('frame')) - project.firstFrameNumber : 0;
  return { shotId: shot.id, frame: Math.max(0, Math.min(number, shot.frames - 1)) };
}
