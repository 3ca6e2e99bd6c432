import { type Level, levelById, type Shot } from '@/core/document/model';
import { framesOfRuns } from '@/core/sheet/runs';

/*
 * A sheet written out frame by frame, one drawing a frame, as the second opinion of what edits make of it and say.
 */

/** The drawing of each frame of a level's column by its number; null where it is blank. */
export type FrameColumn = readonly (string | null)[];

export const framesOf = (level: Level): FrameColumn =>
  level.exposures.flatMap((run) => {
    const number = level.drawings.find((drawing) => drawing.id === run.drawing)?.number ?? null;
    return Array.from({ length: run.frames }, () => number);
  });

/** What a sentence says of consequences, read back as numbers. */
export type ToldConsequences = {
  readonly moves: number | null;
  readonly covering: number | null;
  readonly leavingBlank: number | null;
  readonly lost: readonly string[];
  readonly pastEnd: ReadonlyMap<string, number>;
};

const numberIn = (text: string, pattern: RegExp): number | null => {
  const match = pattern.exec(text);
  return match ? Number(match[1]) : null;
};

/** Reads what an edit says beforehand. */
export function readTold(says: string): ToldConsequences {
  const up = numberIn(says, /what follows moves (\d+) frames? up/);
  return {
    moves: up === null ? numberIn(says, /what follows moves (\d+) frames? down/) : -up,
    covering: numberIn(says, /covering (\d+) frames? of what follows/),
    leavingBlank: numberIn(says, /leaving (\d+) frames? blank/),
    lost: (/; ([^;]*?) (?:is|are) no longer exposed/.exec(says)?.[1] ?? '').split(', ').filter(Boolean),
    pastEnd: new Map(
      [...says.matchAll(/(\S+) then runs (\d+) frames? past the end/g)].map((match) => [match[1] as string, Number(match[2])]),
    ),
  };
}

/** Drawings shown somewhere before and nowhere after, as a sentence names them: with their levels where several changed. */
export function lostBetween(before: Shot, after: Shot): readonly string[] {
  const changed = before.levels.filter((level) => framesOf(level).join() !== framesOf(levelById(after, level.id) as Level).join());
  return changed.flatMap((level) => {
    const left = new Set(framesOf(levelById(after, level.id) as Level));
    const gone = level.drawings.map((drawing) => drawing.number).filter((number) => framesOf(level).includes(number) && !left.has(number));
    return gone.map((number, index) => (changed.length > 1 && index === 0 ? `${level.name} ${number}` : number));
  });
}

/** Levels that run further past their shot's end than before, and by how many frames they then do. */
export function pastEndBetween(before: Shot, after: Shot): ReadonlyMap<string, number> {
  return new Map(
    after.levels.flatMap((level): [string, number][] => {
      const past = framesOfRuns(level.exposures) - after.frames;
      const was = framesOfRuns(levelById(before, level.id)?.exposures ?? []) - before.frames;
      return past > 0 && past > Math.max(0, was) ? [[level.name, past]] : [];
    }),
  );
}

/** A column without the blanks at its end, as columns are kept. */
export const trimmed = (frames: FrameColumn): FrameColumn => {
  let end = frames.length;
  while (end > 0 && (frames[end - 1] ?? null) === null) end--;
  return frames.slice(0, end);
};

const blanks = (count: number): FrameColumn => Array.from({ length: Math.max(0, count) }, () => null);
const padded = (frames: FrameColumn, length: number): FrameColumn => [...frames, ...blanks(length - frames.length)];

/** Frames from `start` put in place of `removed` of them, on a column made long enough. */
export const put = (frames: FrameColumn, start: number, removed: number, insert: FrameColumn): FrameColumn => {
  const long = padded(frames, start);
  return trimmed([...long.slice(0, start), ...insert, ...long.slice(start + removed)]);
};

/** The exposure at a frame held to another (inclusive): what follows moves, or stands and is covered. */
export function held(frames: FrameColumn, at: number, to: number, pushes: boolean): FrameColumn {
  const number = frames[at] as string;
  let [start, end] = [at, at + 1];
  while (start > 0 && frames[start - 1] === number) start--;
  while (frames[end] === number) end++;
  const shown = Array.from({ length: to - start + 1 }, () => number);
  if (pushes) return put(frames, start, end - start, shown);
  return put(frames, start, Math.max(end - start, shown.length), [...shown, ...blanks(end - start - shown.length)]);
}

/** Frames moved to another place: over what is there, or between it, closing up where they were. */
export function moved(frames: FrameColumn, from: number, length: number, to: number, pushes: boolean): FrameColumn {
  const block = padded(frames, from + length).slice(from, from + length);
  const left = put(frames, from, length, pushes ? [] : blanks(length));
  return put(left, to, pushes ? 0 : length, block);
}

/** Blank frames put in before one: inside a drawing they hold it longer. */
export function inserted(frames: FrameColumn, at: number, count: number): FrameColumn {
  if (at >= frames.length) return trimmed(frames);
  const isInside = at > 0 && frames[at - 1] === frames[at];
  return put(
    frames,
    at,
    0,
    Array.from({ length: count }, () => (isInside ? (frames[at] ?? null) : null)),
  );
}
