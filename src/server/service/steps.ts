import type { Sending } from '@/contracts/project';
import { picturesNamedBy } from '@/core/edit/pictures';
import { applyStep } from '@/core/edit/table';
import { stepWords } from '@/core/edit/words';
import type { Digest, Project } from '@/core/sheet/document';
import { sizeText } from '@/core/sheet/size';
import { plural } from '@/core/time/counts';
import { type Answer, answered, noSuchProject, unprocessable } from '@/server/service/answer';
import { readPicture } from '@/server/service/readPicture';
import { type DatabaseOrTransaction, getDatabase } from '@/server/store/database';
import { appendSteps, lockRevision, revisionOfBatch, stepsSince } from '@/server/store/journal';
import { loadDocument } from '@/server/store/loadDocument';
import { insertPicture, type StoredPicture, sizesOfPictures } from '@/server/store/pictures';
import { saveDocument } from '@/server/store/saveDocument';

/** A picture sent along with steps, by the digest its sender worked out. */
export type SentPicture = { readonly digest: Digest; readonly png: Uint8Array };

/** Documents as of their revision, so that a step need not read its whole project again. */
const lastDocuments = new Map<string, { project: Project; revision: number }>();
const MOST_REMEMBERED = 8;

function remember(projectId: string, document: { project: Project; revision: number }): void {
  lastDocuments.delete(projectId);
  lastDocuments.set(projectId, document);
  const oldest = lastDocuments.keys().next().value;
  if (lastDocuments.size > MOST_REMEMBERED && oldest !== undefined) lastDocuments.delete(oldest);
}

async function documentAt(tx: DatabaseOrTransaction, projectId: string, revision: number): Promise<Project> {
  const known = lastDocuments.get(projectId);
  if (known?.revision === revision) return known.project;
  const loaded = await loadDocument(tx, projectId);
  if (!loaded) throw new Error(`Project ${projectId} vanished while it was locked.`);
  return loaded.project;
}

async function readSentPictures(project: Project, sent: readonly SentPicture[]): Promise<Answer<readonly StoredPicture[]>> {
  const read: StoredPicture[] = [];
  for (const { digest, png } of sent) {
    const picture = await readPicture(png, project.size);
    if (!picture.ok) return unprocessable(picture.reason);
    if (picture.value.digest !== digest) {
      return unprocessable(
        `The picture sent as ${digest.slice(0, 12)}… has other pixels (${picture.value.digest.slice(0, 12)}…): it was changed on the way, send it again.`,
      );
    }
    read.push(picture.value);
  }
  return answered(read);
}

/** Refuses steps that name a picture nobody has sent, or one of another size. */
async function checkNamedPictures(tx: DatabaseOrTransaction, project: Project, steps: Sending['steps']): Promise<Answer<null>> {
  const digests = [...new Set(steps.flatMap(picturesNamedBy))];
  const sizes = await sizesOfPictures(tx, digests);
  for (const digest of digests) {
    const size = sizes.get(digest);
    if (!size) return unprocessable(`The picture ${digest.slice(0, 12)}… is named by a step and was never sent: send it with the step.`);
    if (size.width !== project.size.width || size.height !== project.size.height) {
      return unprocessable(
        `The picture ${digest.slice(0, 12)}… is ${sizeText(size)}; drawings of this project are ${sizeText(project.size)}.`,
      );
    }
  }
  return answered(null);
}

class Rollback extends Error {
  constructor(readonly answer: Answer<never>) {
    super('The sending was refused.');
  }
}

/**
 * Accepts a sending of steps with their pictures, all or nothing, in one transaction. A sending made on
 * a stale revision is refused (409) with the steps accepted since; one that was accepted before is
 * answered again as it was.
 */
export async function acceptSteps(
  projectId: string,
  sending: Sending,
  sent: readonly SentPicture[],
): Promise<Answer<{ revision: number }>> {
  const database = await getDatabase();
  try {
    const result = await database.transaction(async (tx) => {
      const refuse = (answer: Answer<unknown>): never => {
        throw new Rollback(answer as Answer<never>);
      };
      const revision = await lockRevision(tx, projectId);
      if (revision === null) return refuse(noSuchProject(projectId));
      const acceptedBefore = await revisionOfBatch(tx, projectId, sending.batchId);
      if (acceptedBefore !== null) return { revision: acceptedBefore, project: null };
      if (sending.baseRevision !== revision) {
        const since = await stepsSince(tx, projectId, sending.baseRevision);
        return refuse({
          ok: false,
          status: 409,
          error: `This was made on revision ${sending.baseRevision}; the project is at ${revision} now: ${plural(since.length, 'step')} came between (${since.slice(-3).map(stepWords).join(', ')}).`,
          details: { revision, stepsSince: since },
        });
      }
      const before = await documentAt(tx, projectId, revision);
      const pictures = await readSentPictures(before, sent);
      if (!pictures.ok) return refuse(pictures);
      for (const picture of pictures.value) await insertPicture(tx, picture);
      const named = await checkNamedPictures(tx, before, sending.steps);
      if (!named.ok) return refuse(named);
      let after = before;
      for (const step of sending.steps) {
        const next = applyStep(after, step);
        if (!next.ok) return refuse(unprocessable(next.reason));
        after = next.value;
      }
      await saveDocument(tx, before, after);
      return { revision: await appendSteps(tx, projectId, revision, sending.batchId, sending.steps), project: after };
    });
    if (result.project) remember(projectId, { project: result.project, revision: result.revision });
    return answered({ revision: result.revision });
  } catch (error) {
    if (error instanceof Rollback) return error.answer;
    throw error;
  }
}
