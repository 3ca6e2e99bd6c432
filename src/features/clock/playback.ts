import { stackKey } from '@/core/reel/stacks';
import type { Project, Shot } from '@/core/sheet/document';
import { frameOfTick, LateCount, type PlayRange, tickDue } from '@/core/sheet/playing';
import type { Rate } from '@/core/time/rate';
import { usePlayStore } from '@/features/clock/playStore';
import { leavingLayers, readyPreview } from '@/features/clock/previews';
import { ReadAhead } from '@/features/clock/readAhead';
import { useViewStore } from '@/features/project/viewStore';

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
  const frameOf = (tick: number) => frameOfTick(tick, range, startFrame);
  const layersOf = (tick: number) => leavingLayers(shot, frameOf(tick));
  const count = new LateCount((tick) => stackKey(layersOf(tick)), frameOf);
  const millisecondsPerTick = (1000 * rate.den) / rate.num;
  let started = false;
  const startWhenReady = () => {
    if (started || stopped || !ahead.leads(millisecondsPerTick)) return;
    started = true;
    usePlayStore.setState({ preparing: false });
    request = requestAnimationFrame((time) => step(time)(time));
  };
  const ahead = new ReadAhead(size, layersOf, range.toFrame - range.fromFrame + 1, startWhenReady);

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
    ahead.from(tick + 1, 'playing');
    request = requestAnimationFrame(step(startTime));
  };

  usePlayStore.setState({ ticks: 0, late: 0, lateFrames: [], preparing: true });
  ahead.from(0, 'starting');
  startWhenReady();
  return () => {
    stopped = true;
    ahead.stop();
    cancelAnimationFrame(request);
    usePlayStore.setState({ preparing: false });
  };
}

/** What is played of a shot: the loop as far as the shot has it, else all of it. */
export function rangeOf(shot: Shot, loop: PlayRange | null): PlayRange {
  const lastFrame = shot.frames - 1;
  return loop
    ? { fromFrame: Math.min(loop.fromFrame, lastFrame), toFrame: Math.min(loop.toFrame, lastFrame) }
    : { fromFrame: 0, toFrame: lastFrame };
}

/** Plays a range by the clock where nothing has to be composited, until told to stop: a tick in which nothing was painted is late. */
export function playWithoutPictures(rate: Rate, range: PlayRange, startFrame: number): () => void {
  const frameOf = (tick: number) => frameOfTick(tick, range, startFrame);
  const count = new LateCount(String, frameOf);
  let request = 0;
  let startTime: number | null = null;
  const step = (time: number) => {
    startTime ??= time;
    const { tick, frame } = tickDue(Math.max(0, time - startTime), rate, range, startFrame);
    const ticksBefore = count.ticks;
    count.due(tick, String(tick));
    if (useViewStore.getState().frame !== frame) useViewStore.setState({ frame });
    if (count.ticks !== ticksBefore) usePlayStore.setState({ ticks: count.ticks, late: count.late, lateFrames: [...count.lateFrames] });
    request = requestAnimationFrame(step);
  };
  usePlayStore.setState({ ticks: 0, late: 0, lateFrames: [], preparing: false });
  request = requestAnimationFrame(step);
  return () => cancelAnimationFrame(request);
}

const IDLE_BEFORE_READING_MILLISECONDS = 400;

/** Makes what playing from a frame would show ready, calmly, once nothing has happened for a moment; stopped by what is returned. */
export function readAheadCalmly(project: Project, shot: Shot, range: PlayRange, startFrame: number): () => void {
  let ahead: ReadAhead | null = null;
  const timer = setTimeout(() => {
    const layersOf = (tick: number) => leavingLayers(shot, frameOfTick(tick, range, startFrame));
    ahead = new ReadAhead(project.size, layersOf, range.toFrame - range.fromFrame + 1);
    ahead.from(0, 'idle');
  }, IDLE_BEFORE_READING_MILLISECONDS);
  return () => {
    clearTimeout(timer);
    ahead?.stop();
  };
}
