import { expose } from 'comlink';
import { checkProject, partKept } from '@/core/check/check';
import { mendAll } from '@/core/check/mendAll';
import { changedColumns } from '@/core/sheet/changes';
import { type MendWorker, mendQuestionSchema } from '@/workers/protocol';

/** Mends all findings of a kind where it holds nobody up: a long film is looked at again and again for it. */
const worker: MendWorker = {
  mend(question) {
    const { project, kind, way, against } = mendQuestionSchema.parse(question);
    const mending = mendAll(project, kind, way, (document) => partKept(document, checkProject(document, against)).open);
    if (!mending.ok) return Promise.resolve(mending);
    const { step, says, after, left } = mending.value;
    const changes = after.shots.flatMap((shot) => {
      const before = project.shots.find((candidate) => candidate.id === shot.id);
      return before && before !== shot ? changedColumns(before, shot).map((column) => ({ ...column, code: shot.code })) : [];
    });
    return Promise.resolve({ ok: true, value: { step, says, left, changes } });
  },
};

expose(worker);
