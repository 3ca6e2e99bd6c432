import { useEffect } from 'react';
import type { Level, Shot } from '@/core/document/model';
import { drawingShownAt, neighbourDrawing } from '@/core/sheet/reading';
import { nominalRate } from '@/core/time/rate';
import { seenLayers } from '@/features/draw/usePainted';
import { useProject } from '@/features/project/hooks';
import { makeReady } from '@/features/project/pictures';

/** How long a frame is looked at before those are made ready that may be stepped to from it. */
const CALM_MILLISECONDS = 250;

/**
 * The frames a key goes to from a frame, the likeliest first: the frame itself, the next drawing and the one before, a second on and
 * a second back. A frame outside the shot is none.
 */
export function framesSteppedTo(shot: Shot, level: Level, frame: number, framesPerSecond: number): readonly number[] {
  const drawings = (['after', 'before'] as const).flatMap((side) => neighbourDrawing(level, frame, side)?.startFrame ?? []);
  const seconds = [frame + framesPerSecond, frame - framesPerSecond].filter((at) => at >= 0 && at < shot.frames);
  return [...new Set([frame, ...drawings, ...seconds])];
}

/** Once a frame has been looked at for a moment, has ready what the next keys are likely to show, so that it is there with the step. */
export function useNextReady(shot: Shot, level: Level, frame: number, widthPx: number): void {
  const framesPerSecond = nominalRate(useProject().rate);
  useEffect(() => {
    const stop = new AbortController();
    const timer = setTimeout(() => {
      const places = framesSteppedTo(shot, level, frame, framesPerSecond).map((at) => ({
        looks: seenLayers(shot.levels, at, null).map(({ picture }) => ({ digest: picture, widthPx })),
        drawnOn: drawingShownAt(level, at)?.picture ?? undefined,
      }));
      void makeReady(places, stop.signal);
    }, CALM_MILLISECONDS);
    return () => {
      clearTimeout(timer);
      stop.abort();
    };
  }, [shot, level, frame, framesPerSecond, widthPx]);
}
