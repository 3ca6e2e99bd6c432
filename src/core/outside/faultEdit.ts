import type { Edit, EditContext } from '@/core/edit/edit';
import { cutFrames, insertFrames } from '@/core/edit/frameEdits';
import { type Outcome, refused } from '@/core/outcome';
import type { Fault } from '@/core/outside/faults';
import { plural } from '@/core/time/counts';

/** Where a frame of a plan stands: the shot with what it takes to change it, the frame in it (from 0), and whether the reel shows it whole. */
export type FaultPlace = { readonly context: EditContext; readonly frame: number; readonly isWhole: boolean };

/** Whether a sheet can be made like a file in a fault: timing can be taken over, pictures can't. */
export const isFaultOfTiming = ({ kind }: Fault): boolean => kind === 'twice' || kind === 'missing';

/** What taking a fault of timing over does, as short as a button has room for. */
export const faultEditWords = ({ kind, frames }: Fault): string =>
  kind === 'twice' ? `Hold it ${plural(frames, 'frame')} longer in the plan` : `Cut ${plural(frames, 'frame')} from the plan`;

/**
 * Makes the sheet like a file that was held against it: what the file holds longer is held as long in the whole shot, what it lacks is
 * cut from it, and the shot's length follows. Refused where the shot is not whole on the reel, since its trim would hide that.
 */
export function editOfFault({ context, frame, isWhole }: FaultPlace, fault: Fault): Outcome<Edit> {
  if (!isFaultOfTiming(fault)) return refused('The file shows another picture there: a sheet has only its own drawings.');
  const { shot } = context;
  if (!isWhole) return refused(`Shot ${shot.code} is trimmed on the reel: show it whole first, then its frames are those of the file.`);
  if (fault.kind === 'twice') return insertFrames(context, 'shot', frame + 1, fault.frames, 'hold', true);
  if (frame + fault.frames > shot.frames) return refused(`What is missing goes on past the end of shot ${shot.code}: cut it shot by shot.`);
  return cutFrames(context, 'shot', frame, frame + fault.frames - 1, true);
}
