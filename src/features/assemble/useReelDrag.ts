import { type PointerEvent, useMemo, useRef, useState } from 'react';
import type { Project } from '@/core/document/model';
import { type PlacedItem, placedItems } from '@/core/reel/reel';
import { type DragKind, dragged, type Held } from '@/features/assemble/reelDrag';
import { frameAt, type Sight } from '@/features/assemble/reelView';
import { projectAfter, takeOnReel } from '@/features/commands/reelCommands';
import { goToReelFrame } from '@/features/project/navigation';
import { useViewStore } from '@/features/project/viewStore';

/** Pixels a pointer moves before a press is a drag. */
const DRAG_PX = 4;

type Drag = { readonly held: Held; readonly byFrames: number };

const chosenWith = (itemId: string, event: PointerEvent): readonly string[] => {
  const { reelSelection } = useViewStore.getState();
  if (event.shiftKey || event.ctrlKey || event.metaKey)
    return reelSelection.includes(itemId) ? reelSelection.filter((id) => id !== itemId) : [...reelSelection, itemId];
  return reelSelection.includes(itemId) ? reelSelection : [itemId];
};

/**
 * Drags on the reel. `shown` is the project as it would be when the drag ended now, `says` what it does then, or why it
 * can't be done; a press without a drag chooses the item and goes to the frame it was pressed on.
 */
export function useReelDrag(project: Project, sight: Sight) {
  const [drag, setDrag] = useState<Drag | null>(null);
  const pressed = useRef<{ readonly x: number; readonly held: Held; readonly additive: boolean } | null>(null);
  const edit = useMemo(() => (drag ? dragged(project, drag.held, drag.byFrames) : null), [project, drag]);
  const shown = useMemo(() => (edit && projectAfter(project, edit)) ?? project, [project, edit]);

  const press = (kind: DragKind, placed: PlacedItem) => (event: PointerEvent<HTMLElement>) => {
    if (event.button !== 0) return;
    event.stopPropagation();
    event.currentTarget.setPointerCapture(event.pointerId);
    const additive = event.shiftKey || event.ctrlKey || event.metaKey;
    const itemIds = chosenWith(placed.item.id, event);
    useViewStore.setState({ reelSelection: itemIds });
    const first = placedItems(project).find(({ item }) => itemIds.includes(item.id)) ?? placed;
    const held: Held = { kind: kind === 'move' && event.altKey ? 'slip' : kind, placed, itemIds, firstStart: first.startFrame };
    pressed.current = { x: event.clientX, held, additive };
  };
  const move = (event: PointerEvent<HTMLElement>) => {
    if (!pressed.current) return;
    const distance = event.clientX - pressed.current.x;
    if (!drag && Math.abs(distance) < DRAG_PX) return;
    const byFrames = Math.round(distance / sight.scale);
    if (byFrames !== drag?.byFrames || !drag) setDrag({ held: pressed.current.held, byFrames });
  };
  const release = (event: PointerEvent<HTMLElement>) => {
    const was = pressed.current;
    pressed.current = null;
    if (!was) return;
    if (drag) {
      if (edit) takeOnReel(edit);
      setDrag(null);
      return;
    }
    if (was.additive) return;
    // A press on one of several that are chosen chooses it alone.
    useViewStore.setState({ reelSelection: [was.held.placed.item.id] });
    const strip = event.currentTarget.closest('[data-reel]');
    if (strip) goToReelFrame(frameAt(event.clientX - strip.getBoundingClientRect().left, sight));
  };
  const cancel = () => {
    pressed.current = null;
    setDrag(null);
  };
  const says = drag ? (edit ? (edit.ok ? edit.value.says : edit.reason) : 'Nothing changes') : null;
  return { shown, says, held: drag?.held ?? null, hands: { press, move, release, cancel } };
}

export type ReelHands = ReturnType<typeof useReelDrag>['hands'];
