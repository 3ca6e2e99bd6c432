import { and, asc, eq, lt, sql } from 'drizzle-orm';
import type { Exposure, Project } from '@/core/document/model';
import { DOCUMENT_VERSION } from '@/core/document/model';
import type { StoredValue } from '@/core/document/upgrade/stored';
import { upgradeDocument } from '@/core/document/upgrade/upgrade';
import { drawings, exposures, levels, projects, shots } from '@/server/db/schema';
import type { Database, DatabaseOrTransaction } from '@/server/store/database';
import { projectRow, shotRow } from '@/server/store/rows';

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

/** The first form of documents with a finish. */
const FIRST_WITH_FINISH = 4;

/** A document as its rows say, in the form they are written in; null when there is no such project. */
async function loadStored(
  database: DatabaseOrTransaction,
  projectId: string,
): Promise<{ document: StoredValue; version: number; revision: number } | null> {
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
  const { version, revision, firstFrameNumber } = row;
  return {
    version,
    revision,
    document: {
      version,
      id: row.id,
      title: row.title,
      rate: { num: row.rateNum, den: row.rateDen },
      size: { width: row.widthPx, height: row.heightPx },
      // What documents of the first form had instead of a first frame number and a reel.
      ...(version === 1 ? { startFrame: firstFrameNumber } : { firstFrameNumber, reel: row.reel }),
      palette: row.palette,
      checks: row.checks,
      ...(version < FIRST_WITH_FINISH ? {} : { finish: row.finish }),
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

/** The document of a project in today's form, with its revision; null when there is no such project. */
export async function loadDocument(
  database: DatabaseOrTransaction,
  projectId: string,
): Promise<{ project: Project; revision: number } | null> {
  const stored = await loadStored(database, projectId);
  return stored && { project: upgradeDocument(stored.document, stored.version) as unknown as Project, revision: stored.revision };
}

/** The ids of projects whose documents are written in an earlier form. */
const projectsToUpgrade = (database: DatabaseOrTransaction): Promise<{ id: string; title: string }[]> =>
  database.select({ id: projects.id, title: projects.title }).from(projects).where(lt(projects.version, DOCUMENT_VERSION));

/**
 * Writes every stored document in today's form. A project whose document can't be brought to it stays as it is, and is
 * named in what is returned: none keeps the others from being opened.
 */
export async function upgradeDocuments(database: Database): Promise<readonly string[]> {
  const left: string[] = [];
  for (const { id, title } of await projectsToUpgrade(database)) {
    try {
      await database.transaction(async (tx) => {
        await tx.select({ id: projects.id }).from(projects).where(eq(projects.id, id)).for('update');
        const loaded = await loadDocument(tx, id);
        if (!loaded) return;
        const { id: _id, ...row } = projectRow(loaded.project);
        await tx.update(projects).set(row).where(eq(projects.id, id));
        for (const [position, shot] of loaded.project.shots.entries()) {
          const { id: shotId, ...values } = shotRow(id, shot, position);
          await tx
            .update(shots)
            .set(values)
            .where(and(eq(shots.projectId, id), eq(shots.id, shotId)));
        }
      });
    } catch (error) {
      left.push(`${title} (${error instanceof Error ? error.message : String(error)})`);
    }
  }
  return left;
}
