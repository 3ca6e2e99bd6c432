import type { PDFImage, PDFPage } from 'pdf-lib';
import type { Drawing, Level, Project, Shot } from '@/core/document/model';
import { newPdf, type PrintFaces } from '@/core/format/pdf/newPdf';
import { PAPERS, type PaperSize } from '@/core/format/pdf/pageLayout';
import { GREY, PALE, type PdfPen, write } from '@/core/format/pdf/pdfPen';
import { columnRuns } from '@/core/sheet/columns';
import { roleWord } from '@/core/sheet/reading';
import { lengthCounts, plural } from '@/core/time/counts';
import { frameRangeWords } from '@/core/time/frameWords';
import { rateFraction } from '@/core/time/rate';

/*
 * A contact sheet: every drawing of a shot once, level after level, with its number, its role and the frames it is seen on.
 * Lengths are points of 1/72 inch.
 */

const MARGIN = 30;
const HEADER = 44;
const COLUMNS = 4;
const BETWEEN = 10;
/** Room for two lines beneath a picture. */
const WORDS = 26;

/** A drawing as it stands on the sheet: the frames of the shot, from 0, it is seen on. */
export type ContactEntry = { readonly level: Level; readonly drawing: Drawing; readonly frames: readonly number[] };

/** Every drawing of a shot once but those of guides: level after level, the one in front first, in the order of each one's list. */
export function contactEntries(shot: Shot): readonly ContactEntry[] {
  const levels = shot.levels.filter(({ kind }) => kind !== 'guide').toReversed();
  return levels.flatMap((level) => {
    const seen = new Map<string, number[]>();
    for (const run of columnRuns(level, shot.frames)) {
      if (run.drawing === null) continue;
      const frames = seen.get(run.drawing) ?? [];
      for (let frame = run.startFrame; frame < Math.min(run.endFrame, shot.frames); frame++) frames.push(frame);
      seen.set(run.drawing, frames);
    }
    // A still level shows its drawing for the whole shot, without exposures.
    const whole = level.kind === 'still' ? Array.from({ length: shot.frames }, (_, frame) => frame) : null;
    return level.drawings.map((drawing, index) => ({
      level,
      drawing,
      frames: seen.get(drawing.id) ?? (whole && index === 0 ? whole : []),
    }));
  });
}

type Place = { readonly x: number; readonly top: number; readonly width: number; readonly height: number };

function writeEntry(
  ink: PdfPen,
  page: PDFPage,
  { drawing, frames, level }: ContactEntry,
  picture: PDFImage | null,
  place: Place,
  first: number,
): void {
  const { x, top, width, height } = place;
  if (picture) page.drawImage(picture, { x, y: top - height, width, height });
  else write(page, 'not drawn yet', x + 6, top - height / 2, 8, ink.regular, width - 12, GREY);
  page.drawRectangle({ x, y: top - height, width, height, borderColor: PALE, borderWidth: 0.5 });
  const role = drawing.role === 'inbetween' ? '' : ` ${roleWord[drawing.role]}`;
  write(page, `${level.name} ${drawing.number}${role}`, x, top - height - 10, 8.5, ink.bold, width);
  const on = frames.length === 0 ? 'not exposed' : frameRangeWords(frames.map((frame) => frame + first));
  write(page, on, x, top - height - 20, 7.5, ink.regular, width);
}

/** A shot's drawings as a contact sheet. `pictureOf` gives a small JPEG of a drawing; null for one that isn't drawn. */
export async function contactPdf(
  project: Project,
  shot: Shot,
  paper: PaperSize,
  faces: PrintFaces,
  pictureOf: (drawing: Drawing) => Promise<Uint8Array | null>,
): Promise<Uint8Array> {
  const ink = await newPdf(`${project.title}, shot ${shot.code}, drawings`, faces);
  const { width, height } = PAPERS[paper];
  const cellWidth = (width - 2 * MARGIN - (COLUMNS - 1) * BETWEEN) / COLUMNS;
  const cellHeight = (cellWidth * project.size.height) / project.size.width;
  const rows = Math.max(1, Math.floor((height - 2 * MARGIN - HEADER) / (cellHeight + WORDS + BETWEEN)));
  const entries = contactEntries(shot);
  const pages = Math.max(1, Math.ceil(entries.length / (rows * COLUMNS)));
  const counts = lengthCounts(shot.frames, project.rate);
  for (let number = 0; number < pages; number++) {
    const page = ink.document.addPage([width, height]);
    const title = `${project.title}, shot ${shot.code}${shot.name ? `  ${shot.name}` : ''}`;
    write(page, title, MARGIN, height - MARGIN - 11, 13, ink.bold, width - 2 * MARGIN - 80);
    write(page, `page ${number + 1} of ${pages}`, width - MARGIN - 70, height - MARGIN - 11, 8, ink.regular);
    const drawn = entries.filter(({ drawing }) => drawing.picture).length;
    const words = `${plural(entries.length, 'drawing')}, ${drawn} drawn; ${plural(shot.frames, 'frame')} at ${rateFraction(project.rate)} = ${counts.seconds} s`;
    write(page, words, MARGIN, height - MARGIN - 25, 8.5, ink.regular, width - 2 * MARGIN);
    const own = entries.slice(number * rows * COLUMNS, (number + 1) * rows * COLUMNS);
    for (const [index, entry] of own.entries()) {
      const jpeg = await pictureOf(entry.drawing);
      const x = MARGIN + (index % COLUMNS) * (cellWidth + BETWEEN);
      const top = height - MARGIN - HEADER - Math.floor(index / COLUMNS) * (cellHeight + WORDS + BETWEEN);
      const place = { x, top, width: cellWidth, height: cellHeight };
      writeEntry(ink, page, entry, jpeg && (await ink.document.embedJpg(jpeg)), place, project.firstFrameNumber);
    }
  }
  return ink.document.save();
}
