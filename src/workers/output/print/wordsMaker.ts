import type { WordsMaker } from '@/core/format/pdf/pdfPen';
import { FAMILIES } from '@/workers/output/print/faces';

/** Pixels a point: some 430 dots an inch, which no eye tells from print. */
const SCALE = 6;
const INK = 'rgb(28 41 36)';
const GREY = 'rgb(107 115 110)';

/** The font of words as a canvas takes it. */
export const canvasFont = (sizePx: number, isBold: boolean): string => `${isBold ? 700 : 400} ${sizePx}px ${FAMILIES}`;

/** Makes pictures of words in letters the print's own face has not, whatever their script and direction, with the faces of this machine. */
export function wordsMaker(): WordsMaker {
  const measuring = new OffscreenCanvas(1, 1).getContext('2d');
  if (!measuring) throw new Error('There is no memory to print words.');
  const measured = (words: string, sizePt: number, isBold: boolean) => {
    measuring.font = canvasFont(sizePt * SCALE, isBold);
    return measuring.measureText(words);
  };
  return {
    widthPt: (words, sizePt, isBold) => measured(words, sizePt, isBold).width / SCALE,
    async picture(words, sizePt, isBold, isGrey) {
      const { width, actualBoundingBoxAscent, actualBoundingBoxDescent } = measured(words, sizePt, isBold);
      const [above, below] = [Math.ceil(actualBoundingBoxAscent) + 2, Math.ceil(actualBoundingBoxDescent) + 2];
      const canvas = new OffscreenCanvas(Math.max(1, Math.ceil(width)), above + below);
      const context = canvas.getContext('2d');
      if (!context) throw new Error('There is no memory to print words.');
      context.font = canvasFont(sizePt * SCALE, isBold);
      context.fillStyle = isGrey ? GREY : INK;
      context.fillText(words, 0, above);
      const png = new Uint8Array(await (await canvas.convertToBlob({ type: 'image/png' })).arrayBuffer());
      return { png, widthPt: canvas.width / SCALE, heightPt: canvas.height / SCALE, abovePt: above / SCALE };
    },
  };
}
