import type { Drawing, Level, Project, Shot } from '@/core/document/model';
import type { drawings, exposures, levels, projects, shots } from '@/server/db/schema';

export type ProjectRow = typeof projects.$inferInsert;
export type ShotRow = typeof shots.$inferInsert;
export type LevelRow = typeof levels.$inferInsert;
export type DrawingRow = typeof drawings.$inferInsert;
export type ExposureRow = typeof exposures.$inferInsert;

/** A project's own row, without its revision. */
export const projectRow = (project: Project): Omit<ProjectRow, 'revision'> => ({
  id: project.id,
  title: project.title,
  rateNum: project.rate.num,
  rateDen: project.rate.den,
  widthPx: project.size.width,
  heightPx: project.size.height,
  firstFrameNumber: project.firstFrameNumber,
  version: project.version,
  reel: project.reel,
  palette: project.palette,
  checks: project.checks,
  finish: project.finish,
});

export const shotRow = (projectId: string, shot: Shot, position: number): ShotRow => ({
  projectId,
  id: shot.id,
  position,
  code: shot.code,
  name: shot.name,
  note: shot.note,
  frames: shot.frames,
  notes: shot.notes,
  sounds: shot.sounds,
});

export const levelRow = (projectId: string, shotId: string, level: Level, position: number): LevelRow => ({
  projectId,
  shotId,
  id: level.id,
  position,
  name: level.name,
  kind: level.kind,
  visible: level.visible,
  locked: level.locked,
  opacityPercent: level.opacityPercent,
  blend: level.blend,
  charts: level.charts,
  media: level.media,
});

export const drawingRow = (projectId: string, levelId: string, drawing: Drawing, position: number): DrawingRow => ({
  projectId,
  levelId,
  id: drawing.id,
  position,
  number: drawing.number,
  role: drawing.role,
  picture: drawing.picture,
});

/** Rows of a level's exposures from place `from` on. */
export const exposureRows = (projectId: string, level: Level, from = 0): ExposureRow[] =>
  level.exposures
    .slice(from)
    .map((run, index) => ({ projectId, levelId: level.id, position: from + index, drawingId: run.drawing, frames: run.frames }));
