'use client';
import { useEffect } from 'react';
import { ROUND_AND_ROUND } from '@/core/time/playing';
import { playWithoutPictures, rangeOf } from '@/features/clock/playback';
import { usePlayerStore } from '@/features/clock/playStore';
import { useProject, useShot } from '@/features/project/hooks';
import { useViewStore } from '@/features/project/viewStore';

/** Runs the clock while playing, where what is shown needs no pictures made ready. */
export function useCardClock(): void {
  const project = useProject();
  const shot = useShot();
  const playing = useViewStore((state) => state.playing);
  const soundOn = usePlayerStore((state) => state.soundOn);
  const loop = useViewStore((state) => state.loop);
  useEffect(() => {
    if (!playing || !shot) return;
    const range = rangeOf(shot, loop);
    return playWithoutPictures(project, shot, range, useViewStore.getState().frame, { way: ROUND_AND_ROUND, soundOn });
  }, [playing, shot, loop, project, soundOn]);
}
