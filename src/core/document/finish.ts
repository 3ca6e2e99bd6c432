import { BLEND_MODES } from '@/core/document/blendModes';
import { type ColourRange, checkColourRange } from '@/core/document/checks';
import { done, type Outcome, refused } from '@/core/outcome';

/** Names of effects in the document; made once, never reused. */
export type EffectId = string;

/** How a picture can be laid over itself: the separable blend modes, and light added to light (W3C Compositing and Blending Level 2). */
export const LAY_MODES = [...BLEND_MODES, 'plus-lighter'] as const;
export type LayMode = (typeof LAY_MODES)[number];

/** Where an effect is seen: while working, and in what is handed over. */
type Switches = { readonly inPreview: boolean; readonly inHandover: boolean };

/** What an effect does to the whole picture. A deviation is the standard deviation of a Gaussian, in pixels at full size. */
export type EffectKind =
  | { readonly kind: 'blur'; readonly deviationPx: number }
  /** The picture, blurred, lies over itself, `opacityPercent` of it. */
  | { readonly kind: 'layOver'; readonly deviationPx: number; readonly mode: LayMode; readonly opacityPercent: number }
  /** Red, green and blue stay within a range. */
  | { readonly kind: 'holdColours'; readonly range: ColourRange };

/** An effect over the whole picture. */
export type FinishEffect = { readonly id: EffectId } & Switches & EffectKind;

/** The finish of a film: effects over the whole picture, the first is done first. */
export type Finish = readonly FinishEffect[];

export const MOST_EFFECTS = 24;
/** Largest standard deviation, in pixels. */
export const MOST_DEVIATION_PX = 100;

/** Whether a deviation is a number of tenths of a pixel that a blur can have. */
const isDeviation = (value: number) => value >= 0 && value <= MOST_DEVIATION_PX && Number.isInteger(Math.round(value * 1e6) / 1e5);

/** Refuses an effect that can't be done as it says. */
export function checkEffect(effect: FinishEffect): Outcome<FinishEffect> {
  if (effect.kind === 'holdColours') {
    const range = checkColourRange(effect.range);
    return range.ok ? done(effect) : range;
  }
  if (!isDeviation(effect.deviationPx))
    return refused(`A blur of ${effect.deviationPx} px is not possible: use 0 to ${MOST_DEVIATION_PX}, to a tenth.`);
  if (effect.kind === 'layOver' && !(Number.isInteger(effect.opacityPercent) && effect.opacityPercent >= 0 && effect.opacityPercent <= 100))
    return refused(`${effect.opacityPercent} % can’t be laid over: use whole numbers from 0 to 100.`);
  return done(effect);
}

const LAY_WORDS: Readonly<Record<LayMode, string>> = {
  normal: 'as it is',
  multiply: 'multiplied',
  screen: 'screened',
  overlay: 'overlaid',
  darken: 'where it is darker',
  lighten: 'where it is lighter',
  'color-dodge': 'dodged',
  'color-burn': 'burnt',
  'hard-light': 'as hard light',
  'soft-light': 'as soft light',
  difference: 'as difference',
  exclusion: 'as exclusion',
  'plus-lighter': 'added as light',
};

/** What an effect does, in a few words. */
export function effectWords(effect: EffectKind): string {
  switch (effect.kind) {
    case 'blur':
      return `blur ${effect.deviationPx} px`;
    case 'layOver':
      return `laid over itself, blurred ${effect.deviationPx} px, ${LAY_WORDS[effect.mode]}, ${effect.opacityPercent} %`;
    case 'holdColours':
      return `colours held within ${effect.range.from}–${effect.range.to}`;
  }
}
