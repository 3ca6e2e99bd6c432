import { randomUUID } from 'node:crypto';
import fc from 'fast-check';
import { beforeAll, describe, expect, it } from 'vitest';
import type { Project } from '@/core/document/model';
import { picturesOf } from '@/core/document/originals';
import { applyStep } from '@/core/edit/table';
import { framesOfReel, shotsInOrder } from '@/core/reel/reel';
import { layersAt } from '@/core/render/shotRuns';
import { anyStep, START } from '@/core/testing/steps';
import { shelf } from '@/server/service/projects';
import { getDatabase } from '@/server/store/database';
import { insertPicture } from '@/server/store/pictures';
import { insertDocument } from '@/server/store/saveDocument';
import { flatPicture, useOwnDataFolder } from '@/testing/server';

beforeAll(async () => {
  await useOwnDataFolder();
});

const known = new Set<string>();

/** What the shelf is to show of a project, by the document itself. */
function cardOf(project: Project) {
  const shot = shotsInOrder(project).find(({ levels }) => levels.some(({ drawings }) => drawings.some(({ picture }) => picture)));
  const seen = shot?.levels.filter(({ visible, kind }) => visible && kind !== 'guide') ?? [];
  const drawings = project.shots.flatMap(({ levels }) => levels.filter(({ kind }) => kind !== 'guide').flatMap((level) => level.drawings));
  return {
    ...{ title: project.title, shots: project.shots.length, frames: framesOfReel(project) },
    ...{ drawings: drawings.length, drawn: drawings.filter(({ picture }) => picture).length },
    cover: shot ? layersAt(seen, Math.floor(shot.frames / 3)) : [],
  };
}

async function stored(project: Project): Promise<Project> {
  const database = await getDatabase();
  const { png } = await flatPicture('#123456', { width: 8, height: 6 });
  // A picture is asked for by its name alone: the pixels do not matter here.
  for (const digest of picturesOf(project)) {
    if (!known.has(digest)) await insertPicture(database, { digest, png, size: { width: 8, height: 6 } });
    known.add(digest);
  }
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
});
