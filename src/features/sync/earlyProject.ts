import type { OpenedProject } from '@/contracts/project';
import { fetchProject } from '@/features/sync/api';

/** What was asked so long ago is asked anew: others may have gone on meanwhile. */
const LASTS_MILLISECONDS = 10_000;

type Early = { readonly projectId: string; readonly askedAt: number; readonly opened: Promise<OpenedProject> };

/** The project of an address is asked for as soon as this program is there: the page around it is made while the answer is on its way. */
function askEarly(): Early | null {
  if (typeof window === 'undefined') return null;
  const [, projectId] = /^\/projects\/([\w-]+)(?:\/|$)/.exec(window.location.pathname) ?? [];
  if (!projectId) return null;
  const opened = fetchProject(projectId);
  // Whoever takes it is told; where nobody does, the failure is nobody's.
  opened.catch(() => undefined);
  return { projectId, askedAt: performance.now(), opened };
}

let early = askEarly();

/** The project, where it was asked for with the page a moment ago; it is given once. Null otherwise. */
export function projectAskedEarly(projectId: string): Promise<OpenedProject> | null {
  const asked = early;
  early = null;
  return asked?.projectId === projectId && performance.now() - asked.askedAt < LASTS_MILLISECONDS ? asked.opened : null;
}
