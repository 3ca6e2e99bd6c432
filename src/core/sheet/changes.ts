import { type Level, levelById, type Shot } from '@/core/document/model';
import { notationOf } from '@/core/sheet/notation';
import { sameRuns } from '@/core/sheet/runs';

/** A column that a change leaves different: where it differs, in the sheet's notation, with `…` for what stays the same around it. */
export type ChangedColumn = { readonly levelName: string; readonly before: string; readonly after: string };

const words = (level: Level): readonly string[] => {
  const text = notationOf(level);
  return text === '' ? [] : text.split(' ');
};

/** Exposures of one list left out of `words` from `start` to `end`, the cut marked. */
function excerpt(list: readonly string[], start: number, end: number, most: number): string {
  const shown = list.slice(start, Math.min(end, start + most));
  const before = start > 0 ? ['…'] : [];
  const after = start + shown.length < list.length ? ['…'] : [];
  return shown.length === 0 && before.length + after.length === 0 ? 'nothing' : [...before, ...shown, ...after].join(' ');
}

/** Where two columns differ: both from the first to the last exposure that isn't the same, at most `most` of them. */
function difference(before: Level, after: Level, most: number): ChangedColumn {
  const [old, now] = [words(before), words(after)];
  const shorter = Math.min(old.length, now.length);
  let start = 0;
  while (start < shorter && old[start] === now[start]) start++;
  let same = 0;
  while (same < shorter - start && old.at(-1 - same) === now.at(-1 - same)) same++;
  return {
    levelName: after.name,
    before: excerpt(old, start, old.length - same, most),
    after: excerpt(now, start, now.length - same, most),
  };
}

/** The columns of a shot that differ after a change, as the sheet stands in front first. */
export function changedColumns(before: Shot, after: Shot, most = 24): readonly ChangedColumn[] {
  return after.levels.toReversed().flatMap((level) => {
    const old = levelById(before, level.id);
    return old && old !== level && !sameRuns(old.exposures, level.exposures) ? [difference(old, level, most)] : [];
  });
}
