import { createHash, randomUUID } from 'node:crypto';
import { readFile } from 'node:fs/promises';
import { BlobReader, Uint8ArrayReader, Uint8ArrayWriter, ZipReader, ZipWriter } from '@zip.js/zip.js';
import { eq, inArray } from 'drizzle-orm';
import fc from 'fast-check';
import { beforeAll, describe, expect, it } from 'vitest';
import { type PackageLine, packageJsonSchema } from '@/contracts/package';
import { differencesOf } from '@/core/document/differences';
import type { Project } from '@/core/document/model';
import { originalsOf, picturesOf } from '@/core/document/originals';
import type { Step } from '@/core/edit/step';
import { applyStep } from '@/core/edit/table';
import { anyStep, START } from '@/core/testing/steps';
import { pictures } from '@/server/db/schema';
import { deleteForGood } from '@/server/service/keep';
import { checkPackage, dropPackage, takePackage } from '@/server/service/package/takePackage';
import { drawingsOf } from '@/server/service/package/writeDrawings';
import { packageOf } from '@/server/service/package/writePackage';
import { documentAtRevision } from '@/server/service/past';
import { acceptSteps, changesSince } from '@/server/service/steps';
import { getDatabase } from '@/server/store/database';
import { loadDocument } from '@/server/store/loadDocument';
import { insertOriginal, loadOriginal, wholeFile } from '@/server/store/originals';
import { insertPicture, loadPictures } from '@/server/store/pictures';
import { insertDocument } from '@/server/store/saveDocument';
import { bytesOf, flatPicture, useOwnDataFolder } from '@/testing/server';

const SIZE = { width: 8, height: 6 };
/** Pictures and recordings that stand for those a random project names. */
const real = new Map<string, string>();

beforeAll(async () => {
  await useOwnDataFolder();
});

/** A project of random steps, its pictures and files real and in the store. */
async function storedProject(project: Project): Promise<Project> {
  const database = await getDatabase();
  for (const [index, digest] of picturesOf(project).entries()) {
    if (real.has(digest)) continue;
    const colour = `#${(index * 40 + real.size).toString(16).padStart(6, '0')}`;
    const picture = await flatPicture(colour, SIZE);
    await insertPicture(database, { ...picture, size: SIZE });
    real.set(digest, picture.digest);
  }
  for (const digest of originalsOf(project).keys()) {
    if (real.has(digest)) continue;
    const bytes = new TextEncoder().encode(`what was brought in as ${digest} `.repeat(900));
    const own = createHash('sha256').update(bytes).digest('hex');
    await insertOriginal(database, own, bytes.byteLength, wholeFile(bytes));
    real.set(digest, own);
  }
  const named = JSON.stringify({ ...project, id: randomUUID() }).replace(/[0-9a-f]{64}/g, (digest) => real.get(digest) ?? digest);
  const made = JSON.parse(named) as Project;
  await database.transaction((tx) => insertDocument(tx, made));
  return made;
}

async function outOf(projectId: string, make = packageOf): Promise<Uint8Array> {
  const made = await make(projectId);
  if (!made.ok) throw new Error(made.error);
  const parts: Uint8Array[] = [];
  for await (const part of made.value.bytes) parts.push(part);
  return new Uint8Array(Buffer.concat(parts));
}

async function lastOf(lines: AsyncIterable<PackageLine>): Promise<PackageLine> {
  let last: PackageLine = { kind: 'refused', reason: 'Nothing was told.' };
  for await (const line of lines) last = line;
  return last;
}
const check = (bytes: Uint8Array): Promise<PackageLine> =>
  lastOf(checkPackage(new Blob([bytes as Uint8Array<ArrayBuffer>]).stream(), bytes.byteLength));

async function broughtIn(bytes: Uint8Array): Promise<{ project: Project; differs: string[] | null }> {
  const checked = await check(bytes);
  if (checked.kind !== 'checked') throw new Error(JSON.stringify(checked));
  const taken = await lastOf(takePackage(checked.token));
  if (taken.kind !== 'taken') throw new Error(JSON.stringify(taken));
  const loaded = await loadDocument(await getDatabase(), taken.projectId);
  if (!loaded) throw new Error('It was not brought in.');
  return { project: loaded.project, differs: checked.differs };
}

/** The files of a package, to be changed and packed again. */
async function filesOf(bytes: Uint8Array): Promise<Map<string, Uint8Array>> {
  const files = new Map<string, Uint8Array>();
  for (const entry of await new ZipReader(new BlobReader(new Blob([bytes as Uint8Array<ArrayBuffer>]))).getEntries())
    if (!entry.directory) files.set(entry.filename, await entry.getData(new Uint8ArrayWriter()));
  return files;
}
async function packed(files: Iterable<readonly [string, Uint8Array]>, level = 0): Promise<Uint8Array> {
  const zip = new ZipWriter(new Uint8ArrayWriter(), { level, useWebWorkers: false });
  for (const [name, bytes] of files) await zip.add(name, new Uint8ArrayReader(bytes));
  return zip.close();
}
const text = (value: string) => new TextEncoder().encode(value);

describe('a package', () => {
  it('comes back identical, to the byte in the document and the digests, whatever the project', async () => {
    await fc.assert(
      fc.asyncProperty(fc.array(anyStep, { maxLength: 20 }), async (steps) => {
        let random = START;
        for (const step of steps) {
          const next = applyStep(random, step);
          if (next.ok) random = next.value;
        }
        const project = await storedProject(random);
        const { project: back, differs } = await broughtIn(await outOf(project.id));
        expect(differs).toEqual([]);
        expect(JSON.stringify({ ...back, id: '' })).toBe(
          JSON.stringify({ ...(await loadDocument(await getDatabase(), project.id))?.project, id: '' }),
        );
      }),
      { numRuns: 25 },
    );
  }, 120_000);

  it('is plain files that a stranger can read: names are digests, and each file is what its name says', async () => {
    const project = await storedProject(START);
    const files = await filesOf(await outOf(project.id));
    expect([...files.keys()].slice(0, 2)).toEqual(['README.txt', 'project.json']);
    const said = JSON.parse(new TextDecoder().decode(files.get('project.json'))) as { document: Project };
    expect(said.document).toEqual(project);
    for (const digest of picturesOf(project)) expect(files.has(`pictures/${digest}.png`)).toBe(true);
    for (const digest of originalsOf(project).keys())
      expect(
        createHash('sha256')
          .update(files.get(`originals/${digest}`) ?? '')
          .digest('hex'),
      ).toBe(digest);
  });

  it('held against the project that is here says what differs, and is brought in beside it', async () => {
    const project = await storedProject(START);
    const bytes = await outOf(project.id);
    const files = await filesOf(bytes);
    const said = JSON.parse(new TextDecoder().decode(files.get('project.json'))) as {
      document: { title: string; shots: { code: string; frames: number }[] };
    };
    said.document.title = 'Another title';
    const [shot] = said.document.shots;
    if (shot) shot.frames = 30;
    files.set('project.json', text(JSON.stringify(said)));
    const { project: back, differs } = await broughtIn(await packed(files));
    expect(differs).toEqual([
      `Called “${project.title}” here, “Another title” in the other.`,
      'Shot 010: 12 frames here, 30 in the other.',
    ]);
    expect(back.id).not.toBe(project.id);
    expect(back.title).toBe('Another title');
  });

  it('of a project that is gone is brought in under its own id, with its pictures and files', async () => {
    const project = await storedProject(START);
    const files = await filesOf(await outOf(project.id));
    const id = randomUUID();
    files.set('project.json', text(new TextDecoder().decode(files.get('project.json')).replaceAll(project.id, id)));
    const { project: back, differs } = await broughtIn(await packed(files));
    expect({ id: back.id, differs }).toEqual({ id, differs: null });
    // Without a journal revisions begin anew.
    expect((await loadDocument(await getDatabase(), id))?.revision).toBe(0);
    const database = await getDatabase();
    expect([...(await loadPictures(database, picturesOf(back))).keys()].toSorted()).toEqual([...picturesOf(back)].toSorted());
    for (const digest of originalsOf(back).keys())
      expect(
        createHash('sha256')
          .update(await bytesOf(await loadOriginal(database, digest)))
          .digest('hex'),
      ).toBe(digest);
  });
});

it('a package whose pictures are here already notes them as wanted: they stay, and none is gone before the project names it', async () => {
  const database = await getDatabase();
  // Its pictures are nobody else's.
  const others = (digest: string) => createHash('sha256').update(`another ${digest}`).digest('hex');
  const made = await storedProject(JSON.parse(JSON.stringify(START).replace(/[0-9a-f]{64}/g, others)) as Project);
  const bytes = await outOf(made.id);
  const checked = await check(bytes);
  if (checked.kind !== 'checked') throw new Error(JSON.stringify(checked));
  const digests = picturesOf(made);
  expect(digests.length).toBeGreaterThan(0);
  const longAgo = new Date(0);
  await database
    .update(pictures)
    .set({ storedAt: longAgo })
    .where(inArray(pictures.digest, [...digests]));
  // The project is gone and one of its pictures swept away: that one comes from the package again.
  expect((await deleteForGood(made.id, made.title)).ok).toBe(true);
  const [gone] = digests;
  if (gone === undefined) throw new Error('It has no picture.');
  const was = (await loadPictures(database, [gone])).get(gone);
  await database.delete(pictures).where(eq(pictures.digest, gone));
  const taken = await lastOf(takePackage(checked.token));
  expect(taken.kind).toBe('taken');
  const rows = await database
    .select({ digest: pictures.digest, storedAt: pictures.storedAt })
    .from(pictures)
    .where(inArray(pictures.digest, [...digests]));
  expect(rows.map(({ digest }) => digest).toSorted()).toEqual([...digests].toSorted());
  for (const { storedAt } of rows) expect(storedAt.getTime()).toBeGreaterThan(longAgo.getTime());
  expect((await loadPictures(database, [gone])).get(gone)).toEqual(was);
});

describe('a package that is not right changes nothing, and says what is wrong', () => {
  const changed = async (change: (files: Map<string, Uint8Array>, project: Project) => void, level = 0): Promise<PackageLine> => {
    const project = await storedProject(START);
    const files = await filesOf(await outOf(project.id));
    change(files, project);
    return check(await packed(files, level));
  };
  const json = (files: Map<string, Uint8Array>, change: (said: Record<string, unknown>) => void): void => {
    const said = JSON.parse(new TextDecoder().decode(files.get('project.json'))) as Record<string, unknown>;
    change(said);
    files.set('project.json', text(JSON.stringify(said)));
  };
  const first = (project: Project): string => picturesOf(project)[0] as string;

  it.each<[string, (files: Map<string, Uint8Array>, project: Project) => void, RegExp]>([
    ['without its project.json', (files) => files.delete('project.json'), /There is no project\.json/],
    ['whose project.json is no JSON', (files) => files.set('project.json', text('{')), /not JSON/],
    ['of a newer form', (files) => json(files, (said) => Object.assign(said, { version: 99 })), /newer Lime Tick \(form 99/],
    [
      'whose document is of a newer form',
      (files) => json(files, (said) => Object.assign(said.document as object, { version: 99 })),
      /newer Lime Tick \(form 99/,
    ],
    [
      'whose document makes no sense',
      (files) => json(files, (said) => Object.assign(said.document as object, { rate: { num: 0, den: 1 } })),
      /could not be read/,
    ],
    ['without a picture', (files, project) => files.delete(`pictures/${first(project)}.png`), /that a drawing shows is not in it/],
    [
      'with the pixels of another picture',
      (files, project) => files.set(`pictures/${first(project)}.png`, files.get(`pictures/${picturesOf(project)[1]}.png`) as Uint8Array),
      /has other pixels than its name says/,
    ],
    ['with a picture that is none', (files, project) => files.set(`pictures/${first(project)}.png`, text('no picture')), /can’t be read/],
    ['without a file', (files, project) => files.delete(`originals/${[...originalsOf(project).keys()][0]}`), /that it names is not in it/],
    [
      'with other bytes in a file',
      (files, project) => files.set(`originals/${[...originalsOf(project).keys()][0]}`, text('other')),
      /has other bytes/,
    ],
    ['with a name that leads out of it', (files) => files.set('../outside.txt', text('x')), /leads out of it/],
    ['with an absolute name', (files) => files.set('/etc/outside.txt', text('x')), /leads out of it/],
    ['with two files of one name', (files) => files.set('readme.TXT', text('x')), /Two files in it are called readme\.TXT/],
    [
      'with a hundred files that nothing names',
      (files) => {
        for (let each = 0; each < 200; each++) files.set(`more/${each}`, text('x'));
      },
      /named by nothing in it/,
    ],
  ])('%s', async (_, change, reason) => {
    const line = await changed(change);
    expect(line.kind === 'refused' ? line.reason : line.kind).toMatch(reason);
    expect(line.kind === 'refused' && line.reason).toMatch(/Nothing was changed\.$/);
  });

  it('with a bomb in it', async () => {
    const line = await changed((files) => files.set('more/bomb', new Uint8Array(40_000_000)), 9);
    expect(line.kind === 'refused' && line.reason).toMatch(/more\/bomb in it unpacks to 40,000,000 bytes/);
  });

  it('that is cut, wherever', async () => {
    const bytes = await outOf((await storedProject(START)).id);
    for (const part of [0, 0.1, 0.5, 0.9, 0.999]) {
      const line = await check(bytes.slice(0, Math.floor(bytes.length * part)));
      expect(line.kind === 'refused' && line.reason, String(part)).toMatch(/not a whole ZIP/);
    }
  });

  it('that did not arrive whole', async () => {
    const bytes = await outOf((await storedProject(START)).id);
    const line = await lastOf(checkPackage(new Blob([bytes as Uint8Array<ArrayBuffer>]).stream(), bytes.byteLength + 1));
    expect(line.kind === 'refused' && line.reason).toMatch(/didn’t arrive whole/);
  });

  it('or waits no longer', async () => {
    const checked = await check(await outOf((await storedProject(START)).id));
    if (checked.kind !== 'checked') throw new Error('It is right.');
    await dropPackage(checked.token);
    expect(await lastOf(takePackage(checked.token))).toEqual({
      kind: 'refused',
      reason: 'That package waits no longer: bring it in again. Nothing was changed.',
    });
  });
});

it('is described by the schema that is shipped, made from the definitions that read it', async () => {
  expect(JSON.parse(await readFile('docs/package.schema.json', 'utf8'))).toEqual(JSON.parse(JSON.stringify(packageJsonSchema())));
});

it('two states of a project are told apart in sentences', () => {
  expect(differencesOf(START, START)).toEqual([]);
  const without = { ...START, shots: START.shots.slice(1), reel: { ...START.reel, sounds: [] } };
  expect(differencesOf(START, without)).toEqual(['Shot 010 is only here.', 'Other items or sounds on the reel.']);
  expect(differencesOf(without, START)).toEqual([
    'Shot 010 is only in the other.',
    'Other items or sounds on the reel.',
    '4 pictures of the other are not shown here.',
  ]);
});

/** What drawings alone carry of a project: no ids, and no pictures that were never drawn. */
const carried = ({ title, rate, size, firstFrameNumber, shots }: Project) => ({
  ...{ title: title.trim(), rate, size, firstFrameNumber },
  shots: shots.map(({ code, name, frames, levels }) => ({
    ...{ code: code.trim(), name: name.trim(), frames },
    levels: levels.map((level) => ({
      ...{ name: level.name.trim(), kind: level.kind },
      drawings: level.drawings.map(({ number, role, picture }) => ({ number, role, picture })),
      exposures: level.exposures.map((run) => [level.drawings.find(({ id }) => id === run.drawing)?.number ?? '.', run.frames]),
    })),
  })),
});

/** A random project whose pictures are of the size it has, and all in the store. */
async function drawnProject(steps: readonly Step[] = []): Promise<Project> {
  let random: Project = { ...START, size: SIZE };
  for (const step of steps) {
    const next = step.type === 'setFormat' ? null : applyStep(random, step);
    if (next?.ok) random = next.value;
  }
  return storedProject({ ...random, size: SIZE });
}

describe('drawings alone', () => {
  it('come back with every number, role, exposure and picture, whatever the project', async () => {
    await fc.assert(
      fc.asyncProperty(fc.array(anyStep, { maxLength: 20 }), async (steps) => {
        const project = await drawnProject(steps);
        const { project: back, differs } = await broughtIn(await outOf(project.id, drawingsOf));
        expect(differs).toBeNull();
        expect(carried(back)).toEqual(carried(project));
      }),
      { numRuns: 15 },
    );
  }, 120_000);

  it('are files anyone can open: every picture once, in a folder a level, with tables', async () => {
    const project = await drawnProject();
    const files = await filesOf(await outOf(project.id, drawingsOf));
    expect([...files.keys()].slice(0, 5)).toEqual(['README.txt', 'film.csv', 'levels.csv', 'drawings.csv', 'exposures.csv']);
    const pictures = [...files.keys()].filter((name) => name.endsWith('.png'));
    expect(pictures).toHaveLength(picturesOf(project).length);
    for (const name of pictures) expect(name).toMatch(/^\d_[^/]+\/\d_[^/]+\/[^/]+\.png$/);
    const listed = new TextDecoder().decode(files.get('drawings.csv'));
    for (const name of pictures) expect(listed).toContain(name);
  });

  it('with a picture that was painted over elsewhere have that one', async () => {
    const project = await drawnProject();
    const files = await filesOf(await outOf(project.id, drawingsOf));
    const name = [...files.keys()].find((each) => each.endsWith('.png')) as string;
    const other = await flatPicture('#123456', SIZE);
    files.set(name, other.png);
    const { project: back } = await broughtIn(await packed(files));
    expect(picturesOf(back)).toContain(other.digest);
    expect(picturesOf(back)).toHaveLength(picturesOf(project).length);
  });

  it.each<[string, (files: Map<string, Uint8Array>, name: string) => Promise<void> | void, RegExp]>([
    [
      'a picture of another size',
      async (files, name) => void files.set(name, (await flatPicture('#123456', { width: 9, height: 6 })).png),
      /is 9 × 6; film\.csv says 8 × 6/,
    ],
    ['a picture that is none', (files, name) => void files.set(name, text('none')), /in it: /],
    ['a picture that is not there', (files, name) => void files.delete(name), /is not in it/],
    ['no table of exposures', (files) => void files.delete('exposures.csv'), /exposures\.csv is not in it/],
    ['a name that leads out of it', (files) => void files.set('../x.png', text('x')), /leads out of it/],
  ])('with %s change nothing, and say what is wrong', async (_what, change, reason) => {
    const project = await drawnProject();
    const files = await filesOf(await outOf(project.id, drawingsOf));
    await change(files, [...files.keys()].find((each) => each.endsWith('.png')) as string);
    const line = await check(await packed(files));
    expect(line.kind === 'refused' ? line.reason : line.kind).toMatch(reason);
    expect(line.kind === 'refused' ? line.reason : '').toContain('Nothing was changed.');
  });
});

describe('a package with the changes a project was made by', () => {
  /** A project that was made on the server, change by change, each sent by a window. */
  async function madeProject(steps: readonly Step[]): Promise<{ id: string; revision: number }> {
    const project = await storedProject({ ...START, shots: START.shots, size: SIZE });
    let revision = 0;
    for (const step of steps) {
      const named = JSON.parse(JSON.stringify(step).replace(/[0-9a-f]{64}/g, (digest) => real.get(digest) ?? digest)) as Step;
      const sent = {
        baseRevision: revision,
        batchId: randomUUID(),
        madeBy: { windowId: 'w', words: 'a window' },
        steps: [named],
        stepIds: [randomUUID()],
      };
      const accepted = await acceptSteps(project.id, sent, []);
      if (accepted.ok) revision = accepted.value.revision;
    }
    return { id: project.id, revision };
  }
  const withPast = (id: string) => packageOf(id, true);
  const plain = ({ id: _id, ...project }: Project) => project;

  it('comes back with them: every revision is what it was, and so are its pictures', async () => {
    await fc.assert(
      fc.asyncProperty(fc.array(anyStep, { minLength: 4, maxLength: 16 }), async (steps) => {
        const made = await madeProject(steps);
        if (made.revision === 0) return;
        const bytes = await outOf(made.id, withPast);
        const checked = await check(bytes);
        expect(checked.kind === 'checked' ? checked.changes : checked).toBe(made.revision);
        const { project: back } = await broughtIn(bytes);
        const [own, other] = await Promise.all([changesSince(made.id, 0), changesSince(back.id, 0)]);
        expect(other).toEqual(own);
        for (let revision = 0; revision <= made.revision; revision++) {
          const [before, after] = await Promise.all([documentAtRevision(made.id, revision), documentAtRevision(back.id, revision)]);
          if (!before.ok || !after.ok) throw new Error('A revision can’t be worked out.');
          expect(plain(after.value.project)).toEqual(plain(before.value.project));
        }
      }),
      { numRuns: 12 },
    );
  }, 120_000);

  it('goes on counting from there, and has the pictures that only its past names', async () => {
    const project = await drawnProject();
    const [shot] = project.shots;
    const level = shot?.levels.find(({ drawings }) => drawings.some(({ picture }) => picture));
    const drawing = level?.drawings.find(({ picture }) => picture);
    const at = { shotId: shot?.id ?? '', levelId: level?.id ?? '', drawingId: drawing?.id ?? '' };
    const fresh = await flatPicture('#345678', SIZE);
    const sent = { madeBy: null, stepIds: [] };
    await acceptSteps(
      project.id,
      { ...sent, baseRevision: 0, batchId: randomUUID(), steps: [{ type: 'setPicture', ...at, picture: fresh.digest }] },
      [fresh],
    );
    const second = await acceptSteps(
      project.id,
      { ...sent, baseRevision: 1, batchId: randomUUID(), steps: [{ type: 'setPicture', ...at, picture: drawing?.picture ?? '' }] },
      [],
    );
    expect(second.ok && second.value.revision).toBe(2);
    const files = await filesOf(await outOf(project.id, withPast));
    expect(files.has(`pictures/${fresh.digest}.png`)).toBe(true);
    expect(files.has('journal.jsonl')).toBe(true);
    expect((await filesOf(await outOf(project.id))).has(`pictures/${fresh.digest}.png`)).toBe(false);
    const { project: back } = await broughtIn(await packed(files));
    const third = await acceptSteps(
      back.id,
      { ...sent, baseRevision: 2, batchId: randomUUID(), steps: [{ type: 'setPicture', ...at, picture: fresh.digest }] },
      [],
    );
    expect(third.ok && third.value.revision).toBe(3);
  });

  it.each<[string, (lines: string[]) => string[], RegExp]>([
    ['a change that is missing', (lines) => lines.slice(1), /is of revision 2; 1 comes there/],
    ['the last change cut off', (lines) => lines.slice(0, -1), /It says that there are 3 changes in it, and there are 2/],
    ['a line that is none', (lines) => [...lines.slice(0, 2), '{'], /Change 3 in it is not JSON/],
    [
      'a step nobody knows',
      (lines) => lines.map((line) => line.replace('"setTitle"', '"fly"').replace(/"type":"\w+"/, '"type":"fly"')),
      /is not a step of form/,
    ],
    ['a change of a newer form', (lines) => lines.map((line) => line.replace(/"version":\d+/, '"version":99')), /newer Lime Tick/],
  ])('with %s changes nothing, and says so', async (_what, change, reason) => {
    const project = await drawnProject();
    for (const frames of [13, 14, 15])
      await acceptSteps(
        project.id,
        {
          baseRevision: frames - 13,
          batchId: randomUUID(),
          madeBy: null,
          stepIds: [],
          steps: [{ type: 'setShotLength', shotId: project.shots[0]?.id ?? '', frames }],
        },
        [],
      );
    const files = await filesOf(await outOf(project.id, withPast));
    const lines = new TextDecoder().decode(files.get('journal.jsonl')).trimEnd().split('\n');
    expect(lines).toHaveLength(3);
    files.set('journal.jsonl', text(`${change(lines).join('\n')}\n`));
    const line = await check(await packed(files));
    expect(line.kind === 'refused' ? line.reason : line.kind).toMatch(reason);
  });

  it('that says there are changes and has none is refused', async () => {
    const made = await madeProject([{ type: 'setShotLength', shotId: START.shots[0]?.id ?? '', frames: 20 }]);
    const files = await filesOf(await outOf(made.id, withPast));
    files.delete('journal.jsonl');
    const line = await check(await packed(files));
    expect(line.kind === 'refused' ? line.reason : line.kind).toContain('Its changes are not in it.');
  });
});
