import { describe, expect, it } from 'vitest';
import type { Project } from '@/core/document/model';
import type { Step } from '@/core/edit/step';
import { applyStep } from '@/core/edit/table';
import { mustBeDone } from '@/core/outcome';
import { framesOfReel, placedShots, shotAt } from '@/core/reel/reel';
import { addShotOf, levelOf, projectOf, shotOf } from '@/core/testing/sheets';

const project = projectOf(
  shotOf([levelOf('Yard', '1', { kind: 'still' }), levelOf('Sock', '1*2 2*2')], 72),
  shotOf([], 96, '020'),
  shotOf([], 96, '030'),
);
const codes = (of: Project) => placedShots(of).map(({ shot }) => shot.code);
const reason = (step: Step) => {
  const result = applyStep(project, step);
  return result.ok ? 'applied' : result.reason;
};

describe('items on the reel', () => {
  it.each([
    [2, ['010', '030', '020']],
    [0, ['020', '010', '030']],
    [1, ['010', '020', '030']],
  ])('moves 020 to place %i', (index, order) => {
    expect(codes(mustBeDone(applyStep(project, { type: 'moveItem', itemId: 'shot-020', index })))).toEqual(order);
  });

  it('takes no second shot of one code, and none without', () => {
    expect(reason(addShotOf({ ...shotOf([], 10, '020'), id: 'other' }, 0))).toContain('a shot 020 already');
    expect(reason({ type: 'describeShot', shotId: 'shot-010', code: '020' })).toContain('a shot 020 already');
    expect(reason({ type: 'describeShot', shotId: 'shot-010', code: ' ' })).toContain('needs a code');
    expect(reason(addShotOf(shotOf([], 10, '010'), 0))).toContain('in the project already');
    expect(reason(addShotOf(shotOf([], 10, '040'), 9))).toContain('Place 10');
    expect(reason({ type: 'moveItem', itemId: 'shot-010', index: 7 })).toContain('Place 8');
  });

  it('keeps its own code when only the name changes', () => {
    const named = mustBeDone(applyStep(project, { type: 'describeShot', shotId: 'shot-010', name: 'Line in the wind' }));
    expect(named.shots[0]).toMatchObject({ code: '010', name: 'Line in the wind', note: '' });
  });

  it.each([0, -3, 1.5, 2_000_000])('refuses a length of %d', (frames) =>
    expect(reason({ type: 'setShotLength', shotId: 'shot-010', frames })).toContain(String(frames)),
  );

  it('refuses an empty title and a note before the first frame', () => {
    expect(reason({ type: 'renameProject', title: '  ' })).toContain('needs a title');
    expect(reason({ type: 'setNotes', shotId: 'shot-010', notes: [{ frame: -1, kind: 'note', words: 'x' }] })).toContain('frame');
  });
});

describe('levels and drawings', () => {
  it('refuse what can’t be', () => {
    const at = { shotId: 'shot-010', levelId: 'Sock' };
    expect(reason({ type: 'describeLevel', ...at, change: { opacityPercent: 101 } })).toContain('101 %');
    expect(reason({ type: 'setPalette', palette: ['#12345'] })).toContain('“#12345” is not a colour');
    expect(reason({ type: 'setPalette', palette: ['#ffffff', '#ffffff'] })).toContain('#ffffff is in the palette already');
    expect(reason({ type: 'describeLevel', ...at, change: { name: ' ' } })).toContain('needs a name');
    expect(reason({ type: 'moveLevel', ...at, index: 2 })).toContain('Place 3');
    expect(reason({ type: 'addLevel', shotId: 'shot-010', level: levelOf('Sock', '1'), index: 0 })).toContain('already');
    expect(
      reason({
        type: 'addLevel',
        shotId: 'shot-010',
        level: { ...levelOf('New', '1'), exposures: [{ drawing: null, frames: 2 }] },
        index: 0,
      }),
    ).toContain('one form');
    expect(reason({ type: 'describeDrawing', ...at, drawingId: 'Sock-1', number: '2' })).toContain('a drawing 2 already');
    expect(reason({ type: 'describeDrawing', ...at, drawingId: 'Sock-1', number: '1 a' })).toContain('1 to 12 letters');
    expect(reason({ type: 'setPicture', ...at, drawingId: 'Sock-1', picture: 'blue' })).toContain('not a picture’s digest');
    expect(reason({ type: 'copyDrawing', ...at, sourceId: 'Sock-9', copyId: 'x', number: '9', index: 0 })).toContain('no drawing Sock-9');
  });

  it('move a level among the others', () => {
    const moved = mustBeDone(applyStep(project, { type: 'moveLevel', shotId: 'shot-010', levelId: 'Sock', index: 0 }));
    expect(moved.shots[0]?.levels.map((level) => level.name)).toEqual(['Sock', 'Yard']);
  });

  it('change several things or none: one refused step undoes the whole', () => {
    const both: Step = {
      type: 'together',
      words: 'both',
      steps: [
        { type: 'renameProject', title: 'New' },
        { type: 'setShotLength', shotId: 'shot-010', frames: 0 },
      ],
    };
    expect(reason(both)).toContain('A length of 0 frames');
    expect(project.title).toBe('Test');
  });
});

describe('the reel', () => {
  it('places shots one after another', () => {
    expect(placedShots(project).map(({ startFrame, endFrame }) => [startFrame, endFrame])).toEqual([
      [0, 72],
      [72, 168],
      [168, 264],
    ]);
    expect(framesOfReel(project)).toBe(264);
    expect(framesOfReel(projectOf())).toBe(0);
  });

  it.each([
    [0, '010'],
    [71, '010'],
    [72, '020'],
    [263, '030'],
    [264, undefined],
    [-1, undefined],
  ])('shows on frame %i shot %s', (frame, code) => expect(shotAt(project, frame)?.shot.code).toBe(code));

  it('follows a new length at once', () => {
    const longer = mustBeDone(applyStep(project, { type: 'setShotLength', shotId: 'shot-010', frames: 80 }));
    expect(placedShots(longer).map((placed) => placed.startFrame)).toEqual([0, 80, 176]);
  });
});
