import Papa from 'papaparse';
import { drawingById, type Level, type Shot } from '@/core/document/model';
import type { Sound } from '@/core/document/sound';
import { CHART_SHAPES, type ChartShape, MOST_INBETWEENS } from '@/core/document/timingChart';
import { armoured, bare } from '@/core/format/csv/armour';
import { done, type Outcome, refused } from '@/core/outcome';
import { sheetColumns } from '@/core/sheet/columns';
import type { WrittenChart, WrittenDetails, WrittenSound } from '@/core/sheet/sheetDetails';
import { countText } from '@/core/time/counts';
import { fraction } from '@/core/time/fraction';

/*
 * What goes beside a sheet's table: its timing charts and sounds, as a second table (RFC 4180), a row each.
 *   chart: level, from and to (numbers of drawings), shape, places (`1/4 2; 1/2; 3/4 3a`: parts of the way from the first to the
 *          second, each with the number of its drawing if it has one), path (`x y; x y`, in pixels)
 *   sound: name, file, start frame (as the sheet numbers them), from sample, samples, level in dB, fades in frames, muted
 */

const HEADS = [
  ...['kind', 'level', 'from', 'to', 'shape', 'places', 'path'],
  ...['name', 'file', 'start frame', 'from sample', 'samples', 'dB', 'fade in', 'fade out', 'muted'],
] as const;
const MOST_ROWS = 20_000;
const MOST_POINTS = 500;

const numberOf = (level: Level, drawingId: string): string => drawingById(level, drawingId)?.number ?? '';

function chartRows(level: Level): readonly (readonly (string | number)[])[] {
  return level.charts.map(({ fromDrawing, toDrawing, shape, ticks, path }) => {
    const places = ticks.map(({ place, drawing }) => `${place.num}/${place.den}${drawing === null ? '' : ` ${numberOf(level, drawing)}`}`);
    const points = path.map(({ x, y }) => `${x} ${y}`);
    const own = [
      armoured(level.name),
      numberOf(level, fromDrawing),
      numberOf(level, toDrawing),
      shape,
      places.join('; '),
      armoured(points.join('; ')),
    ];
    return ['chart', ...own, ...HEADS.slice(7).map(() => '')];
  });
}

const soundRow = (sound: Sound, firstNumber: number): readonly (string | number)[] => [
  ...['sound', '', '', '', '', '', ''],
  ...[armoured(sound.name), armoured(sound.recording.fileName), sound.startFrame + firstNumber, sound.fromSample, sound.samples],
  ...[sound.gainDecibels, sound.fadeInFrames, sound.fadeOutFrames, sound.muted ? 'yes' : 'no'],
];

/** A shot's charts and sounds as CSV; `firstNumber` is what its first frame is called. */
export function writeDetailsCsv(shot: Shot, firstNumber: number): string {
  const rows = [...sheetColumns(shot).flatMap(chartRows), ...shot.sounds.map((sound) => soundRow(sound, firstNumber))];
  return `${Papa.unparse([[...HEADS], ...rows], { newline: '\r\n' })}\r\n`;
}

/** Whether a table is one of these, and not a sheet. */
export const isDetailsCsv = (text: string): boolean => /^(\uFEFF)?(sep=.\r?\n)?"?kind"?\s*[,;\t]/i.test(text);

/** What is wrong with a cell stops it; the message says where. */
class BadCell extends Error {}

/** A row with its cells by their heads; `row` as a person counts it. */
type Row = { readonly row: number; readonly cell: (head: (typeof HEADS)[number]) => string };

const bad = ({ row }: Row, head: string, text: string, instead: string): never => {
  throw new BadCell(`Row ${countText(row)} (${head}): “${text.slice(0, 24)}” is not ${instead}.`);
};

function wholeIn(row: Row, head: (typeof HEADS)[number]): number {
  const text = row.cell(head);
  return /^-?\d{1,12}$/.test(text) ? Number(text) : bad(row, head, text, 'a whole number');
}

const parts = (text: string): readonly string[] => text.split(';').flatMap((part) => (part.trim() === '' ? [] : [part.trim()]));

function readChart(row: Row): WrittenChart {
  const shape =
    CHART_SHAPES.find((each): each is ChartShape => each === row.cell('shape')) ??
    bad(row, 'shape', row.cell('shape'), 'a shape of a chart');
  const ticks = parts(row.cell('places')).map((text) => {
    const [, num, den, drawing] =
      /^(\d{1,6})\s*\/\s*(\d{1,6})(?:\s+(\S{1,12}))?$/.exec(text) ?? bad(row, 'places', text, 'a place as 1/4 or 1/4 2');
    if (Number(den) === 0 || Number(num) === 0 || Number(num) >= Number(den))
      return bad(row, 'places', text, 'a place between the two drawings');
    return { place: fraction(Number(num), Number(den)), number: drawing ?? null };
  });
  if (ticks.length > MOST_INBETWEENS) bad(row, 'places', row.cell('places'), `at most ${MOST_INBETWEENS} places`);
  const grows = ticks.every(({ place }, index) => {
    const before = ticks[index - 1]?.place;
    return !before || place.num * before.den > before.num * place.den;
  });
  if (!grows) bad(row, 'places', row.cell('places'), 'in the order of the way');
  const path = parts(row.cell('path')).map((text) => {
    const [, x, y] = /^(-?\d{1,6})\s+(-?\d{1,6})$/.exec(text) ?? bad(row, 'path', text, 'a point as 120 80');
    return { x: Number(x), y: Number(y) };
  });
  if (path.length > MOST_POINTS) bad(row, 'path', row.cell('path'), `at most ${MOST_POINTS} points`);
  return { row: row.row, level: row.cell('level'), from: row.cell('from'), to: row.cell('to'), shape, ticks, path };
}

function readSound(row: Row, firstNumber: number): WrittenSound {
  const muted = row.cell('muted').toLowerCase();
  if (muted !== 'yes' && muted !== 'no') bad(row, 'muted', muted, 'yes or no');
  return {
    row: row.row,
    name: row.cell('name'),
    fileName: row.cell('file'),
    startFrame: wholeIn(row, 'start frame') - firstNumber,
    fromSample: wholeIn(row, 'from sample'),
    samples: wholeIn(row, 'samples'),
    gainDecibels: wholeIn(row, 'dB'),
    fadeInFrames: wholeIn(row, 'fade in'),
    fadeOutFrames: wholeIn(row, 'fade out'),
    muted: muted === 'yes',
  };
}

/** Reads such a table; `firstNumber` is what the shot's first frame is called. Refuses what is none, naming row and column. */
export function readDetailsCsv(text: string, firstNumber: number): Outcome<WrittenDetails> {
  const whole = text.replace(/^\uFEFF/, '').replace(/^sep=.\r?\n/i, '');
  const delimiter = /^\s*"?kind"?\s*([,;\t])/i.exec(whole)?.[1] ?? ',';
  const { data } = Papa.parse<string[]>(whole, { delimiter, preview: MOST_ROWS + 2 });
  const [heads, ...body] = data.filter((row) => row.some((cell) => cell.trim() !== ''));
  if (heads?.[0]?.trim().toLowerCase() !== 'kind')
    return refused('Row 1: a table of charts and sounds begins with a row of heads, “kind” first.');
  if (body.length > MOST_ROWS)
    return refused(`The table has more than ${countText(MOST_ROWS)} rows: that is the most that is taken at once.`);
  const places = new Map(heads.map((head, place) => [head.trim().toLowerCase(), place]));
  const missing = HEADS.find((head) => !places.has(head.toLowerCase()));
  if (missing !== undefined) return refused(`Row 1: there is no column “${missing}”.`);
  const charts: WrittenChart[] = [];
  const sounds: WrittenSound[] = [];
  try {
    for (const [index, cells] of body.entries()) {
      const row: Row = { row: index + 2, cell: (head) => bare((cells[places.get(head.toLowerCase()) as number] ?? '').trim()) };
      const kind = row.cell('kind').toLowerCase();
      if (kind === 'chart') charts.push(readChart(row));
      else if (kind === 'sound') sounds.push(readSound(row, firstNumber));
      else bad(row, 'kind', kind, 'chart or sound');
    }
  } catch (error) {
    if (error instanceof BadCell) return refused(error.message);
    throw error;
  }
  return done({ charts, sounds });
}
