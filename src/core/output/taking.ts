import type { Size } from '@/core/document/model';
import type { RenderPlan } from '@/core/render/renderPlan';
import { makeRate, type Rate, rateName } from '@/core/time/rate';

/*
 * What leaves may be smaller than what was drawn, every second frame of it, or at another rate. Another rate is always said one
 * of two ways: the same frames read as so many a second, which last another time, or the exposures brought to it as a change of
 * the film's rate would bring them, which keeps the time.
 */

export type TakenSize = { readonly kind: 'full' } | { readonly kind: 'half' } | { readonly kind: 'width'; readonly widthPx: number };
export type TakenRate = { readonly way: 'readAs' | 'converted'; readonly rate: Rate };
export type Taking = { readonly size: TakenSize; readonly everySecond: boolean; readonly rate: TakenRate | null };

/** All of it, as it was drawn. */
export const WHOLE_TAKING: Taking = { size: { kind: 'full' }, everySecond: false, rate: null };

export const LEAST_WIDTH_PX = 16;
export const MOST_WIDTH_PX = 8192;

/** A side that is even, and at least 2. */
const even = (side: number): number => Math.max(2, Math.round(side / 2) * 2);

/** The size that is taken of a picture: of its shape, with even sides unless it is its own size. */
export function takenSize(own: Size, taken: TakenSize): Size {
  if (taken.kind === 'full') return own;
  const width = even(taken.kind === 'half' ? own.width / 2 : taken.widthPx);
  return width === own.width ? own : { width, height: even((own.height * width) / own.width) };
}

/** Whether what is taken is no more than a draft. */
export const isDraft = ({ size, everySecond }: Taking): boolean => everySecond || size.kind === 'half';

/** Whether everything leaves as it was drawn. */
export const isWholeTaking = ({ size, everySecond, rate }: Taking): boolean => size.kind === 'full' && !everySecond && rate === null;

/** The rate of what leaves: half as many a second where every second frame is left out. */
export function leavingRate(filmRate: Rate, { everySecond, rate }: Taking): Rate {
  const taken = rate?.rate ?? filmRate;
  const half = makeRate(taken.num, taken.den * 2);
  return everySecond && half.ok ? half.value : taken;
}

/** Every second frame of a plan, from its first on. */
export function everySecondOf(plan: RenderPlan): RenderPlan {
  const runs = plan.runs.flatMap(({ stack, startFrame, frames }) => {
    const first = Math.ceil(startFrame / 2);
    const end = Math.ceil((startFrame + frames) / 2);
    return end > first ? [{ stack, startFrame: first, frames: end - first }] : [];
  });
  return { ...plan, frames: Math.ceil(plan.frames / 2), runs };
}

/** A plan in the size and at the rate that are taken. */
export function sizedAndRated(plan: RenderPlan, taking: Taking): RenderPlan {
  const size = takenSize(plan.size, taking.size);
  const rate = leavingRate(plan.rate, taking);
  return { ...plan, rate, size, ...(size === plan.size ? {} : { composedSize: plan.size }) };
}

/** What is taken, in words; nothing where everything is. */
export function takingWords({ size, everySecond, rate }: Taking): readonly string[] {
  return [
    ...(size.kind === 'half' ? ['half size'] : size.kind === 'width' ? [`${size.widthPx} px wide`] : []),
    ...(everySecond ? ['every second frame'] : []),
    ...(rate === null ? [] : [rate.way === 'readAs' ? `read as ${rateName(rate.rate)}` : `brought to ${rateName(rate.rate)} on exposures`]),
  ];
}
