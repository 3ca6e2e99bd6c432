import { describe, expect, it } from 'vitest';
import { type Format, type FormatOptions, formatOf, groundFor, receiptNameOf, refuseByCarries } from '@/core/output/format';
import { startPictureOptions } from '@/core/output/pictures';
import {
  baseNameOf,
  chosenRange,
  framesToChoose,
  planOf,
  type Recipe,
  type RefusingFormat,
  recipeOf,
  START_RECIPE,
} from '@/core/output/recipe';
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
  start: START_RECIPE.options,
  compares: () => 'film',
  refuse: (plan) => refuseByCarries(FILM, plan),
};
const PICTURES: RefusingFormat = {
  ...FILM,
  id: 'pictures',
  files: { kind: 'numbered', extension: 'png' },
  carries: { rates: 'none', sizes: 'any', transparency: true, sound: false, colours: 'exact' },
  start: startPictureOptions('png'),
  compares: () => 'exact',
  refuse: (plan) => refuseByCarries(PICTURES, plan),
};
const formatFor = ({ formatId }: Recipe) => formatOf([FILM, PICTURES], formatId) ?? FILM;
const recipe = (part: Partial<Recipe>): Recipe => ({
  ...START_RECIPE,
  ...(part.formatId === 'pictures' ? { options: PICTURES.start } : {}),
  ...part,
});
const TODAY = '2026-11-26';
const reason = (part: Partial<Recipe>, of = project) => {
  const wanted = recipe(part);
  const plan = planOf(of, wanted, formatFor(wanted), TODAY);
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
    const plan = planOf(project, recipe({ fromText: '1073', toText: ' 1080 ' }), FILM, TODAY);
    expect(plan.ok && [plan.value.plan.frames, plan.value.plan.firstNumber]).toEqual([8, 1073]);
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
    const names = (part: Partial<Recipe>) => {
      const wanted = recipe({ fromText: '1009', toText: '1010', ...part });
      const leaving = planOf(project, wanted, formatFor(wanted), TODAY);
      return leaving.ok ? leaving.value.names : leaving.reason;
    };
    expect(names({})).toEqual({ whole: 'wash-day_reel_1009-1010_24.film', pictures: [] });
    const pictures = ['wash-day_reel.1009.png', 'wash-day_reel.1010.png'];
    expect(names({ formatId: 'pictures' })).toEqual({ whole: 'wash-day_reel_1009-1010.zip', pictures });
    const folder = { ...startPictureOptions('png'), within: 'folder' as const };
    expect(names({ formatId: 'pictures', options: folder })).toEqual({ whole: null, pictures });
    const clashing = { ...folder, names: [{ part: 'project' as const }] };
    expect(names({ formatId: 'pictures', options: clashing })).toContain('Two files would be called “wash-day.png”');
    const bears = ([format, options]: readonly [Format, FormatOptions]) => receiptNameOf(format, options, 'sock');
    expect(
      (
        [
          [FILM, FILM.start],
          [PICTURES, PICTURES.start],
          [PICTURES, folder],
        ] as const
      ).map(bears),
    ).toEqual(['sock.film', 'sock.zip', 'sock.####.png']);
  });

  it('has paper under it with the background, and wherever there is no transparency', () => {
    expect([FILM, PICTURES].flatMap((format) => [groundFor(format, format.start, true), groundFor(format, format.start, false)])).toEqual([
      'paper',
      'paper',
      'paper',
      'none',
    ]);
  });
});

describe('what was asked for before', () => {
  const before = {
    shotId: 'shot-020',
    levelId: null,
    whole: false,
    range: { fromFrame: 2, toFrame: 9 },
    withBackground: false,
    formatId: 'pictures',
  };
  it('is asked for again', () => {
    const asked = {
      ...before,
      options: { ...startPictureOptions('png'), depth: 16 as const },
      taking: { ...START_RECIPE.taking, everySecond: true },
    };
    expect(recipeOf(project, asked, PICTURES)).toEqual({
      shotId: 'shot-020',
      levelId: null,
      fromText: '1003',
      toText: '1010',
      withBackground: false,
      formatId: 'pictures',
      options: asked.options,
      taking: asked.taking,
    });
  });
  it('by a receipt of an earlier form is all there is, as its format starts with', () => {
    const old = { ...before, shotId: null, whole: true, range: null, options: null, taking: null };
    expect(recipeOf(project, old, FILM)).toEqual({ ...START_RECIPE, withBackground: false, formatId: 'film' });
  });
  it('of a shot or in a format that is gone is nothing', () => {
    const asked = { ...before, options: null, taking: null };
    expect(recipeOf(project, { ...asked, shotId: 'gone' }, FILM)).toBeNull();
    expect(recipeOf(project, { ...asked, levelId: 'gone' }, FILM)).toBeNull();
    expect(recipeOf(project, { ...asked, shotId: null, levelId: 'gone' }, FILM)).toBeNull();
    expect(recipeOf(project, asked, undefined)).toBeNull();
  });
});
