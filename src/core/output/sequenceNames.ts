/** A text as part of a file name that every common system takes: letters with their marks, digits and `-`, composed, never empty. */
export function fileNamePart(text: string): string {
  const part = text
    .normalize('NFKC')
    .toLowerCase()
    .replace(/[^\p{L}\p{M}\p{N}]+/gu, '-')
    // A mark belongs to the letter before it: one that stands alone is none of a name.
    .replace(/(^|-)\p{M}+/gu, '$1')
    .replace(/-+/g, '-')
    .replace(/^-+|-+$/g, '');
  return part === '' ? 'untitled' : part;
}

/** How many digits numbered files need so that their names sort as numbers: at least four. */
export const sequenceDigits = (lastNumber: number): number => Math.max(4, String(lastNumber).length);

/** The name of one numbered picture: `washday_020.0031.png`. Numbers are frame numbers as shown to people. */
export const sequenceFileName = (base: string, number: number, digits: number, extension: string): string =>
  `${base}.${String(number).padStart(digits, '0')}.${extension}`;

/** All names of a sequence from `firstNumber` on, in order. */
export function sequenceFileNames(base: string, firstNumber: number, count: number, extension: string): readonly string[] {
  const digits = sequenceDigits(firstNumber + count - 1);
  return Array.from({ length: count }, (_, index) => sequenceFileName(base, firstNumber + index, digits, extension));
}
