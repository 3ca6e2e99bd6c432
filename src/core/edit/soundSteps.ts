import { type Project, replaceById, type ShotId } from '@/core/document/model';
import { checkSound, type Sound, type SoundId } from '@/core/document/sound';
import { currentProperties, findShot, withProperties, withShot } from '@/core/edit/locate';
import { asItIs, checkSameRate, mapPlace, mapShotFrame, shotInBoth } from '@/core/edit/mapping';
import type { StepRules } from '@/core/edit/rule';
import { hasSound } from '@/core/edit/wholeness';
import { done, mustBeDone, type Outcome, refused } from '@/core/outcome';

/** The sounds of a shot or of the reel, with what has them in words. */
function findSounds(project: Project, shotId: ShotId | null): Outcome<{ sounds: readonly Sound[]; owner: string }> {
  if (shotId === null) return done({ sounds: project.reel.sounds, owner: 'the reel' });
  const shot = findShot(project, shotId);
  return shot.ok ? done({ sounds: shot.value.sounds, owner: `shot ${shot.value.code}` }) : shot;
}

function findSound(project: Project, shotId: ShotId | null, soundId: SoundId): Outcome<{ sounds: readonly Sound[]; sound: Sound }> {
  const found = findSounds(project, shotId);
  if (!found.ok) return found;
  const sound = found.value.sounds.find((candidate) => candidate.id === soundId);
  return sound ? done({ sounds: found.value.sounds, sound }) : refused(`There is no sound ${soundId} in ${found.value.owner} any more.`);
}

function withSounds(project: Project, shotId: ShotId | null, change: (sounds: readonly Sound[]) => readonly Sound[]): Project {
  if (shotId !== null)
    return withShot(project, shotId, (shot) => {
      const sounds = change(shot.sounds);
      return sounds === shot.sounds ? shot : { ...shot, sounds };
    });
  const sounds = change(project.reel.sounds);
  return sounds === project.reel.sounds ? project : { ...project, reel: { ...project.reel, sounds } };
}

/** Most sounds that start in one shot, and most of the reel. */
const MOST_SOUNDS = 500;

const DESCRIBED = ['name', 'startFrame', 'fromSample', 'samples', 'gainDecibels', 'fadeInFrames', 'fadeOutFrames', 'muted'] as const;
const IN_FRAMES = ['startFrame', 'fadeInFrames', 'fadeOutFrames'] as const;

/** Steps on the sounds of a shot, or of the reel. */
export const soundSteps: StepRules<'addSound' | 'removeSound' | 'changeSound'> = {
  addSound: {
    apply(project, { shotId, sound, index }) {
      const found = findSounds(project, shotId);
      if (!found.ok) return found;
      const { sounds, owner } = found.value;
      if (hasSound(project, sound.id)) return refused(`${sound.name} is in the project already.`);
      if (sounds.length >= MOST_SOUNDS) return refused(`There are ${MOST_SOUNDS} sounds in ${owner} already, which is the most.`);
      if (index < 0 || index > sounds.length)
        return refused(`Place ${index + 1} among the sounds of ${owner} doesn't exist: there are ${sounds.length}.`);
      const checked = checkSound(sound);
      if (!checked.ok) return checked;
      return done(withSounds(project, shotId, (before) => before.toSpliced(index, 0, sound)));
    },
    invert: (_before, { shotId, sound }) => ({ type: 'removeSound', shotId, soundId: sound.id }),
    map(mapping, step) {
      const rate = checkSameRate(mapping, null);
      if (!rate.ok) return rate;
      if (step.shotId === null) {
        const { from, to } = mapping;
        return done({ ...step, index: mapPlace(from.reel.sounds, to.reel.sounds, step.index) });
      }
      const shot = shotInBoth(mapping, step.shotId);
      if (!shot) return done(step);
      const sound = { ...step.sound, startFrame: mapShotFrame(mapping, shot.from, step.sound.startFrame) };
      return done({ ...step, sound, index: mapPlace(shot.from.sounds, shot.to.sounds, step.index) });
    },
    expects: () => null,
  },
  removeSound: {
    apply(project, { shotId, soundId }) {
      const found = findSound(project, shotId, soundId);
      if (!found.ok) return found;
      return done(withSounds(project, shotId, (sounds) => sounds.filter((sound) => sound.id !== soundId)));
    },
    invert(before, { shotId, soundId }) {
      const { sounds, sound } = mustBeDone(findSound(before, shotId, soundId));
      return { type: 'addSound', shotId, sound, index: sounds.indexOf(sound) };
    },
    map: asItIs,
    expects: (before, { shotId, soundId }) => mustBeDone(findSound(before, shotId, soundId)).sound,
  },
  changeSound: {
    apply(project, { shotId, soundId, change }) {
      const found = findSound(project, shotId, soundId);
      if (!found.ok) return found;
      const checked = checkSound(withProperties<Sound>(found.value.sound, change));
      if (!checked.ok) return checked;
      return done(withSounds(project, shotId, (sounds) => replaceById(sounds, soundId, () => checked.value)));
    },
    invert(before, { shotId, soundId, change }) {
      const { sound } = mustBeDone(findSound(before, shotId, soundId));
      return { type: 'changeSound', shotId, soundId, change: currentProperties(sound, DESCRIBED, change) };
    },
    map(mapping, step) {
      const rate = IN_FRAMES.every((name) => step.change[name] === undefined) ? done(null) : checkSameRate(mapping, null);
      return rate.ok ? done(step) : rate;
    },
    expects: (before, { shotId, soundId, change }) =>
      currentProperties(mustBeDone(findSound(before, shotId, soundId)).sound, DESCRIBED, change),
  },
};
