'use client';
import { Maximize2, ZoomIn, ZoomOut } from 'lucide-react';
import { useEffect, useMemo, useRef } from 'react';
import { framesOfReel } from '@/core/reel/reel';
import { Playhead } from '@/features/assemble/Playhead';
import { ReelItems } from '@/features/assemble/ReelItems';
import { ReelOverview } from '@/features/assemble/ReelOverview';
import { ReelRuler } from '@/features/assemble/ReelRuler';
import { ReelWords } from '@/features/assemble/ReelWords';
import { frameAt, scrollBy, showAll, sightOf, useReelView, zoomBy, zoomIn, zoomOut } from '@/features/assemble/reelView';
import { SoundLanes } from '@/features/assemble/SoundLanes';
import { useReelDrag } from '@/features/assemble/useReelDrag';
import { CommandMenu } from '@/features/commands/CommandMenu';
import { reelCommands, useReelSays } from '@/features/commands/reelCommands';
import { useProject } from '@/features/project/hooks';
import { useViewStore } from '@/features/project/viewStore';
import { Button } from '@/ui/Button';

/** How much of a wheel's turn doubles or halves the width of a frame. */
const WHEEL_DOUBLES = 240;

/** The reel on a measure of ticks: items, words, sounds, each frame as wide as the next; it is zoomed and scrolled. */
export function ReelStrip() {
  const project = useProject();
  const view = useReelView();
  const room = useRef<HTMLDivElement>(null);
  const totalNow = framesOfReel(project);
  const sight = useMemo(() => sightOf(view, totalNow), [view, totalNow]);
  const { shown, says, held, hands } = useReelDrag(project, sight);
  const done = useReelSays((state) => state.says);
  const now = () => useViewStore.getState().reelFrame;

  useEffect(() => {
    const element = room.current;
    if (!element) return;
    const measure = () => useReelView.setState({ widthPx: element.clientWidth });
    measure();
    const observer = new ResizeObserver(measure);
    observer.observe(element);
    // React listens to the wheel without being able to keep the page from zooming with it.
    const onWheel = (event: WheelEvent) => {
      event.preventDefault();
      const state = useReelView.getState();
      const seen = sightOf(state, totalNow);
      const x = event.clientX - element.getBoundingClientRect().left;
      if (event.ctrlKey || event.metaKey) zoomBy(2 ** (-event.deltaY / WHEEL_DOUBLES), totalNow, frameAt(x, seen));
      else scrollBy((event.deltaX + event.deltaY) / seen.scale, totalNow);
    };
    element.addEventListener('wheel', onWheel, { passive: false });
    return () => {
      observer.disconnect();
      element.removeEventListener('wheel', onWheel);
    };
  }, [totalNow]);

  return (
    <section aria-label="Measure" className="panel overflow-hidden px-3 pt-1.5 pb-2">
      <div className="flex items-center gap-1.5 pb-1">
        <CommandMenu label="Item" commands={reelCommands} />
        <p className="numbers min-w-0 flex-1 truncate px-1 text-2xs text-soft" data-testid="reel-says" role="status">
          {says ?? done ?? 'Drag items to move them, their ends to trim them. Wheel to scroll, with Ctrl to zoom.'}
        </p>
        <Button tight kind="quiet" aria-label="Zoom out on the reel" title="Zoom out" onClick={() => zoomOut(totalNow, now())}>
          <ZoomOut size={14} />
        </Button>
        <Button tight kind="quiet" aria-label="Zoom in on the reel" title="Zoom in" onClick={() => zoomIn(totalNow, now())}>
          <ZoomIn size={14} />
        </Button>
        <Button tight kind="quiet" aria-label="The whole reel" title="The whole reel" onClick={showAll}>
          <Maximize2 size={14} />
        </Button>
      </div>
      <div ref={room} data-reel="" className="relative overflow-clip">
        <ReelRuler sight={sight} />
        <ReelItems project={shown} sight={sight} held={held} hands={hands} />
        <div className="max-h-[110px] overflow-y-auto overflow-x-clip pt-1">
          <ReelWords project={shown} sight={sight} />
          <SoundLanes project={shown} sight={sight} />
        </div>
        <Playhead sight={sight} />
      </div>
      <ReelOverview sight={sight} />
    </section>
  );
}
