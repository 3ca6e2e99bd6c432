import type { ShelfEntry } from '@/contracts/project';

/** How projects stand on the shelf. */
export type ShelfOrder = 'saved' | 'name' | 'rate' | 'length';

export const SHELF_ORDERS: readonly { readonly value: ShelfOrder; readonly label: string }[] = [
  { value: 'saved', label: 'Last saved first' },
  { value: 'name', label: 'By name' },
  { value: 'rate', label: 'By rate' },
  { value: 'length', label: 'Longest first' },
];

const seconds = ({ frames, rate }: ShelfEntry): number => (frames * rate.den) / rate.num;

/** Names as people order them: numbers within them count as numbers. */
const names = new Intl.Collator(undefined, { numeric: true });

const COMPARED: Readonly<Record<ShelfOrder, (a: ShelfEntry, b: ShelfEntry) => number>> = {
  saved: (a, b) => (a.keptAt < b.keptAt ? 1 : Number(a.keptAt > b.keptAt) * -1),
  name: () => 0,
  rate: (a, b) => a.rate.num * b.rate.den - b.rate.num * a.rate.den,
  length: (a, b) => seconds(b) - seconds(a),
};

/** Projects in an order; those that are alike in it by name. */
export const inShelfOrder = (entries: readonly ShelfEntry[], order: ShelfOrder): readonly ShelfEntry[] =>
  [...entries].sort((a, b) => COMPARED[order](a, b) || names.compare(a.title, b.title));

/** Letters as they are compared: whatever their case and their accents. */
const folded = (text: string): string =>
  text
    .normalize('NFD')
    .replace(/\p{Diacritic}/gu, '')
    .toLocaleLowerCase();

/** Projects whose title holds every word that was written. */
export function foundOnShelf(entries: readonly ShelfEntry[], wanted: string): readonly ShelfEntry[] {
  const words = folded(wanted).split(/\s+/).filter(Boolean);
  return entries.filter(({ title }) => words.every((word) => folded(title).includes(word)));
}
