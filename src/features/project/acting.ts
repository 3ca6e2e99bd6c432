import { toast } from 'sonner';
import type { Project, Shot } from '@/core/document/model';
import type { Act, Acting } from '@/core/edit/edit';
import type { Outcome } from '@/core/outcome';
import type { Block } from '@/core/sheet/block';
import { runAt } from '@/core/sheet/runs';
import { inView } from '@/features/project/hooks';
import { useViewStore } from '@/features/project/viewStore';
import { make } from '@/features/sync/session';

export const newId = (): string => crypto.randomUUID();

/** What acts on a shot work in now. */
export const actingIn = (project: Project, shot: Shot): Acting => ({
  shot,
  firstNumber: project.firstFrameNumber,
  following: useViewStore.getState().following,
  newId,
});

export type View = NonNullable<ReturnType<typeof inView>>;

/** What acts on the open shot work in now. */
export const actingNow = (view: View): Acting => actingIn(view.project, view.shot);

/** The block an act on the sheet means: what is selected, else the exposure of now, else the frame of now; null without a level. */
export function chosenBlock(view: View): Block | null {
  const { selection } = useViewStore.getState();
  if (selection) return selection;
  if (!view.level) return null;
  const run = runAt(view.level.exposures, view.frame);
  const [fromFrame, toFrame] = run && run.drawing !== null ? [run.startFrame, run.endFrame - 1] : [view.frame, view.frame];
  return { levelIds: [view.level.id], fromFrame, toFrame };
}

/** Makes an act, or tells why it can't be; what it did is said when it touches more than is in sight. */
export function take(act: Outcome<Act>, tell = false): boolean {
  if (!act.ok) {
    toast.message(act.reason);
    return false;
  }
  const made = make(act.value.step);
  if (made && tell) toast.message(`${act.value.says}. Undo takes it back.`, { id: 'done' });
  return made;
}

/** Makes what an act on the chosen block comes to. */
export function takeOnBlock(actOn: (acting: Acting, block: Block, view: View) => Outcome<Act>, tell = false): boolean {
  const view = inView();
  const block = view && chosenBlock(view);
  return view && block ? take(actOn(actingNow(view), block, view), tell) : false;
}
