import type { Size } from '@/core/document/model';
import { done, type Outcome, refused } from '@/core/outcome';
import type { Dither } from '@/core/raster/dither';
import type { RenderPlan } from '@/core/render/renderPlan';
import { delaysOf, type HandTime, type HeldTime, heldTimesOf, roundedDurations } from '@/core/time/heldTimes';

/*
 * What can be asked of a loop: an animated picture for a page. It holds one picture for each run of frames that shows the same,
 * with the time of all of them. Ids of kinds are stored in recipes and receipts: they never change.
 */

export const LOOP_KINDS = ['gif', 'apng', 'awebp', 'page', 'strip'] as const;
export type LoopKind = (typeof LOOP_KINDS)[number];
export const isLoopKind = (formatId: string): formatId is LoopKind => LOOP_KINDS.some((kind) => kind === formatId);

export const PALETTES = ['whole', 'each'] as const;
export const DITHERS = ['off', 'ordered', 'diffused'] as const satisfies readonly Dither[];

export const LEAST_COLOURS = 2;
export const MOST_COLOURS = 256;
/** Times a file may say that it is played: all of these count that in 16 bits. */
export const MOST_PLAYS = 65_535;
export const MOST_HAND_TIMES = 10_000;
/** Browsers and graphics cards take no larger picture (common practice). */
export const MOST_STRIP_SIDE_PX = 16_384;

/**
 * How a kind counts time, and what can be asked of it. `unitsPerSecond` is null where times are fractions of a second; `holdsOnce`
 * is said of one that holds every picture once, however often it is shown.
 */
export type LoopKindFacts = {
  readonly name: string;
  readonly extension: string;
  readonly unitsPerSecond: number | null;
  readonly hasPalette: boolean;
  readonly hasQuality: boolean;
  /** Whether it says that its colours are sRGB. */
  readonly saysSrgb: boolean;
  readonly mostSidePx: number;
  readonly holdsOnce: boolean;
  /** What it is, in words beneath the choice. */
  readonly words: string;
};

const CHANGES_ONLY = 'A held drawing is one picture; of each only what changes is stored. There is no sound.';

export const LOOP_KIND_FACTS: Readonly<Record<LoopKind, LoopKindFacts>> = {
  gif: {
    ...{ name: 'GIF', extension: 'gif', unitsPerSecond: 100, hasPalette: true, hasQuality: false, saysSrgb: false, mostSidePx: 65_535 },
    ...{ holdsOnce: false, words: CHANGES_ONLY },
  },
  apng: {
    ...{ name: 'APNG', extension: 'png', unitsPerSecond: null, hasPalette: false, hasQuality: false, saysSrgb: true, mostSidePx: 65_535 },
    ...{ holdsOnce: false, words: CHANGES_ONLY },
  },
  awebp: {
    ...{ name: 'Animated WebP', extension: 'webp', unitsPerSecond: 1000, hasPalette: false, hasQuality: true, saysSrgb: false },
    ...{ mostSidePx: 16_384, holdsOnce: false, words: CHANGES_ONLY },
  },
  page: {
    ...{ name: 'Small page', extension: 'html', unitsPerSecond: 1_000_000, hasPalette: false, hasQuality: false, saysSrgb: true },
    ...{ mostSidePx: 16_384, holdsOnce: true },
    words: 'One file that plays by itself in any browser, with nothing to fetch: every distinct picture once as a PNG, and its times.',
  },
  strip: {
    ...{ name: 'Strip', extension: 'zip', unitsPerSecond: 1_000_000, hasPalette: false, hasQuality: false, saysSrgb: true },
    ...{ mostSidePx: MOST_STRIP_SIDE_PX, holdsOnce: true },
    words: 'A ZIP of one PNG that holds every distinct picture once, and a JSON that says where each lies and how long it is shown.',
  },
};

/**
 * `plays` is how often it is played, 0 for ever. `palette` tells one for all pictures from one for each; `quality` is from 1 to
 * 100, null where every pixel is kept; `matte` is the colour that half-transparent edges are laid on where a pixel is either
 * seen or not. `mostBytes` is what the file must stay within, null for any size. `times` are given by hand.
 */
export type LoopOptions = {
  readonly kind: 'loop';
  readonly plays: number;
  readonly colours: number;
  readonly palette: (typeof PALETTES)[number];
  readonly dither: Dither;
  readonly quality: number | null;
  readonly transparency: boolean;
  readonly matte: string;
  readonly mostBytes: number | null;
  readonly times: readonly HandTime[];
};

export const START_LOOP: LoopOptions = {
  kind: 'loop',
  plays: 0,
  colours: MOST_COLOURS,
  palette: 'whole',
  dither: 'off',
  quality: null,
  transparency: true,
  matte: '#ffffff',
  mostBytes: null,
  times: [],
};

/** The options of another kind of loop as far as this one carries them. */
export const loopOptionsIn = (kind: LoopKind, options: LoopOptions): LoopOptions => ({
  ...options,
  quality: LOOP_KIND_FACTS[kind].hasQuality ? options.quality : null,
});

/** A plan as a loop has it: every run is one picture. */
export const picturesOfLoop = (plan: RenderPlan): RenderPlan => ({
  ...plan,
  frames: plan.runs.length,
  firstNumber: 1,
  runs: plan.runs.map(({ stack }, index) => ({ stack, startFrame: index, frames: 1 })),
});

/** How long each picture of a plan is held in a loop. */
export const heldInLoop = (plan: RenderPlan, { times }: LoopOptions): readonly HeldTime[] =>
  heldTimesOf(
    plan.runs.map(({ frames }) => frames),
    times,
  );

/** How many pictures of a size stand in a row of a strip, and in how many rows: as near to a square as can be; null where they are too many. */
export function stripGrid({ width, height }: Size, pictures: number): { readonly columns: number; readonly rows: number } | null {
  const most = Math.floor(MOST_STRIP_SIDE_PX / width);
  const columns = Math.max(1, Math.min(most, Math.ceil(Math.sqrt((pictures * height) / width))));
  const rows = Math.max(1, Math.ceil(pictures / columns));
  return most >= 1 && rows * height <= MOST_STRIP_SIDE_PX ? { columns, rows } : null;
}

/** Refuses a plan whose size a kind can't hold. */
export function refuseLoop(kind: LoopKind, { size, stacks }: RenderPlan): Outcome<null> {
  const { name, mostSidePx } = LOOP_KIND_FACTS[kind];
  if (kind === 'strip' && !stripGrid(size, stacks.length))
    return refused(
      `${stacks.length} pictures of this size are no strip that a browser can show, which is at most ${mostSidePx} px wide and high: choose a smaller size or fewer frames.`,
    );
  if (Math.max(size.width, size.height) <= mostSidePx) return done(null);
  return refused(`${name} pictures are at most ${mostSidePx} px wide and high: choose a smaller size.`);
}

/** How long each picture of a loop lasts in a file of a kind, in microseconds; parts of a second that are no whole number of them are rounded. */
export function microsecondsIn(kind: LoopKind, plan: RenderPlan, options: LoopOptions): readonly number[] {
  const { unitsPerSecond } = LOOP_KIND_FACTS[kind];
  const held = heldInLoop(plan, options);
  if (unitsPerSecond === null) return delaysOf(held, plan.rate).map(({ num, den }) => Math.round((num * 1_000_000) / den));
  return roundedDurations(held, plan.rate, unitsPerSecond).map((units) => (units * 1_000_000) / unitsPerSecond);
}
