import { type JournalLine, PACKAGE_FORMAT, PACKAGE_VERSION, type PackageFacts } from '@/contracts/package';
import type { Project } from '@/core/document/model';
import { originalsOf, picturesOf } from '@/core/document/originals';
import { fileNamePart } from '@/core/output/sequenceNames';
import { type Answer, answered, noSuchProject } from '@/server/service/answer';
import { documentAt } from '@/server/service/documents';
import { type OutgoingPackage, type OutgoingZip, picturesInOrder, zipped } from '@/server/service/package/outgoing';
import { PACKAGE_README } from '@/server/service/package/readme';
import { savedRecipes } from '@/server/service/recipes';
import { type Database, getDatabase, readAtOnce } from '@/server/store/database';
import { changesNamed, revisionOf, storedChanges } from '@/server/store/journal';
import { loadOriginal, loadSources } from '@/server/store/originals';
import { sizesInBytes } from '@/server/store/pictures';
import { loadReceipts } from '@/server/store/shelf';

/*
 * A package leaves as it is made: what it is of is read at one moment, and pictures and files, which never change under the name
 * they have, are fetched one after another while it goes out.
 */

type Moment = { readonly project: Project; readonly revision: number; readonly facts: PackageFacts };

/** All that a package says, of one moment; null when there is no such project. */
const momentOf = (projectId: string, withJournal: boolean): Promise<Moment | null> =>
  readAtOnce(async (tx): Promise<Moment | null> => {
    const revision = await revisionOf(tx, projectId);
    if (revision === null) return null;
    const project = await documentAt(tx, projectId, revision);
    const bytesOf = await sizesInBytes(tx, picturesOf(project));
    const sources = await loadSources(tx, projectId);
    const named = new Map([...originalsOf(project), ...sources.map(({ original, fileName }): [string, string] => [original, fileName])]);
    const originals: { digest: string; sizeBytes: number; fileName: string | null }[] = [];
    const missing: string[] = [];
    for (const [digest, fileName] of named) {
      const original = await loadOriginal(tx, digest);
      if (original) originals.push({ digest, sizeBytes: original.sizeBytes, fileName });
      else missing.push(digest);
    }
    const past = withJournal ? await pastOf(tx, projectId, project, new Set(originals.map(({ digest }) => digest))) : null;
    originals.push(...(past?.originals ?? []));
    const receipts = (await loadReceipts(tx, projectId)).map(({ id, body, version, madeAt }) => ({
      ...(typeof body === 'object' ? body : {}),
      id,
      version,
      madeAt: madeAt.toISOString(),
    }));
    return {
      project,
      revision,
      facts: {
        format: PACKAGE_FORMAT,
        version: PACKAGE_VERSION,
        madeAt: new Date().toISOString(),
        revision,
        document: project as unknown as PackageFacts['document'],
        pictures: picturesOf(project).flatMap((digest) => {
          const sizeBytes = bytesOf.get(digest);
          return sizeBytes === undefined ? [] : [{ digest, sizeBytes }];
        }),
        originals,
        missing: [...missing, ...picturesOf(project).filter((digest) => !bytesOf.has(digest))],
        sources,
        receipts,
        recipes: [],
        ...(past && past.entries > 0 ? { journal: { entries: past.entries, pictures: past.pictures.map(({ digest }) => digest) } } : {}),
      },
    };
  });

type StoredFile = { readonly digest: string; readonly sizeBytes: number };

/** The changes a project was made by, and what is in the store that only they name. */
async function pastOf(
  tx: Parameters<typeof changesNamed>[0],
  projectId: string,
  project: Project,
  known: ReadonlySet<string>,
): Promise<{ entries: number; pictures: StoredFile[]; originals: (StoredFile & { fileName: null })[] }> {
  const { entries, digests } = await changesNamed(tx, projectId);
  const now = new Set([...picturesOf(project), ...known]);
  const past = digests.filter((digest) => !now.has(digest));
  const pictures = [...(await sizesInBytes(tx, past))].map(([digest, sizeBytes]) => ({ digest, sizeBytes }));
  const originals: (StoredFile & { fileName: null })[] = [];
  for (const digest of past) {
    const original = await loadOriginal(tx, digest);
    if (original) originals.push({ digest, sizeBytes: original.sizeBytes, fileName: null });
  }
  return { entries, pictures, originals };
}

const CHANGES_AT_ONCE = 500;

/** The changes up to a revision, a line of JSON each. They are read as they go out: what was accepted never changes. */
async function* journalLines(database: Database, projectId: string, revision: number): AsyncGenerator<Uint8Array> {
  const encoder = new TextEncoder();
  for (let after = 0; after < revision; ) {
    const changes = await storedChanges(database, projectId, after, revision, CHANGES_AT_ONCE);
    if (changes.length === 0) return;
    const lines = changes.map((change): JournalLine => ({ ...change, madeAt: change.madeAt.toISOString() }));
    yield encoder.encode(lines.map((line) => `${JSON.stringify(line)}\n`).join(''));
    after = (changes.at(-1) as (typeof changes)[number]).revision;
  }
}

async function fill(
  zip: OutgoingZip,
  database: Database,
  { facts, project, revision }: Moment,
  recipes: PackageFacts['recipes'],
): Promise<void> {
  await zip.addText('README.txt', PACKAGE_README);
  await zip.addText('project.json', `${JSON.stringify({ ...facts, recipes }, null, 1)}\n`);
  if (facts.journal) await zip.addParts('journal.jsonl', journalLines(database, project.id, revision));
  // Pictures and recordings are packed already.
  for await (const { digest, png } of picturesInOrder(database, [
    ...facts.pictures.map(({ digest }) => digest),
    ...(facts.journal?.pictures ?? []),
  ]))
    await zip.addPacked(`pictures/${digest}.png`, png);
  for (const { digest, sizeBytes } of facts.originals) {
    const original = await loadOriginal(database, digest);
    if (!original) throw new Error(`The file ${digest} vanished while it was packed.`);
    await zip.addPacked(`originals/${digest}`, { parts: original.bytes(0, sizeBytes), sizeBytes });
  }
}

/** A project as a package, with everything it needs, of this moment; with the changes it was made by where they are wished for. */
export async function packageOf(projectId: string, withJournal = false): Promise<Answer<OutgoingPackage>> {
  const moment = await momentOf(projectId, withJournal);
  if (!moment) return noSuchProject(projectId);
  const saved = await savedRecipes(projectId);
  const { pictures, originals } = moment.facts;
  const aboutBytes = [...pictures, ...originals].reduce((sum, { sizeBytes }) => sum + sizeBytes, 0);
  return answered({
    fileName: `${fileNamePart(moment.project.title)}.limetick`,
    aboutBytes,
    bytes: zipped(new Date(moment.facts.madeAt), async (zip) =>
      fill(zip, await getDatabase(), moment, saved.ok ? saved.value.project : []),
    ),
  });
}
