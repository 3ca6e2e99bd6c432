import { asc, eq, sql } from 'drizzle-orm';
import type { Exposure, Project } from '@/core/document/model';
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

/** Exposures written as `id*2 *3 …`; ids hold neither stars nor spaces, and a blank has none. */
function exposuresFromText(text: string): readonly Exposure[] {
  return text.split(' ').map((exposure) => {
    const star = exposure.indexOf('*');
    return { drawing: star === 0 ? null : exposure.slice(0, star), frames: Number(exposure.slice(star + 1)) };
  });
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
  // A long shot has a hundred thousand exposures: a text a level comes out of the database many times faster than a row each.
  const exposureTexts = await database
    .select({
      levelId: exposures.levelId,
      text: sql<string>`string_agg(coalesce(${exposures.drawingId}, '') || '*' || ${exposures.frames}, ' ' order by ${exposures.position})`,
    })
    .from(exposures)
    .where(eq(exposures.projectId, projectId))
    .groupBy(exposures.levelId);
  const drawingsOf = grouped(
    drawingRows,
    (drawing) => drawing.levelId,
    ({ id, number, role, picture }) => ({ id, number, role, picture }),
  );
  const exposuresOf = new Map(exposureTexts.map(({ levelId, text }) => [levelId, exposuresFromText(text)]));
  const levelsOf = grouped(
    levelRows,
    (level) => level.shotId,
    ({ id, name, kind, visible, locked, opacityPercent, blend, charts, media }) => ({
      id,
      name,
      kind,
      visible,
      locked,
      opacityPercent,
      blend,
      drawings: drawingsOf.get(id) ?? [],
      exposures: exposuresOf.get(id) ?? [],
      charts,
      media,
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
      palette: row.palette,
      checks: row.checks,
      shots: shotRows.map(({ id, code, name, note, frames, notes, sounds }) => ({
        id,
        code,
        name,
        note,
        frames,
        levels: levelsOf.get(id) ?? [],
        notes,
        sounds,
      })),
    },
  };
}
