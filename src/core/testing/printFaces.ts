import { readFileSync } from 'node:fs';
import type { PrintFaces } from '@/core/format/pdf/newPdf';

const file = (letters: string, weight: number) =>
  readFileSync(`node_modules/@fontsource/atkinson-hyperlegible-next/files/atkinson-hyperlegible-next-${letters}-${weight}-normal.woff`);
const both = (weight: number) => [file('latin', weight), file('latin-ext', weight)];

/** The face papers are printed in, as it ships. */
export const printFaces = (): PrintFaces => ({ regular: both(400), bold: both(700) });
