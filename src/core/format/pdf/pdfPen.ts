import { type PDFDocument, type PDFFont, type PDFPage, rgb } from 'pdf-lib';

/** What pages are written with: a page, its two faces, and one colour of ink. */
export type PdfPen = { readonly document: PDFDocument; readonly regular: PDFFont; readonly bold: PDFFont };

export const BLACK = rgb(0.11, 0.16, 0.14);
export const GREY = rgb(0.42, 0.45, 0.43);
export const PALE = rgb(0.82, 0.82, 0.78);

/** Writes words, cut with … where they are wider than `mostWidth`. */
export function write(
  page: PDFPage,
  words: string,
  x: number,
  y: number,
  size: number,
  font: PDFFont,
  mostWidth = Number.POSITIVE_INFINITY,
  color = BLACK,
): void {
  let shown = words.replace(/\s+/g, ' ').trim();
  if (font.widthOfTextAtSize(shown, size) > mostWidth) {
    while (shown.length > 1 && font.widthOfTextAtSize(`${shown}…`, size) > mostWidth) shown = shown.slice(0, -1);
    shown = `${shown}…`;
  }
  if (shown !== '') page.drawText(shown, { x, y, size, font, color });
}

/** Rules a line between two points. */
export function rule(page: PDFPage, x1: number, y1: number, x2: number, y2: number, thickness = 0.4, color = PALE): void {
  page.drawLine({ start: { x: x1, y: y1 }, end: { x: x2, y: y2 }, thickness, color });
}
