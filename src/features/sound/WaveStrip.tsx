'use client';
import { useMemo } from 'react';
import type { Sound } from '@/core/sheet/sound';
import { peakWithin } from '@/core/sound/peaks';
import { useRecordingStore } from '@/features/project/recordings';

const PARTS = 240;

/** A whole recording from left to right, the part that is heard in full colour. */
export function WaveStrip({ sound }: { sound: Sound }) {
  const { original, samples } = sound.recording;
  const peaks = useRecordingStore((state) => state.peaks.get(original));
  const fact = useRecordingStore((state) => state.facts.get(original));
  const points = useMemo(() => {
    if (!peaks) return '';
    const reach = Array.from({ length: PARTS }, (_, part) =>
      Math.max(0.02, Math.sqrt(peakWithin(peaks, (part * samples) / PARTS, ((part + 1) * samples) / PARTS))),
    );
    const upper = reach.map((by, part) => `${part},${(1 - by).toFixed(3)}`);
    const lower = reach.map((by, part) => `${part},${(1 + by).toFixed(3)}`).reverse();
    return [...upper, ...lower].join(' ');
  }, [peaks, samples]);
  if (typeof fact === 'string')
    return (
      <p className="text-rust text-xs">{fact === 'missing' ? 'Its recording is not in the store.' : 'Its recording can’t be read.'}</p>
    );
  const from = (sound.fromSample * 100) / samples;
  const to = ((sound.fromSample + sound.samples) * 100) / samples;
  return (
    <div className="relative h-9 overflow-hidden rounded border border-line bg-sunk">
      <svg
        aria-hidden="true"
        viewBox={`0 0 ${PARTS - 1} 2`}
        preserveAspectRatio="none"
        className="absolute inset-0 h-full w-full fill-teal"
      >
        <polygon points={points} />
      </svg>
      <span className="absolute inset-y-0 left-0 bg-paper/80" style={{ width: `${from}%` }} />
      <span className="absolute inset-y-0 right-0 bg-paper/80" style={{ width: `${100 - to}%` }} />
    </div>
  );
}
