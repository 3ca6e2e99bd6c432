import { describe, expect, it } from 'vitest';
import { checkProject, partKept } from '@/core/check/check';
import { cycleSeam } from '@/core/check/cycleSeam';
import { fixAll } from '@/core/check/fixAll';
import { sameApart } from '@/core/check/sameApart';
import { loopSeam, shotJoin } from '@/core/check/shotJoin';
import type { Project } from '@/core/document/model';
import { applyStep, invertStep } from '@/core/edit/table';
import { mustBeDone } from '@/core/outcome';
import { AGAINST_NOTHING, afterFixes, LOOKING, lookAt, mendedColumns } from '@/core/testing/checking';
import { columnIn, levelOf, projectOf, shotOf } from '@/core/testing/sheets';

describe('the same picture under two numbers, apart', () => {
  it('is found, and one drawing shown in both places', () => {
    const level = levelOf('Sock', '1*2 2*2 3*2 4*3 3*1', { pictures: 'abac' });
    const [finding, ...others] = lookAt(sameApart, level);
    expect(others).toEqual([]);
    expect(finding?.sentence).toBe('Sock 1 and 3 are one picture under two numbers, on frames 1 and 5.');
    expect(mendedColumns(sameApart, level, finding)).toEqual(['1*2 2*2 1*2 4*3 1']);
  });

  it.each([
    ['1*2 2*2 1*2', 'ab'],
    ['1*2 2*2', 'aa'],
    ['1*2 2*2 3*2', 'a-b'],
    ['1*2 2*2 3*2', '---'],
  ])('is not in %s with %s: shown again, in a row (told otherwise), or not drawn', (notation, pictures) =>
    expect(lookAt(sameApart, levelOf('Sock', notation, { pictures }))).toEqual([]),
  );
});

describe('a cycle’s seam', () => {
  it('is found where the cycle ends on the drawing it begins with', () => {
    const level = levelOf('Snail', '1*2 2*2 3*2 1*4 2*2 3*2 1*4 2*2 3*2 1*2');
    const [finding, ...others] = lookAt(cycleSeam, level);
    expect(others).toEqual([]);
    expect(finding?.sentence).toBe(
      'The cycle of Snail begins and ends with 1: it is held for 4 frames at every seam, 2 elsewhere, first from frame 7.',
    );
    expect(mendedColumns(cycleSeam, level, finding)).toEqual(['1*2 2*2 3*2 1*2 2*2 3*2 1*2 2*2 3*2 1*2']);
  });

  it.each([
    '1*2 2*2 3*2 1*2 2*2 3*2 1*2',
    '1*2 2*2 3*2 1*4',
    '1*2 2*2 3*2 1*4 2*2 4*2 1*2',
    '1*2 2*2 3*2 1*8 2*2 3*2 1*2',
    '1*2 2*2 1*4 3*2',
    '1 2 1 2 1 2',
  ])('is not in %s', (notation) => expect(lookAt(cycleSeam, levelOf('Snail', notation))).toEqual([]));
});

describe('joins', () => {
  const shot = (code: string, notation: string, pictures: string) =>
    shotOf([levelOf(`Sock${code}`, notation, { pictures })], undefined, code);

  it('are found where a shot begins with the picture the one before ends with', () => {
    const project = projectOf(shot('010', '1*2 2*3', 'ab'), shot('020', '1*2 2*2', 'bc'));
    const [finding, ...others] = shotJoin(project, LOOKING);
    expect(others).toEqual([]);
    expect(finding?.sentence).toBe('Shot 020 begins with the picture shot 010 ends with: over the cut it is held for 5 frames, 3 and 2.');
    const [after] = afterFixes(project, finding);
    expect(after?.shots[0]?.frames).toBe(2);
    expect(after && shotJoin(after, LOOKING)).toEqual([]);
  });

  it('are none between other pictures, or where nothing is drawn', () => {
    expect(shotJoin(projectOf(shot('010', '1*2 2*3', 'ab'), shot('020', '1*2', 'c')), LOOKING)).toEqual([]);
    expect(shotJoin(projectOf(shot('010', '1*2', '-'), shot('020', '1*2', '-')), LOOKING)).toEqual([]);
  });

  it('of a loop hold the picture at its seam', () => {
    const looped = shot('010', '1*2 2*2 3*2 1*2', 'abc');
    const [finding] = loopSeam(looped, { fromFrame: 0, toFrame: 7 }, LOOKING);
    expect(finding?.sentence).toBe(
      'Looped over frames 1–8, shot 010 ends with the picture it begins with: at the seam it is held for 4 frames, 2 and 2.',
    );
    const [after] = afterFixes(projectOf(looped), finding);
    expect(after?.shots[0]?.frames).toBe(6);
    expect(loopSeam(looped, { fromFrame: 0, toFrame: 5 }, LOOKING)).toEqual([]);
    expect(loopSeam(shot('010', '1*8', 'a'), { fromFrame: 0, toFrame: 7 }, LOOKING)).toEqual([]);
    expect(loopSeam(looped, { fromFrame: 3, toFrame: 3 }, LOOKING)).toEqual([]);
  });
});

describe('what is kept as intended', () => {
  const project = projectOf(shotOf([levelOf('Sock', '1*2 2*2 3*2 4*2 5 6*2 7*2', { pictures: 'aabcdef' })]));
  const open = (document: Project) => partKept(document, checkProject(document, AGAINST_NOTHING)).open;
  const keep = (document: Project, finding: string, note: string | null) =>
    mustBeDone(applyStep(document, { type: 'keepFinding', finding, note }));

  it('is open no longer, with its note, and survives what moves it', () => {
    const stray = open(project).find((finding) => finding.kind === 'stray');
    const kept = keep(project, stray?.id ?? '', 'a blink');
    expect(open(kept).map((finding) => finding.kind)).toEqual(['same-picture']);
    const moved = mustBeDone(
      applyStep(kept, {
        type: 'replaceRuns',
        shotId: 'shot-010',
        levelId: 'Sock',
        startFrame: 0,
        removedFrames: 0,
        runs: [{ drawing: 'Sock-1', frames: 6 }],
      }),
    );
    expect(partKept(moved, checkProject(moved, AGAINST_NOTHING)).kept).toMatchObject([
      { kind: 'stray', note: 'a blink', place: { fromFrame: 14 } },
    ]);
    expect(open(keep(kept, stray?.id ?? '', null))).toEqual(open(project));
  });

  it('is a step with an inverse', () => {
    const step = { type: 'keepFinding', finding: 'x', note: 'y' } as const;
    expect(applyStep(mustBeDone(applyStep(project, step)), invertStep(project, step))).toEqual({ ok: true, value: project });
  });
});

describe('fixing all of a kind', () => {
  const sheet = '1*2 2*2 3*2 4*2 5*2 6*2';
  const project = projectOf(shotOf([levelOf('Sock', sheet, { pictures: 'aabbcc' }), levelOf('Line', '1*2 . 2*9', { pictures: 'de' })]));
  const look = (document: Project) => checkProject(document, AGAINST_NOTHING);

  it('fixes each in what the one before left, in one step that undo takes back', () => {
    const fixing = mustBeDone(fixAll(project, 'same-picture', 'hold', look));
    expect(fixing.says).toHaveLength(3);
    expect(columnIn(fixing.after, 'Sock')).toBe('1*4 3*4 5*4');
    expect(columnIn(fixing.after, 'Line')).toBe('1*2 . 2*9');
    expect(look(fixing.after).filter((finding) => finding.kind === 'same-picture')).toEqual([]);
    const after = mustBeDone(applyStep(project, fixing.step));
    expect(after).toEqual(fixing.after);
    expect(applyStep(after, invertStep(project, fixing.step))).toEqual({ ok: true, value: project });
  });

  it('fixes three in a row of one picture down to one', () => {
    const three = projectOf(shotOf([levelOf('Sock', '1*2 2*2 3*2 4*2', { pictures: 'aaab' })]));
    expect(columnIn(mustBeDone(fixAll(three, 'same-picture', 'hold', look)).after, 'Sock')).toBe('1*6 4*2');
  });

  it('leaves what stands on a locked level, and says so', () => {
    const locked = {
      ...project,
      shots: project.shots.map((shot) => ({ ...shot, levels: shot.levels.map((level) => ({ ...level, locked: level.id === 'Sock' })) })),
    };
    expect(fixAll(locked, 'same-picture', 'hold', look)).toMatchObject({ ok: false });
    expect(mustBeDone(fixAll(locked, 'gap', 'hold', look)).left).toBe(0);
  });
});
