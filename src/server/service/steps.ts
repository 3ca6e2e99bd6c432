import type { Accepted, Sending } from '@/contracts/project';
import type { Digest, Project, Size } from '@/core/document/model';
import { sameSize, sizeText } from '@/core/document/size';
import { judgeSending } from '@/core/edit/judge';
import { originalsNamedBy } from '@/core/edit/originalsOfStep';
import { picturesNamedBy } from '@/core/edit/picturesOfStep';
import type { Step } from '@/core/edit/step';
import { applyStep, invertStep } from '@/core/edit/table';
import { stepWords } from '@/core/edit/words';
import { plural } from '@/core/time/counts';
import { type Answer, answered, noSuchProject, unprocessable } from '@/server/service/answer';
import { documentAt, remember } from '@/server/service/documents';
import { mappedSending } from '@/server/service/mapOver';
import { tell } from '@/server/service/notices';
import { keepSnapshot } from '@/server/service/past';
import { readSentPictures, type SentPicture } from '@/server/service/sentPictures';
import { type DatabaseOrTransaction, getDatabase, readAtOnce } from '@/server/store/database';
import {
  appendSteps,
  type JournalEntry,
  lockRevision,
  type MadeStep,
  revisionOf,
  revisionOfBatch,
  stepsSince,
} from '@/server/store/journal';
import { originalsAmong } from '@/server/store/originals';
import { insertPicture, sizesOfPictures } from '@/server/store/pictures';
import { saveDocument } from '@/server/store/saveDocument';

/** A step of a sending with what undoes it and the document it leaves. */
type StepResult = MadeStep & { readonly after: Project };

function makeSteps(before: Project, steps: readonly Step[], stepIds: readonly string[]): Answer<readonly StepResult[]> {
  const made: StepResult[] = [];
  let project = before;
  for (const [index, step] of steps.entries()) {
    const next = applyStep(project, step);
    if (!next.ok) return unprocessable(next.reason);
    made.push({ step, stepId: stepIds[index] ?? null, inverse: invertStep(project, step), after: next.value });
    project = next.value;
  }
  return answered(made);
}

/** The pictures that must have the project's size after a step: those it names, and when it changes the size, all there are. */
function picturesToCheck(sizeBefore: Size, { step, after }: StepResult): readonly Digest[] {
  if (sameSize(sizeBefore, after.size)) return picturesNamedBy(step);
  return after.shots.flatMap((shot) => shot.levels.flatMap((level) => level.drawings.flatMap((drawing) => drawing.picture ?? [])));
}

/** Refuses steps that name a recording or a clip nobody has brought in. */
async function checkNamedOriginals(tx: DatabaseOrTransaction, steps: readonly Step[]): Promise<Answer<null>> {
  const named = [...new Set(steps.flatMap(originalsNamedBy))];
  const there = await originalsAmong(tx, named);
  const missing = named.find((digest) => !there.has(digest));
  if (missing)
    return unprocessable(`The recording or clip ${missing.slice(0, 12)}… is named by a step and was never brought in: bring it in first.`);
  return answered(null);
}

/** Refuses steps that name a picture nobody has sent, or one that hasn't the size the project has once they are made. */
async function checkNamedPictures(tx: DatabaseOrTransaction, before: Project, made: readonly StepResult[]): Promise<Answer<null>> {
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

/** The answer to a sending made on a revision before the project's. */
const stale = (baseRevision: number, revision: number, changes: readonly JournalEntry[]): Answer<never> => ({
  ok: false,
  status: 409,
  error: `This was made on revision ${baseRevision}; the project is at ${revision} now: ${plural(changes.length, 'step')} came between (${changes
    .slice(-3)
    .map((change) => stepWords(change.step))
    .join(', ')}).`,
  details: { kind: 'stale', revision, changes },
});

/** The answer to a sending made on a revision the project hasn't reached here. */
const ahead = (baseRevision: number, revision: number): Answer<never> => ({
  ok: false,
  status: 409,
  error: `This was made on revision ${baseRevision}, and the project is only at ${revision} in this data folder: it is an older copy, or another one. Nothing was taken.`,
  details: { kind: 'ahead', revision },
});

/** The answer to a sending that was accepted before, as it was given then. */
async function acceptedBefore(
  tx: DatabaseOrTransaction,
  projectId: string,
  { baseRevision, steps, mapsOver }: Sending,
  revision: number,
): Promise<Accepted> {
  if (!mapsOver || revision === baseRevision + steps.length) return { revision };
  const since = await stepsSince(tx, projectId, baseRevision);
  return { revision, changes: since.filter((change) => change.revision <= revision) };
}

/** The answer to a sending that can't be made as it is, or was made before; null when it can be tried. */
async function judgedEarly(tx: DatabaseOrTransaction, projectId: string, sending: Sending): Promise<Answer<Accepted> | null> {
  const { baseRevision, batchId, mapsOver } = sending;
  const revision = await revisionOf(tx, projectId);
  if (revision === null) return noSuchProject(projectId);
  const judgement = judgeSending({ revision, acceptedBefore: await revisionOfBatch(tx, projectId, batchId) }, baseRevision);
  if (judgement.kind === 'accepted-before') return answered(await acceptedBefore(tx, projectId, sending, judgement.revision));
  if (judgement.kind === 'ahead') return ahead(baseRevision, revision);
  return judgement.kind === 'stale' && !mapsOver ? stale(baseRevision, revision, await stepsSince(tx, projectId, baseRevision)) : null;
}

/**
 * Accepts a sending of steps with their pictures, all or nothing, in one transaction. Pictures are decoded and
 * stored before it begins: that takes long, and a picture that no step names is swept away later. A sending made on
 * another revision than the project's is taken where it belongs by now, if it asks for that and all of it does; else it is
 * refused (409). One that was accepted before is answered again as it was.
 */
export async function acceptSteps(projectId: string, sending: Sending, sent: readonly SentPicture[]): Promise<Answer<Accepted>> {
  const database = await getDatabase();
  if (sent.length > 0) {
    // What can't be taken as it is needs no picture decoded.
    const early = await readAtOnce((tx) => judgedEarly(tx, projectId, sending));
    if (early) return early;
    const pictures = await readSentPictures(null, sent);
    if (!pictures.ok) return pictures;
    for (const picture of pictures.value) await insertPicture(database, picture);
  }
  try {
    const { accepted, project } = await database.transaction((tx) => acceptedIn(tx, projectId, sending));
    if (project) {
      remember(projectId, { project, revision: accepted.revision });
      void keepSnapshot(projectId, accepted.revision, sending.steps.length, project);
    }
    return answered(accepted);
  } catch (error) {
    if (error instanceof Rollback) return error.answer;
    throw error;
  }
}

/** Steps as they are made on a document, if all that they name is in the store and of the size it has to have. */
async function checkedSteps(
  tx: DatabaseOrTransaction,
  document: Project,
  steps: readonly Step[],
  stepIds: readonly string[],
): Promise<Answer<readonly StepResult[]>> {
  const made = makeSteps(document, steps, stepIds);
  if (!made.ok) return made;
  const pictures = await checkNamedPictures(tx, document, made.value);
  if (!pictures.ok) return pictures;
  const originals = await checkNamedOriginals(tx, steps);
  return originals.ok ? made : originals;
}

/** Accepts a sending whose pictures are stored; `project` is what it makes of the document, null when it was accepted before. Throws a Rollback where it is refused. */
async function acceptedIn(
  tx: DatabaseOrTransaction,
  projectId: string,
  sending: Sending,
): Promise<{ readonly accepted: Accepted; readonly project: Project | null }> {
  const { baseRevision, batchId, madeBy } = sending;
  const revision = await lockRevision(tx, projectId);
  if (revision === null) throw new Rollback(noSuchProject(projectId));
  const judgement = judgeSending({ revision, acceptedBefore: await revisionOfBatch(tx, projectId, batchId) }, baseRevision);
  if (judgement.kind === 'accepted-before')
    return { accepted: await acceptedBefore(tx, projectId, sending, judgement.revision), project: null };
  if (judgement.kind === 'ahead') throw new Rollback(ahead(baseRevision, revision));
  const document = await documentAt(tx, projectId, revision);
  const mapped = judgement.kind === 'stale' ? await mappedSending(tx, projectId, document, revision, sending) : null;
  const checked = await checkedSteps(tx, document, mapped?.steps ?? sending.steps, sending.stepIds);
  // What can't be taken where it belongs by now is refused only once its window knows what came between.
  if (judgement.kind === 'stale' && !(mapped && checked.ok))
    throw new Rollback(stale(baseRevision, revision, await stepsSince(tx, projectId, baseRevision)));
  if (!checked.ok) throw new Rollback(checked);
  const made = checked.value;
  const project = made.at(-1)?.after ?? document;
  await saveDocument(tx, document, project);
  const next = await appendSteps(tx, projectId, revision, { batchId, madeBy }, made);
  await tell(tx, { kind: 'revision', projectId, revision: next, windowId: madeBy?.windowId ?? null });
  const own = made.map(({ step, stepId }, index) => ({ revision: revision + 1 + index, step, stepId, madeBy }));
  return { accepted: mapped ? { revision: next, changes: [...mapped.between, ...own] } : { revision: next }, project };
}

/** What has been accepted since a revision. */
export const changesSince = (
  projectId: string,
  sinceRevision: number,
): Promise<Answer<{ revision: number; changes: readonly JournalEntry[] }>> =>
  readAtOnce(async (tx) => {
    const revision = await revisionOf(tx, projectId);
    if (revision === null) return noSuchProject(projectId);
    if (sinceRevision > revision) return ahead(sinceRevision, revision);
    return answered({ revision, changes: await stepsSince(tx, projectId, sinceRevision) });
  });
