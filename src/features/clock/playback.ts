import { stackAtFrame } from '@/core/render/renderPlan';
import { frameOfTick, LateCount, type PlayRange, type PlayWay, tickDue, ticksToPlay } from '@/core/time/playing';
import { chooseClock } from '@/features/clock/chooseClock';
import type { PlayClock } from '@/features/clock/playClock';
import type { Played } from '@/features/clock/played';
import { type PlaySettings, usePlayerStore, usePlayStore } from '@/features/clock/playStore';
import { playedPreview, playedSize } from '@/features/clock/previews';
import { ReadAhead } from '@/features/clock/readAhead';
import { paintOn } from '@/features/clock/shownPicture';
import { useViewStore } from '@/features/project/viewStore';

/** Tells how playing goes, when a tick has passed. */
function tell(count: LateCount, ticksBefore: number): void {
  if (count.ticks !== ticksBefore) usePlayStore.setState({ ticks: count.ticks, late: count.late, lateFrames: [...count.lateFrames] });
}

/** Ends playing on the last frame, every tick counted. */
function endOn(played: Played, count: LateCount, tick: number, frame: number, showing: string): void {
  const ticksBefore = count.ticks;
  count.due(tick + 1, showing);
  tell(count, ticksBefore);
  played.show(frame);
  useViewStore.setState({ playing: false });
}

/**
 * Plays a range onto a canvas until told to stop or all rounds are over. The clock decides which frame
 * is due; a picture that isn't ready by then is late and counted, and the clock goes on. Pictures are
 * made no larger than they are shown.
 */
export function playOnto(
  canvas: HTMLCanvasElement,
  played: Played,
  range: PlayRange,
  startFrame: number,
  playing: PlaySettings,
): () => void {
  const { way } = playing;
  const { project } = played;
  const plan = played.plan();
  const { rate } = project;
  const size = playedSize(project, usePlayerStore.getState().shrink, way.everySecond);
  let stopped = false;
  let request = 0;
  const frameOf = (tick: number) => frameOfTick(tick, range, startFrame, way);
  const stackOf = (tick: number) => stackAtFrame(plan, frameOf(tick));
  const count = new LateCount((tick) => stackOf(tick).key, frameOf);
  const millisecondsPerTick = (1000 * rate.den * way.speed.den) / (rate.num * way.speed.num);
  let clock: PlayClock | null = null;
  let started = false;
  const startWhenReady = () => {
    if (started || stopped || !clock || !ahead.leads(millisecondsPerTick)) return;
    started = true;
    usePlayStore.setState({ preparing: false });
    clock.start();
    request = requestAnimationFrame(step(clock));
  };
  const ticks = ticksToPlay(range, startFrame, way);
  const reach = range.toFrame - range.fromFrame + 1;
  const ahead = new ReadAhead(size, stackOf, ticks === null ? reach : Math.min(reach, ticks), startWhenReady);

  let showing: string | null = null;
  const step = (by: PlayClock) => (time: number) => {
    if (stopped) return;
    const { tick, frame, isOver } = tickDue(by.elapsedMilliseconds(time), rate, range, startFrame, way);
    const stack = stackOf(tick);
    const { key } = stack;
    if (key !== showing) {
      const bitmap = playedPreview(size, stack);
      if (bitmap) {
        paintOn(canvas, bitmap);
        showing = key;
      }
    }
    const ticksBefore = count.ticks;
    count.due(tick, showing);
    if (isOver) {
      endOn(played, count, tick, frame, showing ?? '');
      return;
    }
    if (played.now() !== frame) played.show(frame);
    tell(count, ticksBefore);
    ahead.from(tick + 1, 'playing');
    request = requestAnimationFrame(step(by));
  };

  usePlayStore.setState({ ticks: 0, late: 0, lateFrames: [], preparing: true });
  ahead.from(0, 'starting');
  const leaveClock = chooseClock(played, range, startFrame, playing, (chosen) => {
    clock = chosen;
    startWhenReady();
  });
  return () => {
    stopped = true;
    leaveClock();
    ahead.stop();
    cancelAnimationFrame(request);
    usePlayStore.setState({ preparing: false });
  };
}

/** Where playing starts: on the current frame, or, when that is where playing would end at once, at the beginning of the range. */
export function playStartOf(range: PlayRange, frame: number, { rounds, backwards }: PlayWay): number {
  const end = backwards ? range.fromFrame : range.toFrame;
  return rounds !== null && frame === end ? (backwards ? range.toFrame : range.fromFrame) : frame;
}

/** Plays a range by the clock where nothing has to be composited, until told to stop: a tick in which nothing was painted is late. */
export function playWithoutPictures(played: Played, range: PlayRange, startFrame: number, playing: PlaySettings): () => void {
  const { way } = playing;
  const frameOf = (tick: number) => frameOfTick(tick, range, startFrame, way);
  const count = new LateCount(String, frameOf);
  let request = 0;
  const step = (by: PlayClock) => (time: number) => {
    const { tick, frame, isOver } = tickDue(by.elapsedMilliseconds(time), played.project.rate, range, startFrame, way);
    const ticksBefore = count.ticks;
    count.due(tick, String(tick));
    if (isOver) {
      endOn(played, count, tick, frame, String(tick));
      return;
    }
    if (played.now() !== frame) played.show(frame);
    tell(count, ticksBefore);
    request = requestAnimationFrame(step(by));
  };
  usePlayStore.setState({ ticks: 0, late: 0, lateFrames: [], preparing: true });
  const leaveClock = chooseClock(played, range, startFrame, playing, (clock) => {
    usePlayStore.setState({ preparing: false });
    clock.start();
    request = requestAnimationFrame(step(clock));
  });
  return () => {
    leaveClock();
    cancelAnimationFrame(request);
    usePlayStore.setState({ preparing: false });
  };
}

const IDLE_BEFORE_READING_MILLISECONDS = 400;

/** Makes what playing from a frame would show ready, calmly, once nothing has happened for a moment; stopped by what is returned. */
export function readAheadCalmly({ project, plan: planNow }: Played, range: PlayRange, startFrame: number, way: PlayWay): () => void {
  let ahead: ReadAhead | null = null;
  const timer = setTimeout(() => {
    const plan = planNow();
    const stackOf = (tick: number) => stackAtFrame(plan, frameOfTick(tick, range, startFrame, way));
    const size = playedSize(project, usePlayerStore.getState().shrink, way.everySecond);
    ahead = new ReadAhead(size, stackOf, range.toFrame - range.fromFrame + 1);
    ahead.from(0, 'idle');
  }, IDLE_BEFORE_READING_MILLISECONDS);
  return () => {
    clearTimeout(timer);
    ahead?.stop();
  };
}
