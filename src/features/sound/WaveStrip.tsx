'use client';
import type { Sound } from '@/core/document/sound';
import { useRecordingStore } from '@/features/project/recordings';
import { WaveForm } from '@/features/sound/WaveForm';

/** A whole recording from left to right, the part that is heard in full colour. */
export function WaveStrip({ sound }: { sound: Sound }) {
  const { original, samples } = sound.recording;
  const fact = useRecordingStore((state) => state.facts.get(original));
  if (typeof fact === 'string')
    return (
      <p className="text-rust text-xs">{fact === 'missing' ? 'Its recording is not in the store.' : 'Its recording can’t be read.'}</p>
    );
  const from = (sound.fromSample * 100) / samples;
  const to = ((sound.fromSample + sound.samples) * 100) / samples;
  return (
    <div className="relative h-9 overflow-hidden rounded border border-line bg-sunk">
      <WaveForm sound={sound} fromSample={0} samples={samples} />
      <span className="absolute inset-y-0 left-0 bg-paper/80" style={{ width: `${from}%` }} />
      <span className="absolute inset-y-0 right-0 bg-paper/80" style={{ width: `${100 - to}%` }} />
    </div>
  );
}
