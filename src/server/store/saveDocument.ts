import { and, eq, gte, inArray } from 'drizzle-orm';
import type { Level, Project, Shot } from '@/core/document/model';
import { drawings, exposures, levels, projects, shots } from '@/server/db/schema';
import type { DatabaseOrTransaction } from '@/server/store/database';
import { drawingRow, exposureRows, levelRow, projectRow, shotRow } from '@/server/store/rows';

/*
 * A document is written by what changed. Steps give the same value back for everything they leave alone,
 * so a comparison by reference finds the changed shots and levels at once; of a level's exposures only
 * the rows between the shared top and the end are written.
 */

const ROWS_AT_ONCE = 1000;

async function inBatches<Row>(rows: readonly Row[], write: (batch: Row[]) => Promise<unknown>): Promise<void> {
  for (let start = 0; start < rows.length; start += ROWS_AT_ONCE) await write(rows.slice(start, start + ROWS_AT_ONCE));
}

type Item = { readonly id: string };
/** What to do to rows of a list: which to delete, which to write at which place (new ones without `before`). */
function listChanges<T extends Item>(before: readonly T[], after: readonly T[]) {
  const places = new Map(before.map((item, position) => [item.id, { item, position }]));
  const kept = new Set(after.map((item) => item.id));
  return {
    removedIds: before.filter((item) => !kept.has(item.id)).map((item) => item.id),
    written: after.flatMap((item, position) => {
      const old = places.get(item.id);
      return old && old.item === item && old.position === position ? [] : [{ item, position, before: old?.item }];
    }),
  };
}

async function saveExposures(tx: DatabaseOrTransaction, projectId: string, before: Level | undefined, after: Level): Promise<void> {
  const old = before?.exposures ?? [];
  if (old === after.exposures) return;
  let same = 0;
  while (
    same < old.length &&
    same < after.exposures.length &&
    old[same]?.drawing === after.exposures[same]?.drawing &&
    old[same]?.frames === after.exposures[same]?.frames
  )
    same++;
  if (same < old.length) {
    await tx
      .delete(exposures)
      .where(and(eq(exposures.projectId, projectId), eq(exposures.levelId, after.id), gte(exposures.position, same)));
  }
  await inBatches(exposureRows(projectId, after, same), (batch) => tx.insert(exposures).values(batch));
}

async function saveLevel(tx: DatabaseOrTransaction, projectId: string, before: Level | undefined, after: Level): Promise<void> {
  const changes = listChanges(before?.drawings ?? [], after.drawings);
  if (changes.removedIds.length > 0)
    await tx.delete(drawings).where(and(eq(drawings.projectId, projectId), inArray(drawings.id, changes.removedIds)));
  const added = changes.written
    .filter((change) => !change.before)
    .map((change) => drawingRow(projectId, after.id, change.item, change.position));
  await inBatches(added, (batch) => tx.insert(drawings).values(batch));
  for (const change of changes.written) {
    if (!change.before) continue;
    const { projectId: _project, id, ...row } = drawingRow(projectId, after.id, change.item, change.position);
    await tx
      .update(drawings)
      .set(row)
      .where(and(eq(drawings.projectId, projectId), eq(drawings.id, id)));
  }
  await saveExposures(tx, projectId, before, after);
}

async function saveShot(tx: DatabaseOrTransaction, projectId: string, before: Shot | undefined, after: Shot): Promise<void> {
  const changes = listChanges(before?.levels ?? [], after.levels);
  if (changes.removedIds.length > 0)
    await tx.delete(levels).where(and(eq(levels.projectId, projectId), inArray(levels.id, changes.removedIds)));
  for (const change of changes.written) {
    const { id, ...row } = levelRow(projectId, after.id, change.item, change.position);
    if (change.before)
      await tx
        .update(levels)
        .set(row)
        .where(and(eq(levels.projectId, projectId), eq(levels.id, id)));
    else await tx.insert(levels).values({ id, ...row });
    if (change.before !== change.item) await saveLevel(tx, projectId, change.before, change.item);
  }
}

/** Writes a new project with everything in it. */
export async function insertDocument(tx: DatabaseOrTransaction, project: Project): Promise<void> {
  await tx.insert(projects).values(projectRow(project));
  await saveDocument(tx, { ...project, shots: [] }, project);
}

/** What the project's own row says besides its shots. */
const PROJECT_VALUES = ['title', 'rate', 'size', 'firstFrameNumber', 'palette', 'checks', 'reel', 'finish'] as const;

/** Writes what is different between two states of one project. */
export async function saveDocument(tx: DatabaseOrTransaction, before: Project, after: Project): Promise<void> {
  const { id, ...row } = projectRow(after);
  if (PROJECT_VALUES.some((value) => before[value] !== after[value])) {
    await tx.update(projects).set(row).where(eq(projects.id, id));
  }
  const changes = listChanges(before.shots, after.shots);
  if (changes.removedIds.length > 0) await tx.delete(shots).where(and(eq(shots.projectId, id), inArray(shots.id, changes.removedIds)));
  for (const change of changes.written) {
    const { id: shotId, ...shotValues } = shotRow(id, change.item, change.position);
    if (change.before)
      await tx
        .update(shots)
        .set(shotValues)
        .where(and(eq(shots.projectId, id), eq(shots.id, shotId)));
    else await tx.insert(shots).values({ id: shotId, ...shotValues });
    if (change.before !== change.item) await saveShot(tx, id, change.before, change.item);
  }
}
