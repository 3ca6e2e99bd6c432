import { type PDFDocument, type PDFFont, type PDFPage, rgb } from 'pdf-lib';

export const BLACK = rgb(0.11, 0.16, 0.14);
export const GREY = rgb(0.42, 0.45, 0.43);
export const PALE = rgb(0.82, 0.82, 0.78);

/** Words as a picture: a PNG, and in points how wide and tall it is and how far its upper edge lies above the line it stands on. */
export type WordsPicture = { readonly png: Uint8Array; readonly widthPt: number; readonly heightPt: number; readonly abovePt: number };

/** Makes pictures of words in whatever faces a machine has, for letters that the print's own has not. */
export type WordsMaker = {
  widthPt(words: string, sizePt: number, isBold: boolean): number;
  picture(words: string, sizePt: number, isBold: boolean, isGrey: boolean): Promise<WordsPicture>;
};

/** Words that become a picture once every page is written. */
type WordsInWait = {
  readonly page: PDFPage;
  readonly words: string;
  readonly x: number;
  readonly y: number;
  readonly size: number;
  readonly isBold: boolean;
  readonly isGrey: boolean;
};

/**
 * A face in one weight: the files it comes in, each with the letters it has. Words with letters in none of them are made a
 * picture of; without a maker of those, such a letter stands there by its Unicode number.
 */
export class Face {
  private readonly fonts: readonly { readonly font: PDFFont; readonly letters: ReadonlySet<number> }[];
  readonly inWait: WordsInWait[] = [];

  constructor(
    fonts: readonly PDFFont[],
    readonly isBold: boolean,
    readonly maker: WordsMaker | null,
  ) {
    this.fonts = fonts.map((font) => ({ font, letters: new Set(font.getCharacterSet()) }));
  }

  private fontOf(letter: string): PDFFont | undefined {
    const code = letter.codePointAt(0) as number;
    return this.fonts.find(({ letters }) => letters.has(code))?.font;
  }

  /** Whether every letter is in the face. */
  has(words: string): boolean {
    return [...words].every((letter) => this.fontOf(letter));
  }

  /** Words as they are written: those without a maker of pictures with numbers for letters that are missing. */
  private written(words: string): string {
    const spell = (letter: string) =>
      this.fontOf(letter) ? letter : `U+${(letter.codePointAt(0) as number).toString(16).toUpperCase().padStart(4, '0')} `;
    return [...words].map(spell).join('').trim();
  }

  /** Parts of words with the font of each. */
  private parts(words: string): readonly { readonly font: PDFFont; readonly words: string }[] {
    const parts: { font: PDFFont; words: string }[] = [];
    for (const letter of this.written(words)) {
      const font = this.fontOf(letter) as PDFFont;
      const last = parts.at(-1);
      if (last?.font === font) last.words += letter;
      else parts.push({ font, words: letter });
    }
    return parts;
  }

  /** How wide words are, in points. */
  widthPt(words: string, size: number): number {
    if (this.maker && !this.has(words)) return this.maker.widthPt(words, size, this.isBold);
    return this.parts(words).reduce((sum, part) => sum + part.font.widthOfTextAtSize(part.words, size), 0);
  }

  draw(page: PDFPage, words: string, x: number, y: number, size: number, color: typeof BLACK): void {
    if (this.maker && !this.has(words)) {
      this.inWait.push({ page, words, x, y, size, isBold: this.isBold, isGrey: color === GREY });
      return;
    }
    let left = x;
    for (const part of this.parts(words)) {
      page.drawText(part.words, { x: left, y, size, font: part.font, color });
      left += part.font.widthOfTextAtSize(part.words, size);
    }
  }
}

/** What pages are written with: a document, and its face in two weights. */
export type PdfPen = { readonly document: PDFDocument; readonly regular: Face; readonly bold: Face };

const graphemes = new Intl.Segmenter(undefined, { granularity: 'grapheme' });

/** Writes words, cut with … where they are wider than `mostWidth`. */
export function write(
  page: PDFPage,
  words: string,
  x: number,
  y: number,
  size: number,
  face: Face,
  mostWidth = Number.POSITIVE_INFINITY,
  color = BLACK,
): void {
  let shown = words.replace(/\s+/g, ' ').trim();
  if (face.widthPt(shown, size) > mostWidth) {
    const letters = [...graphemes.segment(shown)].map(({ segment }) => segment);
    while (letters.length > 1 && face.widthPt(`${letters.join('')}…`, size) > mostWidth) letters.pop();
    shown = `${letters.join('')}…`;
  }
  if (shown !== '') face.draw(page, shown, x, y, size, color);
}

/** Rules a line between two points. */
export function rule(page: PDFPage, x1: number, y1: number, x2: number, y2: number, thickness = 0.4, color = PALE): void {
  page.drawLine({ start: { x: x1, y: y1 }, end: { x: x2, y: y2 }, thickness, color });
}

/** The finished document: words that wait to be pictures are laid on their pages. */
export async function finishPdf({ document, regular, bold }: PdfPen): Promise<Uint8Array> {
  for (const { maker, inWait } of [regular, bold]) {
    for (const { page, words, x, y, size, isBold, isGrey } of inWait) {
      if (!maker) continue;
      const { png, widthPt, heightPt, abovePt } = await maker.picture(words, size, isBold, isGrey);
      page.drawImage(await document.embedPng(png), { x, y: y + abovePt - heightPt, width: widthPt, height: heightPt });
    }
  }
  return document.save();
}
