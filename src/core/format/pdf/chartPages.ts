import { shapeWords } from '@/core/chart/shapes';
import { drawingById, type Level } from '@/core/document/model';
import type { TimingChart } from '@/core/document/timingChart';
import type { PageLayout } from '@/core/format/pdf/pageLayout';
import { BLACK, GREY, type PdfPen, rule, write } from '@/core/format/pdf/pdfPen';
import { fractionText, fractionValue } from '@/core/time/fraction';
import { drawingWords } from '@/core/words';

const ROW = 58;
const KEY_RADIUS = 7;

type LevelChart = { readonly level: Level; readonly chart: TimingChart };

function drawChart(
  { regular, bold }: PdfPen,
  page: ReturnType<PdfPen['document']['addPage']>,
  { level, chart }: LevelChart,
  left: number,
  right: number,
  top: number,
): void {
  const number = (id: string | null) => drawingById(level, id)?.number ?? '·';
  const [first, second] = [number(chart.fromDrawing), number(chart.toDrawing)];
  const name = `${drawingWords(level.name, first)} to ${second}`;
  write(page, name, left, top, 8, bold);
  write(page, shapeWords(chart.shape, first, second), left + bold.widthPt(name, 8) + 6, top, 7, regular, 200, GREY);
  const [from, to, y] = [left + 14, right - 14, top - 26];
  rule(page, from, y, to, y, 0.9, BLACK);
  for (const [x, id] of [
    [from, chart.fromDrawing],
    [to, chart.toDrawing],
  ] as const) {
    const key = number(id);
    const width = bold.widthPt(key, 7);
    rule(page, x, y - 8, x, y + 8, 1.1, BLACK);
    write(page, key, x - width / 2, y + 12.6, 7, bold);
    if (drawingById(level, id)?.role === 'key')
      page.drawEllipse({ x, y: y + 15, xScale: KEY_RADIUS, yScale: KEY_RADIUS - 1, borderWidth: 0.7, borderColor: BLACK });
    else rule(page, x - width / 2, y + 11, x + width / 2, y + 11, 0.7, BLACK);
  }
  for (const tick of chart.ticks) {
    const x = from + (to - from) * fractionValue(tick.place);
    rule(page, x, y - 5, x, y + 5, 0.9, BLACK);
    const words = number(tick.drawing);
    write(page, words, x - bold.widthPt(words, 6.5) / 2, y + 8, 6.5, bold);
    const place = fractionText(tick.place);
    write(page, place, x - regular.widthPt(place, 5) / 2, y - 12, 5, regular);
  }
}

/** Prints the timing charts of a sheet on pages after it, level by level as the sheet stands. */
export function printCharts(ink: PdfPen, layout: PageLayout, title: string, columns: readonly Level[]): void {
  const charted = columns.flatMap((level) => level.charts.map((chart): LevelChart => ({ level, chart })));
  const { paper, margin } = layout;
  const perPage = Math.floor((paper.height - 2 * margin - 30) / ROW);
  for (let start = 0; start < charted.length; start += perPage) {
    const page = ink.document.addPage([paper.width, paper.height]);
    write(page, `${title}: timing charts`, margin, paper.height - margin - 10, 11, ink.bold, paper.width - 2 * margin);
    for (const [index, each] of charted.slice(start, start + perPage).entries())
      drawChart(ink, page, each, margin, paper.width - margin, paper.height - margin - 38 - index * ROW);
  }
}
