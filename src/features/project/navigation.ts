import { framesOfReel, reelFrameOf, shotAt } from '@/core/reel/reel';
import type { Block } from '@/core/sheet/block';
import { sheetColumns } from '@/core/sheet/columns';
import { inView, shotInView } from '@/features/project/hooks';
import { useViewStore } from '@/features/project/viewStore';
import { useProjectStore } from '@/features/sync/projectStore';

const clamp = (frame: number, frames: number) => Math.max(0, Math.min(frames - 1, frame));

/** Goes to a frame of the reel (from 0), at most its last; the shot that is on then is the open one. */
export function goToReelFrame(frame: number): void {
  const { project } = useProjectStore.getState();
  if (!project) return;
  const reelFrame = clamp(frame, framesOfReel(project));
  const there = shotAt(project, reelFrame);
  const { shotId } = useViewStore.getState();
  const leaves = there && there.shot.id !== shotInView(project, shotId)?.id;
  useViewStore.setState({
    reelFrame,
    ...(there
      ? { shotId: there.shot.id, frame: clamp(reelFrame - there.startFrame + there.fromFrame, there.shot.frames), selection: null }
      : {}),
    ...(leaves ? { loop: null, levelId: null } : {}),
  });
}

/** The first frame of the reel that shows a frame of a shot; what is current now where none does. */
function reelFrameFor(shotId: string, frame: number): number {
  const { project } = useProjectStore.getState();
  const { reelFrame } = useViewStore.getState();
  return (project && reelFrameOf(project, shotId, frame)?.frame) ?? reelFrame;
}

/** Goes to a frame of the open shot, at most its last, or, on the reel, as many frames on; lets go of the selection unless `keepSelection`. */
export function goToFrame(frame: number, keepSelection = false): void {
  const view = inView();
  if (!view) return;
  const { onReel, reelFrame } = useViewStore.getState();
  if (onReel) goToReelFrame(reelFrame + frame - view.frame);
  else useViewStore.setState({ frame: clamp(frame, view.shot.frames), ...(keepSelection ? {} : { selection: null }) });
}

/** Opens a shot at a frame, stopping playback. */
export function goToShot(shotId: string, frame = 0, levelId?: string): void {
  const reelFrame = reelFrameFor(shotId, frame);
  useViewStore.setState({ shotId, frame, reelFrame, selection: null, loop: null, playing: false, levelId: levelId ?? null });
}

/** Lets the reel be stepped, scrubbed and played from the open shot's frame on, until what is returned is called. */
export function workOnReel(): () => void {
  const view = inView();
  useViewStore.setState({ onReel: true, ...(view ? { reelFrame: reelFrameFor(view.shot.id, view.frame) } : {}) });
  return () => useViewStore.setState({ onReel: false, playing: false });
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
