'use client';
import { type ReactNode, type RefObject, useEffect, useRef, useState } from 'react';
import { type PlayWay, ROUND_AND_ROUND } from '@/core/time/playing';
import { playOnto, playStartOf, readAheadCalmly } from '@/features/clock/playback';
import { rangeOf, usePlayed, usePlayedFrame, usePlayedLoop } from '@/features/clock/played';
import { usePlayerStore } from '@/features/clock/playStore';
import { fullSize, onceComposited, type PreviewSize, preview, readyPreview, shownSize } from '@/features/clock/previews';
import { paintOn, useShrink } from '@/features/clock/shownPicture';
import { useProject } from '@/features/project/hooks';
import { STILL_MILLISECONDS } from '@/features/project/pictures';
import { useViewStore } from '@/features/project/viewStore';

/** A frame gone to this soon after the last is one of many. */
const ON_THE_WAY_MILLISECONDS = 150;
/** A frame that is looked at for so long is shown as it leaves, pixel by pixel. */
const LOOKED_AT_MILLISECONDS = 250;

type Props = {
  readonly className?: string;
  readonly way?: PlayWay;
  /** Whether pictures that stand are shown as they leave at once, since their pixels are asked for. */
  readonly isExact?: boolean;
  /** What lies over the picture; given the canvas, and how often a still picture has been painted on it. */
  readonly over?: (canvas: RefObject<HTMLCanvasElement | null>, painted: number) => ReactNode;
};

/** The picture of now as it will leave, and while playing, of each frame at its time. */
export function Player({ className = '', way = ROUND_AND_ROUND, isExact = false, over }: Props) {
  const canvas = useRef<HTMLCanvasElement>(null);
  const project = useProject();
  const played = usePlayed();
  const playing = useViewStore((state) => state.playing);
  const finishOff = useViewStore((state) => state.finishOff);
  const soundOn = usePlayerStore((state) => state.soundOn);
  const loop = usePlayedLoop();
  const frame = usePlayedFrame(true);
  const shrink = useShrink(canvas, project.size.width);
  const [missing, setMissing] = useState<string | null>(null);
  const [painted, setPainted] = useState(0);
  const movedAt = useRef(Number.NEGATIVE_INFINITY);
  const coming = useRef(0);
  const isCovered = over !== undefined;

  useEffect(() => {
    if (!playing || !played || !canvas.current) return;
    const range = rangeOf(played.frames, loop);
    return playOnto(canvas.current, played, range, playStartOf(range, played.now(), way), { way, soundOn });
  }, [playing, played, loop, way, soundOn]);

  // biome-ignore lint/correctness/useExhaustiveDependencies: made ready as large as it is shown now
  useEffect(() => {
    if (frame >= 0 && played) return readAheadCalmly(played, rangeOf(played.frames, loop), Math.min(frame, played.frames - 1), way);
  }, [frame, played, loop, way, shrink]);

  // biome-ignore lint/correctness/useExhaustiveDependencies: shown as large as it is now
  useEffect(() => {
    if (frame < 0 || !played) return;
    let current = true;
    const inFinish = (size: PreviewSize) => (finishOff ? { ...size, finish: [] } : size);
    const whole = inFinish(fullSize(project));
    const size = isExact ? whole : inFinish(shownSize(project, usePlayerStore.getState().shrink));
    const stack = played.stackAt(Math.min(frame, played.frames - 1));
    let wholeTimer = 0;
    const show = (bitmap: ImageBitmap) => {
      if (!current || !canvas.current) return;
      paintOn(canvas.current, bitmap);
      setMissing(null);
      if (isCovered) setPainted((times) => times + 1);
      if (size.shrink !== 1)
        wholeTimer ||= window.setTimeout(() => onceComposited(whole, stack, show).catch(showMissing), LOOKED_AT_MILLISECONDS);
    };
    const showMissing = () => current && setMissing('A picture of this frame is missing from the store.');
    const ready = readyPreview(size, stack);
    if (ready) show(ready);
    // Only whoever goes over many frames, faster than they come, passes some that are not worth asking for.
    const [moved, movedBefore] = [performance.now(), movedAt.current];
    movedAt.current = moved;
    const ask = () => {
      coming.current++;
      const asked = preview(size, stack).finally(() => coming.current--);
      asked.then(show, showMissing);
    };
    const isOnTheWay = coming.current > 0 && moved - movedBefore < ON_THE_WAY_MILLISECONDS;
    if (!ready && !isOnTheWay) ask();
    const timer = !ready && isOnTheWay ? window.setTimeout(ask, STILL_MILLISECONDS) : 0;
    return () => {
      current = false;
      window.clearTimeout(timer);
      window.clearTimeout(wholeTimer);
    };
  }, [frame, played, project, finishOff, isExact, shrink, isCovered]);

  return (
    <div className={`relative ${className}`}>
      <canvas
        ref={canvas}
        width={project.size.width}
        height={project.size.height}
        role="img"
        aria-label={`Frame ${Math.max(frame, 0) + project.firstFrameNumber} of ${played?.name ?? 'nothing'}`}
        className="block h-full w-full bg-white shadow-[0_10px_30px_rgba(29,42,35,0.14)]"
      />
      {over?.(canvas, painted)}
      {missing && <p className="absolute inset-x-0 bottom-0 bg-rust p-2 text-paper text-xs">{missing}</p>}
    </div>
  );
}
