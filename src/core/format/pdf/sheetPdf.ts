import type { PDFPage } from 'pdf-lib';
import { placesOnCharts } from '@/core/chart/places';
import { drawingById, type Level, type Project, type Shot } from '@/core/document/model';
import { sizeText } from '@/core/document/size';
import { printCharts } from '@/core/format/pdf/chartPages';
import { newPdf, type PrintFaces } from '@/core/format/pdf/newPdf';
import { type FramesAPage, layOutPages, type PageLayout, type PaperSize, type SheetPage } from '@/core/format/pdf/pageLayout';
import { BLACK, finishPdf, GREY, PALE, type PdfPen, rule, type WordsMaker, write } from '@/core/format/pdf/pdfPen';
import type { PrintedSounds } from '@/core/format/pdf/printedSounds';
import { printSounds } from '@/core/format/pdf/printSounds';
import { columnRuns, runsTouching, sheetColumns } from '@/core/sheet/columns';
import { levelTiming } from '@/core/sheet/reading';
import { framesOfRuns, type PlacedRun } from '@/core/sheet/runs';
import { workOfShot } from '@/core/sheet/work';
import { lengthCounts, plural } from '@/core/time/counts';
import { nominalRate, rateFraction } from '@/core/time/rate';

/** How a sheet is printed. */
export type PrintChoices = { readonly paper: PaperSize; readonly framesAPage: FramesAPage; readonly charts: boolean };

type PrintJob = {
  readonly ink: PdfPen;
  readonly layout: PageLayout;
  readonly project: Project;
  readonly shot: Shot;
  readonly columns: readonly Level[];
  readonly choices: PrintChoices;
  readonly heard: PrintedSounds;
};

function printHeader({ ink, layout, project, shot, columns }: PrintJob, page: PDFPage, sheetPage: SheetPage, pageNumber: number): void {
  const { margin, paper, headerTop } = layout;
  const counts = lengthCounts(shot.frames, project.rate);
  const work = workOfShot(shot);
  const right = paper.width - margin;
  const at = (line: number) => headerTop - 11 - line * 13;
  const number = `page ${pageNumber} of ${layout.pages.length}`;
  write(page, `${project.title}, shot ${shot.code}${shot.name ? `  ${shot.name}` : ''}`, margin, at(0), 13, ink.bold, right - margin - 80);
  write(page, number, right - ink.regular.widthPt(number, 8), at(0), 8, ink.regular);
  const length = `${plural(shot.frames, 'frame')} at ${rateFraction(project.rate)} = ${counts.seconds} s, ${counts.timecode}, ${counts.footage} ft; ${sizeText(project.size)}`;
  write(page, length, margin, at(1), 8.5, ink.regular, right - margin);
  const levels =
    sheetPage.toLevel - sheetPage.fromLevel < columns.length
      ? `, levels ${sheetPage.fromLevel + 1}–${sheetPage.toLevel} of ${columns.length}`
      : '';
  const range = `frames ${sheetPage.fromFrame + project.firstFrameNumber}–${sheetPage.toFrame - 1 + project.firstFrameNumber}${levels}`;
  write(
    page,
    `${plural(work.drawings, 'drawing')}, ${work.drawn} drawn, ${work.drawings - work.drawn} to draw; ${range}`,
    margin,
    at(2),
    8.5,
    ink.regular,
    right - margin,
  );
  if (shot.note) write(page, `Note: ${shot.note}`, margin, at(3), 8.5, ink.regular, right - margin);
}

function printRun(
  printing: PrintJob,
  page: PDFPage,
  level: Level,
  run: PlacedRun,
  left: number,
  yOf: (frame: number) => number,
  from: number,
  to: number,
): void {
  const { ink, layout, choices } = printing;
  const drawing = drawingById(level, run.drawing);
  const [first, last] = [Math.max(run.startFrame, from), Math.min(run.endFrame, to) - 1];
  const baseline = yOf(first) - layout.rowHeight + layout.rowHeight * 0.28;
  if (!drawing) {
    if (run.startFrame >= from) write(page, '×', left + 5, baseline, 6.5, ink.regular, 20, GREY);
    return;
  }
  const size = Math.min(8, layout.rowHeight * 0.72);
  const face = drawing.role === 'key' ? ink.bold : ink.regular;
  const shown = first > run.startFrame ? `(${drawing.number})` : drawing.number;
  const width = face.widthPt(shown, size);
  write(page, shown, left + 5, baseline, size, face, layout.columnWidth - 6, drawing.picture ? BLACK : GREY);
  if (first === run.startFrame && drawing.role === 'key')
    page.drawEllipse({
      x: left + 5 + width / 2,
      y: baseline + size * 0.34,
      xScale: width / 2 + 3,
      yScale: size * 0.58,
      borderWidth: 0.6,
      borderColor: BLACK,
    });
  if (first === run.startFrame && drawing.role === 'breakdown')
    rule(page, left + 5, baseline - 1.2, left + 5 + width, baseline - 1.2, 0.7, BLACK);
  const place = choices.charts && first === run.startFrame && drawing.role !== 'key' ? (placesOnCharts(level).get(drawing.id) ?? '') : '';
  if (place) write(page, place, left + 8 + width, baseline, size * 0.62, ink.regular, layout.columnWidth - width - 9, GREY);
  // A line through the frames it is held, ending in a stroke (common practice on paper sheets).
  if (last > first) {
    const [top, end] = [yOf(first + 1) - 0.5, yOf(last) - layout.rowHeight * 0.62];
    rule(page, left + 7, top, left + 7, end, 0.6, BLACK);
    if (run.endFrame <= to) rule(page, left + 4.5, end, left + 9.5, end, 0.6, BLACK);
  }
}

function printHalf(printing: PrintJob, page: PDFPage, sheetPage: SheetPage, half: 0 | 1): void {
  const { ink, layout, project, shot, columns } = printing;
  const from = sheetPage.fromFrame + half * layout.halfFrames;
  const to = Math.min(sheetPage.toFrame, from + layout.halfFrames);
  if (from >= to) return;
  const left = layout.halfLeft(half);
  const right = left + layout.halfWidth;
  const yOf = (frame: number) => layout.rowsTop - (frame - from) * layout.rowHeight;
  const shownLevels = columns.slice(sheetPage.fromLevel, sheetPage.toLevel);
  const soundsLeft = left + layout.rulerWidth;
  const columnLeft = (index: number) => soundsLeft + layout.soundsWidth + index * layout.columnWidth;
  const perSecond = nominalRate(project.rate);
  for (let frame = from; frame < to; frame++) {
    const isSecond = frame % perSecond === 0;
    rule(page, left, yOf(frame), right, yOf(frame), isSecond ? 0.9 : frame % (perSecond / 2) === 0 ? 0.5 : 0.25, isSecond ? BLACK : PALE);
    write(
      page,
      String(frame + project.firstFrameNumber),
      left + 1,
      yOf(frame) - layout.rowHeight * 0.72,
      Math.min(6.5, layout.rowHeight * 0.55),
      isSecond ? ink.bold : ink.regular,
      layout.rulerWidth - 2,
    );
  }
  rule(page, left, yOf(to), right, yOf(to), to === shot.frames ? 1.6 : 0.5, to >= shot.frames ? BLACK : PALE);
  if (layout.soundsWidth > 0) {
    rule(page, soundsLeft, layout.headsTop, soundsLeft, yOf(to), 0.4, PALE);
    write(page, 'Sound', soundsLeft + 2, layout.headsTop - 9, 6, ink.bold, layout.soundsWidth - 2);
    printSounds(ink, page, layout, printing.heard, soundsLeft, from, Math.min(to, shot.frames));
  }
  for (const [index, level] of shownLevels.entries()) {
    const x = columnLeft(index);
    rule(page, x, layout.headsTop, x, yOf(to), 0.4, PALE);
    write(page, level.name, x + 3, layout.headsTop - 9, 7.5, ink.bold, layout.columnWidth - 5);
    write(
      page,
      level.kind === 'guide' ? 'guide' : levelTiming(level),
      x + 3,
      layout.headsTop - 17,
      6,
      ink.regular,
      layout.columnWidth - 5,
      GREY,
    );
    for (const run of runsTouching(columnRuns(level, Math.max(shot.frames, to)), from, to))
      printRun(printing, page, level, run, x, yOf, from, to);
  }
  const notesLeft = columnLeft(shownLevels.length);
  rule(page, notesLeft, layout.headsTop, notesLeft, yOf(to), 0.4, PALE);
  write(page, 'Notes', notesLeft + 3, layout.headsTop - 9, 7.5, ink.bold);
  const said = new Map<number, string[]>();
  for (const note of shot.notes) {
    const words = note.kind === 'accent' ? `> ${note.words}` : note.kind === 'word' ? `“${note.words}”` : note.words;
    said.set(note.frame, [...(said.get(note.frame) ?? []), words]);
  }
  for (const [frame, words] of said)
    if (frame >= from && frame < to)
      write(page, words.join('  '), notesLeft + 3, yOf(frame) - layout.rowHeight * 0.72, 6.5, ink.regular, right - notesLeft - 4);
}

/**
 * A shot's sheet as a PDF, sounds beside their frames: pages of 96 or 100 frames in two halves, levels that have no room on pages of
 * their own, and the timing charts after them when asked. Deterministic but for the file's own identifier.
 */
export async function sheetPdf(
  project: Project,
  shot: Shot,
  choices: PrintChoices,
  heard: PrintedSounds,
  faces: PrintFaces,
  maker: WordsMaker | null,
): Promise<Uint8Array> {
  const ink = await newPdf(`${project.title}, shot ${shot.code}, sheet`, faces, maker);
  const columns = sheetColumns(shot);
  const frames = Math.max(shot.frames, ...columns.map((level) => framesOfRuns(level.exposures)));
  const layout = layOutPages(choices.paper, choices.framesAPage, frames, columns.length, heard.lanes);
  const printing: PrintJob = { ink, layout, project, shot, columns, choices, heard };
  for (const [index, sheetPage] of layout.pages.entries()) {
    const page = ink.document.addPage([layout.paper.width, layout.paper.height]);
    printHeader(printing, page, sheetPage, index + 1);
    printHalf(printing, page, sheetPage, 0);
    printHalf(printing, page, sheetPage, 1);
  }
  if (choices.charts) printCharts(ink, layout, `${project.title}, shot ${shot.code}`, columns);
  return finishPdf(ink);
}
