import type { DrawingRole, Exposure, Level } from '@/core/document/model';
import { drawingById } from '@/core/document/model';
import { done, type Outcome, refused } from '@/core/outcome';

/*
 * Exposures as text: `5*2` is drawing 5 held two frames, `.` a blank, `.*3` three blanks; a length of 1
 * may be left out. It is what worked examples and copied sheet columns are written in.
 */

/** One written exposure: a drawing's number, or null for blank, how many frames, and the drawing's role where one is written. */
export type WrittenExposure = { readonly number: string | null; readonly frames: number; readonly role?: DrawingRole };

/** Reads `1*2 2*2 .*3 5`. Refuses parts that are neither a number nor a blank, and lengths of 0, naming the part. */
export function parseNotation(text: string): Outcome<readonly WrittenExposure[]> {
  const written: WrittenExposure[] = [];
  for (const part of text.trim().split(/\s+/).filter(Boolean)) {
    const match = /^(\.|[\p{L}\p{N}]+)(?:\*(\d{1,6}))?$/u.exec(part);
    const frames = Number(match?.[2] ?? 1);
    if (!match || frames < 1) return refused(`“${part}” is no exposure: write a drawing's number and its frames, as 5*2, or . for blank.`);
    written.push({ number: match[1] === '.' ? null : (match[1] ?? null), frames });
  }
  return done(written);
}

/** The runs that written exposures mean on a level; refuses numbers the level does not have. */
export function runsFromNotation(text: string, level: Pick<Level, 'drawings' | 'name'>): Outcome<readonly Exposure[]> {
  const written = parseNotation(text);
  if (!written.ok) return written;
  const runs: Exposure[] = [];
  for (const { number, frames } of written.value) {
    const drawing = number === null ? null : level.drawings.find((candidate) => candidate.number === number)?.id;
    if (drawing === undefined) return refused(`${level.name} has no drawing ${number}.`);
    runs.push({ drawing, frames });
  }
  return done(runs);
}

/** A level's exposures as text, as `parseNotation` reads them. */
export function notationOf(level: Level, runs: readonly Exposure[] = level.exposures): string {
  return runs
    .map((run) => {
      const number = run.drawing === null ? '.' : (drawingById(level, run.drawing)?.number ?? '?');
      return run.frames === 1 ? number : `${number}*${run.frames}`;
    })
    .join(' ');
}
