import { create } from 'zustand';
import type { CheckedAgainst } from '@/core/check/check';
import type { Finding } from '@/core/check/finding';
import type { Project } from '@/core/document/model';
import { whenClosed } from '@/features/sync/projectStore';
import { serverRetryer } from '@/features/sync/server';
import { checkFilm, WorkerFailed } from '@/workers/client';

/** What was checked last, against what, and what was found in it. */
type Checked = { readonly project: Project | null; readonly against: CheckedAgainst | null; readonly findings: readonly Finding[] };

const NOTHING: Checked = { project: null, against: null, findings: [] };

export const useCheckedStore = create<Checked>(() => NOTHING);

type Wanted = { readonly project: Project; readonly against: CheckedAgainst };
let wanted: Wanted | null = null;
let isChecking = false;
whenClosed(() => {
  wanted = null;
  useCheckedStore.setState(NOTHING);
});

const PARTS = ['facts', 'sounds', 'clips', 'rateMove', 'handedOver', 'planDigestNow', 'loop'] as const;
const isSame = (a: Wanted, b: Wanted): boolean => a.project === b.project && PARTS.every((part) => a.against[part] === b.against[part]);

/** Checks what is wanted, and then what was wanted meanwhile; waits for a server that doesn't answer when the program that checks is not loaded. */
async function checkOn(): Promise<void> {
  let last: Wanted | null = null;
  while (wanted !== null && !(last && isSame(wanted, last))) {
    const now: Wanted = wanted;
    try {
      const findings = await checkFilm(now.project, now.against);
      last = now;
      if (wanted?.project.id === now.project.id) useCheckedStore.setState({ ...now, findings });
    } catch (error) {
      if (!(error instanceof WorkerFailed)) {
        isChecking = false;
        throw error;
      }
      await serverRetryer.wait();
    }
  }
  // In the same breath as the last look at what is wanted: whoever wants something from here on begins anew.
  isChecking = false;
}

/** Has a film checked; the path and the stage ask for the same, and it is checked once. */
export function wantChecked(project: Project, against: CheckedAgainst): void {
  const now = { project, against };
  if (wanted && isSame(wanted, now)) return;
  wanted = now;
  if (isChecking) return;
  isChecking = true;
  void checkOn();
}
