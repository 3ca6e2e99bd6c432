import { describe, expect, it } from 'vitest';
import { levelOf, projectOf, shotOf } from '@/core/testing/sheets';
import { baseNameOf, chosenRange, framesToChoose, planOf, type Recipe, START_RECIPE } from '@/features/handover/recipe';

const project = {
  ...projectOf(shotOf([levelOf('A', '1*4', { pictures: 'a' })], 72), shotOf([levelOf('B', '1*4', { pictures: 'b' })], 96, '020')),
  title: 'Wash Day!',
  firstFrameNumber: 1001,
};
const recipe = (part: Partial<Recipe>): Recipe => ({ ...START_RECIPE, ...part });
const reason = (part: Partial<Recipe>, of = project) => {
  const plan = planOf(of, recipe(part));
  return plan.ok ? 'can leave' : plan.reason;
};

describe('what leaves', () => {
  it('is everything unless told', () => {
    expect(chosenRange(project, START_RECIPE)).toEqual({ fromFrame: 0, toFrame: 167 });
    expect(framesToChoose(project, 'shot-020')).toBe(96);
    expect(framesToChoose(project, 'none')).toBe(0);
  });

  it('is chosen by the numbers people see', () => {
    expect(chosenRange(project, recipe({ fromText: '1001', toText: '1010' }))).toEqual({ fromFrame: 0, toFrame: 9 });
    const plan = planOf(project, recipe({ fromText: '1073', toText: ' 1080 ' }));
    expect(plan.ok && [plan.value.frames, plan.value.firstNumber]).toEqual([8, 1073]);
  });

  it.each([
    [{ fromText: 'soon' }, '“soon” is no frame number'],
    [{ toText: '-4' }, '“-4” is no frame number'],
    [{ fromText: '1030', toText: '1010' }, 'Frames 1030 to 1010 run backwards'],
    [{ fromText: '1' }, 'there are frames 1001 to 1168'],
    [{ toText: '1169' }, 'there are frames 1001 to 1168'],
    [{ shotId: 'shot-020', toText: '1097' }, 'there are frames 1001 to 1096'],
  ])('%o can’t leave', (part, named) => expect(reason(part)).toContain(named));

  it('rules films out for odd sizes, and pictures not', () => {
    const odd = { ...project, size: { width: 641, height: 360 } };
    expect(reason({ kind: 'mp4' }, odd)).toContain('641 × 360');
    expect(reason({ kind: 'png-zip' }, odd)).toBe('can leave');
  });
});

describe('names', () => {
  it.each([
    [{}, 'wash-day_reel_24'],
    [{ kind: 'png-zip' as const }, 'wash-day_reel'],
    [{ shotId: 'shot-020' }, 'wash-day_020_24'],
    [{ shotId: 'shot-020', fromText: '1003', toText: '1010' }, 'wash-day_020_1003-1010_24'],
    [{ kind: 'png-zip' as const, toText: '1001' }, 'wash-day_reel_1001-1001'],
  ])('for %o are %s', (part, name) => expect(baseNameOf(project, recipe(part))).toBe(name));

  it('hold a fractional rate in a form every system takes', () => {
    expect(baseNameOf({ ...project, rate: { num: 24000, den: 1001 } }, START_RECIPE)).toBe('wash-day_reel_23-976');
  });
});
