import type { Project, ReelItem, ReelItemId } from '@/core/document/model';
import type { Edit } from '@/core/edit/edit';
import type { Step } from '@/core/edit/step';
import { itemsAfter } from '@/core/editorial/itemsAfter';
import { soundDifferences } from '@/core/editorial/soundDifferences';
import type { EditorialTimeline } from '@/core/format/editorial';
import { type Outcome, refused } from '@/core/outcome';
import { reelEdit } from '@/core/reel/reelEdit';
import { plural } from '@/core/time/counts';

/* The reel with some of the differences of a timeline taken, as one edit; all of them make it what the timeline says. */

/** The steps that make one list of items another. */
function stepsTo(before: readonly ReelItem[], after: readonly ReelItem[]): readonly Step[] {
  const steps: Step[] = [];
  const kept = new Set(after.map(({ id }) => id));
  const gone = before.filter(({ id }) => !kept.has(id)).map(({ id }) => id);
  if (gone.length > 0) steps.push({ type: 'removeItems', itemIds: gone });
  const known = new Map<ReelItemId, ReelItem>(before.map((item) => [item.id, item]));
  const now = before.filter(({ id }) => kept.has(id)).map(({ id }) => id);
  for (const [index, item] of after.entries()) {
    const old = known.get(item.id);
    if (!old) {
      steps.push({ type: 'addItems', items: [{ item, index }] });
      now.splice(index, 0, item.id);
      continue;
    }
    if (now[index] !== item.id) {
      steps.push({ type: 'moveItem', itemId: item.id, index });
      now.splice(now.indexOf(item.id), 1);
      now.splice(index, 0, item.id);
    }
    if (item.kind === 'gap' && old.kind === 'gap' && item.frames !== old.frames)
      steps.push({ type: 'setGapLength', itemId: item.id, frames: item.frames });
    if (item.kind !== 'gap' && old.kind !== 'gap' && JSON.stringify(item.trim) !== JSON.stringify(old.trim))
      steps.push({ type: 'trimItem', itemId: item.id, trim: item.trim });
  }
  return steps;
}

/** The chosen differences (by id) as one edit that can be undone; refused where none of them changes the reel. */
export function takeDifferences(
  project: Project,
  timeline: EditorialTimeline,
  chosen: readonly string[],
  newId: () => string,
): Outcome<Edit> {
  const ids = new Set(chosen);
  const after = itemsAfter(project, timeline, (id) => ids.has(id), newId);
  const heard = soundDifferences(project, timeline).flatMap(({ id, step }) => (step && ids.has(id) ? [step(newId)] : []));
  const steps = [...stepsTo(project.reel.items, after), ...heard];
  if (steps.length === 0) return refused('There is nothing in that to take.');
  return reelEdit(project, steps, `${plural(chosen.length, 'difference')} of ${timeline.title || 'the timeline'} taken`, {
    words: 'Take a timeline',
  });
}
