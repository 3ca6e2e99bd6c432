import { expose } from 'comlink';
import { type CheckedAgainst, checkProject } from '@/core/check/check';
import type { Finding } from '@/core/check/finding';
import { type Delta, deltaOf, withDelta } from '@/core/delta';
import type { Project } from '@/core/document/model';
import { shareTexts } from '@/core/document/sharedTexts';
import type { CheckWorker } from '@/workers/protocol';

/*
 * Checks a film off the page's thread. It holds the document and what that is held against as they were checked last, and is told
 * what has changed since; what no change touched stays the very same object here, so that nothing is found twice.
 */
type State = { readonly project: Project; readonly against: CheckedAgainst };
let state: unknown = null;
let findings: readonly Finding[] = [];

function taken(delta: Delta): State {
  state = withDelta(state, delta);
  const now = state as State;
  shareTexts(now.project.shots);
  return now;
}

const worker: CheckWorker = {
  take(delta) {
    taken(delta);
    return Promise.resolve();
  },
  check(delta) {
    const { project, against } = taken(delta);
    const now = checkProject(project, against);
    const changed = deltaOf(findings, now);
    findings = now;
    return Promise.resolve(changed);
  },
};

expose(worker);
