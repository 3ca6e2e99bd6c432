import type { Project, Shot, ShotId } from '@/core/document/model';
import { replaceById } from '@/core/document/model';
import { checkSound, type Sound, type SoundId } from '@/core/document/sound';
import { currentProperties, findShot, withProperties, withShot } from '@/core/edit/locate';
import { asItIs, checkSameRate, mapPlace, mapShotFrame, shotInBoth } from '@/core/edit/mapping';
import type { StepRules } from '@/core/edit/rule';
import { hasSound } from '@/core/edit/wholeness';
import { done, mustBeDone, type Outcome, refused } from '@/core/outcome';

function findSound(project: Project, shotId: ShotId, soundId: SoundId): Outcome<{ shot: Shot; sound: Sound }> {
  const shot = findShot(project, shotId);
  if (!shot.ok) return shot;
  const sound = shot.value.sounds.find((candidate) => candidate.id === soundId);
  return sound ? done({ shot: shot.value, sound }) : refused(`There is no sound ${soundId} in shot ${shot.value.code} any more.`);
}

/** Most sounds that start in one shot. */
const MOST_SOUNDS = 500;

const DESCRIBED = ['name', 'startFrame', 'fromSample', 'samples', 'gainDecibels', 'muted'] as const;

/** Steps on the sounds of a shot. */
export const soundSteps: StepRules<'addSound' | 'removeSound' | 'changeSound'> = {
  addSound: {
    apply(project, { shotId, sound, index }) {
      const shot = findShot(project, shotId);
      if (!shot.ok) return shot;
      const { sounds, code } = shot.value;
      if (hasSound(project, sound.id)) return refused(`${sound.name} is in the project already.`);
      if (sounds.length >= MOST_SOUNDS) return refused(`Shot ${code} has ${MOST_SOUNDS} sounds already, which is the most.`);
      if (index < 0 || index > sounds.length)
        return refused(`Place ${index + 1} among the sounds of shot ${code} doesn't exist: it has ${sounds.length}.`);
      const checked = checkSound(sound);
      if (!checked.ok) return checked;
      return done(withShot(project, shotId, (found) => ({ ...found, sounds: found.sounds.toSpliced(index, 0, sound) })));
    },
    invert: (_before, { shotId, sound }) => ({ type: 'removeSound', shotId, soundId: sound.id }),
    map(mapping, step) {
      const rate = checkSameRate(mapping, null);
      if (!rate.ok) return rate;
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
      return done(withShot(project, shotId, (shot) => ({ ...shot, sounds: shot.sounds.filter((sound) => sound.id !== soundId) })));
    },
    invert(before, { shotId, soundId }) {
      const { shot, sound } = mustBeDone(findSound(before, shotId, soundId));
      return { type: 'addSound', shotId, sound, index: shot.sounds.indexOf(sound) };
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
      return done(
        withShot(project, shotId, (shot) => {
          const sounds = replaceById(shot.sounds, soundId, () => checked.value);
          return sounds === shot.sounds ? shot : { ...shot, sounds };
        }),
      );
    },
    invert(before, { shotId, soundId, change }) {
      const { sound } = mustBeDone(findSound(before, shotId, soundId));
      return { type: 'changeSound', shotId, soundId, change: currentProperties(sound, DESCRIBED, change) };
    },
    map(mapping, step) {
      const rate = step.change.startFrame === undefined ? done(null) : checkSameRate(mapping, null);
      return rate.ok ? done(step) : rate;
    },
    expects: (before, { shotId, soundId, change }) =>
      currentProperties(mustBeDone(findSound(before, shotId, soundId)).sound, DESCRIBED, change),
  },
};
