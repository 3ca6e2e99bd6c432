import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { emptyChart, reshaped } from '@/core/chart/chartTicks';
import { chartFits } from '@/core/check/chartFits';
import { guideClip, guideRepeats } from '@/core/check/guideClip';
import { numberOrder } from '@/core/check/numberOrder';
import { slipAt } from '@/core/check/pattern';
import { shortLevel } from '@/core/check/shortLevel';
import { stillRuns } from '@/core/check/stillRun';
import { stray } from '@/core/check/stray';
import { planRateChange } from '@/core/conform/conform';
import type { LevelMedia } from '@/core/document/model';
import { applyStep } from '@/core/edit/table';
import { mustBeDone } from '@/core/outcome';
import { placedItems } from '@/core/reel/reel';
import { afterFixes, LOOKING, lookAt, mendedColumns } from '@/core/testing/checking';
import { columnIn, levelOf, projectOf, shotOf } from '@/core/testing/sheets';

describe('the pattern of lengths around a drawing', () => {
  // `.` is a blank; the place looked at is the third unless told.
  const lengthsOf = (text: string) => text.split(' ').map((word) => (word === '.' ? null : Number(word)));
  it.each<[string, number, number | null]>([
    ['2 2 1 2 2', 2, 2],
    ['3 3 1 3 3', 2, 3],
    ['3 3 2 3 3', 2, 3],
    ['2 2 2 2 1 2 2 2', 4, 2],
    ['4 4 2 4 4', 2, 4],
    // 24 brought to 30 is held for 3 and 2 in turn; the one that falls out of it is a slip.
    ['3 2 3 2 3 1 3 2 3 2 3', 5, 2],
    // Must not be found.
    ['2 2 3 2 2', 2, null],
    ['2 2 8 2 2', 2, null],
    ['1 1 1 1 1', 2, null],
    ['2 1 2 1 2 1 2', 3, null],
    ['3 2 3 2 3 2 3', 3, null],
    ['3 2 3 2 3 2 3', 2, null],
    ['2 2 1 2 2 1 2 2 1 2 2', 2, null],
    ['2 2 1 2 2 1 2 2 1 2 2', 5, null],
    ['2 2 1 2 2 1 2 2', 5, null],
    ['2 1 2 2', 1, null],
    ['2 2 1', 2, null],
    // Beside a blank or a hold, and near an end, what is missing on one side is made up for on the other.
    ['2 2 1 . 2 2', 2, 2],
    ['2 1 2 2 2', 1, 2],
    ['2 2 2 1 2', 3, 2],
    ['2 1 2 42', 1, 2],
    ['2 2 1 42', 2, 2],
    ['3 2 3 3 3', 1, 3],
    ['2 2 1 3 2', 2, null],
    ['2 2 2 1', 3, null],
    ['2 . 1 2 2', 2, null],
    ['2 2 1 1 2 2', 2, null],
    ['1 2 1 3 1', 2, null],
    ['. . .', 1, null],
  ])('%s at %i has %s', (text, index, expected) => expect(slipAt(lengthsOf(text), index)?.expected ?? null).toBe(expected));
});

describe('a stray among a pattern', () => {
  it('is found with twos two deep on both sides, and fixed by pushing or by taking from the next', () => {
    const level = levelOf('Sock', '1*2 2*2 3 4*2 5*2');
    const [finding, ...others] = lookAt(stray, level);
    expect(others).toEqual([]);
    expect(finding?.sentence).toBe('Sock 3 is held for one frame, from frame 5, among drawings on twos.');
    expect(mendedColumns(stray, level, finding)).toEqual(['1*2 2*2 3*2 4*2 5*2']);
  });

  it.each([
    ['1*2 2 3*2 4*2 5*2', 'Sock 2 is held for one frame, from frame 3'],
    ['24*2 25*1 26*2 27*42', 'Sock 25 is held for one frame, from frame 3'],
    ['1*2 2*2 3*2 4 5*2', 'Sock 4 is held for one frame, from frame 7'],
  ])('is found in %s', (notation, sentence) => {
    const found = lookAt(stray, levelOf('Sock', notation));
    expect(found.map((finding) => finding.sentence)).toEqual([`${sentence}, among drawings on twos.`]);
  });

  it('is taken from the next only where that is a hold, so that no fix makes another slip', () => {
    const words = (notation: string) => lookAt(stray, levelOf('Sock', notation)).map((finding) => finding.fixes.map((fix) => fix.way));
    expect(words('1*2 2*2 3 4*2 5*2')).toEqual([['push']]);
    expect(words('1*2 2*2 3*2 4 5*9')).toEqual([['push', 'overwrite']]);
    const length = fc.constantFrom(1, 2, 2, 2, 8);
    fc.assert(
      fc.property(fc.array(length, { minLength: 5, maxLength: 14 }), (lengths) => {
        const level = levelOf('Sock', lengths.map((frames, index) => `${index + 1}*${frames}`).join(' '));
        for (const finding of lookAt(stray, level))
          for (const after of afterFixes(projectOf(shotOf([level])), finding)) {
            const is = after.shots[0]?.levels[0]?.exposures.map((run) => run.frames) ?? [];
            const changed = is.flatMap((frames, index) => (frames === lengths[index] ? [] : [index]));
            // The fixed one stands as its pattern has it; what it was taken from is a hold still.
            const [fixed, taken] = changed as [number, number?];
            expect(is[fixed]).toBeGreaterThan(lengths[fixed] as number);
            if (taken !== undefined) expect(is[taken]).toBeGreaterThanOrEqual(is[fixed] as number);
            expect(changed.length).toBeLessThanOrEqual(2);
          }
      }),
    );
  });

  it('is told with the pattern that stands around it', () => {
    const level = levelOf('Sock', '1*3 2*2 3*3 4*2 5*3 6 7*3 8*2 9*3 10*2 11*3');
    expect(lookAt(stray, level)[0]?.sentence).toBe(
      'Sock 6 is held for one frame, from frame 14, among drawings held for 2 and 3 frames in turn.',
    );
  });

  it.each(['1*2 2*2 3 4 5*2 6*2', '1 2 3 4 5', '1*2 2 3*2 4*2', '1*2 2*2 3 4*3 5*2', '1*2 2*2 . 3*2 4*2', '1*2 2*2 3'])(
    'is not in %s',
    (notation) => expect(lookAt(stray, levelOf('Sock', notation))).toEqual([]),
  );

  it('is not looked for in guides', () => expect(lookAt(stray, levelOf('Clip', '1*2 2*2 3 4*2 5*2', { kind: 'guide' }))).toEqual([]));
});

describe('numbers out of order', () => {
  it('are one finding a level, renumbered in the order they appear', () => {
    const level = levelOf('Sock', '1*2 3*2 2*2 4*2');
    const [finding] = lookAt(numberOrder, level);
    expect(finding?.sentence).toBe('Sock in shot 010 is numbered out of order: 2 after 3, from frame 5.');
    expect(mendedColumns(numberOrder, level, finding)).toEqual(['1*2 2*2 3*2 4*2']);
  });

  it.each(['1*2 2*2 3*2 2*2 1*2', '1 1a 1b 2', '1z 1aa 2', '3 5 9', '1*2 . 2*2', ''])('are not in %s', (notation) =>
    expect(lookAt(numberOrder, levelOf('Sock', notation))).toEqual([]),
  );
});

describe('a chart that doesn’t fit the sheet', () => {
  const chart = reshaped(emptyChart('c', 'Sock-1', 'Sock-2'), 'even', 1);
  it('is told, and read off the sheet or removed', () => {
    const level = { ...levelOf('Sock', '1*2 1a*2 1b*2 2*2'), charts: [chart] };
    const keyed = {
      ...level,
      drawings: level.drawings.map((drawing) => ({ ...drawing, role: /^\d$/.test(drawing.number) ? ('key' as const) : drawing.role })),
    };
    const [finding] = lookAt(chartFits, keyed);
    expect(finding?.sentence).toContain('chart 1 → 2 holds 1 in-between, the sheet shows 2 between its keys.');
    const [read, removed] = afterFixes(projectOf(shotOf([keyed])), finding).map((after) => after.shots[0]?.levels[0]);
    expect(read?.charts[0]?.ticks).toHaveLength(2);
    expect(removed?.charts).toEqual([]);
    expect(read && lookAt(chartFits, read)).toEqual([]);
  });

  it('is not told of one that fits', () => {
    const level = levelOf('Sock', '1*2 1a*2 2*2');
    const keyed = {
      ...level,
      charts: [chart],
      drawings: level.drawings.map((drawing) => ({ ...drawing, role: /^\d$/.test(drawing.number) ? ('key' as const) : drawing.role })),
    };
    expect(lookAt(chartFits, keyed)).toEqual([]);
  });
});

describe('a level shorter than its shot', () => {
  it('is found where others go on, and its last drawing held to the end', () => {
    const [line, sock] = [levelOf('Line', '1*4'), levelOf('Sock', '1*2 2*8')];
    const shot = shotOf([line, sock], 10);
    const [finding] = shortLevel(shot, line, LOOKING);
    expect(finding?.sentence).toBe('Line ends on frame 4: it runs for 4 frames, shot 010 has 10.');
    expect(afterFixes(projectOf(shot), finding).map((after) => columnIn(after, 'Line'))).toEqual(['1*10']);
    expect(shortLevel(shot, sock, LOOKING)).toEqual([]);
  });

  it('is not one when all end together, when it is empty, still or a guide', () => {
    const shot = shotOf(
      [
        levelOf('Line', '1*4'),
        levelOf('Sock', '1*4'),
        levelOf('Empty', ''),
        levelOf('Yard', '1', { kind: 'still' }),
        levelOf('Clip', '1', { kind: 'guide' }),
      ],
      10,
    );
    expect(shot.levels.flatMap((level) => shortLevel(shot, level, LOOKING))).toEqual([]);
  });
});

describe('frames on which nothing moves', () => {
  const looking = { ...LOOKING, checks: { ...LOOKING.checks, stillFrames: 24 } };
  it('is told when it is longer than allowed, with its length in seconds', () => {
    const shot = shotOf([levelOf('Yard', '1', { kind: 'still', pictures: 'y' }), levelOf('Sock', '1*4 2*36', { pictures: 'ab' })], 40);
    expect(stillRuns(shot, looking).map((finding) => finding.sentence)).toEqual([
      'Nothing moves in shot 010 on frames 5–40: 36 frames, 1.500 s.',
    ]);
  });

  it.each<[string, ReturnType<typeof shotOf>]>([
    ['as long as allowed', shotOf([levelOf('Sock', '1*4 2*24', { pictures: 'ab' })])],
    ['another level moves', shotOf([levelOf('Sock', '1*4 2*36', { pictures: 'ab' }), levelOf('Line', '1*20 2*20', { pictures: 'cd' })])],
    ['a card of one picture', shotOf([levelOf('Sock', '1*60', { pictures: 'a' })])],
    ['nothing is drawn', shotOf([levelOf('Sock', '1*4 2*60')])],
  ])('is none: %s', (_why, shot) => expect(stillRuns(shot, looking)).toEqual([]));

  it('is not looked for when told', () => {
    const shot = shotOf([levelOf('Sock', '1*4 2*400', { pictures: 'ab' })]);
    expect(stillRuns(shot, { ...LOOKING, checks: { ...LOOKING.checks, stillFrames: 0 } })).toEqual([]);
  });
});

describe('a guide against its clip', () => {
  const clip = (media: Partial<LevelMedia>, notation = '1*1 2*1 3*2') => ({
    ...levelOf('Wind', notation, { kind: 'guide', pictures: 'abc' }),
    media: { fileName: 'wind.mp4', frames: 4, lengthMicroseconds: 166_667, way: 'readAs', ...media } as const,
  });

  it('agrees when it holds all its frames at the film’s rate', () => expect(lookAt(guideClip, clip({}))).toEqual([]));

  it('is told with both numbers when frames are missing', () => {
    expect(lookAt(guideClip, clip({}, '1*1 2*1'))[0]?.sentence).toBe(
      'Guide Wind runs for 2 frames; its clip wind.mp4 comes to 4 (4 pictures in 0.167 s).',
    );
    expect(lookAt(guideClip, clip({ way: 'converted', frames: 5, lengthMicroseconds: 166_667 }))).toEqual([]);
    expect(lookAt(guideClip, clip({ way: 'converted', frames: 5, lengthMicroseconds: 250_000 }))[0]?.sentence).toContain('comes to 6');
  });

  it('is told when it is read at another rate than it was made at', () => {
    const [finding] = lookAt(guideClip, clip({ lengthMicroseconds: 133_333 }));
    expect(finding?.sentence).toBe(
      'Guide Wind was made at 30 pictures a second and is read frame for frame at 24: its 0.133 s last 0.167 s here, from frame 1.',
    );
    expect(finding?.breaks).toBe('plan-draw');
  });

  it('that was read frame for frame agrees after the film’s rate is changed with its time kept', () => {
    const guide = { ...clip({}, '1 2 3 4'), drawings: levelOf('Wind', '1 2 3 4', { kind: 'guide', pictures: 'abcd' }).drawings };
    const project = projectOf(shotOf([guide]));
    const planned = planRateChange(project, placedItems(project), {
      scope: { kind: 'project', to: { num: 48, den: 1 } },
      way: 'keepTime',
      vanishing: 'refuse',
    });
    const after = mustBeDone(applyStep(project, mustBeDone(planned.edit).step));
    const looking = { ...LOOKING, rate: after.rate };
    expect(guideClip(after.shots[0] as never, after.shots[0]?.levels[0] as never, looking)).toEqual([]);
  });

  it('with frames missing can be laid anew, frame for frame or by its time', () => {
    const guide = {
      ...clip({ frames: 4, lengthMicroseconds: 333_333 }, '1 2 3'),
      drawings: levelOf('Wind', '1 2 3 4', { kind: 'guide', pictures: 'abcd' }).drawings,
    };
    const finding = lookAt(guideClip, guide).find(({ kind }) => kind === 'guide-count');
    expect(finding?.sentence).toContain('is 4 frame for frame, or 8 by its time');
    expect(mendedColumns(guideClip, guide, finding)).toEqual(['1 2 3 4', '1*2 2*2 3*2 4*2']);
  });

  it('has its repeats and their pattern told', () => {
    const ofLengths = (lengths: readonly number[]) => lengths.map((frames, index) => `${index + 1}*${frames}`).join(' ');
    const guide = (lengths: readonly number[]) => ({
      ...clip({}, ofLengths(lengths)),
      drawings: levelOf('Wind', ofLengths(lengths), { kind: 'guide', pictures: 'abcdefghijklm' }).drawings,
    });
    const said = (lengths: readonly number[]) => lookAt(guideRepeats, guide(lengths))[0]?.sentence ?? null;
    // 24 stepped evenly to 30: every fourth picture twice, so every fifth frame repeats.
    expect(said([2, 1, 1, 1, 2, 1, 1, 1, 2, 1])).toBe('Guide Wind: 3 of 13 frames repeat the one before: every 5th, first on frame 2.');
    expect(said([2, 3, 2, 3, 2, 3])).toContain(': pictures stand 3 and 2 frames in turn');
    expect(said([1, 2, 1, 3, 1, 1, 2])).toContain(', in no regular pattern: frames 3, 6, 7, 11');
    expect(said([1, 1, 1, 1])).toBeNull();
    expect(lookAt(guideRepeats, levelOf('Own', '1*2 2*2', { kind: 'guide' }))).toEqual([]);
  });
});
