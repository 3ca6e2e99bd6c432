import { describe, expect, it } from 'vitest';
import { fileNamesOf, formatOf, groundFor, receiptNameOf, refuseByCarries } from '@/core/output/format';
import { baseNameOf, chosenRange, framesToChoose, planOf, type Recipe, type RefusingFormat, START_RECIPE } from '@/core/output/recipe';
import { levelOf, projectOf, shotOf } from '@/core/testing/sheets';

const project = {
  ...projectOf(shotOf([levelOf('A', '1*4', { pictures: 'a' })], 72), shotOf([levelOf('B', '1*4', { pictures: 'b' })], 96, '020')),
  title: 'Wash Day!',
  firstFrameNumber: 1001,
};
/** A film and a row of pictures, as formats are told of. */
const FILM: RefusingFormat = {
  id: 'film',
  name: 'Film',
  group: 'film',
  files: { kind: 'one', extension: 'film' },
  carries: { rates: 'any', sizes: 'even', transparency: false, sound: false, colours: 'near' },
  refuse: (plan) => refuseByCarries(FILM, plan),
};
const PICTURES: RefusingFormat = {
  ...FILM,
  id: 'pictures',
  files: { kind: 'numbered', extension: 'png', within: 'zip' },
  carries: { rates: 'none', sizes: 'any', transparency: true, sound: false, colours: 'exact' },
  refuse: (plan) => refuseByCarries(PICTURES, plan),
};
const formatFor = ({ formatId }: Recipe) => formatOf([FILM, PICTURES], formatId) ?? FILM;
const recipe = (part: Partial<Recipe>): Recipe => ({ ...START_RECIPE, ...part });
const reason = (part: Partial<Recipe>, of = project) => {
  const wanted = recipe(part);
  const plan = planOf(of, wanted, formatFor(wanted));
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
    const plan = planOf(project, recipe({ fromText: '1073', toText: ' 1080 ' }), FILM);
    expect(plan.ok && [plan.value.frames, plan.value.firstNumber]).toEqual([8, 1073]);
  });

  it.each([
    [{ fromText: 'soon' }, '“soon” is not a frame number'],
    [{ toText: '-4' }, '“-4” is not a frame number'],
    [{ fromText: '1030', toText: '1010' }, 'Frames 1030 to 1010 run backwards'],
    [{ fromText: '1' }, 'there are frames 1001 to 1168'],
    [{ toText: '1169' }, 'there are frames 1001 to 1168'],
    [{ shotId: 'shot-020', toText: '1097' }, 'there are frames 1001 to 1096'],
  ])('%o can’t leave', (part, named) => expect(reason(part)).toContain(named));

  it('rules films out for odd sizes, and pictures not', () => {
    const odd = { ...project, size: { width: 641, height: 360 } };
    expect(reason({ formatId: 'film' }, odd)).toContain('641 × 360');
    expect(reason({ formatId: 'pictures' }, odd)).toBe('can leave');
  });
});

describe('names', () => {
  it.each([
    [{}, 'wash-day_reel_24'],
    [{ formatId: 'pictures' }, 'wash-day_reel'],
    [{ shotId: 'shot-020' }, 'wash-day_020_24'],
    [{ shotId: 'shot-020', fromText: '1003', toText: '1010' }, 'wash-day_020_1003-1010_24'],
    [{ formatId: 'pictures', toText: '1001' }, 'wash-day_reel_1001-1001'],
  ])('for %o are %s', (part, name) => expect(baseNameOf(project, recipe(part), formatFor(recipe(part)))).toBe(name));

  it('hold a fractional rate in a form every system takes', () => {
    expect(baseNameOf({ ...project, rate: { num: 24000, den: 1001 } }, START_RECIPE, FILM)).toBe('wash-day_reel_23-976');
  });
});

describe('what comes of a format', () => {
  it('is one file, or numbered ones', () => {
    expect(fileNamesOf(FILM, 'sock', 1001, 3)).toEqual({ whole: 'sock.film', pictures: [] });
    expect(fileNamesOf(PICTURES, 'sock', 9, 2)).toEqual({ whole: 'sock.zip', pictures: ['sock.0009.png', 'sock.0010.png'] });
    const folder = { ...PICTURES, files: { kind: 'numbered', extension: 'png', within: 'folder' } } as const;
    expect(fileNamesOf(folder, 'sock', 9, 1)).toEqual({ whole: null, pictures: ['sock.0009.png'] });
    expect([FILM, PICTURES, folder].map((format) => receiptNameOf(format, 'sock'))).toEqual(['sock.film', 'sock.zip', 'sock.####.png']);
  });

  it('has paper under it with the background, and wherever there is no transparency', () => {
    expect([FILM, PICTURES].flatMap((format) => [groundFor(format, true), groundFor(format, false)])).toEqual([
      'paper',
      'paper',
      'paper',
      'none',
    ]);
  });
});
