import { randomUUID } from 'node:crypto';
import { open, rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import path from 'node:path';
import type { PackageLine } from '@/contracts/package';
import { receiptReader } from '@/contracts/receipt';
import { storedRecipesReader } from '@/contracts/recipes';
import { differencesOf } from '@/core/document/differences';
import { done, type Outcome } from '@/core/outcome';
import { framesOfReel } from '@/core/reel/reel';
import { ahead } from '@/server/service/bringIn/inTurns';
import { documentAt } from '@/server/service/documents';
import { type DrawingsProject, isDrawings, readDrawings } from '@/server/service/package/readDrawings';
import { type KnownPictures, OpenPackage, OpenZip, PICTURES_AHEAD, sha256Of } from '@/server/service/package/readPackage';
import { type DatabaseOrTransaction, getDatabase, readAtOnce } from '@/server/store/database';
import { insertChanges, revisionOf, type StoredChange, setRevision } from '@/server/store/journal';
import { insertOriginal, insertSources } from '@/server/store/originals';
import { insertPictures, type KnownPicture, knownPictures, type StoredPicture, wantPictures } from '@/server/store/pictures';
import { insertDocument } from '@/server/store/saveDocument';
import { saveSetting } from '@/server/store/settings';
import { insertReceipt, projectExists } from '@/server/store/shelf';

/*
 * A package is received onto the disk and checked whole; then it waits, for an hour at most, until the person has said whether
 * it is brought in. Bringing it in reads it once more; bytes that were found to be right are known by
 * their SHA-256, and anything else is checked anew.
 */

const LARGEST_PACKAGE_BYTES = 64 * 1024 * 1024 * 1024;
const WAITING_MILLISECONDS = 60 * 60 * 1000;
const TOLD_EVERY = 16;
const CHANGES_AT_ONCE = 500;
/** So few that a stroke, which waits for a statement under way, doesn't wait long. */
const PICTURES_AT_ONCE = 16;

type Waiting = {
  readonly path: string;
  readonly sizeBytes: number;
  readonly known: KnownPictures;
  /** What was read of one of drawings alone: its ids and digests are made up where it is read, and are so once. */
  readonly drawings: DrawingsProject | null;
  readonly timer: ReturnType<typeof setTimeout>;
};
const shared = globalThis as typeof globalThis & { limeTickPackages?: Map<string, Waiting> };
shared.limeTickPackages ??= new Map();
const waiting = shared.limeTickPackages;

const refusal = (reason: string): PackageLine => ({ kind: 'refused', reason });

/** Lets go of a package that waits. */
export async function dropPackage(token: string): Promise<void> {
  const found = waiting.get(token);
  if (!found) return;
  waiting.delete(token);
  clearTimeout(found.timer);
  await rm(found.path, { force: true });
}

function keepWaiting(filePath: string, sizeBytes: number, known: KnownPictures, drawings: DrawingsProject | null): string {
  const token = randomUUID();
  const timer = setTimeout(() => void dropPackage(token), WAITING_MILLISECONDS);
  timer.unref();
  waiting.set(token, { path: filePath, sizeBytes, known, drawings, timer });
  return token;
}

/** Checks every picture and file; pictures that are right are noted in `known`. */
async function* checked(opened: OpenPackage, known: Map<string, KnownPicture>): AsyncGenerator<PackageLine> {
  const { pictureDigests, originalDigests } = opened;
  const all = pictureDigests.length + originalDigests.length;
  let done = 0;
  const database = await getDatabase();
  for (let start = 0; start < pictureDigests.length; start += PICTURES_AT_ONCE) {
    const part = pictureDigests.slice(start, start + PICTURES_AT_ONCE);
    const stored = await knownPictures(database, part);
    for await (const picture of ahead(part, PICTURES_AHEAD, (digest) => opened.picture(digest, stored))) {
      if (!picture.ok) return yield refusal(`${picture.reason} Nothing was changed.`);
      known.set(picture.value.digest, { sha256: sha256Of(picture.value.png), size: picture.value.size });
    }
    done += part.length;
    yield { kind: 'progress', done, all };
  }
  for (const digest of originalDigests) {
    const original = await opened.checkOriginal(digest);
    if (!original.ok) return yield refusal(`${original.reason} Nothing was changed.`);
    yield { kind: 'progress', done: ++done, all };
  }
  for await (const change of opened.changes()) if (!change.ok) return yield refusal(`${change.reason} Nothing was changed.`);
}

/** Keeps the changes of a package as those of a project, which counts on from the last of them. */
async function keepChanges(tx: DatabaseOrTransaction, projectId: string, given: OpenPackage): Promise<void> {
  let part: StoredChange[] = [];
  for await (const change of given.changes()) {
    if (!change.ok) throw new Error(`The package changed since it was checked: ${change.reason}`);
    part.push(change.value);
    if (part.length < CHANGES_AT_ONCE) continue;
    await insertChanges(tx, projectId, part);
    part = [];
  }
  await insertChanges(tx, projectId, part);
  await setRevision(tx, projectId, given.facts.revision);
}

/** What a generator tells, as lines. */
async function* told<T>(reading: AsyncGenerator<{ done: number; all: number }, T>): AsyncGenerator<PackageLine, T> {
  for (;;) {
    const next = await reading.next();
    if (next.done) return next.value;
    if (next.value.done % TOLD_EVERY === 0) yield { kind: 'progress', ...next.value };
  }
}

const openedOf = async (zip: OpenZip, drawings: DrawingsProject | null): Promise<Outcome<OpenPackage>> =>
  drawings ? done(OpenPackage.ofDrawings(zip, drawings.project, drawings.fileOf)) : OpenPackage.of(zip);

/** How a package differs from the project of its id that is here; null where there is none. */
async function differsHere({ project }: OpenPackage): Promise<string[] | null> {
  const here = await readAtOnce(async (tx) => {
    const revision = await revisionOf(tx, project.id);
    return revision === null ? null : documentAt(tx, project.id, revision);
  });
  return here && [...differencesOf(here, project)];
}

/** Receives a package and checks all of it, saying how far it is; nothing is stored. */
export async function* checkPackage(body: ReadableStream<Uint8Array> | null, saidBytes: number | null): AsyncGenerator<PackageLine> {
  const filePath = path.join(tmpdir(), `lime-tick-package-${randomUUID()}`);
  let isKept = false;
  try {
    const file = await open(filePath, 'wx');
    let sizeBytes = 0;
    try {
      for await (const chunk of body ?? []) {
        sizeBytes += chunk.byteLength;
        if (sizeBytes <= LARGEST_PACKAGE_BYTES) await file.write(chunk);
      }
    } finally {
      await file.close();
    }
    if (sizeBytes > LARGEST_PACKAGE_BYTES)
      return yield refusal('The package has more than 64 GiB, which is the most that is brought in. Nothing was changed.');
    if (saidBytes !== null && sizeBytes !== saidBytes)
      return yield refusal(`The package didn’t arrive whole: ${sizeBytes} of ${saidBytes} bytes came. Bring it in again.`);
    const zip = await OpenZip.open(filePath, sizeBytes);
    if (!zip.ok) return yield refusal(`${zip.reason} Nothing was changed.`);
    try {
      const drawings = isDrawings(zip.value) ? yield* told(readDrawings(zip.value)) : null;
      if (drawings && !drawings.ok) return yield refusal(`${drawings.reason} Nothing was changed.`);
      const opened = await openedOf(zip.value, drawings?.value ?? null);
      if (!opened.ok) return yield refusal(`${opened.reason} Nothing was changed.`);
      const known = new Map<string, KnownPicture>(drawings?.value.known);
      // Pictures of drawings alone were decoded to be known by their digests.
      if (!drawings)
        for await (const line of checked(opened.value, known)) {
          yield line;
          if (line.kind === 'refused') return;
        }
      const { project, facts, pictureDigests, originalDigests } = opened.value;
      const differs = await differsHere(opened.value);
      isKept = true;
      yield {
        kind: 'checked',
        token: keepWaiting(filePath, sizeBytes, known, drawings?.value ?? null),
        title: project.title,
        shots: project.shots.length,
        frames: framesOfReel(project),
        pictures: pictureDigests.length,
        originals: originalDigests.length,
        missing: facts.missing.length,
        changes: facts.journal?.entries ?? 0,
        differs,
      };
    } finally {
      await zip.value.close();
    }
  } finally {
    if (!isKept) await rm(filePath, { force: true });
  }
}

/**
 * Brings in a package that was checked, as a project of its own: under its own id where there is none of it, else under a new one.
 * Without its changes its revisions begin anew: a window that knows later ones of it is told that it knows more than the server,
 * and what it made since is set aside, instead of being mapped over changes that nobody has.
 */
export async function* takePackage(token: string): AsyncGenerator<PackageLine> {
  const found = waiting.get(token);
  if (!found) return yield refusal('That package waits no longer: bring it in again. Nothing was changed.');
  const zip = await OpenZip.open(found.path, found.sizeBytes);
  if (!zip.ok) return yield refusal(`${zip.reason} Nothing was changed.`);
  try {
    const opened = await openedOf(zip.value, found.drawings);
    if (!opened.ok) return yield refusal(`${opened.reason} Nothing was changed.`);
    const { value: given } = opened;
    const database = await getDatabase();
    const { pictureDigests, originalDigests, facts } = given;
    const all = pictureDigests.length + originalDigests.length;
    let done = 0;
    // What is stored before the project names it is swept away where that never happens.
    for (const digest of originalDigests) {
      const whole = await given.checkOriginal(digest);
      if (!whole.ok) return yield refusal(`${whole.reason} Nothing was changed.`);
      await insertOriginal(database, digest, given.originalBytes(digest), given.original(digest));
      yield { kind: 'progress', done: ++done, all };
    }
    const there = await wantPictures(database, pictureDigests);
    done += there.size;
    yield { kind: 'progress', done, all };
    const missing = pictureDigests.filter((digest) => !there.has(digest));
    let read: StoredPicture[] = [];
    for await (const picture of ahead(missing, PICTURES_AHEAD, (digest) => given.picture(digest, found.known))) {
      if (!picture.ok) return yield refusal(`${picture.reason} Nothing was changed.`);
      read.push(picture.value);
      if (read.length < PICTURES_AT_ONCE) continue;
      await insertPictures(database, read);
      done += read.length;
      read = [];
      yield { kind: 'progress', done, all };
    }
    await insertPictures(database, read);
    const projectId = (await projectExists(database, given.project.id)) ? randomUUID() : given.project.id;
    const stored = new Set(originalDigests);
    await database.transaction(async (tx) => {
      await insertDocument(tx, { ...given.project, id: projectId });
      if (facts.journal) await keepChanges(tx, projectId, given);
      await insertSources(
        tx,
        projectId,
        facts.sources.filter(({ original }) => stored.has(original)),
      );
      const recipes = storedRecipesReader.read({ version: storedRecipesReader.version, recipes: facts.recipes });
      if (recipes.ok && recipes.value.recipes.length > 0)
        await saveSetting(tx, `recipes ${projectId}`, storedRecipesReader.version, { recipes: recipes.value.recipes });
    });
    for (const receipt of facts.receipts) {
      const { id, version, madeAt, ...body } = receipt;
      if (!receiptReader.read(receipt).ok) continue;
      const kept = await insertReceipt(database, id, projectId, version, body, new Date(madeAt));
      // Receipts of the project that is here have these ids already.
      if (kept && kept.projectId !== projectId) await insertReceipt(database, randomUUID(), projectId, version, body, new Date(madeAt));
    }
    await dropPackage(token);
    yield { kind: 'taken', projectId };
  } finally {
    await zip.value.close();
  }
}
