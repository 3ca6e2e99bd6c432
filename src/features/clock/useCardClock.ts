'use client';
import { useEffect } from 'react';
import { ROUND_AND_ROUND } from '@/core/time/playing';
import { playWithoutPictures } from '@/features/clock/playback';
import { rangeOf, usePlayed, usePlayedLoop } from '@/features/clock/played';
import { usePlayerStore } from '@/features/clock/playStore';
import { useViewStore } from '@/features/project/viewStore';

/** Runs the clock while playing, where what is shown needs no pictures made ready. */
export function useCardClock(): void {
  const played = usePlayed();
  const playing = useViewStore((state) => state.playing);
  const soundOn = usePlayerStore((state) => state.soundOn);
  const loop = usePlayedLoop();
  useEffect(() => {
    if (!playing || !played) return;
    return playWithoutPictures(played, rangeOf(played.frames, loop), played.now(), { way: ROUND_AND_ROUND, soundOn });
  }, [playing, played, loop, soundOn]);
}
