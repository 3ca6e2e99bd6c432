import { expose } from 'comlink';
import { type CheckedAgainst, checkProject } from '@/core/check/check';
import type { Finding } from '@/core/check/finding';
import { deltaOf, withDelta } from '@/core/delta';
import type { Project } from '@/core/document/model';
import type { CheckWorker } from '@/workers/protocol';

/*
 * Checks a film off the page's thread. It holds the document and what that is held against as they were checked last, and is told
 * what has changed since; what no change touched stays the very same object here, so that nothing is found twice.
 */
let state: unknown = null;
let findings: readonly Finding[] = [];

const worker: CheckWorker = {
  take(delta) {
    state = withDelta(state, delta);
    return Promise.resolve();
  },
  check(delta) {
    state = withDelta(state, delta);
    const { project, against } = state as { readonly project: Project; readonly against: CheckedAgainst };
    const now = checkProject(project, against);
    const changed = deltaOf(findings, now);
    findings = now;
    return Promise.resolve(changed);
  },
};

expose(worker);
