import type { Project, Shot } from '@/core/document/model';
import type { Sound } from '@/core/document/sound';
import { type Edit, editOf } from '@/core/edit/edit';
import { done, type Outcome, refused } from '@/core/outcome';
import { reelShotAt } from '@/core/reel/reel';

/**
 * Starts a sound on another frame of the reel (from 0), so that it belongs to the shot that frame is of. Refuses frames
 * outside the reel.
 */
export function placeOnReel(project: Project, shot: Shot, sound: Sound, reelFrame: number): Outcome<Edit> {
  const there = reelShotAt(project, reelFrame);
  if (!there) return refused(`${sound.name} starts on one of the reel’s frames.`);
  const startFrame = reelFrame - there.startFrame;
  const says = `${sound.name} starts on frame ${startFrame + project.firstFrameNumber} of shot ${there.shot.code}, ${reelFrame + project.firstFrameNumber} of the reel`;
  if (there.shot.id === shot.id)
    return done({ step: { type: 'changeSound', shotId: shot.id, soundId: sound.id, change: { startFrame } }, says });
  return editOf(
    [
      { type: 'removeSound', shotId: shot.id, soundId: sound.id },
      { type: 'addSound', shotId: there.shot.id, sound: { ...sound, startFrame }, index: there.shot.sounds.length },
    ],
    `${sound.name} to shot ${there.shot.code}`,
    says,
  );
}
