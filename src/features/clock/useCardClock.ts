'use client';
import { useEffect } from 'react';
import { ROUND_AND_ROUND } from '@/core/sheet/playing';
import { playWithoutPictures, rangeOf } from '@/features/clock/playback';
import { useProject, useShot } from '@/features/project/hooks';
import { useViewStore } from '@/features/project/viewStore';

/** Runs the clock while playing, where what is shown needs no pictures made ready. */
export function useCardClock(): void {
  const { rate } = useProject();
  const shot = useShot();
  const playing = useViewStore((state) => state.playing);
  const loop = useViewStore((state) => state.loop);
  useEffect(() => {
    if (!playing || !shot) return;
    const range = rangeOf(shot, loop);
    return playWithoutPictures(rate, range, useViewStore.getState().frame, ROUND_AND_ROUND);
  }, [playing, shot, loop, rate]);
}
