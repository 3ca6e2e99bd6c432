import { sql } from 'drizzle-orm';
import { beforeAll, describe, expect, it } from 'vitest';
import type { Project } from '@/core/document/model';
import type { Step } from '@/core/edit/step';
import { applyStep } from '@/core/edit/table';
import { mustBeDone } from '@/core/outcome';
import { duplicate } from '@/server/service/keep';
import { documentAtRevision, inverseOf, nameOfMoment, past, pastChanges } from '@/server/service/past';
import { createProject, openProject } from '@/server/service/projects';
import { acceptSteps } from '@/server/service/steps';
import { getDatabase } from '@/server/store/database';
import { useOwnDataFolder } from '@/testing/server';

beforeAll(async () => {
  await useOwnDataFolder();
});

async function begun(title: string): Promise<Project> {
  const { id } = await createProject({
    title,
    rate: { num: 24, den: 1 },
    size: { width: 64, height: 36 },
    firstFrameNumber: 1,
    frames: 48,
  });
  const opened = await openProject(id);
  if (!opened.ok) throw new Error(opened.error);
  return opened.value.project;
}

/** Makes steps in sendings of some each, by a window; gives every document there was, by revision. */
async function makeAll(project: Project, steps: readonly Step[], atOnce: number, from = 0): Promise<readonly Project[]> {
  const documents = [project];
  for (let start = 0; start < steps.length; start += atOnce) {
    const some = steps.slice(start, start + atOnce);
    const sending = { baseRevision: from + start, batchId: `b${from + start}`, madeBy: { windowId: 'w', words: 'a window' }, stepIds: [] };
    const made = await acceptSteps(project.id, { ...sending, steps: [...some] }, []);
    if (!made.ok) throw new Error(made.error);
  }
  for (const step of steps) documents.push(mustBeDone(applyStep(documents.at(-1) as Project, step)));
  return documents;
}

const lengths = (project: Project, count: number): Step[] =>
  Array.from({ length: count }, (_, index) => ({ type: 'setShotLength', shotId: project.shots[0]?.id ?? '', frames: 10 + (index % 400) }));

describe('the past', () => {
  it('opens any revision of thousands as it was, from whole documents kept on the way', async () => {
    const project = await begun('Long');
    const documents = await makeAll(project, lengths(project, 2300), 100);
    for (const revision of [0, 1, 499, 500, 501, 1234, 1750, 2299, 2300])
      expect(await documentAtRevision(project.id, revision), `${revision}`).toEqual({
        ok: true,
        value: { project: documents[revision], revision },
      });
    expect(await documentAtRevision(project.id, 2301)).toMatchObject({ ok: false, status: 409 });
    const { rows } = (await (await getDatabase()).execute(sql`select revision from snapshots order by revision`)) as unknown as {
      rows: { revision: number }[];
    };
    expect(rows.map(({ revision }) => revision)).toEqual([0, 500, 1000, 1500, 2000]);
  });

  it('is worked out again where no document was kept whole, as in projects of an earlier version', async () => {
    const project = await begun('Earlier');
    const documents = await makeAll(project, lengths(project, 1700), 425);
    await (await getDatabase()).execute(sql`delete from snapshots where project_id = ${project.id}`);
    expect(await documentAtRevision(project.id, 3)).toMatchObject({ ok: true, value: { project: documents[3] } });
    const { rows } = (await (
      await getDatabase()
    ).execute(sql`select revision from snapshots where project_id = ${project.id} order by revision`)) as unknown as {
      rows: { revision: number }[];
    };
    // A sending keeps one by itself, a moment later.
    expect(rows.map(({ revision }) => revision)).toEqual(expect.arrayContaining([500, 1000, 1500]));
    expect(await documentAtRevision(project.id, 730)).toMatchObject({ ok: true, value: { project: documents[730] } });
  });

  it('falls into sittings at long pauses, the last one first, and says who did what', async () => {
    const project = await begun('Sittings');
    await makeAll(project, lengths(project, 6), 2);
    // An evening later, twice.
    await (await getDatabase()).execute(
      sql`update journal set made_at = made_at - (case when revision <= 2 then 20 when revision <= 5 then 10 else 0 end) * interval '1 hour' where project_id = ${project.id}`,
    );
    const told = await past(project.id);
    expect(told.ok && told.value.sittings.map(({ fromRevision, toRevision, changes }) => [fromRevision, toRevision, changes])).toEqual([
      [6, 6, 1],
      [3, 5, 3],
      [1, 2, 2],
    ]);
    const changes = await pastChanges(project.id, 3, 5);
    expect(changes.ok && changes.value.changes.map(({ revision, who, shotId }) => [revision, who, shotId])).toEqual(
      [3, 4, 5].map((revision) => [revision, 'a window', project.shots[0]?.id]),
    );
    expect(await past('nobody')).toMatchObject({ ok: false, status: 404 });
    expect(await pastChanges('nobody', 1, 2)).toMatchObject({ ok: false, status: 404 });
  });

  it('has moments that are given a name, another, and none', async () => {
    const project = await begun('Named');
    await makeAll(project, lengths(project, 3), 3);
    const names = async () => {
      const told = await past(project.id);
      return told.ok && told.value.named;
    };
    expect(await nameOfMoment(project.id, { revision: 2, name: 'before the retake' })).toMatchObject({ ok: true });
    await nameOfMoment(project.id, { revision: 1, name: 'first' });
    await nameOfMoment(project.id, { revision: 2, name: 'the retake' });
    expect(await names()).toEqual([
      { revision: 1, name: 'first' },
      { revision: 2, name: 'the retake' },
    ]);
    await nameOfMoment(project.id, { revision: 1, name: null });
    expect(await names()).toEqual([{ revision: 2, name: 'the retake' }]);
    expect(await nameOfMoment(project.id, { revision: 9, name: 'later' })).toMatchObject({ ok: false, status: 404 });
  });

  it('gives back what undid a change, and makes a project of what was', async () => {
    const project = await begun('Undone');
    const documents = await makeAll(project, lengths(project, 3), 1);
    expect(await inverseOf(project.id, 2)).toEqual({
      ok: true,
      value: { inverse: { type: 'setShotLength', shotId: project.shots[0]?.id, frames: 10 } },
    });
    expect(await inverseOf(project.id, 9)).toMatchObject({ ok: false, status: 404 });
    const made = await duplicate(project.id, 1);
    const opened = made.ok ? await openProject(made.value.id) : made;
    expect(opened.ok && opened.value.project.shots).toEqual(documents[1]?.shots);
    expect(opened.ok && opened.value.project.title).toBe('Undone (as at 1)');
  });
});
