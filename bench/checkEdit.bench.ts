import { type CheckedAgainst, checkProject, linkStates, partKept } from '../src/core/check/check';
import type { Finding } from '../src/core/check/finding';
import { deltaOf, withDelta } from '../src/core/delta';
import type { Project } from '../src/core/document/model';
import { applyStep } from '../src/core/edit/table';
import { mustBeDone } from '../src/core/outcome';
import { AGAINST_NOTHING } from '../src/core/testing/checking';
import { print, quantile } from './figure';
import { largeProject } from './large';

/*
 * One edit checked again in a shot of ten levels of 10,000 frames, on ones: what the page's thread does for it (what changed is worked
 * out and copied to the worker, the findings' change copied back and parted), and what the worker does. Both in Node, on the same
 * code the page and the worker run; copying is what a message does.
 */
const EDITS = 60;
const ROUNDS = Number(process.env.ROUNDS ?? 3);

type Checked = { readonly project: Project; readonly against: CheckedAgainst };

function round(): { readonly page: readonly number[]; readonly worker: readonly number[] } {
  let here: Checked = { project: largeProject(), against: AGAINST_NOTHING };
  // What the worker holds is a copy, and stays one.
  let there = structuredClone(here);
  let found: readonly Finding[] = checkProject(there.project, there.against);
  let shown: readonly Finding[] = structuredClone(found);
  const page: number[] = [];
  const worker: number[] = [];
  for (let edit = 0; edit < EDITS; edit++) {
    const at = { shotId: 'shot', levelId: `level${edit % 10}`, atFrame: edit * 150 } as const;
    const next = {
      ...here,
      project: mustBeDone(applyStep(here.project, { type: 'setLength', ...at, frames: 1 + (edit % 4), following: 'push' })),
    };
    const began = performance.now();
    const message = structuredClone(deltaOf(here, next));
    const sent = performance.now();
    there = withDelta(there, message) as Checked;
    const now = checkProject(there.project, there.against);
    const changed = deltaOf(found, now);
    found = now;
    const checked = performance.now();
    shown = withDelta(shown, structuredClone(changed)) as readonly Finding[];
    linkStates(next.project, partKept(next.project, shown).open, null);
    const ended = performance.now();
    page.push(sent - began + (ended - checked));
    worker.push(checked - sent);
    here = next;
  }
  return { page, worker };
}

const rounds = Array.from({ length: ROUNDS }, round);
const median = (of: 'page' | 'worker') =>
  quantile(
    rounds.map((each) => quantile(each[of], 0.95)),
    0.5,
  );
print({ name: 'check.edit.page.p95', value: median('page'), unit: 'ms' });
print({ name: 'check.edit.worker.p95', value: median('worker'), unit: 'ms' });
