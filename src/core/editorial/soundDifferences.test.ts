import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { newGap, type Project, type ReelItem, wholeShot } from '@/core/document/model';
import type { Sound } from '@/core/document/sound';
import { applyStep, invertStep } from '@/core/edit/table';
import { differencesFromReel } from '@/core/editorial/againstReel';
import { takeDifferences } from '@/core/editorial/takeDifferences';
import { timelineOf } from '@/core/editorial/timelineOf';
import type { EditorialTimeline } from '@/core/format/editorial';
import { readEdl } from '@/core/format/edl/readEdl';
import { writeEdl } from '@/core/format/edl/writeEdl';
import { mustBeDone } from '@/core/outcome';
import { soundsOfReel } from '@/core/reel/sounds';
import { record } from '@/core/testing/record';
import { ids, levelOf, projectOf, shotOf, soundOf } from '@/core/testing/sheets';

/** Two seconds of sound at 48,000 samples a second: 48 frames at 24. */
const SAMPLES = 96_000;
const FRAME = 2000;
const shot = (code: string, sounds: readonly Sound[] = []) => ({ ...shotOf([levelOf(`L${code}`, '1*48')], 48, code), sounds });
const whole = (code: string): ReelItem => wholeShot(`shot-${code}`);
const filmOf = (items: readonly ReelItem[], sounds: readonly Sound[], ofShot: readonly Sound[] = []): Project => ({
  ...projectOf(shot('010'), shot('020', ofShot), shot('030')),
  reel: { items, sounds },
});
const timeline = (project: Project): EditorialTimeline => timelineOf(project, 0, () => null);
const wordsOf = (project: Project, other: EditorialTimeline) =>
  mustBeDone(differencesFromReel(project, other)).map(({ words, canTake }) => [words, canTake]);
const heard = (project: Project) =>
  soundsOfReel(project)
    .filter(({ sound }) => !sound.muted)
    .map(({ sound, startFrame, endFrame }) => `${sound.name} ${startFrame}–${endFrame}`)
    .toSorted();

function taken(project: Project, other: EditorialTimeline, isTaken: (words: string) => boolean = () => true): Project {
  const chosen = mustBeDone(differencesFromReel(project, other)).filter(({ canTake, words }) => canTake && isTaken(words));
  const chosenIds = chosen.map(({ id }) => id);
  const { step } = mustBeDone(takeDifferences(project, other, chosenIds, ids()));
  const after = mustBeDone(applyStep(project, step));
  expect(mustBeDone(applyStep(after, invertStep(project, step)))).toEqual(project);
  return after;
}

describe('sounds of a timeline that comes back', () => {
  const items = [whole('010'), whole('020'), whole('030')];
  const [plop, hum] = [soundOf('Plop', 10, SAMPLES), soundOf('Hum', 0, SAMPLES)];
  const film = filmOf(items, [hum, plop], [soundOf('Splash', 5, FRAME * 6)]);

  it('as they left are the reel’s, through a list as well', () => {
    expect(wordsOf(film, timeline(film))).toEqual([]);
    const list = mustBeDone(writeEdl(timeline(film), { drop: false }));
    expect(wordsOf(film, mustBeDone(readEdl(list, film.rate)).timeline)).toEqual([]);
  });

  it('are moved, shortened, muted and laid on the reel as they are in it', () => {
    const theirs = filmOf(items, [{ ...plop, startFrame: 20, samples: FRAME * 12 }], [soundOf('Splash', 9, FRAME * 6)]);
    const other = timeline(theirs);
    expect(wordsOf(film, other)).toEqual([
      ['Hum is not heard in it: it is muted.', true],
      ['Plop starts on frame 21, was 11 and is heard for 12 frames, was 48.', true],
      ['Splash starts on frame 58, was 54.', true],
    ]);
    const after = taken(film, other);
    expect(heard(after)).toEqual(heard(theirs));
    expect(after.shots[1]?.sounds[0]?.startFrame).toBe(9);
    expect(after.reel.sounds[0]?.muted).toBe(true);
    // Taken in part, the others stay.
    expect(heard(taken(film, other, (words) => words.startsWith('Splash')))).toEqual(['Hum 0–48', 'Plop 10–58', 'Splash 57–63']);
  });

  it('that go with their shot are no difference of their own', () => {
    const theirs = filmOf([whole('020'), newGap('gap', 7), whole('010'), whole('030')], [hum, plop], [soundOf('Splash', 5, FRAME * 6)]);
    expect(wordsOf(film, timeline(theirs)).some(([words]) => String(words).startsWith('Splash'))).toBe(false);
    expect(heard(taken(film, timeline(theirs)))).toEqual(heard(theirs));
  });

  it('that come in are laid on the reel where their recording is known, and told where it is not', () => {
    const theirs = filmOf(
      items,
      [hum, plop, soundOf('Plop', 90, FRAME * 10), soundOf('Bang', 4, FRAME)],
      [soundOf('Splash', 5, FRAME * 6)],
    );
    expect(wordsOf(film, timeline(theirs))).toEqual([
      ['Plop comes in on frame 91, 10 frames.', true],
      ['Bang, heard on frame 5, is not in this project: bring its recording in.', false],
    ]);
    expect(heard(taken(film, timeline(theirs)))).toContain('Plop 90–100');
  });

  it('of a shot that is on the reel twice are told alone', () => {
    const twice = filmOf([...items, { ...whole('020'), id: 'again' }], [], [soundOf('Splash', 5, FRAME * 6)]);
    const theirs = {
      ...twice,
      shots: twice.shots.map((each) => (each.code === '020' ? shot('020', [soundOf('Splash', 8, FRAME * 6)]) : each)),
    };
    expect(wordsOf(twice, timeline(theirs))).toEqual([
      ['Splash starts on frame 57, was 54; it has to be done by hand.', false],
      ['Splash starts on frame 153, was 150; it has to be done by hand.', false],
    ]);
  });

  it('longer than their recording are told alone', () => {
    const other = timeline(
      filmOf(
        items,
        [hum, { ...plop, recording: { ...plop.recording, samples: SAMPLES * 2 }, samples: SAMPLES * 2 }],
        film.shots[1]?.sounds,
      ),
    );
    expect(wordsOf(film, other)).toEqual([['Plop is heard for 96 frames, was 48; it has to be done by hand.', false]]);
  });

  it('of a timeline of pictures alone are left as they are', () => {
    expect(
      wordsOf(
        film,
        timelineOf(film, 0, () => null, false),
      ),
    ).toEqual([]);
  });

  const sound = record({
    startFrame: fc.nat(150),
    frames: fc.integer({ min: 1, max: 48 }),
    muted: fc.boolean(),
  });
  it('taken whole are heard as the timeline has them, however the reel was', () => {
    const order = fc.shuffledSubarray(['010', '020', '030'], { minLength: 3 });
    fc.assert(
      fc.property(
        order,
        order,
        fc.array(sound, { maxLength: 5 }),
        fc.array(sound, { maxLength: 5 }),
        fc.nat(40),
        fc.nat(40),
        (own, other, ownSounds, otherSounds, at, otherAt) => {
          const laid = (list: typeof ownSounds) =>
            list.map(({ startFrame, frames, muted }, index) => ({
              ...soundOf(`Sound ${index}`, startFrame, SAMPLES),
              samples: frames * FRAME,
              muted,
            }));
          const film = filmOf(own.map(whole), laid(ownSounds), [soundOf('Splash', at, FRAME * 6)]);
          const theirs = filmOf(other.map(whole), laid(otherSounds), [soundOf('Splash', otherAt, FRAME * 6)]);
          const differences = mustBeDone(differencesFromReel(film, timeline(theirs)));
          const known = new Set(film.reel.sounds.map(({ name }) => name));
          const unknown = theirs.reel.sounds.filter(({ name, muted }) => !muted && !known.has(name));
          if (unknown.length > 0) return;
          expect(differences.every(({ canTake }) => canTake)).toBe(true);
          if (differences.length === 0) return;
          expect(heard(taken(film, timeline(theirs)))).toEqual(heard(theirs));
        },
      ),
      { numRuns: 300 },
    );
  });
});
