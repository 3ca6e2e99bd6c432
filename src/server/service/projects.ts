import { randomUUID } from 'node:crypto';
import type { NewProject, OpenedProject } from '@/contracts/project';
import { type NewReceipt, type Receipt, receiptReader } from '@/contracts/receipt';
import { DOCUMENT_VERSION, newLevel } from '@/core/document/model';
import { newProject } from '@/core/document/newProject';
import { FIRST_PALETTE } from '@/core/document/palette';
import type { Outcome } from '@/core/outcome';
import { type Answer, answered, noSuchProject, unprocessable } from '@/server/service/answer';
import { documentAt } from '@/server/service/documents';
import { getDatabase, readAtOnce } from '@/server/store/database';
import { revisionOf } from '@/server/store/journal';
import { loadPictures } from '@/server/store/pictures';
import { insertDocument } from '@/server/store/saveDocument';
import { documentVersionOf, insertReceipt, keptAtOf, loadReceipts, projectExists } from '@/server/store/shelf';

const newId = () => randomUUID();

/** Starts a project with one shot of one empty level. */
export async function createProject(wanted: NewProject): Promise<{ id: string }> {
  const project = newProject({
    id: newId(),
    title: wanted.title,
    rate: wanted.rate,
    size: wanted.size,
    firstFrameNumber: wanted.firstFrameNumber,
    palette: FIRST_PALETTE,
    shots: [
      {
        id: newId(),
        code: '010',
        name: '',
        note: '',
        frames: wanted.frames,
        notes: [],
        sounds: [],
        levels: [newLevel(newId(), 'Level 1')],
      },
    ],
  });
  const database = await getDatabase();
  await database.transaction((tx) => insertDocument(tx, project));
  return { id: project.id };
}

/** A receipt as its row says. */
const readReceipt = ({ id, body, version, madeAt }: { id: string; body: unknown; version: number; madeAt: Date }): Outcome<Receipt> =>
  receiptReader.read({ ...(typeof body === 'object' ? body : {}), version, id, madeAt: madeAt.toISOString() });

/** A project with its revision and receipts, all of one moment; digests of frames are left out, see `receiptOf`. */
export const openProject = (projectId: string): Promise<Answer<OpenedProject>> =>
  readAtOnce(async (tx) => {
    const revision = await revisionOf(tx, projectId);
    if (revision === null) return noSuchProject(projectId);
    const version = await documentVersionOf(tx, projectId);
    if (version < DOCUMENT_VERSION)
      return unprocessable(
        `This project is written in form ${version} and could not be brought to form ${DOCUMENT_VERSION}: the server’s log says why. Nothing of it was touched.`,
      );
    if (version > DOCUMENT_VERSION)
      return unprocessable(
        `This project was written by a newer Lime Tick (form ${version}; this one reads up to ${DOCUMENT_VERSION}): start the newer one to open it. Nothing of it was touched.`,
      );
    const project = await documentAt(tx, projectId, revision);
    const rows = await loadReceipts(tx, projectId);
    const keptAt = (await keptAtOf(tx, projectId)) ?? new Date(0);
    const receipts: Receipt[] = [];
    const unreadable: string[] = [];
    for (const row of rows) {
      const receipt = readReceipt(row);
      if (receipt.ok) receipts.push({ ...receipt.value, frameDigests: null });
      else unreadable.push(`The receipt of ${row.madeAt.toISOString().slice(0, 16).replace('T', ' ')}: ${receipt.reason}`);
    }
    return answered({ project, revision, keptAt: keptAt.toISOString(), receipts, unreadable });
  });

/** A receipt with the digests of its frames. */
export async function receiptOf(projectId: string, receiptId: string): Promise<Answer<Receipt>> {
  const row = (await loadReceipts(await getDatabase(), projectId)).find(({ id }) => id === receiptId);
  if (!row) return { ok: false, status: 404, error: 'There is no such receipt in this project.' };
  const receipt = readReceipt(row);
  return receipt.ok ? answered(receipt.value) : unprocessable(receipt.reason);
}

/** Keeps a receipt with its project. */
export async function keepReceipt(projectId: string, receipt: NewReceipt): Promise<Answer<Receipt>> {
  const database = await getDatabase();
  if (!(await projectExists(database, projectId))) return noSuchProject(projectId);
  const inserted = await insertReceipt(database, receipt.id, projectId, receiptReader.version, receipt);
  // The same receipt sent again is the same receipt.
  if (inserted && inserted.projectId === projectId)
    return answered({ ...receipt, frameDigests: null, madeAt: inserted.madeAt.toISOString() });
  return unprocessable('There is a receipt of that id in another project: make a new one.');
}

/** Several pictures' PNG files in the order asked for; null for one that is not in the store. */
export async function picturePngs(digests: readonly string[]): Promise<(Uint8Array | null)[]> {
  const found = await loadPictures(await getDatabase(), digests);
  return digests.map((digest) => found.get(digest) ?? null);
}
