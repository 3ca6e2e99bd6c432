import { type Level, levelById, type Shot } from '@/core/sheet/document';
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
export type Told = {
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

/** Reads what an act says beforehand. */
export function readTold(says: string): Told {
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
