import { describe, expect, it } from 'vitest';
import { checkProject, checkShot, linkStates } from '@/core/check/check';
import { emptyTail } from '@/core/check/emptyTail';
import { type LastHandover, lastHandover } from '@/core/check/lastHandover';
import { levelPastEnd } from '@/core/check/levelPastEnd';
import { neverExposed } from '@/core/check/neverExposed';
import { oneFrameGap } from '@/core/check/oneFrameGap';
import { plannedEmpty } from '@/core/check/plannedEmpty';
import { samePicture } from '@/core/check/samePicture';
import type { Shot } from '@/core/document/model';
import { applyStep } from '@/core/edit/table';
import { mustBeDone } from '@/core/outcome';
import { AGAINST_NOTHING, LOOKING, lookAt, mendedColumns } from '@/core/testing/checking';
import { columnIn, levelOf, projectOf, shotOf } from '@/core/testing/sheets';

describe('the same picture under two numbers in a row', () => {
  it.each([
    ['1*2 2*2 3*2', 'aab', ['1*4 3*2']],
    ['1*2 2*2 3*2', 'abb', ['1*2 2*4']],
  ])('%s with %s is found, and fixed to %s', (notation, pictures, columns) => {
    const level = levelOf('Sock', notation, { pictures });
    const findings = lookAt(samePicture, level);
    expect(findings).toHaveLength(1);
    expect(findings[0]?.breaks).toBe('draw-check');
    expect(mendedColumns(samePicture, level, findings[0])).toEqual(columns);
  });

  it('finds each of three in a row', () => expect(lookAt(samePicture, levelOf('Sock', '1 2 3', { pictures: 'aaa' }))).toHaveLength(2));

  it('keeps a drawing that is shown elsewhere', () => {
    const level = levelOf('Sock', '1*2 2*2 3*2 2*2', { pictures: 'aab' });
    expect(mendedColumns(samePicture, level, lookAt(samePicture, level)[0])).toEqual(['1*4 3*2 2*2']);
  });

  it.each([
    ['1*2 2*2 3*2 1*2 2*2 3*2', 'abc'],
    ['1*2 2*2 1*2', 'ab'],
    ['1*2 . 2*2', 'aa'],
    ['1*2 2*2', '--'],
    ['1*2 2*2 3*2', 'aba'],
  ])('finds nothing in %s with %s: a cycle, a gap, nothing drawn, or others between', (notation, pictures) => {
    expect(lookAt(samePicture, levelOf('Sock', notation, { pictures }))).toEqual([]);
  });
});

describe('a gap of one frame', () => {
  it('is found between two drawings, and fixed from either side', () => {
    const level = levelOf('Pegs', '8*2 . 9*2');
    const [finding] = lookAt(oneFrameGap, level);
    expect(finding?.sentence).toBe('Pegs is blank on frame 3 alone, between 8 and 9.');
    expect(mendedColumns(oneFrameGap, level, finding)).toEqual(['8*3 9*2', '8*2 9*3']);
  });

  it.each(['. 1*2', '1*2', '1*2 .*2 2*2', '1*2 2*2', ''])('finds none in %s', (notation) =>
    expect(lookAt(oneFrameGap, levelOf('Pegs', notation), 20)).toEqual([]),
  );

  it('holds one drawing over a gap within it', () => {
    const level = levelOf('Pegs', '1*2 . 1*2');
    expect(mendedColumns(oneFrameGap, level, lookAt(oneFrameGap, level)[0])).toEqual(['1*5', '1*5']);
  });
});

describe('counts that disagree', () => {
  it('finds a level past the end of its shot, with both numbers', () => {
    const level = levelOf('Sock', '1*60 2*38');
    const [finding] = lookAt(levelPastEnd, level, 96);
    expect(finding?.sentence).toBe('Sock runs for 98 frames, shot 010 has 96: 2 frames past the end never reach the reel.');
    expect(mendedColumns(levelPastEnd, level, finding, 96)).toEqual(['1*60 2*38', '1*60 2*36']);
    expect(lookAt(levelPastEnd, level, 98)).toEqual([]);
    expect(lookAt(levelPastEnd, levelOf('Yard', '1', { kind: 'still' }), 1)).toEqual([]);
  });

  it('finds drawings the sheet never shows', () => {
    const level = levelOf('Sock', '1*2', { extra: ['2', '3'] });
    const findings = lookAt(neverExposed, level);
    expect(findings.map((finding) => finding.fixes[0]?.words)).toEqual(['Delete drawing 2', 'Delete drawing 3']);
    expect(lookAt(neverExposed, levelOf('Sock', '1*2 2'))).toEqual([]);
    expect(lookAt(neverExposed, levelOf('Yard', '1', { kind: 'still' }))).toEqual([]);
  });

  it('finds frames at the end that show no drawing', () => {
    const shot = shotOf([levelOf('Yard', '1', { kind: 'still' }), levelOf('Sock', '1*4 2*6'), levelOf('Line', '1*3')], 24);
    const [finding] = emptyTail(shot);
    expect(finding?.sentence).toBe('The drawings of shot 010 fill 10 frames, the shot has 24: the last 14 frames show no drawing.');
    const [shorter, held] = (finding?.fixes ?? []).map((fix) => mustBeDone(applyStep(projectOf(shot), fix.step)));
    expect(shorter?.shots[0]?.frames).toBe(10);
    expect(held && columnIn(held, 'Sock')).toBe('1*4 2*20');
    expect(emptyTail(shotOf([levelOf('Sock', '1*4')], 4))).toEqual([]);
    expect(emptyTail(shotOf([levelOf('Sock', '')], 24))).toEqual([]);
  });
});

describe('planned and not drawn', () => {
  it('is one finding a level, at the first of them', () => {
    const [finding] = lookAt(plannedEmpty, levelOf('Sock', '1*2 2*2 3*2', { pictures: 'a--' }));
    expect(finding?.sentence).toBe('Sock in shot 010 has 2 drawings planned and not drawn yet: 2, 3.');
    expect(finding?.place).toMatchObject({ fromFrame: 2, toFrame: 3 });
    expect(finding?.breaks).toBeNull();
  });

  it('names eight and counts the rest', () => {
    const [finding] = lookAt(plannedEmpty, levelOf('Sock', '1 2 3 4 5 6 7 8 9 10'));
    expect(finding?.sentence).toContain('1, 2, 3, 4, 5, 6, 7, 8 and 2 more');
  });

  it('leaves guides, drawn levels and drawings never shown alone', () => {
    expect(lookAt(plannedEmpty, levelOf('Clip', '1*2', { kind: 'guide' }))).toEqual([]);
    expect(lookAt(plannedEmpty, levelOf('Sock', '1*2', { pictures: 'a' }))).toEqual([]);
    expect(lookAt(plannedEmpty, levelOf('Sock', '1*2', { pictures: 'a', extra: ['2'] }))).toEqual([]);
    expect(lookAt(plannedEmpty, levelOf('Yard', '1', { kind: 'still' }))).toHaveLength(1);
  });
});

describe('the last handover', () => {
  const project = projectOf(shotOf([levelOf('Sock', '1*4')], 4));
  const handed: LastHandover = {
    fileName: 'a.mp4',
    frames: 4,
    rate: { num: 24, den: 1 },
    agrees: true,
    planDigest: 'p',
    fileBytes: 1,
    hasGround: true,
  };
  it.each([
    [{}, 'p', null],
    [{ frames: 6 }, 'p', 'has 6 frames; the reel has 4 now'],
    [{ rate: { num: 25, den: 1 } }, 'p', 'runs at 25/1; the project at 24/1'],
    [{ agrees: false }, 'p', 'did not agree'],
    [{}, 'q', 'changed since the last handover'],
    [{}, null, null],
  ])('%o against a plan %s says %s', (part, digest, sentence) => {
    const findings = lastHandover(project, { ...handed, ...part }, digest);
    if (sentence === null) expect(findings).toEqual([]);
    else expect(findings[0]?.sentence).toContain(sentence);
  });

  it('says nothing before there was one', () => expect(lastHandover(project, null, 'p')).toEqual([]));
});

describe('a whole project', () => {
  const clean = projectOf(shotOf([levelOf('Sock', '1*2 2*2', { pictures: 'ab' })], 4));

  it('has no findings when everything agrees, and lime links', () => {
    expect(checkProject(clean, AGAINST_NOTHING)).toEqual([]);
    expect(linkStates(clean, [], null)).toEqual({
      'plan-draw': 'agrees',
      'draw-check': 'agrees',
      'check-assemble': 'agrees',
      'assemble-handover': 'nothing',
    });
  });

  it('has nothing to compare when empty', () => {
    expect(new Set(Object.values(linkStates(projectOf(shotOf([], 24)), [], null)))).toEqual(new Set(['nothing']));
  });

  it('breaks the link a finding is about, and puts counts first', () => {
    const faulty = projectOf(shotOf([levelOf('Sock', '1*2 . 2*2 3*2', { pictures: 'aab' })], 6));
    const findings = checkProject(faulty, AGAINST_NOTHING);
    expect(findings.map((finding) => finding.group)).toEqual(['counts', 'repeats', 'slips']);
    expect(linkStates(faulty, findings, null)['check-assemble']).toBe('disagrees');
    expect(linkStates(faulty, findings, null)['draw-check']).toBe('agrees');
  });

  it('looks at an unchanged shot only once', () => {
    const shot = clean.shots[0] as Shot;
    expect(checkShot(shot, LOOKING)).toBe(checkShot(shot, LOOKING));
    expect(checkShot(shot, { ...LOOKING, firstNumber: 0 })).not.toBe(checkShot(shot, LOOKING));
  });
});
