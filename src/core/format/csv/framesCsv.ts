import Papa from 'papaparse';
import { armoured } from '@/core/format/csv/armour';
import { frameRangeWords } from '@/core/time/frameWords';

/** A picture file and the frames it is seen on, by the numbers they are shown with. */
export type FramesRow = {
  readonly file: string;
  readonly shot: string | null;
  readonly level: string | null;
  readonly drawing: string | null;
  readonly frames: readonly number[];
};

/** Which frames each picture file holds, as CSV (RFC 4180): `frames` as `1–4, 9`, and how many they are. */
export function writeFramesCsv(rows: readonly FramesRow[]): string {
  const heads = ['file', 'shot', 'level', 'drawing', 'frames', 'count'];
  const body = rows.map(({ file, shot, level, drawing, frames }) => [
    armoured(file),
    armoured(shot ?? ''),
    armoured(level ?? ''),
    armoured(drawing ?? ''),
    frameRangeWords(frames, Number.POSITIVE_INFINITY).replace(/^frames? /, ''),
    frames.length,
  ]);
  return `${Papa.unparse([heads, ...body], { newline: '\r\n' })}\r\n`;
}
