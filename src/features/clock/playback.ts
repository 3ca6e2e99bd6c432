import { stackKey } from '@/core/handover/framePlan';
import type { Project, Shot } from '@/core/sheet/document';
import { frameOfTick, LateCount, type PlayRange, tickDue } from '@/core/sheet/playing';
import { usePlayStore } from '@/features/clock/playStore';
import { leavingLayers, preview, previewsHeld, readyPreview } from '@/features/clock/previews';
import { useViewStore } from '@/features/project/viewStore';

const READ_AHEAD_FRAMES = 96;
const READY_BEFORE_START = 48;
const ASKED_AT_ONCE = 12;

/**
 * Plays a range of a shot onto a canvas until told to stop. The clock decides which frame is due; a
 * picture that isn't ready by then is late and counted, and the clock goes on.
 */
export function playOnto(canvas: HTMLCanvasElement, project: Project, shot: Shot, range: PlayRange, startFrame: number): () => void {
  const context = canvas.getContext('2d');
  if (!context) throw new Error('This browser gives no canvas to play on.');
  const { size, rate } = project;
  let stopped = false;
  let request = 0;
  let aheadTick = 0;
  const frameOf = (tick: number) => frameOfTick(tick, range, startFrame);
  const layersOf = (tick: number) => leavingLayers(shot, frameOf(tick));
  const count = new LateCount((tick) => stackKey(layersOf(tick)), frameOf);
  const ahead = Math.min(READ_AHEAD_FRAMES, Math.floor(previewsHeld(size) / 2));

  let asked = 0;
  let wantedTick = 0;
  /** Asks for pictures up to a tick, a few at a time, so that they are fetched and decoded side by side. */
  const readAhead = (untilTick: number) => {
    wantedTick = Math.max(wantedTick, untilTick);
    while (aheadTick < wantedTick && asked < ASKED_AT_ONCE && !stopped) {
      asked++;
      void preview(size, layersOf(aheadTick++))
        .catch(() => undefined)
        .finally(() => {
          asked--;
          readAhead(wantedTick);
        });
    }
  };

  let showing: string | null = null;
  const step = (startTime: number) => (time: number) => {
    if (stopped) return;
    const { tick, frame } = tickDue(Math.max(0, time - startTime), rate, range, startFrame);
    const layers = layersOf(tick);
    const key = stackKey(layers);
    if (key !== showing) {
      const bitmap = readyPreview(size, layers);
      if (bitmap) {
        context.drawImage(bitmap, 0, 0);
        showing = key;
      }
    }
    const ticksBefore = count.ticks;
    count.due(tick, showing);
    if (useViewStore.getState().frame !== frame) useViewStore.setState({ frame });
    if (count.ticks !== ticksBefore) usePlayStore.setState({ ticks: count.ticks, late: count.late, lateFrames: [...count.lateFrames] });
    if (aheadTick < tick + 1) aheadTick = tick + 1;
    readAhead(tick + ahead);
    request = requestAnimationFrame(step(startTime));
  };

  usePlayStore.setState({ ticks: 0, late: 0, lateFrames: [], preparing: true });
  const first = Array.from({ length: Math.min(READY_BEFORE_START, ahead, range.toFrame - range.fromFrame + 1) }, (_, tick) =>
    layersOf(tick),
  );
  readAhead(ahead);
  void Promise.allSettled(first.map((layers) => preview(size, layers))).then(() => {
    if (stopped) return;
    usePlayStore.setState({ preparing: false });
    request = requestAnimationFrame((time) => step(time)(time));
  });
  return () => {
    stopped = true;
    cancelAnimationFrame(request);
    usePlayStore.setState({ preparing: false });
  };
}
