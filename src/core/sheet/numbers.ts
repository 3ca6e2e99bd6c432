import type { Drawing, Level } from '@/core/document/model';

export type NumberParts = { readonly whole: number; readonly suffix: string };

const isDigit = (code: number): boolean => code >= 48 && code <= 57;

/** A drawing's number as its whole part and what follows it: `12a` is 12 and `a`; a number without digits is 0 and all of it. */
export function numberParts(number: string): NumberParts {
  let digits = 0;
  while (digits < number.length && isDigit(number.charCodeAt(digits))) digits++;
  return { whole: Number(number.slice(0, digits)), suffix: number.slice(digits) };
}

/** Orders numbers: by the whole number, then by fewer letters, then by them: 1, 1a, 1b, 1aa, 2. Below 0 when `a` is before `b`. */
export const compareNumbers = (a: string, b: string): number => compareParts(numberParts(a), numberParts(b));

/** The same of numbers that were parted already. */
export function compareParts(first: NumberParts, second: NumberParts): number {
  if (first.whole !== second.whole) return first.whole - second.whole;
  if (first.suffix.length !== second.suffix.length) return first.suffix.length - second.suffix.length;
  return first.suffix === second.suffix ? 0 : first.suffix < second.suffix ? -1 : 1;
}

/** Letters after a number, as columns are lettered: a … z, then aa, ab … ; `index` from 0. */
function letters(index: number): string {
  const letter = String.fromCharCode(97 + (index % 26));
  return index < 26 ? letter : letters(Math.floor(index / 26) - 1) + letter;
}

/** The first free number with letters after a drawing's own: after 1 comes `1a`, after `1a` comes `1b`. `taken` is kept up to date. */
export function numberAfter(number: string, taken: Set<string>): string {
  const whole = /^\d+/.exec(number)?.[0] ?? number;
  for (let index = 0; ; index++) {
    const candidate = whole + letters(index);
    if (taken.has(candidate)) continue;
    taken.add(candidate);
    return candidate;
  }
}

/** The numbers a level has in use. */
export const numbersTaken = (level: Pick<Level, 'drawings'>): Set<string> => new Set(level.drawings.map((drawing) => drawing.number));

/**
 * Numbers for `count` drawings between two: the whole numbers between theirs when there are enough free
 * ones (5 and 9 take 6, 7, 8), else letters after the first (1a, 1b, 1c). `taken` is kept up to date.
 */
export function numbersBetween(first: string, second: string, count: number, taken: Set<string>): readonly string[] {
  const [from, to] = [numberParts(first), numberParts(second)];
  const wholes = Array.from({ length: count }, (_, index) => String(from.whole + 1 + index));
  if (from.whole > 0 && to.whole - from.whole > count && wholes.every((number) => !taken.has(number))) {
    for (const number of wholes) taken.add(number);
    return wholes;
  }
  return Array.from({ length: count }, () => numberAfter(first, taken));
}

/** A planned in-between. */
export const plannedInbetween = (id: string, number: string): Drawing => ({ id, number, role: 'inbetween', picture: null });
