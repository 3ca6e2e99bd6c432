import { stepName } from '@/core/words';

/*
 * How long drawings stand, one after another, is a row of run-lengths. A pattern of period p holds over a
 * part of the row when every length is that of p places before: 2 2 2 2 is of period 1, 2 1 2 1 of period
 * 2, 3 2 2 3 2 2 of period 3. A length is a slip when it is shorter than what the pattern on both its sides
 * would have there, and no pattern holds that has it as it is. Longer ones are holds, and meant. Near the ends of a
 * level, and beside a blank or a hold, what is missing on one side is made up for on the other.
 */

const LONGEST_PERIOD = 3;
/** With a period of 1, so many lengths around make a pattern, one on each side at least; with longer ones, two rounds on each. */
const LEAST_AROUND = 4;
const REACH = 4;
/** A length so many times what the pattern has is a hold: it ends a part, and stands for as many of its lengths. */
const HOLD_TIMES = 2;

/** The places around `index` within `reach` on each side, up to a break (null). */
function patternAround(lengths: readonly (number | null)[], index: number, reach: number): { from: number; to: number } {
  let from = index;
  while (from > 0 && index - from < reach && lengths[from - 1] !== null) from--;
  let to = index;
  while (to < lengths.length - 1 && to - index < reach && lengths[to + 1] !== null) to++;
  return { from, to };
}

/** What stands at each place of a period within a part, `index` itself left out; null when they differ. */
function classesOf(
  lengths: readonly (number | null)[],
  from: number,
  to: number,
  index: number,
  period: number,
): (number | undefined)[] | null {
  const classes: (number | undefined)[] = Array.from({ length: period });
  for (let place = from; place <= to; place++) {
    if (place === index) continue;
    const at = (place - index + period * LONGEST_PERIOD * 4) % period;
    const length = lengths[place] as number;
    if (classes[at] === undefined) classes[at] = length;
    else if (classes[at] !== length) return null;
  }
  return classes;
}

/** A length that falls out of the pattern around it: what the pattern would have there, and its lengths in turn. */
export type Slip = { readonly expected: number; readonly pattern: readonly number[] };

/** How many lengths next to `index` are the pattern's, in one direction; a blank is passed over once, a hold is the last. */
function alikeBeside(lengths: readonly (number | null)[], index: number, direction: -1 | 1, expected: number): number {
  let [alike, blanks] = [0, 0];
  for (let place = index + direction; place >= 0 && place < lengths.length && alike < REACH; place += direction) {
    const length = lengths[place] as number | null;
    if (length === null) {
      if (++blanks > 1) return alike;
    } else if (length === expected) alike++;
    else return length >= expected * HOLD_TIMES ? alike + HOLD_TIMES : alike;
  }
  return alike;
}

/** The length a single pattern around `index` would have there; null when there is none. */
function steadyAround(lengths: readonly (number | null)[], index: number): number | null {
  const beside = [lengths[index - 1], lengths[index + 1], lengths[index - 2], lengths[index + 2]].filter(
    (each): each is number => typeof each === 'number',
  );
  // The nearest that is no hold: the lesser of those next to it.
  const expected = Math.min(...beside.slice(0, 2));
  if (!Number.isFinite(expected)) return null;
  const [before, after] = [alikeBeside(lengths, index, -1, expected), alikeBeside(lengths, index, 1, expected)];
  const isOpen = (side: number, next: number | null | undefined) => side > 0 || next === null;
  if (!isOpen(before, lengths[index - 1]) || !isOpen(after, lengths[index + 1])) return null;
  return before + after >= LEAST_AROUND ? expected : null;
}

/** How far from a length a pattern is looked for. */
const FARTHEST = LONGEST_PERIOD * 2;

/** Whether anything near is longer: what a pattern would have there is one of the lengths near it, and a slip is shorter. */
function isPassed(lengths: readonly (number | null)[], index: number, length: number): boolean {
  for (let place = Math.max(0, index - FARTHEST); place <= index + FARTHEST && place < lengths.length; place++)
    if ((lengths[place] ?? 0) > length) return true;
  return false;
}

/** Whether the length at `index` is a slip. `lengths` has null where nothing is shown. */
export function slipAt(lengths: readonly (number | null)[], index: number): Slip | null {
  const length = lengths[index];
  if (length === null || length === undefined || !isPassed(lengths, index, length)) return null;
  const steady = steadyAround(lengths, index);
  let slip: Slip | null = steady !== null && length < steady ? { expected: steady, pattern: [steady] } : null;
  for (let period = 2; period <= LONGEST_PERIOD; period++) {
    const reach = period * 2;
    const { from, to } = patternAround(lengths, index, reach);
    const classes = classesOf(lengths, from, to, index, period);
    const expected = classes?.[0];
    if (!classes || expected === undefined) continue;
    if (expected === length && to - from >= period) return null;
    const isPattern = index - from >= reach && to - index >= reach;
    if (isPattern && slip === null && length < expected) slip = { expected, pattern: classes as number[] };
  }
  return slip;
}

/** A pattern in the trade's words: `on twos`, or `held for 2 and 1 frames in turn`. */
export function patternWords(pattern: readonly number[]): string {
  const [only] = pattern;
  if (pattern.length === 1 && only !== undefined) return stepName(only);
  return `held for ${pattern.slice(0, -1).join(', ')} and ${pattern.at(-1)} frames in turn`;
}
