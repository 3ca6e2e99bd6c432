import type { Drawing, Level, Project, Shot } from '@/core/document/model';
import { columnRuns } from '@/core/sheet/columns';
import { roleWord } from '@/core/sheet/reading';
import { lengthCounts, plural } from '@/core/time/counts';
import { frameRangeWords } from '@/core/time/frameWords';
import { rateFraction } from '@/core/time/rate';
import { drawingWords } from '@/core/words';

/*
 * A contact sheet: every drawing of a shot once, level after level, with its number, its role and the frames it is seen on.
 * Lengths are points of 1/72 inch, down from the upper left corner.
 */

const MARGIN = 30;
const HEADER = 44;
const BETWEEN = 10;
/** Room for a drawing's name beneath its picture, and for each line of its frames. */
const [NAME, LINE] = [16, 10];
/** Frames are written on so many lines at most; the rest is counted. */
const MOST_LINES = 4;
/** No more parts than that have room on them. */
const MOST_PARTS = 60;
const FRAMES_SIZE = 7.5;
/** A digit's width in sizes of its type, a little more than it takes. */
const DIGIT = 0.56;

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

/** Something on a page: words that stand on `bottom`, cut at `mostWidth`, or a drawing's picture, framed; `picture` null is told in words. */
export type ContactMark =
  | {
      readonly kind: 'words';
      readonly words: string;
      readonly left: number;
      readonly bottom: number;
      readonly size: number;
      readonly ink: 'bold' | 'regular' | 'grey';
      readonly mostWidth: number;
    }
  | {
      readonly kind: 'picture';
      readonly picture: Drawing['picture'];
      readonly left: number;
      readonly top: number;
      readonly width: number;
      readonly height: number;
    };

export type ContactPage = { readonly width: number; readonly height: number; readonly marks: readonly ContactMark[] };

/** What pictures are laid on: so many beside each other on a width, on pages of a height, or on one that is as high as it takes. */
export type ContactGround = { readonly width: number; readonly columns: number; readonly height: number | null };

const words = (
  text: string,
  left: number,
  bottom: number,
  size: number,
  ink: 'bold' | 'regular' | 'grey',
  mostWidth: number,
): ContactMark => ({ kind: 'words', words: text, left, bottom, size, ink, mostWidth });

/** Where a drawing is seen in words, on lines of a width. */
function framesOnLines(frames: readonly number[], width: number): readonly string[] {
  if (frames.length === 0) return ['not exposed'];
  const mostLetters = Math.floor(width / (FRAMES_SIZE * DIGIT));
  for (let most = Math.min(frames.length, MOST_PARTS); ; most--) {
    const lines: string[] = [];
    for (const part of frameRangeWords(frames, most).split(' ')) {
      const last = lines.at(-1);
      if (last !== undefined && last.length + 1 + part.length <= mostLetters) lines[lines.length - 1] = `${last} ${part}`;
      else lines.push(part);
    }
    if (lines.length <= MOST_LINES || most <= 1) return lines;
  }
}

/** A drawing with what is said of it, in a cell whose picture is `width` by `height`. */
function entryMarks(
  { level, drawing }: ContactEntry,
  frameLines: readonly string[],
  cell: { readonly left: number; readonly top: number; readonly width: number; readonly height: number },
): readonly ContactMark[] {
  const { left, top, width, height } = cell;
  const role = drawing.role === 'inbetween' ? '' : ` ${roleWord[drawing.role]}`;
  return [
    { kind: 'picture', picture: drawing.picture, ...cell },
    ...(drawing.picture ? [] : [words('not drawn yet', left + 6, top + height / 2, 8, 'grey', width - 12)]),
    words(`${drawingWords(level.name, drawing.number)}${role}`, left, top + height + 10, 8.5, 'bold', width),
    ...frameLines.map((line, index) => words(line, left, top + height + 20 + index * LINE, FRAMES_SIZE, 'regular', width)),
  ];
}

/** The pages of a shot's contact sheet. */
export function contactPages(project: Project, shot: Shot, ground: ContactGround): readonly ContactPage[] {
  const { width, columns } = ground;
  const cellWidth = (width - 2 * MARGIN - (columns - 1) * BETWEEN) / columns;
  const cellHeight = (cellWidth * project.size.height) / project.size.width;
  const entries = contactEntries(shot);
  const linesOf = entries.map(({ frames }) =>
    framesOnLines(
      frames.map((frame) => frame + project.firstFrameNumber),
      cellWidth,
    ),
  );
  const step = cellHeight + NAME + LINE * Math.max(1, ...linesOf.map((lines) => lines.length)) + BETWEEN;
  const room = ground.height === null ? Math.ceil(entries.length / columns) : Math.floor((ground.height - 2 * MARGIN - HEADER) / step);
  const rows = Math.max(1, room);
  const height = ground.height ?? 2 * MARGIN + HEADER + rows * step;
  const pages = Math.max(1, Math.ceil(entries.length / (rows * columns)));
  const counts = lengthCounts(shot.frames, project.rate);
  const drawn = entries.filter(({ drawing }) => drawing.picture).length;
  const title = `${project.title}, shot ${shot.code}${shot.name ? `  ${shot.name}` : ''}`;
  const said = `${plural(entries.length, 'drawing')}, ${drawn} drawn; ${plural(shot.frames, 'frame')} at ${rateFraction(project.rate)} = ${counts.seconds} s`;
  const inner = width - 2 * MARGIN;
  return Array.from({ length: pages }, (_, page) => ({
    width,
    height,
    marks: [
      words(title, MARGIN, MARGIN + 11, 13, 'bold', inner - 80),
      ...(pages === 1 ? [] : [words(`page ${page + 1} of ${pages}`, width - MARGIN - 70, MARGIN + 11, 8, 'regular', 70)]),
      words(said, MARGIN, MARGIN + 25, 8.5, 'regular', inner),
      ...entries.slice(page * rows * columns, (page + 1) * rows * columns).flatMap((entry, index) =>
        entryMarks(entry, linesOf[page * rows * columns + index] ?? [], {
          left: MARGIN + (index % columns) * (cellWidth + BETWEEN),
          top: MARGIN + HEADER + Math.floor(index / columns) * step,
          width: cellWidth,
          height: cellHeight,
        }),
      ),
    ],
  }));
}

/** How many drawings lie beside each other on a sheet of one page that is about as wide as high. */
export function columnsOfOnePage(project: Project, shot: Shot, cellWidth: number): number {
  const cellHeight = (cellWidth * project.size.height) / project.size.width + NAME + 2 * LINE;
  return Math.max(3, Math.ceil(Math.sqrt((contactEntries(shot).length * cellHeight) / cellWidth)));
}

/** The width of a sheet of so many drawings beside each other. */
export const widthOfColumns = (columns: number, cellWidth: number): number => 2 * MARGIN + columns * (cellWidth + BETWEEN) - BETWEEN;
