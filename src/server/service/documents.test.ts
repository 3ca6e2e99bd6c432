import { beforeAll, describe, expect, it } from 'vitest';
import type { Project } from '@/core/document/model';
import type { Step } from '@/core/edit/step';
import { applyStep, invertStep } from '@/core/edit/table';
import { mustBeDone } from '@/core/outcome';
import { createProject, openProject } from '@/server/service/projects';
import { acceptSteps } from '@/server/service/steps';
import { getDatabase } from '@/server/store/database';
import { appendSteps } from '@/server/store/journal';
import { deleteProject } from '@/server/store/keep';
import { loadDocument } from '@/server/store/loadDocument';
import { insertDocument, saveDocument } from '@/server/store/saveDocument';
import { useOwnDataFolder } from '@/testing/server';

/*
 * A document that is held at hand, while other processes on the same database work on it: they are played by writing rows past
 * what is at hand.
 */

beforeAll(async () => {
  await useOwnDataFolder();
});

async function begun(): Promise<Project> {
  const { id } = await createProject({
    title: 'Shared',
    rate: { num: 24, den: 1 },
    size: { width: 64, height: 36 },
    firstFrameNumber: 1,
    frames: 48,
  });
  const opened = await openProject(id);
  if (!opened.ok) throw new Error(opened.error);
  return opened.value.project;
}

const longer = (project: Project, frames: number): Step => ({ type: 'setShotLength', shotId: project.shots[0]?.id ?? '', frames });

/** What another process does: a step and the rows it makes. */
async function elsewhere(before: Project, revision: number, step: Step): Promise<Project> {
  const after = mustBeDone(applyStep(before, step));
  await (await getDatabase()).transaction(async (tx) => {
    await saveDocument(tx, before, after);
    await appendSteps(tx, before.id, revision, { batchId: `elsewhere ${revision}`, madeBy: null }, [
      { step, stepId: null, inverse: invertStep(before, step) },
    ]);
  });
  return after;
}

const accept = (id: string, baseRevision: number, step: Step) =>
  acceptSteps(id, { baseRevision, batchId: `here ${baseRevision}`, madeBy: null, steps: [step], stepIds: [] }, []);

describe('a document at hand', () => {
  it('goes on with what others made, and is what the rows say', async () => {
    const project = await begun();
    const one = await elsewhere(project, 0, longer(project, 50));
    const two = await elsewhere(one, 1, { type: 'renameProject', title: 'Shared by two' });
    expect(await openProject(project.id)).toMatchObject({ ok: true, value: { project: two, revision: 2 } });
    expect(await accept(project.id, 2, longer(project, 60))).toMatchObject({ ok: true, value: { revision: 3 } });
    const three = mustBeDone(applyStep(two, longer(project, 60)));
    expect(await loadDocument(await getDatabase(), project.id)).toEqual({ project: three, revision: 3 });
    expect(await openProject(project.id)).toMatchObject({ ok: true, value: { project: three } });
  });

  it('is not taken for another project of its id that was made since', async () => {
    const project = await begun();
    await accept(project.id, 0, longer(project, 50));
    const database = await getDatabase();
    await deleteProject(database, project.id);
    const other = { ...project, title: 'Another' };
    await database.transaction((tx) => insertDocument(tx, other));
    const one = await elsewhere(other, 0, longer(project, 12));
    expect(await openProject(project.id)).toMatchObject({ ok: true, value: { project: one, revision: 1 } });
  });
});
