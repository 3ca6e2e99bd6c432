import { randomUUID } from 'node:crypto';
import { eq } from 'drizzle-orm';
import fc from 'fast-check';
import { beforeAll, describe, expect, it } from 'vitest';
import type { Digest, Level, Project } from '@/core/document/model';
import { picturesOf } from '@/core/document/originals';
import { applyStep } from '@/core/edit/table';
import { framesOfReel, shotsInOrder } from '@/core/reel/reel';
import { layersAt } from '@/core/render/shotRuns';
import { anyStep, START } from '@/core/testing/steps';
import { projects as projectRows } from '@/server/db/schema';
import { shelf } from '@/server/service/shelf';
import { acceptSteps } from '@/server/service/steps';
import { getDatabase } from '@/server/store/database';
import { revisionOf } from '@/server/store/journal';
import { insertPicture } from '@/server/store/pictures';
import { insertDocument } from '@/server/store/saveDocument';
import { flatPicture, useOwnDataFolder } from '@/testing/server';

beforeAll(async () => {
  await useOwnDataFolder();
});

const known = new Set<string>();

/** What is shown a third into a shot; where that is blank, on its first frame that shows anything. */
function coverOf(frames: number, shownAt: (frame: number) => ReturnType<typeof layersAt>) {
  const atThird = shownAt(Math.floor(frames / 3));
  if (atThird.length > 0) return atThird;
  return Array.from({ length: frames }, (_, frame) => shownAt(frame)).find((layers) => layers.length > 0) ?? [];
}

/** What the shelf is to show of a project, by the document itself. */
function cardOf(project: Project) {
  const shot = shotsInOrder(project).find(({ levels }) => levels.some(({ drawings }) => drawings.some(({ picture }) => picture)));
  const seen = shot?.levels.filter(({ visible, kind }) => visible && kind !== 'guide') ?? [];
  const drawings = project.shots.flatMap(({ levels }) => levels.filter(({ kind }) => kind !== 'guide').flatMap((level) => level.drawings));
  return {
    ...{ title: project.title, shots: project.shots.length, frames: framesOfReel(project) },
    ...{ drawings: drawings.length, drawn: drawings.filter(({ picture }) => picture).length },
    cover: shot ? coverOf(shot.frames, (frame) => layersAt(seen, frame)) : [],
  };
}

/** A picture is asked for by its name alone: the pixels do not matter here. */
async function keepPicture(digest: Digest): Promise<void> {
  if (known.has(digest)) return;
  known.add(digest);
  const size = { width: 8, height: 6 };
  const { png } = await flatPicture('#123456', size);
  await insertPicture(await getDatabase(), { digest, png, size });
}

async function stored(project: Project): Promise<Project> {
  const database = await getDatabase();
  for (const digest of picturesOf(project)) await keepPicture(digest);
  const own = { ...project, id: randomUUID() };
  await database.transaction((tx) => insertDocument(tx, own));
  return own;
}

describe('the shelf', () => {
  it('shows of each project what its document says: the reel’s frames, the work, and a frame of the first drawn shot', async () => {
    const projects: Project[] = [];
    await fc.assert(
      fc.asyncProperty(fc.array(anyStep, { maxLength: 24 }), async (steps) => {
        let project = START;
        for (const step of steps) {
          const next = applyStep(project, step);
          if (next.ok) project = next.value;
        }
        projects.push(await stored(project));
      }),
      { numRuns: 40 },
    );
    const cards = new Map((await shelf()).map((entry) => [entry.id, entry]));
    for (const project of projects) expect(cards.get(project.id)).toMatchObject(cardOf(project));
    expect(projects.some((project) => cardOf(project).cover.length > 0)).toBe(true);
  }, 60_000);

  it.each([
    ['drawn at its beginning', 0, true],
    ['drawn on its last frame', 47, true],
    ['drawn past its end alone', 48, false],
  ])('shows the first picture of a shot that is blank a third in: %s', async (_, startFrame, isShown) => {
    const [shot] = START.shots;
    const [level] = shot?.levels ?? [];
    const [drawing] = level?.drawings ?? [];
    if (!shot || !level || !drawing) throw new Error('The project begun with has no drawing.');
    const picture = 'c'.repeat(64) as Digest;
    const blank = startFrame > 0 ? [{ drawing: null, frames: startFrame }] : [];
    const only: Level = {
      ...{ ...level, kind: 'animated', visible: true, drawings: [{ ...drawing, picture }] },
      exposures: [...blank, { drawing: drawing.id, frames: 1 }],
    };
    const project = await stored({ ...START, shots: [{ ...shot, frames: 48, levels: [only] }], reel: { items: [], sounds: [] } });
    const card = (await shelf()).find(({ id }) => id === project.id);
    expect(card?.cover.map((layer) => layer.picture)).toEqual(isShown ? [picture] : []);
  });

  it('shows what was accepted since it was shown last, of every project', async () => {
    const projects = [await stored(START), await stored(START)];
    let accepted = 0;
    await fc.assert(
      fc.asyncProperty(fc.nat({ max: 1 }), anyStep, async (which, step) => {
        const project = projects[which] as Project;
        const done = applyStep(project, step);
        if (!done.ok) return;
        for (const picture of picturesOf(done.value)) await keepPicture(picture);
        const revision = (await revisionOf(await getDatabase(), project.id)) ?? 0;
        const sending = { baseRevision: revision, batchId: randomUUID(), madeBy: null, steps: [step], stepIds: [] };
        const answer = await acceptSteps(project.id, sending, []);
        // Pictures of another size than the film’s are refused.
        if (!answer.ok) return;
        accepted++;
        projects[which] = done.value;
        const cards = new Map((await shelf()).map((entry) => [entry.id, entry]));
        for (const each of projects) expect(cards.get(each.id)).toMatchObject(cardOf(each));
      }),
      { numRuns: 150 },
    );
    expect(accepted).toBeGreaterThan(20);
  }, 60_000);

  it('forgets a project that was deleted', async () => {
    const project = await stored(START);
    expect((await shelf()).some(({ id }) => id === project.id)).toBe(true);
    await (await getDatabase()).delete(projectRows).where(eq(projectRows.id, project.id));
    expect((await shelf()).some(({ id }) => id === project.id)).toBe(false);
  });
});
