import type { Project, Shot } from '@/core/document/model';
import type { Edit, EditContext } from '@/core/edit/edit';
import type { Outcome } from '@/core/outcome';
import type { Block } from '@/core/sheet/block';
import { runAt } from '@/core/sheet/runs';
import { inView } from '@/features/project/hooks';
import { useViewStore } from '@/features/project/viewStore';
import { make } from '@/features/sync/session';
import { toast } from '@/ui/toast';

export const newId = (): string => crypto.randomUUID();

/** What edits on a shot work in now. */
export const contextIn = (project: Project, shot: Shot): EditContext => ({
  shot,
  firstNumber: project.firstFrameNumber,
  following: useViewStore.getState().following,
  newId,
});

export type View = NonNullable<ReturnType<typeof inView>>;

/** What edits on the open shot work in now. */
export const contextNow = (view: View): EditContext => contextIn(view.project, view.shot);

/** The block an edit on the sheet means: what is selected, else the current exposure, else the current frame; null without a level. */
export function chosenBlock(view: View): Block | null {
  const { selection } = useViewStore.getState();
  if (selection) return selection;
  if (!view.level) return null;
  const run = runAt(view.level.exposures, view.frame);
  const [fromFrame, toFrame] = run && run.drawing !== null ? [run.startFrame, run.endFrame - 1] : [view.frame, view.frame];
  return { levelIds: [view.level.id], fromFrame, toFrame };
}

/** Makes an edit, or tells why it can't be; what it did is said when it touches more than is in sight. */
export function take(edit: Outcome<Edit>, tell = false): boolean {
  if (!edit.ok) {
    toast.message(edit.reason);
    return false;
  }
  const made = make(edit.value.step);
  if (made && tell) toast.message(`${edit.value.says}. You can undo it.`, { id: 'done' });
  return made;
}

/** Makes what an edit on the chosen block comes to. */
export function takeOnBlock(editOn: (context: EditContext, block: Block, view: View) => Outcome<Edit>, tell = false): boolean {
  const view = inView();
  const block = view && chosenBlock(view);
  return view && block ? take(editOn(contextNow(view), block, view), tell) : false;
}
