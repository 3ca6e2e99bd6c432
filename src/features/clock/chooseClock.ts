import type { PlayRange } from '@/core/time/playing';
import { type PlayClock, pageClock } from '@/features/clock/playClock';
import type { Played } from '@/features/clock/played';
import { type PlaySettings, usePlayStore } from '@/features/clock/playStore';
import { SoundClock } from '@/features/clock/soundClock';
import { isAudible } from '@/features/clock/soundOut';
import { heardNow } from '@/features/project/solo';

const NO_SOUND = 'No sound comes out of this machine: played by the clock of the page.';
const SOUND_STOPPED = 'The sound stopped on the way; the frames went on in time.';

/** Sounds that are heard over frames of what is played, both ends inclusive. */
const heardOver = ({ sounds }: Played, { fromFrame, toFrame }: PlayRange) =>
  heardNow(sounds).filter(({ sound, startFrame, endFrame }) => !sound.muted && startFrame <= toFrame && endFrame > fromFrame);

/**
 * The clock a range is played by, as soon as it is ready: that of its sound when there is any and it is on, else
 * the page's. What is returned gives it up before it has come, or stops it after.
 */
export function chooseClock(
  played: Played,
  range: PlayRange,
  startFrame: number,
  { way, soundOn }: PlaySettings,
  ready: (clock: PlayClock) => void,
): () => void {
  usePlayStore.setState({ byTheSound: false, soundTrouble: null });
  const sounds = soundOn ? heardOver(played, range) : [];
  if (sounds.length === 0) {
    ready(pageClock());
    return () => undefined;
  }
  let stopped = false;
  const clock = new SoundClock({ sounds, rate: played.project.rate, range, startFrame, way }, () =>
    usePlayStore.setState({ soundTrouble: SOUND_STOPPED }),
  );
  const choose = async () => {
    const audible = await isAudible();
    if (audible) await clock.prepare();
    if (stopped) return;
    usePlayStore.setState({ byTheSound: audible, soundTrouble: audible ? null : NO_SOUND });
    ready(audible ? clock : pageClock());
  };
  choose().catch((error: unknown) => {
    if (stopped) return;
    const reason = error instanceof Error ? error.message : 'unknown';
    usePlayStore.setState({ soundTrouble: `The sound can’t be played (${reason}): played by the clock of the page.` });
    ready(pageClock());
  });
  return () => {
    stopped = true;
    clock.stop();
  };
}
