import equal from 'fast-deep-equal';
import { drawingById, levelById, type Project, type ReelItem, type Shot, shotById, wholeShot } from '@/core/document/model';
import type { ItemOnReel, Step } from '@/core/edit/step';
import { done, type Outcome, refused } from '@/core/outcome';
import { nextDrawingNumber } from '@/core/sheet/reading';
import { sameRate } from '@/core/time/rate';

/*
 * What was, brought into what is: a drawing, a level, a shot, or everything. Each is one step on today's document, which is undone
 * as any other; what it replaces stays in the past.
 */

const SAME = 'It is today as it was then: there is nothing to take out.';

const together = (words: string, steps: readonly Step[]): Step => ({ type: 'together', words, steps });

/** A drawing's picture as it was; a drawing that is gone comes back under a number that is free. */
export function takeOutDrawing(then: Project, now: Project, shotId: string, levelId: string, drawingId: string): Outcome<Step> {
  const level = shotById(then, shotId) && levelById(shotById(then, shotId) as Shot, levelId);
  const drawing = level && drawingById(level, drawingId);
  if (!drawing) return refused('There was no such drawing then.');
  const todayShot = shotById(now, shotId);
  const today = todayShot && levelById(todayShot, levelId);
  if (!today) return refused('Its level is gone: take out the level, or the shot.');
  const on = { shotId, levelId };
  const todays = drawingById(today, drawingId);
  if (!todays) {
    const isFree = today.drawings.every(({ number }) => number !== drawing.number);
    return done({
      type: 'addDrawing',
      ...on,
      drawing: { ...drawing, number: isFree ? drawing.number : nextDrawingNumber(today) },
      index: today.drawings.length,
    });
  }
  if (todays.picture === drawing.picture) return refused(SAME);
  return done({ type: 'setPicture', ...on, drawingId, picture: drawing.picture });
}

/** A level as it was: its drawings and its column, in the place of today's. */
export function takeOutLevel(then: Project, now: Project, shotId: string, levelId: string): Outcome<Step> {
  const shot = shotById(then, shotId);
  const level = shot && levelById(shot, levelId);
  if (!level) return refused('There was no such level then.');
  const today = shotById(now, shotId);
  if (!today) return refused('Its shot is gone: take out the shot.');
  const place = today.levels.findIndex(({ id }) => id === levelId);
  const index = place >= 0 ? place : Math.min(shot.levels.indexOf(level), today.levels.length);
  if (place >= 0 && equal(today.levels[place], level)) return refused(SAME);
  const add: Step = { type: 'addLevel', shotId, level, index };
  return done(place < 0 ? add : together(`Level ${level.name} as it was`, [{ type: 'removeLevel', shotId, levelId }, add]));
}

/** A code no shot has: the wanted one, or that with a letter behind it. */
function freeCode(project: Project, code: string): string {
  const taken = new Set(project.shots.map((shot) => shot.code));
  let free = code;
  for (let letter = 0; taken.has(free); letter++)
    free = `${code}${String.fromCharCode(97 + (letter % 26)).repeat(1 + Math.floor(letter / 26))}`;
  return free;
}

const showing = (project: Project, shotId: string): readonly ItemOnReel[] =>
  project.reel.items.flatMap((item, index) => (item.kind === 'shot' && item.shotId === shotId ? [{ item, index }] : []));

/** A shot as it was, in the place of today's; one that is gone comes back at the end of the reel. */
export function takeOutShot(then: Project, now: Project, shotId: string): Outcome<Step> {
  const shot = shotById(then, shotId);
  if (!shot) return refused('There was no such shot then.');
  const index = now.shots.findIndex(({ id }) => id === shotId);
  const today = now.shots[index];
  if (!today) {
    const items = [{ item: wholeShot(shotId), index: now.reel.items.length }];
    return done({ type: 'addShot', shot: { ...shot, code: freeCode(now, shot.code) }, index: now.shots.length, items });
  }
  if (equal(today, shot)) return refused(SAME);
  const others: Project = { ...now, shots: now.shots.filter(({ id }) => id !== shotId) };
  return done(
    together(`Shot ${shot.code} as it was`, [
      { type: 'removeShot', shotId },
      { type: 'addShot', shot: { ...shot, code: freeCode(others, shot.code) }, index, items: showing(now, shotId) },
    ]),
  );
}

/** Steps from one project's own settings to another's. */
function settingsBack(then: Project, now: Project): readonly Step[] {
  const { title, rate, size, firstFrameNumber, palette, checks } = then;
  const format: Step = {
    type: 'setFormat',
    ...(sameRate(rate, now.rate) ? {} : { rate }),
    ...(equal(size, now.size) ? {} : { size }),
    ...(firstFrameNumber === now.firstFrameNumber ? {} : { firstFrameNumber }),
  };
  const { kept, ...settled } = checks;
  const { kept: keptNow, ...settledNow } = now.checks;
  const isKept = new Set(kept.map(({ finding }) => finding));
  return [
    ...(title === now.title ? [] : [{ type: 'renameProject', title } as const]),
    ...(Object.keys(format).length > 1 ? [format] : []),
    ...(equal(palette, now.palette) ? [] : [{ type: 'setPalette', palette } as const]),
    ...(equal(settled, settledNow) ? [] : [{ type: 'setChecks', change: settled } as const]),
    ...keptNow.flatMap(({ finding }): Step[] => (isKept.has(finding) ? [] : [{ type: 'keepFinding', finding, note: null }])),
    ...kept.flatMap(({ finding, note }): Step[] =>
      keptNow.some((entry) => entry.finding === finding && entry.note === note) ? [] : [{ type: 'keepFinding', finding, note }],
    ),
  ];
}

function finishBack(then: Project, now: Project): readonly Step[] {
  if (equal(then.finish, now.finish)) return [];
  return [
    ...now.finish.map(({ id }): Step => ({ type: 'setEffect', effectId: id, effect: null, index: 0 })),
    ...then.finish.map((effect, index): Step => ({ type: 'setEffect', effectId: effect.id, effect, index })),
  ];
}

/** Shots that were other ones, and what lay on the reel: all of that is taken off it first, since a shot that goes takes its items along. */
function shotsBack(then: Project, now: Project): readonly Step[] {
  const goes = now.shots.filter((shot) => !equal(shot, shotById(then, shot.id)));
  const comes = then.shots.filter((shot) => !equal(shot, shotById(now, shot.id)));
  const isOther = goes.length > 0 || comes.length > 0 || !equal(then.reel.items, now.reel.items);
  if (!isOther) return [];
  const itemIds = now.reel.items.map(({ id }) => id);
  const laid = (items: readonly ReelItem[]): readonly ItemOnReel[] => items.map((item, index) => ({ item, index }));
  let stay = now.shots.length - goes.length;
  return [
    ...(itemIds.length > 0 ? [{ type: 'removeItems', itemIds } as const] : []),
    ...goes.map(({ id }): Step => ({ type: 'removeShot', shotId: id })),
    ...comes.map((shot): Step => ({ type: 'addShot', shot, index: Math.min(then.shots.indexOf(shot), stay++), items: [] })),
    ...(then.reel.items.length > 0 ? [{ type: 'addItems', items: laid(then.reel.items) } as const] : []),
  ];
}

function reelSoundsBack(then: Project, now: Project): readonly Step[] {
  if (equal(then.reel.sounds, now.reel.sounds)) return [];
  return [
    ...now.reel.sounds.map(({ id }): Step => ({ type: 'removeSound', shotId: null, soundId: id })),
    ...then.reel.sounds.map((sound, index): Step => ({ type: 'addSound', shotId: null, sound, index })),
  ];
}

/** Everything as it was, as one step on what is now; `words` say which moment that was. */
export function takeOutAll(then: Project, now: Project, words: string): Outcome<Step> {
  const steps = [...settingsBack(then, now), ...finishBack(then, now), ...shotsBack(then, now), ...reelSoundsBack(then, now)];
  return steps.length === 0 ? refused(SAME) : done(together(words, steps));
}
