import type { Sending } from '@/contracts/project';
import { picturesNamedBy } from '@/core/edit/pictures';
import { recordingsNamedBy } from '@/core/edit/recordings';
import type { Step } from '@/core/edit/step';
import { applyStep } from '@/core/edit/table';
import { stepWords } from '@/core/edit/words';
import type { Digest, Project, Size } from '@/core/sheet/document';
import { sameSize, sizeText } from '@/core/sheet/size';
import { plural } from '@/core/time/counts';
import { type Answer, answered, noSuchProject, unprocessable } from '@/server/service/answer';
import { documentAt, remember } from '@/server/service/documents';
import { readSentPictures, type SentPicture } from '@/server/service/sentPictures';
import { type DatabaseOrTransaction, getDatabase } from '@/server/store/database';
import { appendSteps, lockRevision, revisionOfBatch, stepsSince } from '@/server/store/journal';
import { originalsAmong } from '@/server/store/originals';
import { insertPicture, sizesOfPictures } from '@/server/store/pictures';
import { saveDocument } from '@/server/store/saveDocument';

/** A step of a sending with the document it leaves. */
type Made = { readonly step: Step; readonly after: Project };

function makeSteps(before: Project, steps: readonly Step[]): Answer<readonly Made[]> {
  const made: Made[] = [];
  let project = before;
  for (const step of steps) {
    const next = applyStep(project, step);
    if (!next.ok) return unprocessable(next.reason);
    project = next.value;
    made.push({ step, after: project });
  }
  return answered(made);
}

/** The pictures that must have the project's size after a step: those it names, and when it changes the size, all there are. */
function picturesToCheck(sizeBefore: Size, { step, after }: Made): readonly Digest[] {
  if (sameSize(sizeBefore, after.size)) return picturesNamedBy(step);
  return after.shots.flatMap((shot) => shot.levels.flatMap((level) => level.drawings.flatMap((drawing) => drawing.picture ?? [])));
}

/** Refuses steps that name a recording nobody has brought in. */
async function checkNamedRecordings(tx: DatabaseOrTransaction, steps: readonly Step[]): Promise<Answer<null>> {
  const named = [...new Set(steps.flatMap(recordingsNamedBy))];
  const there = await originalsAmong(tx, named);
  const missing = named.find((digest) => !there.has(digest));
  if (missing)
    return unprocessable(`The recording ${missing.slice(0, 12)}… is named by a step and was never brought in: bring it in first.`);
  return answered(null);
}

/** Refuses steps that name a picture nobody has sent, or one that hasn't the size the project has once they are made. */
async function checkNamedPictures(tx: DatabaseOrTransaction, before: Project, made: readonly Made[]): Promise<Answer<null>> {
  const needs = made.map((each, index) => ({
    digests: picturesToCheck(made[index - 1]?.after.size ?? before.size, each),
    size: each.after.size,
  }));
  const sizes = await sizesOfPictures(tx, [...new Set(needs.flatMap((need) => need.digests))]);
  for (const { digests, size: wanted } of needs) {
    for (const digest of digests) {
      const size = sizes.get(digest);
      if (!size) return unprocessable(`The picture ${digest.slice(0, 12)}… is named by a step and was never sent: send it with the step.`);
      if (!sameSize(size, wanted)) {
        return unprocessable(`The picture ${digest.slice(0, 12)}… is ${sizeText(size)}; drawings of this project are ${sizeText(wanted)}.`);
      }
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
      const steps = makeSteps(before, sending.steps);
      const made = steps.ok ? steps.value : [];
      const pictures = await readSentPictures([before.size, ...made.map((each) => each.after.size)], sent);
      if (!pictures.ok) return refuse(pictures);
      for (const picture of pictures.value) await insertPicture(tx, picture);
      if (!steps.ok) return refuse(steps);
      const named = await checkNamedPictures(tx, before, made);
      if (!named.ok) return refuse(named);
      const recordings = await checkNamedRecordings(tx, sending.steps);
      if (!recordings.ok) return refuse(recordings);
      const after = made.at(-1)?.after ?? before;
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
