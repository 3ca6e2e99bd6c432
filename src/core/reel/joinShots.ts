import {
  type Drawing,
  type DrawingId,
  type Exposure,
  type Level,
  type LevelMedia,
  LONGEST_SHOT_NOTE,
  type Project,
  type ReelItem,
  type Shot,
} from '@/core/document/model';
import { type Edit, editOf } from '@/core/edit/edit';
import { type Outcome, refused } from '@/core/outcome';
import { firstPlaceOf, isWhole, placedItems } from '@/core/reel/reel';
import { anew, itemOf, itemsOfShot, type NewId } from '@/core/reel/shotEdits';
import { rootOf } from '@/core/reel/splitShot';
import { compareNumbers } from '@/core/sheet/numbers';
import { nextDrawingNumber } from '@/core/sheet/reading';
import { framesOfRuns, sliceRuns, tidyRuns } from '@/core/sheet/runs';
import { checkLength, plural } from '@/core/time/counts';
import { someOf } from '@/core/words';

/*
 * No frame changes its picture by a join. So a level goes on as one of the next shot only where both are of one name,
 * both shown or hidden, as opaque, blended alike, and of one clip if of any; what lies over what stays so within either
 * shot, for levels that go on are paired in order and all others keep their place between them, blank over the other
 * shot's frames. A still level that doesn't go on as it is becomes an animated one.
 */

/** A still level as one that shows its drawing for so many frames. */
function asAnimated(level: Level, frames: number): Level {
  if (level.kind !== 'still') return level;
  const [only] = level.drawings;
  return { ...level, kind: 'animated', exposures: only ? [{ drawing: only.id, frames }] : [] };
}

const sameMedia = (a: LevelMedia | null, b: LevelMedia | null): boolean =>
  a === b ||
  (a !== null &&
    b !== null &&
    a.fileName === b.fileName &&
    a.frames === b.frames &&
    a.lengthMicroseconds === b.lengthMicroseconds &&
    a.way === b.way);

/** Whether one level can go on as another without any frame changing. */
const goesOn = (first: Level, second: Level): boolean =>
  first.name === second.name &&
  (first.kind === 'guide') === (second.kind === 'guide') &&
  first.visible === second.visible &&
  first.opacityPercent === second.opacityPercent &&
  first.blend === second.blend &&
  sameMedia(first.media, second.media);

/** Levels of two shots that go on as each other, lowest first: as many as can be without two of them crossing. */
function pairsOf(first: readonly Level[], second: readonly Level[]): readonly (readonly [number, number])[] {
  // most[i][j]: the most pairs among first[i…] and second[j…].
  const most = Array.from({ length: first.length + 1 }, () => new Array<number>(second.length + 1).fill(0));
  const at = (i: number, j: number) => (most[i] as number[])[j] as number;
  for (let i = first.length - 1; i >= 0; i--)
    for (let j = second.length - 1; j >= 0; j--) {
      const paired = goesOn(first[i] as Level, second[j] as Level) ? at(i + 1, j + 1) + 1 : 0;
      (most[i] as number[])[j] = Math.max(paired, at(i + 1, j), at(i, j + 1));
    }
  const pairs: (readonly [number, number])[] = [];
  for (let i = 0, j = 0; i < first.length && j < second.length; ) {
    if (goesOn(first[i] as Level, second[j] as Level) && at(i, j) === at(i + 1, j + 1) + 1) pairs.push([i++, j++]);
    else if (at(i + 1, j) === at(i, j)) i++;
    else j++;
  }
  return pairs;
}

/** Whether a drawing of one level is one of another: the same number, and the same picture or, with none, split off from it. */
const isSame = (a: Drawing, b: Drawing): boolean =>
  a.number === b.number && a.picture === b.picture && (a.picture !== null || rootOf(a.id) === rootOf(b.id));

const inOrder = (drawings: readonly Drawing[]): boolean =>
  drawings.every((drawing, index) => index === 0 || compareNumbers((drawings[index - 1] as Drawing).number, drawing.number) < 0);

/** A level with what goes on after it, and how many drawings got another number. */
type JoinedLevel = { readonly level: Level; readonly renumbered: readonly string[] };

/** `second` after `first` on one level; numbers that another drawing has already become new ones. */
function joinLevels(first: Level, second: Level, firstFrames: number, newId: NewId): JoinedLevel {
  const drawings = [...first.drawings];
  const renumbered: string[] = [];
  const ids = new Map<DrawingId, DrawingId>();
  for (const drawing of second.drawings) {
    const same = first.drawings.find((own) => isSame(own, drawing));
    if (same) {
      ids.set(drawing.id, same.id);
      continue;
    }
    const isFree = drawings.every((own) => own.number !== drawing.number);
    const landed = { ...drawing, id: newId(), number: isFree ? drawing.number : nextDrawingNumber({ ...first, drawings }) };
    if (!isFree) renumbered.push(`${first.name} ${drawing.number} to ${landed.number}`);
    drawings.push(landed);
    ids.set(drawing.id, landed.id);
  }
  const idOf = (id: DrawingId) => ids.get(id) as DrawingId;
  const moved: Exposure[] = second.exposures.map((run) => ({ ...run, drawing: run.drawing === null ? null : idOf(run.drawing) }));
  const charts = second.charts.map((chart) => ({
    ...chart,
    id: newId(),
    fromDrawing: idOf(chart.fromDrawing),
    toDrawing: idOf(chart.toDrawing),
    ticks: chart.ticks.map((tick) => ({ ...tick, drawing: tick.drawing === null ? null : idOf(tick.drawing) })),
  }));
  const known = new Set(first.charts.map((chart) => `${chart.fromDrawing} ${chart.toDrawing}`));
  return {
    level: {
      ...first,
      drawings:
        inOrder(first.drawings) && inOrder(second.drawings) ? drawings.toSorted((a, b) => compareNumbers(a.number, b.number)) : drawings,
      exposures: tidyRuns([...sliceRuns(first.exposures, 0, firstFrames), ...moved]),
      charts: [...first.charts, ...charts.filter((chart) => !known.has(`${chart.fromDrawing} ${chart.toDrawing}`))],
    },
    renumbered,
  };
}

const stillPicture = (level: Level) => level.drawings[0]?.picture ?? null;

function goOn(first: Level, second: Level, shot: Shot, next: Shot, newId: NewId): JoinedLevel {
  if (first.kind === 'still' && second.kind === 'still' && stillPicture(first) === stillPicture(second))
    return { level: first, renumbered: [] };
  return joinLevels(asAnimated(first, shot.frames), asAnimated(second, next.frames), shot.frames, newId);
}

const endOf = (level: Level, shot: Shot): Level => {
  const moving = asAnimated(level, shot.frames);
  return { ...moving, exposures: tidyRuns(sliceRuns(moving.exposures, 0, shot.frames)) };
};

function levelStart(level: Level, shot: Shot, next: Shot, newId: NewId): Level {
  const moving = anew(asAnimated(level, next.frames), newId);
  return { ...moving, exposures: tidyRuns([{ drawing: null, frames: shot.frames }, ...moving.exposures]) };
}

/** The levels of two shots as those of one. */
function joinedLevels(shot: Shot, next: Shot, newId: NewId): readonly JoinedLevel[] {
  const joined: JoinedLevel[] = [];
  let [i, j] = [0, 0];
  for (const [one, other] of [...pairsOf(shot.levels, next.levels), [shot.levels.length, next.levels.length] as const]) {
    for (; i < one; i++) joined.push({ level: endOf(shot.levels[i] as Level, shot), renumbered: [] });
    for (; j < other; j++) joined.push({ level: levelStart(next.levels[j] as Level, shot, next, newId), renumbered: [] });
    const [first, second] = [shot.levels[i++], next.levels[j++]];
    if (first && second) joined.push(goOn(first, second, shot, next, newId));
  }
  return joined;
}

/** What a join leaves behind or names anew, each as words; nothing of it is seen in the film. */
function consequences(shot: Shot, joined: readonly JoinedLevel[]): readonly string[] {
  const said: string[] = [];
  const past = shot.levels.filter((level) => framesOfRuns(level.exposures) > shot.frames);
  if (past.length > 0)
    said.push(
      `what ran past the end of ${shot.code} is cut: ${past.map((level) => `${level.name} by ${plural(framesOfRuns(level.exposures) - shot.frames, 'frame')}`).join(', ')}`,
    );
  const late = shot.notes.filter((note) => note.frame >= shot.frames).length;
  if (late > 0) said.push(`${plural(late, 'note')} past it ${late === 1 ? 'goes' : 'go'}`);
  const renumbered = joined.flatMap((level) => level.renumbered);
  if (renumbered.length > 0) said.push(`renumbered: ${someOf(renumbered, 4)}`);
  return said;
}

/** The reel when `shot` and `next` are one: their items show the same frames as before, and two that follow each other are one. */
function joinedReel(project: Project, shot: Shot, next: Shot, joined: Shot): readonly ReelItem[] {
  const reel: ReelItem[] = [];
  for (const placed of placedItems(project)) {
    const { item, fromFrame, startFrame, endFrame } = placed;
    if (item.kind !== 'shot' || (placed.shot !== shot && placed.shot !== next)) {
      reel.push(item);
      continue;
    }
    const trim = { fromFrame: placed.shot === shot ? fromFrame : shot.frames + fromFrame, frames: endFrame - startFrame };
    const last = reel.at(-1);
    const before = last?.kind === 'shot' && last.shotId === joined.id ? last : undefined;
    const goesOn = placed.shot === next && before?.trim && before.trim.fromFrame + before.trim.frames === trim.fromFrame;
    if (goesOn && before.trim) reel[reel.length - 1] = itemOf(before, joined, { ...before.trim, frames: before.trim.frames + trim.frames });
    else reel.push(itemOf(item, joined, trim));
  }
  // What shows all of it, as both were whole, follows it from now on.
  return reel.map((item) =>
    item.kind === 'shot' && item.shotId === joined.id && item.trim?.fromFrame === 0 && item.trim.frames === joined.frames
      ? { ...item, trim: null }
      : item,
  );
}

/** A shot and the next one as one: no frame of the film changes. */
export function joinWithNext(project: Project, shot: Shot, newId: NewId): Outcome<Edit> {
  const placed = firstPlaceOf(project, shot.id);
  if (!placed) return refused(`Shot ${shot.code} is not on the reel: there is none after it to join.`);
  const after = placedItems(project).find(({ startFrame }) => startFrame === placed.endFrame);
  if (!after) return refused(`Shot ${shot.code} is the last one: there is none after it to join.`);
  const next = after.shot;
  if (!next) return refused(`A gap comes after shot ${shot.code}: close it first, then join.`);
  if (next === shot) return refused(`Shot ${shot.code} comes after itself: there is no other to join.`);
  if (!isWhole(placed) || !isWhole(after))
    return refused(`Shot ${isWhole(placed) ? next.code : shot.code} is trimmed on the reel: show it whole first, then join.`);
  const frames = shot.frames + next.frames;
  const length = checkLength(frames);
  if (!length.ok) return length;
  // Halves of one shot have one note between them.
  const note = shot.note === next.note ? shot.note : [shot.note, next.note].filter(Boolean).join(' ');
  if (note.length > LONGEST_SHOT_NOTE)
    return refused(
      `The notes of ${shot.code} and ${next.code} are ${note.length} characters together; a shot’s note has at most ${LONGEST_SHOT_NOTE}. Shorten one of them, then join.`,
    );
  const joined = joinedLevels(shot, next, newId);
  const whole: Shot = {
    ...shot,
    frames,
    note,
    levels: joined.map(({ level }) => level),
    notes: [
      ...shot.notes.filter((each) => each.frame < shot.frames),
      ...next.notes.map((each) => ({ ...each, frame: each.frame + shot.frames })),
    ],
    sounds: [...shot.sounds, ...next.sounds.map((sound) => ({ ...sound, startFrame: sound.startFrame + shot.frames }))],
  };
  return editOf(
    [
      { type: 'removeShot', shotId: next.id },
      { type: 'removeShot', shotId: shot.id },
      {
        type: 'addShot',
        shot: whole,
        index: project.shots.filter((other) => other !== next).indexOf(shot),
        items: itemsOfShot(joinedReel(project, shot, next, whole), whole),
      },
    ],
    `Join ${shot.code} and ${next.code}`,
    [
      `Join ${next.code} to ${shot.code}: one shot of ${plural(frames, 'frame')}; the reel stays as long as it is`,
      ...consequences(shot, joined),
    ].join('; '),
  );
}
