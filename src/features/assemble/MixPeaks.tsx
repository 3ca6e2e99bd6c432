'use client';
import { useEffect, useRef, useState } from 'react';
import { soundsOfReel } from '@/core/reel/sounds';
import { type OverloadRun, overWords } from '@/core/sound/overloads';
import { plural } from '@/core/time/counts';
import { framesInWords } from '@/core/time/frameWords';
import { STOP } from '@/core/words';
import { measureMix } from '@/features/clock/measureMix';
import { useProject } from '@/features/project/hooks';
import { goToReelFrame } from '@/features/project/navigation';
import { Button } from '@/ui/Button';

const MOST_NAMED = 8;

type MixMeasure = { readonly of: ReturnType<typeof soundsOfReel>; readonly runs: readonly OverloadRun[] };

/** Measures the mix of the whole reel, and names the frames on which it is louder than full scale. */
export function MixPeaks() {
  const project = useProject();
  const sounds = soundsOfReel(project);
  const [part, setPart] = useState<number | null>(null);
  const [failure, setFailure] = useState<string | null>(null);
  const [measured, setMeasured] = useState<MixMeasure | null>(null);
  const stopper = useRef<AbortController | null>(null);
  useEffect(() => () => stopper.current?.abort(), []);
  if (sounds.length === 0) return null;
  const measure = async () => {
    const own = new AbortController();
    stopper.current = own;
    setPart(0);
    setFailure(null);
    try {
      const runs = await measureMix(project, setPart, own.signal);
      if (runs) setMeasured({ of: sounds, runs });
    } catch (error) {
      setFailure(`The mix could not be measured: ${error instanceof Error ? error.message : 'a recording is missing'}.`);
    }
    setPart(null);
  };
  const isStale = measured !== null && measured.of !== sounds;
  return (
    <section aria-label="Level of the mix" className="space-y-1.5 py-2 text-xs">
      {part === null ? (
        <Button tight onClick={() => void measure()}>
          {measured ? 'Measure the mix again' : 'Measure the mix'}
        </Button>
      ) : (
        <div className="flex items-center gap-2">
          <progress className="h-2 flex-1 accent-lime" value={part} max={1} aria-label="Mix measured" />
          <Button tight onClick={() => stopper.current?.abort()}>
            {STOP}
          </Button>
        </div>
      )}
      {failure && (
        <p role="alert" className="text-rust">
          {failure}
        </p>
      )}
      {measured && isStale && <p className="text-soft">Sounds have changed since it was measured.</p>}
      {measured && !isStale && measured.runs.length === 0 && <p role="status">Nowhere louder than full scale (0 dBFS).</p>}
      {measured && !isStale && measured.runs.length > 0 && (
        <>
          <p role="status" className="text-rust">
            Louder than full scale (0 dBFS) in {plural(measured.runs.length, 'place')}: it is cut off there. Lower a sound’s level.
          </p>
          <ul>
            {measured.runs.slice(0, MOST_NAMED).map(({ fromFrame, toFrame, peak }) => (
              <li key={fromFrame}>
                <button type="button" className="underline" onClick={() => goToReelFrame(fromFrame)}>
                  {framesInWords(fromFrame, toFrame, project.firstFrameNumber)}
                </button>{' '}
                <span className="numbers">{overWords(peak)}</span>
              </li>
            ))}
            {measured.runs.length > MOST_NAMED && <li className="text-soft">and {measured.runs.length - MOST_NAMED} more</li>}
          </ul>
        </>
      )}
    </section>
  );
}
