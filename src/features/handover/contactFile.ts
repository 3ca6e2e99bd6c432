import type { Project, Shot } from '@/core/document/model';
import { plural } from '@/core/time/counts';
import type { TimingFile } from '@/features/handover/timingFiles';
import { ask, refusalOf } from '@/features/sync/api';

/** A shot's drawings, each once with its frames, as the server prints them. Rejects when it doesn't. */
export async function contactFile(project: Project, shot: Shot): Promise<TimingFile> {
  const response = await ask(`/api/projects/${project.id}/shots/${shot.id}/drawings?paper=a4`, { cache: 'no-store' });
  if (!response.ok) throw await refusalOf(response);
  const drawings = shot.levels.reduce((sum, level) => sum + level.drawings.length, 0);
  return {
    name: `${project.title} ${shot.code} drawings.pdf`,
    content: await response.blob(),
    found: `${plural(drawings, 'drawing')}, each once.`,
  };
}
