import type { DrawingId, Level, Project, ReelItem, Shot, ShotItem } from '@/core/document/model';
import { wholeShot } from '@/core/document/model';
import { type Edit, editOf } from '@/core/edit/edit';
import type { ItemOnReel, StepOf } from '@/core/edit/step';
import { done, type Outcome } from '@/core/outcome';
import { placedShots, reelIndexOf } from '@/core/reel/reel';
import { plural } from '@/core/time/counts';

export type NewId = () => string;

/** The items of a reel that show a shot, each with its place there, such that adding them in turn to the rest puts all where they are. */
export const itemsOfShot = (reel: readonly ReelItem[], shot: Shot): readonly ItemOnReel[] =>
  reel.flatMap((item, index) => (item.kind === 'shot' && item.shotId === shot.id ? [{ item, index }] : []));

/** An item of a shot that shows other frames of another one. */
export const itemOf = (item: ShotItem, shot: Shot, trim: ShotItem['trim']): ShotItem => ({ ...item, shotId: shot.id, trim });

/** Adds a shot whole at a place on the reel. */
export const addShotStep = (project: Project, shot: Shot, reelIndex: number): StepOf<'addShot'> => ({
  type: 'addShot',
  shot,
  index: project.shots.length,
  items: [{ item: wholeShot(shot.id), index: reelIndex }],
});

/** Shots are coded in tens, so that others fit between (common practice); one put between takes the middle, else a letter. `reelIndex` is the place on the reel. */
export function codeBetween(project: Project, reelIndex: number): string {
  const placed = placedShots(project);
  const next = placed.findIndex(({ index }) => index >= reelIndex);
  const shots = placed.map(({ shot }) => shot);
  const place = next < 0 ? shots.length : next;
  const taken = new Set(project.shots.map((shot) => shot.code));
  const written = (code: number) => String(code).padStart(3, '0');
  if (place >= shots.length) {
    const largest = Math.max(0, ...project.shots.map((shot) => Number.parseInt(shot.code, 10) || 0));
    return written((Math.floor(largest / 10) + 1) * 10);
  }
  const codeValue = (shot: Shot | undefined) => (shot === undefined ? 0 : /^\d+$/.test(shot.code) ? Number(shot.code) : null);
  const [before, after] = [codeValue(shots[place - 1]), codeValue(shots[place])];
  if (before !== null && after !== null) {
    const middle = Math.floor((before + after) / 2);
    if (middle > before && middle < after && !taken.has(written(middle))) return written(middle);
  }
  const stem = shots[place - 1]?.code ?? '000';
  for (let letter = 0; letter < 26; letter++) {
    const code = stem + String.fromCharCode(97 + letter);
    if (!taken.has(code)) return code;
  }
  return `${stem}-${project.shots.length + 1}`;
}

/** A level with new ids throughout: the same to look at, independent of the other. */
export function anew(level: Level, newId: NewId, drawingId: (id: DrawingId) => DrawingId = newId): Level {
  const ids = new Map<DrawingId, DrawingId>(level.drawings.map((drawing) => [drawing.id, drawingId(drawing.id)]));
  const idOf = (id: DrawingId) => ids.get(id) as DrawingId;
  return {
    ...level,
    id: newId(),
    drawings: level.drawings.map((drawing) => ({ ...drawing, id: idOf(drawing.id) })),
    exposures: level.exposures.map((run) => ({ ...run, drawing: run.drawing === null ? null : idOf(run.drawing) })),
    charts: level.charts.map((chart) => ({
      ...chart,
      id: newId(),
      fromDrawing: idOf(chart.fromDrawing),
      toDrawing: idOf(chart.toDrawing),
      ticks: chart.ticks.map((tick) => ({ ...tick, drawing: tick.drawing === null ? null : idOf(tick.drawing) })),
    })),
  };
}

/** The shot once more after itself, independent of it, with a code between. */
export function duplicateShot(project: Project, shot: Shot, newId: NewId): Outcome<Edit> {
  const reelIndex = reelIndexOf(project, shot.id) + 1;
  const code = codeBetween(project, reelIndex);
  const copy = {
    ...shot,
    id: newId(),
    code,
    levels: shot.levels.map((level) => anew(level, newId)),
    sounds: shot.sounds.map((sound) => ({ ...sound, id: newId() })),
  };
  return editOf(
    [addShotStep(project, copy, reelIndex)],
    `Duplicate ${shot.code}`,
    `Duplicate ${shot.code} as ${code}, ${plural(shot.frames, 'frame')} longer in all`,
  );
}

/** A shot taken out of the project, with what goes named beforehand. */
export function removeShot(shot: Shot): Outcome<Edit> {
  const drawings = shot.levels.filter((level) => level.kind !== 'guide').reduce((sum, level) => sum + level.drawings.length, 0);
  return done({
    step: { type: 'removeShot', shotId: shot.id },
    says: `Remove shot ${shot.code} with its ${plural(shot.frames, 'frame')} and ${plural(drawings, 'drawing')}`,
  });
}
