'use client';
import { useMemo } from 'react';
import type { Sound } from '@/core/document/sound';
import { peakWithin } from '@/core/sound/peaks';
import { useRecordingStore } from '@/features/project/recordings';

const PARTS = 240;

/** How loud a part of a recording is from left to right, as wide and tall as what it lies in. */
export function WaveForm({ sound, fromSample, samples }: { sound: Sound; fromSample: number; samples: number }) {
  const peaks = useRecordingStore((state) => state.peaks.get(sound.recording.original));
  const points = useMemo(() => {
    if (!peaks) return '';
    const at = (part: number) => fromSample + (part * samples) / PARTS;
    // Loudness is heard by its root rather than by itself: soft sounds are seen, too.
    const reach = Array.from({ length: PARTS }, (_, part) => Math.max(0.02, Math.sqrt(peakWithin(peaks, at(part), at(part + 1)))));
    const upper = reach.map((by, part) => `${part},${(1 - by).toFixed(3)}`);
    const lower = reach.map((by, part) => `${part},${(1 + by).toFixed(3)}`).reverse();
    return [...upper, ...lower].join(' ');
  }, [peaks, fromSample, samples]);
  return (
    <svg
      aria-hidden="true"
      viewBox={`0 0 ${PARTS - 1} 2`}
      preserveAspectRatio="none"
      className="pointer-events-none absolute inset-0 h-full w-full fill-teal/70"
    >
      <polygon points={points} />
    </svg>
  );
}
