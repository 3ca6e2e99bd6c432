import { spawnSync } from 'node:child_process';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { changesOfLength, planRateChange, type RateWay } from '@/core/conform/conform';
import { conformLevel, type VanishingRule } from '@/core/conform/conformLevel';
import { stepEvenly, steppedSource } from '@/core/conform/evenStepping';
import { conformedFrame } from '@/core/conform/rounding';
import { type Project, type ReelItem, type Shot, wholeShot } from '@/core/document/model';
import { applyStep, invertStep } from '@/core/edit/table';
import { mustBeDone } from '@/core/outcome';
import { placedItems } from '@/core/reel/reel';
import { framesOfRuns } from '@/core/sheet/runs';
import { record } from '@/core/testing/record';
import { clipItem, clipOf, columnIn, levelOf, projectOf, shotOf, soundOf } from '@/core/testing/sheets';
import type { Rate } from '@/core/time/rate';

const rate = (num: number, den = 1): Rate => ({ num, den });
const FILM = rate(24000, 1001);
const at = (project: Project, of: Rate): Project => ({ ...project, rate: of });

/** Drawings 1 … count, each held `frames`. */
const steady = (count: number, frames: number) =>
  Array.from({ length: count }, (_, index) => `${index + 1}${frames === 1 ? '' : `*${frames}`}`).join(' ');
const twos = levelOf('Sock', steady(48, 2));
const plan = (project: Project, to: Rate, way: RateWay = 'keepTime', vanishing: VanishingRule = 'refuse') =>
  planRateChange(project, placedItems(project), { scope: { kind: 'project', to }, way, vanishing });
const taken = (project: Project, ...rest: [Rate, RateWay?, VanishingRule?]) =>
  mustBeDone(applyStep(project, mustBeDone(plan(project, ...rest).edit).step));

describe('time kept: 96 frames on twos (worked by hand)', () => {
  const lengths = (from: Rate, to: Rate) => conformLevel(twos, from, to, 'refuse').exposures.map((run) => run.frames);

  it('12 to 24 doubles every exposure exactly', () => {
    expect(lengths(rate(12), rate(24))).toEqual(Array.from({ length: 48 }, () => 4));
    expect(plan(at(projectOf(shotOf([twos])), rate(12)), rate(24))).toMatchObject({ newFrames: 192, mostDriftMilliseconds: 0 });
  });

  it('24 to 25 gives the 6th, 18th, 30th and 42nd a third frame', () => {
    const longer = lengths(rate(24), rate(25)).flatMap((frames, index) => (frames === 3 ? index + 1 : []));
    expect(longer).toEqual([6, 18, 30, 42]);
    const planned = plan(projectOf(shotOf([twos])), rate(25));
    expect(planned.newFrames).toBe(100);
    expect(planned.mostDriftMilliseconds).toBe(20);
    expect(changesOfLength(planned)).toEqual([
      { oldFrames: 2, newFrames: 2, times: 44 },
      { oldFrames: 2, newFrames: 3, times: 4 },
    ]);
  });

  it('24 to 30 goes 3 2 3 2', () => {
    expect(lengths(rate(24), rate(30)).slice(0, 6)).toEqual([3, 2, 3, 2, 3, 2]);
    const planned = plan(projectOf(shotOf([twos])), rate(30));
    expect(planned.newFrames).toBe(120);
    expect(planned.mostDriftMilliseconds).toBe(16.667);
  });

  it('24 to 24000/1001 changes nothing but the clock', () => {
    const planned = plan(projectOf(shotOf([twos])), FILM);
    expect(planned.newFrames).toBe(96);
    // The 48th drawing starts on frame 94: 94/24 · 0.001 s late.
    expect(planned.mostDriftMilliseconds).toBe(3.917);
    const after = taken(projectOf(shotOf([twos])), FILM);
    expect(after.rate).toEqual(FILM);
    expect(after.shots).toEqual(projectOf(shotOf([twos])).shots);
  });

  it('25 to 24 leaves 44 of two frames and four of one', () => {
    const counted = lengths(rate(25), rate(24));
    expect([counted.filter((frames) => frames === 2).length, counted.filter((frames) => frames === 1).length]).toEqual([44, 4]);
    expect(plan(at(projectOf(shotOf([twos])), rate(25)), rate(24))).toMatchObject({ newFrames: 92, mostDriftMilliseconds: 20 });
  });
});

describe('drawings that would vanish', () => {
  const ones = projectOf(shotOf([levelOf('Sock', steady(24, 1))]));

  it('are named: every second of 24 on ones at 12', () => {
    const planned = plan(ones, rate(12));
    expect(planned.vanishing).toHaveLength(12);
    expect(planned.vanishing[0]).toMatch(/^010 Sock \d+$/);
    expect(planned.edit.ok ? '' : planned.edit.reason).toContain('12 exposures would get no frame at 12');
  });

  it('keep a frame each when so chosen, and are left out when so chosen', () => {
    const kept = plan(ones, rate(12), 'keepTime', 'keep');
    expect([...(kept.shots[0]?.levels[0]?.table ?? [])].every((row) => row.newFrames >= 1)).toBe(true);
    const left = plan(ones, rate(12), 'keepTime', 'leaveOut');
    expect(left.shots[0]?.levels[0]?.exposures).toHaveLength(12);
    expect(left.newFrames).toBe(12);
  });
});

describe('counts kept and read as', () => {
  const shot: Shot = {
    ...shotOf([levelOf('Sock', '1*2 2*4')], 96),
    notes: [
      { frame: 48, kind: 'note', words: 'turns' },
      { frame: 48, kind: 'accent', words: 'plop' },
    ],
  };

  it('keep every exposure; what is tied to the sound keeps its time when counts are kept, its frame when read as', () => {
    const counts = taken(projectOf(shot), rate(12), 'keepCounts');
    expect(columnIn(counts, 'Sock')).toBe('1*2 2*4');
    expect(counts.shots[0]).toMatchObject({
      frames: 96,
      notes: [
        { frame: 24, kind: 'accent' },
        { frame: 48, kind: 'note' },
      ],
    });
    const read = taken(projectOf(shot), rate(12), 'readAs');
    expect(read).toEqual({ ...projectOf(shot), rate: rate(12) });
  });

  it('refuse the rate it is at already', () => {
    const same = plan(projectOf(shot), rate(24), 'readAs');
    expect(same.edit.ok ? '' : same.edit.reason).toContain('at 24 already');
  });

  it('move notes with the drawings when time is kept, writing two that meet on one frame', () => {
    const near: Shot = {
      ...shot,
      notes: [
        { frame: 10, kind: 'note', words: 'a' },
        { frame: 11, kind: 'note', words: 'b' },
      ],
    };
    expect(taken(projectOf(near), rate(12)).shots[0]?.notes).toEqual([
      { frame: 5, kind: 'note', words: 'a' },
      { frame: 6, kind: 'note', words: 'b' },
    ]);
    expect(
      taken(
        projectOf({
          ...near,
          notes: [
            { frame: 9, kind: 'note', words: 'a' },
            { frame: 10, kind: 'note', words: 'b' },
          ],
        }),
        rate(12),
      ).shots[0]?.notes,
    ).toEqual([{ frame: 5, kind: 'note', words: 'a / b' }]);
  });
});

describe('a whole reel', () => {
  const reel = projectOf(
    ...['010', '020', '030'].map((code) => ({ ...shotOf([{ ...levelOf('Sock', steady(37, 1)), id: code }], 37, code) })),
  );

  it('is as long as its time, although every shot is rounded by itself', () => {
    const planned = plan(reel, rate(25));
    // 111 frames at 24 are 115.625 at 25.
    expect(planned.newFrames).toBe(116);
    expect(planned.shots.map((shot) => shot.newFrames)).toEqual([39, 38, 39]);
  });

  it('takes one shot that was planned at another rate by itself', () => {
    const edit = mustBeDone(
      planRateChange(reel, placedItems(reel), {
        scope: { kind: 'shot', shotId: 'shot-020', plannedAt: rate(12) },
        way: 'keepTime',
        vanishing: 'refuse',
      }).edit,
    );
    const after = mustBeDone(applyStep(reel, edit.step));
    expect(after.rate).toEqual(rate(24));
    expect(after.shots.map((shot) => shot.frames)).toEqual([37, 74, 37]);
    expect(mustBeDone(applyStep(after, invertStep(reel, edit.step)))).toEqual(reel);
  });
});

describe('what a change of rate would take out of the film is said before', () => {
  const to12 = (project: Project, vanishing: 'keep' | 'leaveOut' = 'keep') =>
    planRateChange(project, placedItems(project), { scope: { kind: 'project', to: rate(12) }, way: 'keepTime', vanishing });

  it('drawings kept a frame each that run past the end of their shot', () => {
    const eight = projectOf(shotOf([levelOf('Sock', '1 2 3 4 5 6 7 8')]));
    const planned = to12(eight);
    expect(planned.pastEnd).toEqual(['5', '6', '7', '8'].map((number) => `010 Sock ${number}`));
    expect(mustBeDone(planned.edit).says).toBe(
      '24 → 12, keeping time: 8 frames become 4; past the end of its shot and no longer there: 010 Sock 5, 010 Sock 6, 010 Sock 7, 010 Sock 8',
    );
    expect(to12(eight, 'leaveOut').pastEnd).toEqual([]);
  });

  it('nothing of what began on a shot’s last frame: it stays in its shot', () => {
    const shot = {
      ...shotOf([levelOf('Sock', '1*24')]),
      notes: [{ frame: 23, kind: 'accent' as const, words: 'thud' }],
      sounds: [soundOf('Plop', 23, 4000)],
    };
    const planned = to12(projectOf(shot));
    const after = mustBeDone(applyStep(projectOf(shot), mustBeDone(planned.edit).step)).shots[0];
    expect([after?.frames, after?.notes[0]?.frame, after?.sounds[0]?.startFrame]).toEqual([12, 11, 11]);
    expect(planned.pastEnd).toEqual([]);
  });

  it('sounds and accents that keep their time in a shot that keeps its counts, to the nearest frame of its own', () => {
    const shot = (code: string) => ({
      ...shotOf([levelOf(`Sock${code}`, '1*20')], undefined, code),
      notes: [{ frame: 7, kind: 'accent' as const, words: 'thud' }],
      sounds: [{ ...soundOf('Plop', 13, 4000), id: `Plop${code}` }],
    });
    const film = projectOf(shot('010'), shot('020'));
    const planned = planRateChange(film, placedItems(film), {
      scope: { kind: 'project', to: rate(25) },
      way: 'keepCounts',
      vanishing: 'refuse',
    });
    const after = mustBeDone(applyStep(film, mustBeDone(planned.edit).step));
    // 7 and 13 frames at 24 are 7.29 and 13.54 at 25, whatever the reel holds before.
    expect(after.shots.map((each) => [each.notes[0]?.frame, each.sounds[0]?.startFrame])).toEqual([
      [7, 14],
      [7, 14],
    ]);
    const quick = planRateChange(film, placedItems(film), {
      scope: { kind: 'project', to: rate(48) },
      way: 'keepCounts',
      vanishing: 'refuse',
    });
    expect(quick.pastEnd).toEqual(['010 Plop', '020 Plop']);
  });

  it('as one step, however long the film', () => {
    const shots = Array.from({ length: 420 }, (_, shot) =>
      shotOf(
        Array.from({ length: 10 }, (_unused, level) => levelOf(`L${shot}-${level}`, '1*2 2*2 3*2 4*2')),
        8,
        String(shot),
      ),
    );
    const film = projectOf(...shots.map((shot, index) => ({ ...shot, id: `shot-${index}` })));
    const { step } = mustBeDone(plan(film, rate(25)).edit);
    expect(step.type).toBe('setTiming');
    const after = mustBeDone(applyStep(film, step));
    expect(after.rate).toEqual(rate(25));
    expect(mustBeDone(applyStep(after, invertStep(film, step)))).toEqual(film);
  });
});

describe('shots shorter than a new frame', () => {
  it('last one each; the total and the drift told are what the film then has', () => {
    const shot = fc.integer({ min: 1, max: 30 });
    fc.assert(
      fc.property(
        fc.array(shot, { minLength: 1, maxLength: 12 }),
        fc.constantFrom(rate(24), rate(30), rate(60)),
        fc.constantFrom(rate(12), rate(5), rate(2)),
        (lengths, from, to) => {
          const film = at(
            projectOf(
              ...lengths.map((frames, index) => ({
                ...shotOf([levelOf(`S${index}`, `1*${frames}`)], undefined, String(index)),
                id: `shot-${index}`,
              })),
            ),
            from,
          );
          const planned = planRateChange(film, placedItems(film), {
            scope: { kind: 'project', to },
            way: 'keepTime',
            vanishing: 'leaveOut',
          });
          const after = mustBeDone(applyStep(film, mustBeDone(planned.edit).step));
          const framesIn = (project: Project) => project.shots.reduce((sum, each) => sum + each.frames, 0);
          expect(planned.newFrames).toBe(framesIn(after));
          // Plain seconds of every shot's first drawing, before and after.
          let [was, is, most] = [0, 0, 0];
          for (const [index, frames] of lengths.entries()) {
            most = Math.max(most, Math.abs((is * to.den) / to.num - (was * from.den) / from.num) * 1000);
            was += frames;
            is += after.shots[index]?.frames ?? 0;
          }
          expect(Math.abs(planned.mostDriftMilliseconds - most)).toBeLessThan(0.01);
          // Never further from its time than it must be: where there is room again, the reel is back at its time.
          const exact = (framesIn(film) * from.den * to.num) / (from.num * to.den);
          expect(planned.newFrames).toBeGreaterThanOrEqual(Math.round(exact - 0.5));
          if (lengths.every((frames) => (frames * from.den * to.num) / (from.num * to.den) >= 1))
            expect(Math.abs(planned.newFrames - exact)).toBeLessThanOrEqual(0.5);
        },
      ),
    );
  });
});

const anyRate = fc.constantFrom(
  rate(12),
  rate(15),
  FILM,
  rate(24),
  rate(25),
  rate(30000, 1001),
  rate(30),
  rate(50),
  rate(60000, 1001),
  rate(60),
);
const anyColumn = fc
  .array(fc.tuple(fc.integer({ min: 1, max: 9 }), fc.boolean()), { minLength: 1, maxLength: 40 })
  .map((parts) => parts.map(([frames, blank], index) => `${blank && index % 3 === 2 ? '.' : index + 1}*${frames}`).join(' '));

describe('whatever the sheet and the rates', () => {
  it('no drawing starts more than half a new frame off, and the total is the nearest whole frame', () => {
    fc.assert(
      fc.property(anyColumn, anyRate, anyRate, fc.nat(100_000), (column, from, to, reelStart) => {
        const level = levelOf('Sock', column);
        const { table } = conformLevel(level, from, to, 'leaveOut', reelStart);
        const half = (500 * to.den) / to.num;
        for (const row of table) expect(Math.abs(row.driftMilliseconds)).toBeLessThanOrEqual(half + 0.001);
        const frames = framesOfRuns(level.exposures);
        const exact = (frames * from.den * to.num) / (from.num * to.den);
        expect(Math.abs(conformedFrame(frames, from, to) - exact)).toBeLessThanOrEqual(0.5 + 1e-9);
      }),
    );
  });

  it('from a lower rate to a higher one and back is the same sheet, and one undo as well', () => {
    fc.assert(
      fc.property(anyColumn, anyRate, anyRate, (column, a, b) => {
        const [low, high] = a.num * b.den <= b.num * a.den ? [a, b] : [b, a];
        fc.pre(low.num * high.den !== high.num * low.den);
        const start = at(projectOf(shotOf([levelOf('Sock', column)])), low);
        const up = taken(start, high);
        expect(taken(up, low)).toEqual(start);
        expect(mustBeDone(applyStep(up, invertStep(start, mustBeDone(plan(start, high).edit).step)))).toEqual(start);
      }),
    );
  });

  it('a whole multiple of the rate multiplies every exposure', () => {
    fc.assert(
      fc.property(anyColumn, fc.constantFrom(rate(12), rate(15), FILM, rate(25)), fc.integer({ min: 2, max: 5 }), (column, from, times) => {
        const level = levelOf('Sock', column);
        const { exposures } = conformLevel(level, from, { num: from.num * times, den: from.den }, 'refuse');
        expect(exposures.map((run) => run.frames)).toEqual(level.exposures.map((run) => run.frames * times));
      }),
    );
  });

  it('keeping drawings that would vanish exposes every one of them, in order', () => {
    fc.assert(
      fc.property(anyColumn, anyRate, anyRate, (column, from, to) => {
        const level = levelOf('Sock', column);
        const { exposures } = conformLevel(level, from, to, 'keep');
        const shown = (runs: typeof exposures) => runs.flatMap((run) => run.drawing ?? []);
        expect(shown(exposures)).toEqual(shown(level.exposures));
      }),
    );
  });
});

describe('a reel with trims, gaps and sounds of its own', () => {
  const shots = projectOf(
    shotOf([levelOf('A', '1*72')], 72),
    shotOf([levelOf('B', '1*96')], 96, '020'),
    shotOf([levelOf('C', '1*10')], 10, '030'),
  );
  const reelOf = (...items: ReelItem[]): Project => ({ ...shots, reel: { items, sounds: [soundOf('Hum', 99, 9_000)] } });
  const trimmed = (id: string, shotId: string, fromFrame: number, frames: number): ReelItem => ({
    ...wholeShot(shotId),
    id,
    trim: { fromFrame, frames },
  });
  const whole = (id: string, shotId: string): ReelItem => ({ id, kind: 'shot', finished: true, shotId, trim: null });
  const film = reelOf(
    whole('a', 'shot-010'),
    trimmed('b', 'shot-020', 8, 80),
    { id: 'g', kind: 'gap', finished: true, frames: 12 },
    whole('c', 'shot-030'),
  );
  const startsOf = (project: Project) => placedItems(project).map(({ startFrame }) => startFrame);

  it('keeps every cut on the frame nearest to its time, 24 to 25 (worked by hand: 72, 152, 164 and 174 are 75, 158.33, 170.83 and 181.25)', () => {
    const after = taken(film, rate(25));
    expect(startsOf(after)).toEqual([0, 75, 158, 171]);
    expect(after.reel.items.map((item) => (item.kind === 'gap' ? item.frames : item.trim))).toEqual([
      null,
      { fromFrame: 8, frames: 83 },
      13,
      null,
    ]);
    expect(after.shots.map(({ frames }) => frames)).toEqual([75, 100, 10]);
    expect(after.reel.sounds[0]?.startFrame).toBe(103);
    expect(plan(film, rate(25)).newFrames).toBe(181);
  });

  it('leaves counts and gaps alone when counts are kept; a sound of the reel keeps its time then, and its frame when read as', () => {
    const kept = taken(film, rate(25), 'keepCounts');
    expect(startsOf(kept)).toEqual(startsOf(film));
    expect(kept.reel.sounds[0]?.startFrame).toBe(103);
    const read = taken(film, rate(25), 'readAs');
    expect([read.reel, read.shots]).toEqual([film.reel, film.shots]);
  });

  it('brings the trims of a shot that was planned at another rate along with it', () => {
    const planned = planRateChange(film, placedItems(film), {
      scope: { kind: 'shot', shotId: 'shot-020', plannedAt: rate(12) },
      way: 'keepTime',
      vanishing: 'refuse',
    });
    const after = mustBeDone(applyStep(film, mustBeDone(planned.edit).step));
    expect(after.reel.items[1]).toMatchObject({ trim: { fromFrame: 16, frames: 160 } });
    expect(after.shots.map(({ frames }) => frames)).toEqual([72, 192, 10]);
  });

  it('names a cut that is moved by half a frame or more, since what is before it has a frame at least', () => {
    const single = reelOf(...Array.from({ length: 4 }, (_, index) => trimmed(`t${index}`, 'shot-020', index, 1)));
    const planned = plan(single, rate(12));
    expect(planned.movedCuts.map(({ item, oldFrame, newFrame }) => [item.id, oldFrame, newFrame])).toEqual([
      ['t2', 2, 2],
      ['t3', 3, 3],
    ]);
    expect(mustBeDone(planned.edit).says).toContain('moved by half a frame or more: the cut to 020 on frame 3, the cut to 020 on frame 4');
  });

  it('brings converted clips along, leaves those that are frame for frame, and names the cuts these move', () => {
    const before = reelOf(
      trimmed('t', 'shot-020', 0, 24),
      { ...clipItem('kept', clipOf(100)), trim: { fromFrame: 24, frames: 48 } },
      clipItem('whole', clipOf(100)),
      clipItem('frames', clipOf(100), 'readAs'),
      trimmed('u', 'shot-020', 0, 24),
    );
    const planned = plan(before, rate(12));
    const after = mustBeDone(applyStep(before, mustBeDone(planned.edit).step));
    expect(after.reel.items.map((item) => item.kind !== 'gap' && item.trim)).toMatchObject(
      [{ fromFrame: 0, frames: 12 }, { fromFrame: 12, frames: 24 }, false, false, {}].map((each) => each || null),
    );
    expect(startsOf(after)).toEqual([0, 12, 36, 84, 184]);
    expect(planned.newFrames).toBe(after.reel.items.length === 5 ? 185 : 0);
    expect(planned.movedCuts.map(({ name, newFrame }) => [name, newFrame])).toEqual([['020', 184]]);
    expect(mustBeDone(applyStep(after, invertStep(before, mustBeDone(planned.edit).step)))).toEqual(before);
  });

  it('where shots keep their counts, converted clips still keep their time', () => {
    const before = reelOf({ ...clipItem('kept', clipOf(100)), trim: { fromFrame: 24, frames: 48 } }, clipItem('whole', clipOf(100)));
    const planned = planRateChange(before, placedItems(before), {
      scope: { kind: 'project', to: rate(12) },
      way: 'readAs',
      vanishing: 'refuse',
    });
    const after = mustBeDone(applyStep(before, mustBeDone(planned.edit).step));
    expect(startsOf(after)).toEqual([0, 24]);
    expect(planned.newFrames).toBe(72);
  });

  it('whatever lies on it, cuts stand within half a frame of their time, and one undo brings all back', () => {
    const anyItem = fc.oneof(
      record({ kind: fc.constant('gap' as const), finished: fc.constant(true), frames: fc.integer({ min: 3, max: 40 }) }),
      record({
        kind: fc.constant('shot' as const),
        finished: fc.constant(true),
        shotId: fc.constant('shot-020'),
        trim: record({ fromFrame: fc.nat(50), frames: fc.integer({ min: 3, max: 46 }) }),
      }),
    );
    fc.assert(
      fc.property(
        fc.array(anyItem, { minLength: 1, maxLength: 12 }),
        fc.constantFrom(rate(25), rate(30), rate(24000, 1001), rate(48)),
        (items, to) => {
          const project = reelOf(...items.map((item, index) => ({ ...item, id: `i${index}` })));
          const edit = mustBeDone(plan(project, to).edit);
          const after = mustBeDone(applyStep(project, edit.step));
          startsOf(after).forEach((start, index) => {
            const exact = ((startsOf(project)[index] ?? 0) * to.num) / to.den / 24;
            expect(Math.abs(start - exact)).toBeLessThanOrEqual(0.5 + 1e-9);
          });
          for (const { shot, fromFrame, startFrame, endFrame } of placedItems(after))
            if (shot) expect(fromFrame + endFrame - startFrame).toBeLessThanOrEqual(shot.frames);
          expect(mustBeDone(applyStep(after, invertStep(project, edit.step)))).toEqual(project);
        },
      ),
    );
  });
});

/** The frames of `count` numbered pictures that ffmpeg's own rate filter shows, each output frame taking the picture that stands at its start. */
function steppedByFfmpeg(count: number, from: number, to: number): readonly number[] {
  const input = Buffer.concat(Array.from({ length: count }, (_, index) => Buffer.alloc(4, index * 4)));
  const args = ['-v', 'error', '-f', 'rawvideo', '-pix_fmt', 'gray', '-s', '2x2', '-r', String(from), '-i', '-'];
  const { stdout, status } = spawnSync('ffmpeg', [...args, '-vf', `fps=${to}:round=up`, '-f', 'rawvideo', '-pix_fmt', 'gray', '-'], {
    input,
  });
  if (status !== 0) throw new Error('ffmpeg failed.');
  return Array.from({ length: stdout.length / 4 }, (_, frame) => (stdout[frame * 4] ?? 0) / 4);
}

describe('even stepping of finished frames', () => {
  it('24 to 30 shows every fourth frame twice (worked by hand)', () => {
    expect(Array.from({ length: 12 }, (_, frame) => steppedSource(frame, rate(24), rate(30)))).toEqual([
      0, 0, 1, 2, 3, 4, 4, 5, 6, 7, 8, 8,
    ]);
    expect(stepEvenly(24, rate(24), rate(30))).toEqual({
      frames: 30,
      repeated: [0, 4, 8, 12, 16, 20].map((frame) => ({ frame, times: 2 })),
      lost: [],
    });
  });

  it('24 to 25 shows frames 0 and 24 twice in the first 27, 25 to 24 loses frame 24 (worked by hand)', () => {
    expect(stepEvenly(26, rate(24), rate(25)).repeated).toEqual([0, 24].map((frame) => ({ frame, times: 2 })));
    // 12 to 25: of 36 frames 33 are there twice and 3 three times.
    const often = stepEvenly(36, rate(12), rate(25));
    expect([2, 3].map((times) => often.repeated.filter((each) => each.times === times).length)).toEqual([33, 3]);
    expect(stepEvenly(50, rate(25), rate(24)).lost).toEqual([24, 49]);
  });

  it.each([
    [24, 30],
    [24, 25],
    [25, 24],
    [12, 24],
    [30, 24],
  ])('%i to %i is what ffmpeg’s rate filter does', (from, to) => {
    const count = 60;
    const theirs = steppedByFfmpeg(count, from, to);
    const ours = Array.from({ length: theirs.length }, (_, frame) => steppedSource(frame, rate(from), rate(to)));
    expect(ours).toEqual(theirs);
    expect(stepEvenly(count, rate(from), rate(to)).frames).toBe(theirs.length);
  });
});
