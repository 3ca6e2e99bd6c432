import type { Project, Shot } from '@/core/document/model';
import { type ContactMark, columnsOfOnePage, contactPages, widthOfColumns } from '@/core/format/contact/contactSheet';
import { smallPicture } from '@/workers/output/print/contactPictures';
import { canvasFont } from '@/workers/output/print/wordsMaker';

/** A drawing's width, in points. */
const CELL = 128;
/** Pixels a point where there is room for it. */
const SCALE = 2;
/** Browsers make no larger canvas. */
const MOST_PIXELS = 64_000_000;
const MOST_SIDE = 16_384;

const INK = { bold: 'rgb(28 41 36)', regular: 'rgb(28 41 36)', grey: 'rgb(107 115 110)' } as const;
const LINE = 'rgb(209 209 199)';

/** Words that fit a width, with … where they were cut. */
function fitting(context: OffscreenCanvasRenderingContext2D, words: string, mostWidth: number): string {
  if (context.measureText(words).width <= mostWidth) return words;
  const letters = [...new Intl.Segmenter(undefined, { granularity: 'grapheme' }).segment(words)].map(({ segment }) => segment);
  while (letters.length > 1 && context.measureText(`${letters.join('')}…`).width > mostWidth) letters.pop();
  return `${letters.join('')}…`;
}

async function draw(context: OffscreenCanvasRenderingContext2D, mark: ContactMark, scale: number): Promise<void> {
  if (mark.kind === 'words') {
    context.font = canvasFont(mark.size, mark.ink === 'bold');
    context.fillStyle = INK[mark.ink];
    context.fillText(fitting(context, mark.words, mark.mostWidth), mark.left, mark.bottom);
    return;
  }
  const { left, top, width, height } = mark;
  const bitmap = mark.picture === null ? null : await smallPicture(mark.picture, width * scale);
  if (bitmap) context.drawImage(bitmap, left, top, width, height);
  bitmap?.close();
  context.strokeStyle = LINE;
  context.lineWidth = 0.5;
  context.strokeRect(left, top, width, height);
}

/** A shot's drawings on one picture, each once with its frames, as a PNG; smaller where there are very many. */
export async function contactPng(project: Project, shot: Shot, onProgress: (part: number) => void): Promise<Blob> {
  const columns = columnsOfOnePage(project, shot, CELL);
  const [page] = contactPages(project, shot, { width: widthOfColumns(columns, CELL), height: null, columns });
  if (!page) throw new Error('A contact sheet has a page.');
  const { width, height, marks } = page;
  const scale = Math.min(SCALE, Math.sqrt(MOST_PIXELS / (width * height)), MOST_SIDE / Math.max(width, height));
  const canvas = new OffscreenCanvas(Math.floor(width * scale), Math.floor(height * scale));
  const context = canvas.getContext('2d');
  if (!context) throw new Error('There is no memory for a contact sheet.');
  context.scale(scale, scale);
  context.fillStyle = '#ffffff';
  context.fillRect(0, 0, width, height);
  for (const [index, mark] of marks.entries()) {
    await draw(context, mark, scale);
    onProgress((index + 1) / marks.length);
  }
  return canvas.convertToBlob({ type: 'image/png' });
}
