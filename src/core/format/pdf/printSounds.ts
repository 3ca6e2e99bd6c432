import { type PDFPage, rgb } from 'pdf-lib';
import type { PageLayout } from '@/core/format/pdf/pageLayout';
import { GREY, type PdfPen, rule, write } from '@/core/format/pdf/pdfPen';
import { PRINTED_PARTS, type PrintedSounds } from '@/core/format/pdf/printedSounds';

const WAVE = rgb(0.62, 0.68, 0.66);

/** Prints how loud sounds are beside frames `from` (inclusive) to `to` (exclusive) of a half whose sounds begin at `left`. */
export function printSounds(
  ink: PdfPen,
  page: PDFPage,
  layout: PageLayout,
  { sounds, lanes }: PrintedSounds,
  left: number,
  from: number,
  to: number,
): void {
  const yOf = (frame: number) => layout.rowsTop - (frame - from) * layout.rowHeight;
  const lane = layout.soundsWidth / lanes;
  for (const sound of sounds) {
    const [first, end] = [Math.max(from, sound.startFrame), Math.min(to, sound.endFrame)];
    if (end <= first) continue;
    const middle = left + (sound.lane + 0.5) * lane;
    const parts = sound.loudness.slice((first - sound.startFrame) * PRINTED_PARTS, (end - sound.startFrame) * PRINTED_PARTS);
    const reach = parts.map((part) => Math.max(0.25, (part * (lane - 2)) / 2));
    const down = (index: number) => ((index + 0.5) * layout.rowHeight) / PRINTED_PARTS;
    const right = reach.map((by, index) => `${by.toFixed(2)} ${down(index).toFixed(2)}`);
    const back = reach.map((by, index) => `${(-by).toFixed(2)} ${down(index).toFixed(2)}`).reverse();
    if (reach.length > 0) page.drawSvgPath(`M ${[...right, ...back].join(' L ')} Z`, { x: middle, y: yOf(first), color: WAVE });
    else rule(page, middle, yOf(first), middle, yOf(end), 0.6, GREY);
    if (sound.startFrame >= from) rule(page, middle - lane / 2 + 1, yOf(first), middle + lane / 2 - 1, yOf(first), 0.8, GREY);
    if (sound.endFrame <= to) rule(page, middle - lane / 2 + 1, yOf(end), middle + lane / 2 - 1, yOf(end), 0.8, GREY);
    write(page, sound.name, middle - lane / 2 + 1, yOf(first) - 5.5, 5, ink.regular, lane - 2);
  }
}
