import type { Project, Shot, ShotId } from '@/core/document/model';
import type { Sound } from '@/core/document/sound';
import { type Edit, editOf } from '@/core/edit/edit';
import { done, type Outcome, refused } from '@/core/outcome';
import { framesOfReel, shotAt } from '@/core/reel/reel';
import type { ReelSound } from '@/core/reel/sounds';

/** A sound taken from where it belongs and given to a shot, or to the reel when `toShot` is null. */
function rehomed(project: Project, sound: Sound, fromShot: Shot | null, toShot: Shot | null, startFrame: number, says: string) {
  const idOf = (shot: Shot | null): ShotId | null => shot?.id ?? null;
  const there = toShot?.sounds ?? project.reel.sounds;
  const owner = toShot ? `shot ${toShot.code}` : 'the reel';
  return editOf(
    [
      { type: 'removeSound', shotId: idOf(fromShot), soundId: sound.id },
      { type: 'addSound', shotId: idOf(toShot), sound: { ...sound, startFrame }, index: there.length },
    ],
    `${sound.name} to ${owner}`,
    says,
  );
}

/**
 * Starts a sound on another frame of the reel (from 0). One of the reel starts there; one of a shot belongs to the shot that
 * frame is of. Refuses frames outside the reel, and for one of a shot those of a gap.
 */
export function placeOnReel(project: Project, heard: Pick<ReelSound, 'whole' | 'shot'>, reelFrame: number): Outcome<Edit> {
  const { whole: sound, shot } = heard;
  const { firstFrameNumber: firstNumber } = project;
  if (reelFrame < 0 || reelFrame >= framesOfReel(project)) return refused(`${sound.name} starts on one of the reel’s frames.`);
  const onReel = `frame ${reelFrame + firstNumber} of the reel`;
  if (!shot)
    return done({
      step: { type: 'changeSound', shotId: null, soundId: sound.id, change: { startFrame: reelFrame } },
      says: `${sound.name} starts on ${onReel}`,
    });
  const there = shotAt(project, reelFrame);
  if (!there)
    return refused(`There is a gap on ${onReel}, and no shot that ${sound.name} could move with: pin it to the reel to start it there.`);
  const startFrame = reelFrame - there.startFrame + there.fromFrame;
  const says = `${sound.name} starts on frame ${startFrame + firstNumber} of shot ${there.shot.code}, ${reelFrame + firstNumber} of the reel`;
  if (there.shot.id === shot.id)
    return done({ step: { type: 'changeSound', shotId: shot.id, soundId: sound.id, change: { startFrame } }, says });
  return rehomed(project, sound, shot, there.shot, startFrame, says);
}

/** Makes a sound of a shot one of the reel: it stays on the reel's frame it starts on, whatever the shot does. */
export function pinToReel(project: Project, { whole: sound, shot, startFrame, cutFrames }: ReelSound): Outcome<Edit> {
  if (!shot) return refused(`${sound.name} is pinned to the reel already.`);
  const start = startFrame - cutFrames;
  if (start < 0) return refused(`${sound.name} would start before the reel does: trim its start first.`);
  const frame = start + project.firstFrameNumber;
  return rehomed(project, sound, shot, null, start, `${sound.name} stays on frame ${frame} of the reel when shot ${shot.code} moves`);
}

/** Makes a sound of the reel one of the shot that is on where it starts: it moves with that shot from now on. */
export function giveToShot(project: Project, { whole: sound, shot, startFrame }: ReelSound): Outcome<Edit> {
  if (shot) return refused(`${sound.name} belongs to shot ${shot.code} already.`);
  const there = shotAt(project, startFrame);
  if (!there) return refused(`No shot is on where ${sound.name} starts: there is none it could move with.`);
  const { shot: owner } = there;
  const frame = startFrame - there.startFrame + there.fromFrame;
  const says = `${sound.name} starts on frame ${frame + project.firstFrameNumber} of shot ${owner.code} and moves with it`;
  return rehomed(project, sound, null, owner, frame, says);
}
