import { asc, eq } from 'drizzle-orm';
import type { Project } from '@/core/sheet/document';
import { drawings, exposures, levels, projects, shots } from '@/server/db/schema';
import type { DatabaseOrTransaction } from '@/server/store/database';

function grouped<Row, Value>(rows: readonly Row[], key: (row: Row) => string, value: (row: Row) => Value): Map<string, Value[]> {
  const groups = new Map<string, Value[]>();
  for (const row of rows) {
    const group = groups.get(key(row));
    if (group) group.push(value(row));
    else groups.set(key(row), [value(row)]);
  }
  return groups;
}

/** The document of a project as its rows say, with its revision; null when there is no such project. */
export async function loadDocument(
  database: DatabaseOrTransaction,
  projectId: string,
): Promise<{ project: Project; revision: number } | null> {
  const [row] = await database.select().from(projects).where(eq(projects.id, projectId));
  if (!row) return null;
  const shotRows = await database.select().from(shots).where(eq(shots.projectId, projectId)).orderBy(asc(shots.position));
  const levelRows = await database.select().from(levels).where(eq(levels.projectId, projectId)).orderBy(asc(levels.position));
  const drawingRows = await database.select().from(drawings).where(eq(drawings.projectId, projectId)).orderBy(asc(drawings.position));
  const exposureRows = await database.select().from(exposures).where(eq(exposures.projectId, projectId)).orderBy(asc(exposures.position));
  const drawingsOf = grouped(
    drawingRows,
    (drawing) => drawing.levelId,
    ({ id, number, role, picture }) => ({ id, number, role, picture }),
  );
  const exposuresOf = grouped(
    exposureRows,
    (exposure) => exposure.levelId,
    ({ drawingId, frames }) => ({ drawing: drawingId, frames }),
  );
  const levelsOf = grouped(
    levelRows,
    (level) => level.shotId,
    ({ id, name, kind, visible, opacityPercent, charts }) => ({
      id,
      name,
      kind,
      visible,
      opacityPercent,
      drawings: drawingsOf.get(id) ?? [],
      exposures: exposuresOf.get(id) ?? [],
      charts,
    }),
  );
  return {
    revision: row.revision,
    project: {
      id: row.id,
      title: row.title,
      rate: { num: row.rateNum, den: row.rateDen },
      size: { width: row.widthPx, height: row.heightPx },
      startFrame: row.startFrame,
      shots: shotRows.map(({ id, code, name, note, frames, notes }) => ({
        id,
        code,
        name,
        note,
        frames,
        levels: levelsOf.get(id) ?? [],
        notes,
      })),
    },
  };
}
