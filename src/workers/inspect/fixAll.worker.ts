import { expose } from 'comlink';
import { checkProject, partKept } from '@/core/check/check';
import { fixAll } from '@/core/check/fixAll';
import { changedColumns } from '@/core/sheet/changes';
import { type FixWorker, fixQuestionSchema } from '@/workers/protocol';

/** Fixes all findings of a kind off the page's thread, since a long film is checked again for each round of it. */
const worker: FixWorker = {
  fix(question) {
    const { project, kind, way, against } = fixQuestionSchema.parse(question);
    const fixing = fixAll(project, kind, way, (document) => partKept(document, checkProject(document, against)).open);
    if (!fixing.ok) return Promise.resolve(fixing);
    const { step, says, after, left } = fixing.value;
    const changes = after.shots.flatMap((shot) => {
      const before = project.shots.find((candidate) => candidate.id === shot.id);
      return before && before !== shot ? changedColumns(before, shot).map((column) => ({ ...column, code: shot.code })) : [];
    });
    return Promise.resolve({ ok: true, value: { step, says, left, changes } });
  },
};

expose(worker);
