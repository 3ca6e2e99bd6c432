import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { framesOfClip } from '@/core/document/clip';
import type { Project, ReelItem, Trim } from '@/core/document/model';
import type { Edit } from '@/core/edit/edit';
import { applyStep, invertStep } from '@/core/edit/table';
import { mustBeDone, type Outcome } from '@/core/outcome';
import { closeGaps, insertGap, layShot, leaveOut, repeatItems, setGapLength, setReelLength } from '@/core/reel/itemEdits';
import { dropItems, moveItems, moveItemsBy, startItemOn } from '@/core/reel/moveItems';
import { framesOfReel, itemAt, placedItems, reelFrameOf, shotAt, shotsLeftOut } from '@/core/reel/reel';
import { longestReelFrames } from '@/core/reel/reelEdit';
import { showWhole, slipItem, splitItem, trimItem } from '@/core/reel/trimItems';
import { ids, levelOf, projectOf, shotOf } from '@/core/testing/sheets';

const shot = (id: string, shotId: string, trim: Trim | null = null): ReelItem => ({ id, kind: 'shot', finished: true, shotId, trim });
const gap = (id: string, frames: number): ReelItem => ({ id, kind: 'gap', finished: true, frames });
const withItems = (project: Project, ...items: ReelItem[]): Project => ({ ...project, reel: { ...project.reel, items } });

const SHOTS = projectOf(
  shotOf([levelOf('A', '1*72')], 72),
  shotOf([levelOf('B', '1*96')], 96, '020'),
  shotOf([levelOf('C', '1*10')], 10, '030'),
);
/** The reel of the worked examples: 010 whole, 020 from its 9th frame for 80, a gap of 12; and 030 whole behind it. */
const REEL = withItems(
  SHOTS,
  shot('a', 'shot-010'),
  shot('b', 'shot-020', { fromFrame: 8, frames: 80 }),
  gap('g', 12),
  shot('c', 'shot-030'),
);

const starts = (project: Project) => placedItems(project).map(({ startFrame }) => startFrame);
const order = (project: Project) => placedItems(project).map(({ item }) => item.id);

/** Every frame of the reel by brute force: which shot's frame it shows, or that it is paper. */
const frames = (project: Project): readonly string[] =>
  project.reel.items.flatMap((item) => {
    if (item.kind === 'gap') return Array.from({ length: item.frames }, () => '-');
    const [name, length] =
      item.kind === 'clip'
        ? [item.clip.fileName, framesOfClip(item.clip, item.way, project.rate)]
        : [item.shotId, project.shots.find(({ id }) => id === item.shotId)?.frames ?? 0];
    const { fromFrame, frames: count } = item.trim ?? { fromFrame: 0, frames: length };
    return Array.from({ length: count }, (_, frame) => `${name} ${fromFrame + frame}`);
  });

/** The project after an edit, which must undo to what was there. */
function made(before: Project, edit: Outcome<Edit>): Project {
  const { step } = mustBeDone(edit);
  const next = mustBeDone(applyStep(before, step));
  expect(mustBeDone(applyStep(next, invertStep(before, step)))).toEqual(before);
  return next;
}
const says = (edit: Outcome<Edit>) => (edit.ok ? edit.value.says : edit.reason);

describe('where items start', () => {
  it('is worked out from those before (worked by hand)', () => {
    expect(starts(REEL)).toEqual([0, 72, 152, 164]);
    expect(framesOfReel(REEL)).toBe(174);
    expect(frames(REEL)).toHaveLength(174);
  });

  it('follows a shot that is shown whole, and leaves trims as they are (worked by hand: 4 longer)', () => {
    const longer = mustBeDone(applyStep(REEL, { type: 'setShotLength', shotId: 'shot-010', frames: 76 }));
    expect(starts(longer)).toEqual([0, 76, 156, 168]);
    const shorter = mustBeDone(applyStep(REEL, { type: 'setShotLength', shotId: 'shot-020', frames: 80 }));
    expect(starts(shorter)).toEqual([0, 72, 152, 164]);
  });

  it.each([
    [0, 'a', 0],
    [71, 'a', 71],
    [72, 'b', 8],
    [151, 'b', 87],
    [152, 'g', null],
    [164, 'c', 0],
    [173, 'c', 9],
  ])('frame %i is of %s, its shot’s frame %s', (frame, id, shotFrame) => {
    expect(itemAt(REEL, frame)?.item.id).toBe(id);
    const placed = shotAt(REEL, frame);
    expect(placed ? frame - placed.startFrame + placed.fromFrame : null).toBe(shotFrame);
    if (placed && shotFrame !== null) expect(reelFrameOf(REEL, placed.shot.id, shotFrame)?.frame).toBe(frame);
  });
  it.each([-1, 174])('frame %i is of none', (frame) => expect(itemAt(REEL, frame)).toBeUndefined());
  it('a frame a trim leaves out is nowhere', () => expect(reelFrameOf(REEL, 'shot-020', 7)).toBeUndefined());
});

describe('moving items', () => {
  it.each([
    [['c'], 0, ['c', 'a', 'b', 'g'], '030 starts on frame 1, was 165; 010, 020 start 10 frames later'],
    [['a', 'c'], 0, ['a', 'c', 'b', 'g'], '010, 030 start on frame 1, was 1; 020 starts 10 frames later'],
    [['a', 'b'], 2, ['g', 'c', 'a', 'b'], '010, 020 start on frame 23, was 1; 030 starts 152 frames earlier'],
    [['b'], 9, ['a', 'g', 'c', 'b'], '020 starts on frame 95, was 73; 030 starts 80 frames earlier'],
  ])('%j to %i', (moved, index, expected, words) => {
    const edit = moveItems(REEL, moved, index);
    expect(order(made(REEL, edit))).toEqual(expected);
    expect(says(edit)).toBe(words);
  });
  it('by one place, past a gap as well', () => {
    expect(order(made(REEL, moveItemsBy(REEL, ['c'], -1)))).toEqual(['a', 'b', 'c', 'g']);
    expect(order(made(REEL, moveItemsBy(REEL, ['a', 'b'], 1)))).toEqual(['g', 'a', 'b', 'c']);
    expect(says(moveItemsBy(REEL, ['a'], -1))).toBe('There is nothing before it on the reel.');
    expect(says(moveItemsBy(REEL, ['c'], 1))).toBe('There is nothing after it on the reel.');
    expect(moveItems(REEL, ['gone'], 0).ok).toBe(false);
    expect(says(moveItems(REEL, [], 0))).toBe('Select something on the reel first.');
    expect(says(moveItems(REEL, ['a'], 0))).toBe('It is there already.');
  });
  it('any of them, anywhere, keeps what they show and the order among them', () => {
    fc.assert(
      fc.property(fc.subarray(['a', 'b', 'g', 'c'], { minLength: 1 }), fc.integer({ min: 0, max: 4 }), (moved, index) => {
        const edit = moveItems(REEL, moved, index);
        if (!edit.ok) return;
        const rest = ['a', 'b', 'g', 'c'].filter((id) => !moved.includes(id));
        expect(order(made(REEL, edit))).toEqual(rest.toSpliced(index, 0, ...moved));
      }),
    );
  });
});

describe('starting an item on a frame', () => {
  it.each([
    ['b', 79, [0, 72, 79, 159, 171], '020 starts on frame 80, was 73; 030 starts 7 frames later; the reel has 181 frames, was 174'],
    ['c', 158, [0, 72, 152, 158], '030 starts on frame 159, was 165; the reel has 168 frames, was 174'],
    ['c', 152, [0, 72, 152], '030 starts on frame 153, was 165; the reel has 162 frames, was 174'],
    ['c', 72, [0, 72, 82, 162], '030 starts on frame 73, was 165; 020 starts 10 frames later'],
    ['g', 72, [0, 72, 84, 164], 'the gap of 12 frames starts on frame 73, was 153; 020 starts 12 frames later'],
  ])('%s on %i', (id, frame, expected, words) => {
    const edit = startItemOn(REEL, id, frame, ids());
    expect(starts(made(REEL, edit))).toEqual(expected);
    expect(says(edit)).toBe(words);
  });
  it.each([
    [-1, 'An item starts on a frame of the reel: a whole number from 1 to 864,000.'],
    [1.5, 'An item starts on a frame of the reel: a whole number from 1 to 864,000.'],
    [864_000, 'An item starts on a frame of the reel: a whole number from 1 to 864,000.'],
    [863_995, 'The reel would have 864,005 frames; the most is 864,000, 10 hours.'],
    [164, 'It starts there already.'],
    [80, 'Frame 81 is within 020: an item starts on a cut or in a gap. The cuts there are on 73 and 153.'],
  ])('refuses %d', (frame, words) => expect(says(startItemOn(REEL, 'c', frame, ids()))).toBe(words));
  it('counts ten hours at the rate', () => expect(longestReelFrames({ num: 24000, den: 1001 })).toBe(863_136));

  it('takes the room of a gap, exactly there, and what follows stays as far as it fits', () => {
    const wide = withItems(SHOTS, shot('a', 'shot-010'), gap('g', 50), shot('b', 'shot-020'), shot('c', 'shot-030'));
    const within = made(wide, startItemOn(wide, 'c', 80, ids()));
    expect(starts(within)).toEqual([0, 72, 80, 90, 122]);
    expect(placedItems(within)[2]?.item.id).toBe('c');
    const over = made(wide, startItemOn(wide, 'c', 118, ids()));
    expect(starts(over)).toEqual([0, 72, 118, 128]);
  });
});

describe('letting go of items over a frame', () => {
  it.each([
    [['c'], 30, ['c', 'a', 'b', 'g'], 0],
    [['c'], 40, ['a', 'c', 'b', 'g'], 72],
    [['a'], 85, ['b', 'g', 'a', 'c'], 85],
    [['c'], 200, ['a', 'b', 'g', 'new-1', 'c'], 200],
    [['c'], -20, ['c', 'a', 'b', 'g'], 0],
  ])('%j over %i', (moved, frame, expected, start) => {
    const next = made(REEL, dropItems(REEL, moved, frame, ids()));
    expect(order(next).map((id) => (['a', 'b', 'g', 'c'].includes(id) ? id : 'new-1'))).toEqual(expected);
    expect(placedItems(next).find(({ item }) => item.id === moved[0])?.startFrame).toBe(start);
  });
});

describe('trimming', () => {
  it.each([
    ['a', 8, 40, [0, 40, 120, 132], '010: frames 9 to 48, 40 of 72; 020, 030 start 32 frames earlier; the reel has 142 frames, was 174'],
    ['b', 0, 96, [0, 72, 168, 180], '020 whole, 96 frames; 030 starts 16 frames later; the reel has 190 frames, was 174'],
  ])('%s from %i for %i', (id, fromFrame, count, expected, words) => {
    const edit = trimItem(REEL, id, { fromFrame, frames: count });
    expect(starts(made(REEL, edit))).toEqual(expected);
    expect(says(edit)).toBe(words);
  });
  it.each([
    ['a', { fromFrame: 0, frames: 0 }, 'At least one frame of shot 010 has to stay: leave it out of the reel to show none.'],
    ['a', { fromFrame: 0, frames: 73 }, 'Shot 010 has frames 1 to 72: frames 1 to 73 can’t be shown of it.'],
    ['a', { fromFrame: -1, frames: 3 }, 'Shot 010 has frames 1 to 72: frames 0 to 2 can’t be shown of it.'],
    ['a', { fromFrame: 0, frames: 72 }, 'Shot 010 is shown whole already.'],
    ['g', { fromFrame: 0, frames: 2 }, 'A gap has no frames to trim: set how long it is.'],
    ['gone', { fromFrame: 0, frames: 2 }, 'What was to be trimmed is no longer on the reel.'],
  ])('refuses %s %j', (id, trim, words) => expect(says(trimItem(REEL, id, trim))).toBe(words));

  it('slips what is shown, and nothing else', () => {
    const next = made(REEL, slipItem(REEL, 'b', 4));
    expect(starts(next)).toEqual(starts(REEL));
    expect(frames(next)[72]).toBe('shot-020 12');
    expect(says(slipItem(REEL, 'b', 9))).toContain('can’t be shown of it');
    expect(says(slipItem(REEL, 'a', 1))).toContain('Trim it first');
    expect(starts(made(REEL, showWhole(REEL, 'b')))).toEqual([0, 72, 168, 180]);
  });

  it('a split changes no frame, wherever it is', () => {
    for (let frame = 0; frame < framesOfReel(REEL); frame++) {
      const placed = itemAt(REEL, frame);
      const edit = splitItem(REEL, placed?.item.id ?? '', frame, ids());
      if (frame === placed?.startFrame) expect(edit.ok).toBe(false);
      else expect(frames(made(REEL, edit))).toEqual(frames(REEL));
    }
  });
});

describe('gaps, and what is left out or used again', () => {
  it('close, open and get another length', () => {
    expect(starts(made(REEL, closeGaps(REEL, ['a', 'g'])))).toEqual([0, 72, 152]);
    expect(says(closeGaps(REEL, ['g']))).toBe('Close 1 gap, 12 frames; 030 starts 12 frames earlier; the reel has 162 frames, was 174');
    expect(closeGaps(REEL, ['a']).ok).toBe(false);
    expect(starts(made(REEL, insertGap(REEL, 1, 5, ids())))).toEqual([0, 72, 77, 157, 169]);
    expect(starts(made(REEL, setGapLength(REEL, 'g', 2)))).toEqual([0, 72, 152, 154]);
    expect(starts(made(REEL, setGapLength(REEL, 'g', 0)))).toEqual([0, 72, 152]);
  });
  it('leave the shot in the project, which can be laid again', () => {
    const edit = leaveOut(REEL, ['b']);
    expect(says(edit)).toBe('Leave 020 out; 020 stays in the project; 030 starts 80 frames earlier; the reel has 94 frames, was 174');
    const without = made(REEL, edit);
    expect(shotsLeftOut(without).map(({ code }) => code)).toEqual(['020']);
    expect(starts(made(without, layShot(without, 'shot-020', 1, ids())))).toEqual([0, 72, 168, 180]);
    expect(layShot(without, 'gone', 0, ids()).ok).toBe(false);
  });
  it('use a shot twice, trimmed as it is', () => {
    const twice = made(REEL, repeatItems(REEL, ['a', 'b'], ids()));
    expect(frames(twice).slice(0, 304)).toEqual([...frames(REEL).slice(0, 152), ...frames(REEL).slice(0, 152)]);
    expect(says(leaveOut(twice, ['b']))).not.toContain('stays in the project');
  });
});

describe('the reel’s length', () => {
  it.each([
    [170, 'Cut the last 4 frames of 030; the reel has 170 frames, was 174'],
    [160, 'Cut the last 4 frames of the gap of 12 frames, 030; the reel has 160 frames, was 174'],
    [10, 'Cut the last 62 frames of 010, 020, the gap of 12 frames, 030; the reel has 10 frames, was 174'],
    [180, 'A gap of 6 frames at the end; the reel has 180 frames, was 174'],
  ])('%i', (length, words) => expect(says(setReelLength(REEL, length, ids()))).toBe(words));
  it('longer, makes a gap at the end longer', () => {
    const reel = withItems(REEL, ...REEL.reel.items, gap('end', 1));
    expect(says(setReelLength(reel, 181, ids()))).toBe('6 frames of paper more at the end; the reel has 181 frames, was 175');
  });
  it('any length keeps what comes before its end', () => {
    fc.assert(
      fc.property(fc.integer({ min: 1, max: 400 }), (length) => {
        const edit = setReelLength(REEL, length, ids());
        if (length === framesOfReel(REEL)) {
          expect(edit.ok).toBe(false);
          return;
        }
        const now = frames(made(REEL, edit));
        expect(now).toHaveLength(length);
        expect(now).toEqual(Array.from({ length }, (_, frame) => frames(REEL)[frame] ?? '-'));
      }),
      { examples: [[framesOfReel(REEL)]] },
    );
  });
  it.each([0, 1.5, 864_001])('refuses %d', (length) => expect(setReelLength(REEL, length, ids()).ok).toBe(false));
});
