import type { Project } from '@/core/document/model';
import { writeFramesCsv } from '@/core/format/csv/framesCsv';
import { groundFor } from '@/core/output/format';
import { baseNameOf, type NamedLeaving, type Recipe } from '@/core/output/recipe';
import { formatFor } from '@/features/handover/handoverStore';
import { WINDOW_ID } from '@/features/sync/windows';
import type { HandoverOrder } from '@/workers/client';

/** An encoder and what it is fed by take as many cores for themselves. */
const CORES_OF_WRITING = 2;

/** Beside one file a drawing lies a list of the frames each is seen on. */
function listsOf(project: Project, { options }: Recipe, { named, seenOn, names }: NamedLeaving): { name: string; text: string }[] {
  if (options.kind !== 'pictures' || options.each !== 'drawing') return [];
  const rows = named.map(({ shot, level, drawing }, index) => ({
    file: names.pictures[index] ?? '',
    shot,
    level,
    drawing,
    frames: (seenOn[index] ?? []).map((frame) => frame + project.firstFrameNumber),
  }));
  return [{ name: 'frames.csv', text: writeFramesCsv(rows) }];
}

/** What a worker is told to write for a recipe. */
export function orderFor(
  project: Project,
  recipe: Recipe,
  leaving: NamedLeaving,
  { id, wasBegun }: { readonly id: string; readonly wasBegun: boolean },
): HandoverOrder {
  const format = formatFor(recipe);
  return {
    plan: leaving.plan,
    formatId: recipe.formatId,
    baseName: baseNameOf(project, recipe, format),
    names: [...leaving.names.pictures],
    lists: listsOf(project, recipe, leaving),
    ground: groundFor(format, recipe.options, recipe.withBackground),
    options: recipe.options,
    jobId: id,
    wasBegun,
    owner: WINDOW_ID,
    decodeWhileWriting: navigator.hardwareConcurrency > CORES_OF_WRITING,
  };
}
