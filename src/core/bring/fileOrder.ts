import { orderBy } from 'natural-orderby';

/** A file's name taken apart: what stands before its last number, the number, and what follows; no number is null. */
export type NumberedName = { readonly before: string; readonly number: number | null; readonly after: string };

/** Takes a file's name apart at the last number before its ending. */
export function numberedName(fileName: string): NumberedName {
  const match = /^(.*?)(\d+)(\D*)$/.exec(fileName.replace(/\.[^.]*$/, ''));
  return match
    ? { before: match[1] ?? '', number: Number(match[2]), after: match[3] ?? '' }
    : { before: fileName, number: null, after: '' };
}

/** Things in the natural order of their file names: 2 before 10, whatever zeros stand in front. */
export const inNaturalOrder = <T>(things: readonly T[], nameOf: (thing: T) => string): T[] => orderBy([...things], [nameOf], ['asc']);

/** What is odd about the numbers of files that should follow each other: those missing between the first and the last, and those there more than once. */
export type NumberFaults = { readonly missing: readonly number[]; readonly twice: readonly number[] };

/** No more missing numbers than this are named. */
const MOST_MISSING = 1000;

/** Gaps and double numbers, in each group of files whose names are alike but for the number. A group of one is no sequence. */
export function numberFaults(fileNames: readonly string[]): NumberFaults {
  const groups = new Map<string, number[]>();
  for (const name of fileNames) {
    const { before, number, after } = numberedName(name);
    if (number === null) continue;
    const key = `${before.toLowerCase()}#${after.toLowerCase()}`;
    const group = groups.get(key);
    if (group) group.push(number);
    else groups.set(key, [number]);
  }
  const missing: number[] = [];
  const twice: number[] = [];
  for (const numbers of groups.values()) {
    const sorted = numbers.toSorted((a, b) => a - b);
    sorted.forEach((number, index) => {
      const before = sorted[index - 1];
      if (before === undefined) return;
      if (number === before && twice.at(-1) !== number) twice.push(number);
      for (let gap = before + 1; gap < number && missing.length < MOST_MISSING; gap++) missing.push(gap);
    });
  }
  return { missing, twice };
}

/** Numbers in words, those in a row as a range: `3, 7–9`. */
export function numberRanges(numbers: readonly number[]): string {
  const ranges: [number, number][] = [];
  for (const number of numbers) {
    const last = ranges.at(-1);
    if (last && number === last[1] + 1) last[1] = number;
    else ranges.push([number, number]);
  }
  return ranges.map(([from, to]) => (from === to ? String(from) : `${from}–${to}`)).join(', ');
}
