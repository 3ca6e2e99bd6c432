import equal from 'fast-deep-equal';
import type { Level, Project, Reel, ReelItem, Shot } from '@/core/document/model';
import { findDrawing, findLevel, findShot } from '@/core/edit/locate';
import { checkTrim, sameTrim } from '@/core/edit/reelSteps';
import type { StepRules } from '@/core/edit/rule';
import type { ItemTiming, ShotTiming, StepOf } from '@/core/edit/step';
import { done, mustBeDone, type Outcome, refused } from '@/core/outcome';
import { framesOfRuns, sameRuns, tidyRuns } from '@/core/sheet/runs';
import { checkLength, LONGEST_SHOT_FRAMES } from '@/core/time/counts';
import { makeRate, sameRate } from '@/core/time/rate';

function timedLevel(level: Level, exposures: Level['exposures']): Outcome<Level> {
  if (level.kind === 'still')
    return refused(`${level.name} is a still level: it shows its drawing for the whole shot and has no exposures.`);
  for (const run of exposures) {
    if (run.drawing === null) continue;
    const drawing = findDrawing(level, run.drawing);
    if (!drawing.ok) return drawing;
  }
  const frames = framesOfRuns(exposures);
  if (frames > LONGEST_SHOT_FRAMES) return refused(`${level.name} would run ${frames} frames; the most is ${LONGEST_SHOT_FRAMES}.`);
  return done(sameRuns(level.exposures, exposures) ? level : { ...level, exposures: tidyRuns(exposures) });
}

function timedShot(project: Project, timing: ShotTiming): Outcome<Shot> {
  const found = findShot(project, timing.shotId);
  if (!found.ok) return found;
  const shot = found.value;
  const length = checkLength(timing.frames);
  if (!length.ok) return length;
  if (new Set(timing.notes.map((note) => `${note.kind} ${note.frame}`)).size < timing.notes.length)
    return refused('A frame has one note, one word and one accent at most.');
  const levels = new Map<string, Level>();
  for (const { levelId, exposures } of timing.levels) {
    const level = findLevel(project, shot.id, levelId);
    if (!level.ok) return level;
    const timed = timedLevel(level.value.level, exposures);
    if (!timed.ok) return timed;
    levels.set(levelId, timed.value);
  }
  const starts = new Map(timing.sounds.map(({ soundId, startFrame }) => [soundId, startFrame]));
  const missing = timing.sounds.find(({ soundId }) => !shot.sounds.some((sound) => sound.id === soundId));
  if (missing) return refused('A sound that was to keep its time is no longer there.');
  return done({
    ...shot,
    frames: timing.frames,
    notes: timing.notes,
    levels: shot.levels.map((level) => levels.get(level.id) ?? level),
    sounds: shot.sounds.map((sound) => {
      const startFrame = starts.get(sound.id) ?? sound.startFrame;
      return startFrame === sound.startFrame ? sound : { ...sound, startFrame };
    }),
  });
}

function timedItem(item: ReelItem, { trim, frames }: ItemTiming): Outcome<ReelItem> {
  if (item.kind === 'gap') {
    const length = checkLength(frames ?? item.frames);
    return length.ok ? done(length.value === item.frames ? item : { ...item, frames: length.value }) : length;
  }
  const checked = checkTrim(trim === undefined ? item.trim : trim);
  if (!checked.ok) return checked;
  return done(sameTrim(item.trim, checked.value) ? item : { ...item, trim: checked.value });
}

type ReelTiming = Pick<StepOf<'setTiming'>, 'items' | 'reelSounds'>;

function timedReel({ reel }: Project, { items, reelSounds }: ReelTiming): Outcome<Reel> {
  const byId = new Map(items.map((timing) => [timing.itemId, timing]));
  const starts = new Map(reelSounds.map(({ soundId, startFrame }) => [soundId, startFrame]));
  const timed: ReelItem[] = [];
  for (const item of reel.items) {
    const timing = byId.get(item.id);
    const next = timing ? timedItem(item, timing) : done(item);
    if (!next.ok) return next;
    byId.delete(item.id);
    timed.push(next.value);
  }
  const sounds = reel.sounds.map((sound) => {
    const startFrame = starts.get(sound.id) ?? sound.startFrame;
    starts.delete(sound.id);
    return startFrame === sound.startFrame ? sound : { ...sound, startFrame };
  });
  return byId.size + starts.size > 0
    ? refused('Something on the reel that was to keep its time is no longer there.')
    : done({ items: timed, sounds });
}

/** The counts of the reel, of the items and sounds that a timing names. */
function countsOfReel({ reel }: Project, { items, reelSounds }: ReelTiming): ReelTiming {
  const named = new Set(items.map(({ itemId }) => itemId));
  const heard = new Set(reelSounds.map(({ soundId }) => soundId));
  return {
    items: reel.items
      .filter((item) => named.has(item.id))
      .map((item) => (item.kind === 'gap' ? { itemId: item.id, frames: item.frames } : { itemId: item.id, trim: item.trim })),
    reelSounds: reel.sounds.filter(({ id }) => heard.has(id)).map(({ id, startFrame }) => ({ soundId: id, startFrame })),
  };
}

/** The counts a shot has, of the levels and sounds that a timing names. */
const countsOf = (shot: Shot, { levels, sounds }: ShotTiming): ShotTiming => ({
  shotId: shot.id,
  frames: shot.frames,
  notes: shot.notes,
  sounds: shot.sounds.flatMap(({ id, startFrame }) => (sounds.some(({ soundId }) => soundId === id) ? [{ soundId: id, startFrame }] : [])),
  levels: shot.levels.flatMap(({ id, exposures }) => (levels.some(({ levelId }) => levelId === id) ? [{ levelId: id, exposures }] : [])),
});

/** What is counted in frames in a shot, whole. */
const allCounts = (shot: Shot) => ({
  frames: shot.frames,
  notes: shot.notes,
  sounds: shot.sounds.map(({ id, startFrame }) => [id, startFrame]),
  levels: shot.levels.filter((level) => level.kind !== 'still').map(({ id, exposures }) => [id, exposures]),
});

/** The step that sets a whole film's counts at once: as one, however many shots and levels there are. */
export const timingSteps: StepRules<'setTiming'> = {
  setTiming: {
    apply(project, { rate, shots, ...timing }) {
      const checked = makeRate(rate.num, rate.den);
      if (!checked.ok) return checked;
      const reel = timedReel(project, timing);
      if (!reel.ok) return reel;
      const timed = new Map<string, Shot>();
      for (const timing of shots) {
        const shot = timedShot(project, timing);
        if (!shot.ok) return shot;
        timed.set(timing.shotId, shot.value);
      }
      const next = {
        ...project,
        rate: sameRate(project.rate, checked.value) ? project.rate : checked.value,
        shots: project.shots.map((shot) => timed.get(shot.id) ?? shot),
        reel: equal(reel.value, project.reel) ? project.reel : reel.value,
      };
      return done(equal(next, project) ? project : next);
    },
    invert: (before, { words, shots, ...timing }) => ({
      type: 'setTiming',
      words,
      rate: before.rate,
      shots: shots.map((each) => countsOf(mustBeDone(findShot(before, each.shotId)), each)),
      ...countsOfReel(before, timing),
    }),
    /** Counts that somebody changed meanwhile are not overwritten with what was worked out without them. */
    map({ from, to }, step) {
      const isThere = new Map(to.shots.map((shot) => [shot.id, shot]));
      const same =
        sameRate(from.rate, to.rate) &&
        equal(from.reel, to.reel) &&
        from.shots.length === to.shots.length &&
        from.shots.every((shot) => {
          const other = isThere.get(shot.id);
          return other !== undefined && (shot === other || equal(allCounts(shot), allCounts(other)));
        });
      return same ? done(step) : refused('Counts were changed meanwhile: change the rate again from here.');
    },
    expects: (before, { shots, ...timing }) => [
      before.rate,
      shots.map((each) => countsOf(mustBeDone(findShot(before, each.shotId)), each)),
      countsOfReel(before, timing),
    ],
  },
};
