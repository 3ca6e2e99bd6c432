import type { Block } from '@/core/sheet/block';
import { sheetColumns } from '@/core/sheet/columns';
import { inView } from '@/features/project/hooks';
import { useViewStore } from '@/features/project/viewStore';

const clamp = (frame: number, frames: number) => Math.max(0, Math.min(frames - 1, frame));

/** Goes to a frame of the open shot, at most its last; lets go of the selection unless `keepSelection`. */
export function goToFrame(frame: number, keepSelection = false): void {
  const view = inView();
  if (!view) return;
  useViewStore.setState({ frame: clamp(frame, view.shot.frames), ...(keepSelection ? {} : { selection: null }) });
}

/** Opens a shot at a frame, stopping playback. */
export function goToShot(shotId: string, frame = 0, levelId?: string): void {
  useViewStore.setState({ shotId, frame, selection: null, loop: null, playing: false, levelId: levelId ?? null });
}

/** Goes to the level next to the right (1) or left (−1), as the sheet shows them. */
export function goToLevel(direction: -1 | 1): void {
  const view = inView();
  if (!view?.level) return;
  const columns = sheetColumns(view.shot);
  const next = columns[columns.indexOf(view.level) + direction];
  if (next) useViewStore.setState({ levelId: next.id, selection: null });
}

/** Makes the selection reach from where it began to a frame and level. */
export function extendSelection(toFrame: number, toLevelId: string): void {
  const view = inView();
  if (!view?.level) return;
  const { selection } = useViewStore.getState();
  const anchorFrame = selection ? (view.frame === selection.toFrame ? selection.fromFrame : selection.toFrame) : view.frame;
  const anchorLevel = selection ? (selection.levelIds[0] as string) : view.level.id;
  const ids = sheetColumns(view.shot).map((level) => level.id);
  const [from, to] = [ids.indexOf(anchorLevel), ids.indexOf(toLevelId)];
  const between = ids.slice(Math.min(from, to), Math.max(from, to) + 1);
  const frame = clamp(toFrame, view.shot.frames);
  const next: Block = {
    fromFrame: Math.min(anchorFrame, frame),
    toFrame: Math.max(anchorFrame, frame),
    levelIds: from <= to ? between : between.reverse(),
  };
  useViewStore.setState({ selection: next, frame });
}
