/*
 * How long drawings stand, one after another, is a row of run-lengths. A pattern of period p holds over a
 * stretch of the row when every length is that of p places before: 2 2 2 2 is of period 1, 2 1 2 1 of period
 * 2, 3 2 2 3 2 2 of period 3. A length is a slip when it is shorter than what the pattern on both its sides
 * would have there, and no pattern holds that has it as it is. Longer ones are holds, and meant.
 */

const LONGEST_PERIOD = 3;
/** With a period of 1, so many on each side make a pattern; with longer ones, two rounds. */
const LEAST_BESIDE = 2;

/** The places around `index` within `reach` on each side, up to a break (null). */
function stretch(lengths: readonly (number | null)[], index: number, reach: number): { from: number; to: number } {
  let from = index;
  while (from > 0 && index - from < reach && lengths[from - 1] !== null) from--;
  let to = index;
  while (to < lengths.length - 1 && to - index < reach && lengths[to + 1] !== null) to++;
  return { from, to };
}

/** What stands at each place of a period within a stretch, `index` itself left out; null when they differ. */
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

/** Whether the length at `index` is a slip. `lengths` has null where nothing is shown. */
export function slipAt(lengths: readonly (number | null)[], index: number): Slip | null {
  const length = lengths[index];
  if (length === null || length === undefined) return null;
  let slip: Slip | null = null;
  for (let period = 1; period <= LONGEST_PERIOD; period++) {
    const reach = period === 1 ? LEAST_BESIDE : period * 2;
    const { from, to } = stretch(lengths, index, reach);
    const classes = classesOf(lengths, from, to, index, period);
    const expected = classes?.[0];
    if (!classes || expected === undefined) continue;
    if (expected === length && to - from >= period) return null;
    const isPattern = index - from >= reach && to - index >= reach;
    if (isPattern && slip === null && length < expected) slip = { expected, pattern: classes as number[] };
  }
  return slip;
}

const ON: Readonly<Record<number, string>> = { 1: 'on ones', 2: 'on twos', 3: 'on threes' };

/** A pattern in the trade's words: `on twos`, or `standing 2 and 1 frames in turn`. */
export function patternWords(pattern: readonly number[]): string {
  const [only] = pattern;
  if (pattern.length === 1 && only !== undefined) return ON[only] ?? `on ${only}s`;
  return `standing ${pattern.slice(0, -1).join(', ')} and ${pattern.at(-1)} frames in turn`;
}
