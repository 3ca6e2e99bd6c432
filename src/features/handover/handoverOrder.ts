import type { Project } from '@/core/document/model';
import { groundFor } from '@/core/output/format';
import { baseNameOf, type NamedLeaving, type Recipe } from '@/core/output/recipe';
import { formatFor } from '@/features/handover/handoverStore';
import { WINDOW_ID } from '@/features/sync/windows';
import type { HandoverOrder } from '@/workers/client';

/** An encoder and what it is fed by take as many cores for themselves. */
const CORES_OF_WRITING = 2;

/** What a worker is told to write for a recipe; `lists` are texts that lie beside its picture files. */
export function orderFor(
  project: Project,
  recipe: Recipe,
  leaving: NamedLeaving,
  { id, wasBegun }: { readonly id: string; readonly wasBegun: boolean },
  lists: HandoverOrder['lists'] = [],
): HandoverOrder {
  const format = formatFor(recipe);
  return {
    plan: leaving.plan,
    formatId: recipe.formatId,
    baseName: baseNameOf(project, recipe, format),
    names: [...leaving.names.pictures],
    lists,
    ground: groundFor(format, recipe.options, recipe.withBackground),
    options: recipe.options,
    jobId: id,
    wasBegun,
    owner: WINDOW_ID,
    decodeWhileWriting: navigator.hardwareConcurrency > CORES_OF_WRITING,
  };
}
