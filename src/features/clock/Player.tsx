'use client';
import { useEffect, useRef, useState } from 'react';
import { playOnto, rangeOf, readAheadCalmly } from '@/features/clock/playback';
import { leavingLayers, preview, readyPreview } from '@/features/clock/previews';
import { useProject, useShot } from '@/features/project/hooks';
import { STILL_MILLISECONDS } from '@/features/project/pictures';
import { useViewStore } from '@/features/project/viewStore';

/** The picture of now as it will leave, and while playing, of each frame at its time. */
export function Player({ className = '' }: { className?: string }) {
  const canvas = useRef<HTMLCanvasElement>(null);
  const project = useProject();
  const shot = useShot();
  const playing = useViewStore((state) => state.playing);
  const loop = useViewStore((state) => state.loop);
  const frame = useViewStore((state) => (state.playing ? -1 : state.frame));
  const [missing, setMissing] = useState<string | null>(null);

  useEffect(() => {
    if (!playing || !shot || !canvas.current) return;
    return playOnto(canvas.current, project, shot, rangeOf(shot, loop), useViewStore.getState().frame);
  }, [playing, shot, loop, project]);

  useEffect(() => {
    if (frame >= 0 && shot) return readAheadCalmly(project, shot, rangeOf(shot, loop), frame);
  }, [frame, shot, loop, project]);

  useEffect(() => {
    if (frame < 0 || !shot) return;
    let current = true;
    const layers = leavingLayers(shot, Math.min(frame, shot.frames - 1));
    const show = (bitmap: ImageBitmap) => {
      if (!current) return;
      canvas.current?.getContext('2d')?.drawImage(bitmap, 0, 0);
      setMissing(null);
    };
    const ready = readyPreview(project.size, layers);
    if (ready) show(ready);
    const timer = ready
      ? 0
      : window.setTimeout(() => {
          preview(project.size, layers).then(show, () => current && setMissing('A picture of this frame can’t be had from the store.'));
        }, STILL_MILLISECONDS);
    return () => {
      current = false;
      window.clearTimeout(timer);
    };
  }, [frame, shot, project.size]);

  return (
    <div className={`relative ${className}`}>
      <canvas
        ref={canvas}
        width={project.size.width}
        height={project.size.height}
        role="img"
        aria-label={`Frame ${Math.max(frame, 0) + project.startFrame} of shot ${shot?.code ?? ''}`}
        className="block h-full w-full bg-white shadow-[0_10px_30px_rgba(29,42,35,0.14)]"
      />
      {missing && <p className="absolute inset-x-0 bottom-0 bg-rust p-2 text-paper text-xs">{missing}</p>}
    </div>
  );
}
