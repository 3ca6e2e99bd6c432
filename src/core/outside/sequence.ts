import { numberedName, numberFaults } from '@/core/bring/fileOrder';
import type { SequenceNumbers } from '@/core/outside/outsideCount';
import { endingOf, isPictureName } from '@/core/outside/pictureKind';

/** Files that belong together, as a person would say: one film, or pictures numbered one after another. */
export type FileGroup<T> =
  | { readonly kind: 'one'; readonly name: string; readonly file: T }
  | { readonly kind: 'sequence'; readonly name: string; readonly files: readonly { readonly name: string; readonly file: T }[] };

const folderOf = (name: string): string => name.slice(0, name.lastIndexOf('/') + 1);

/** A name with `#` for each digit of its last number. */
function patternOf(name: string, digits: number): string {
  const own = name.slice(folderOf(name).length);
  const ending = own.includes('.') ? own.slice(own.lastIndexOf('.')) : '';
  const { before, after } = numberedName(own);
  return `${before}${'#'.repeat(digits)}${after}${ending}`;
}

/** The digits a number is written with in a name, zeros in front counted. */
const digitsIn = (name: string): number => /(\d+)\D*$/.exec(name.slice(folderOf(name).length).replace(/\.[^.]*$/, ''))?.[1]?.length ?? 0;

/**
 * Parts files into what belongs together: pictures of one folder, name and ending that differ in their number alone are one
 * sequence, in the order of their numbers; all others stand alone. A sequence of one is a file.
 */
export function fileGroups<T>(files: readonly T[], nameOf: (file: T) => string): readonly FileGroup<T>[] {
  const sequences = new Map<string, { name: string; file: T; number: number }[]>();
  const order: (string | { name: string; file: T })[] = [];
  for (const file of files) {
    const name = nameOf(file);
    const own = name.slice(folderOf(name).length);
    const { before, number, after } = numberedName(own);
    if (!isPictureName(name) || number === null) {
      order.push({ name, file });
      continue;
    }
    const key = `${folderOf(name)}|${before.toLowerCase()}|${after.toLowerCase()}|${endingOf(name)}`;
    const group = sequences.get(key);
    if (group) group.push({ name, file, number });
    else {
      sequences.set(key, [{ name, file, number }]);
      order.push(key);
    }
  }
  return order.map((entry): FileGroup<T> => {
    if (typeof entry !== 'string') return { kind: 'one', ...entry };
    const group = (sequences.get(entry) ?? []).toSorted((a, b) => a.number - b.number || (a.name < b.name ? -1 : 1));
    const [first] = group;
    if (!first) throw new Error('A sequence has a file at least.');
    if (group.length === 1) return { kind: 'one', name: first.name, file: first.file };
    const digits = group.reduce((least, { name }) => Math.min(least, digitsIn(name)), digitsIn(first.name));
    return { kind: 'sequence', name: patternOf(first.name, digits), files: group };
  });
}

/** The numbers of a sequence's files. */
export function sequenceNumbers(pattern: string, names: readonly string[]): SequenceNumbers {
  const own = names.map((name) => name.slice(folderOf(name).length));
  const numbers = own.flatMap((name) => numberedName(name).number ?? []);
  return {
    pattern,
    firstNumber: numbers.reduce((least, number) => Math.min(least, number), Number.POSITIVE_INFINITY),
    lastNumber: numbers.reduce((most, number) => Math.max(most, number), 0),
    ...numberFaults(own),
  };
}
