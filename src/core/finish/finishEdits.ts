import type { ColourRange } from '@/core/document/checks';
import { type EffectKind, effectWords, type FinishEffect } from '@/core/document/finish';
import type { Project } from '@/core/document/model';
import type { Edit } from '@/core/edit/edit';
import type { Step } from '@/core/edit/step';
import { done, type Outcome, refused } from '@/core/outcome';

/** The name of the effect that is put in to hold colours where a destination asks for it. */
const HELD_COLOURS = 'held-colours';

/** Holds colours of what leaves within a range: the effect that does so already, or a new one behind all others. */
export function holdColoursStep({ finish }: Project, range: ColourRange): Step {
  const index = finish.findIndex(({ kind }) => kind === 'holdColours');
  const effectId = finish[index]?.id ?? HELD_COLOURS;
  return {
    type: 'setEffect',
    effectId,
    effect: { id: effectId, kind: 'holdColours', range, inPreview: true, inHandover: true },
    index: index < 0 ? finish.length : index,
  };
}

/** Effects to begin with, by names of our own. */
export const STARTING_POINTS: readonly { readonly name: string; readonly about: string; readonly effect: EffectKind }[] = [
  {
    name: 'Lamplight',
    about: 'a soft glow around what is light',
    effect: { kind: 'layOver', deviationPx: 12, mode: 'screen', opacityPercent: 35 },
  },
  {
    name: 'Steeped',
    about: 'deeper colour, with soft edges',
    effect: { kind: 'layOver', deviationPx: 6, mode: 'multiply', opacityPercent: 40 },
  },
];

/** A new effect behind all others, seen while working and in what leaves. */
export const newEffect = (id: string, kind: EffectKind): FinishEffect => ({ id, ...kind, inPreview: true, inHandover: true });

/** Puts a new effect behind all others. */
export const addEffect = ({ finish }: Project, effect: FinishEffect): Edit => ({
  step: { type: 'setEffect', effectId: effect.id, effect, index: finish.length },
  says: `Finish: ${effectWords(effect)}`,
});

/** Says an effect anew. */
export function changeEffect({ finish }: Project, effect: FinishEffect): Outcome<Edit> {
  const index = finish.findIndex(({ id }) => id === effect.id);
  if (index < 0) return refused('That effect is no longer part of the finish.');
  return done({ step: { type: 'setEffect', effectId: effect.id, effect, index }, says: `Finish: ${effectWords(effect)}` });
}
