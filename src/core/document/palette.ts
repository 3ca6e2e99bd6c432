import type { Colour } from '@/core/document/model';
import { done, type Outcome, refused } from '@/core/outcome';

/** The most colours a palette holds: more than the eye can tell apart in a row. */
export const MOST_COLOURS = 48;

/** The colours a project starts with: ours, as the demo is drawn. */
export const FIRST_PALETTE: readonly Colour[] = ['#1d2a23', '#c4553a', '#37808a', '#e3b94d', '#8fae72', '#ffffff'];

const COLOUR = /^#[0-9a-f]{6}$/;

/** Refuses a palette with something that is not a colour, a colour twice, or too many. */
export function checkPalette(colours: readonly Colour[]): Outcome<readonly Colour[]> {
  if (colours.length > MOST_COLOURS) return refused(`A palette of ${colours.length} colours is too many: ${MOST_COLOURS} is the most.`);
  const wrong = colours.find((colour) => !COLOUR.test(colour));
  if (wrong !== undefined) return refused(`“${wrong}” is not a colour: write it as # and six digits, as #37808a.`);
  const twice = colours.find((colour, index) => colours.indexOf(colour) !== index);
  if (twice !== undefined) return refused(`${twice} is in the palette already.`);
  return done(colours);
}
