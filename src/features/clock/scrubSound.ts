import { MIX_RATE, mixOf } from '@/core/reel/mix';
import { soundsOfReel, soundsOverShot } from '@/core/reel/sounds';
import { usePlayerStore } from '@/features/clock/playStore';
import { isAudible, mixFrames, soundContext } from '@/features/clock/soundOut';
import { inView } from '@/features/project/hooks';
import { heardNow } from '@/features/project/solo';
import { useViewStore } from '@/features/project/viewStore';

const FADE_SECONDS = 0.004;

let last: { readonly source: AudioBufferSourceNode; readonly loudness: GainNode } | null = null;
let asked = 0;

function hush(): void {
  if (!last) return;
  const now = soundContext().currentTime;
  last.loudness.gain.setTargetAtTime(0, now, FADE_SECONDS / 3);
  last.source.stop(now + FADE_SECONDS);
  last = null;
}

/** Lets the sound of one frame be heard, instead of the one that was heard before. */
async function hearFrame(frame: number): Promise<void> {
  const view = inView();
  const turn = ++asked;
  if (!view) return;
  const { onReel } = useViewStore.getState();
  const sounds = heardNow(onReel ? soundsOfReel(view.project) : soundsOverShot(view.project, view.shot.id));
  if (mixOf(sounds, frame, frame, view.project.rate, MIX_RATE).parts.length === 0 || !(await isAudible())) return;
  const buffer = await mixFrames(sounds, frame, frame, view.project.rate);
  // Whoever has gone on meanwhile hears the frame they are on.
  if (turn !== asked || useViewStore.getState().playing) return;
  hush();
  const out = soundContext();
  const now = out.currentTime;
  const source = new AudioBufferSourceNode(out, { buffer });
  const loudness = new GainNode(out, { gain: 0 });
  loudness.gain.setValueAtTime(0, now);
  loudness.gain.linearRampToValueAtTime(1, now + FADE_SECONDS);
  loudness.gain.setValueAtTime(1, now + Math.max(FADE_SECONDS, buffer.duration - FADE_SECONDS));
  loudness.gain.linearRampToValueAtTime(0, now + buffer.duration);
  source.connect(loudness).connect(out.destination);
  source.start(now);
  last = { source, loudness };
}

/** Lets every frame be heard that is stepped or scrubbed to, until what is returned is called; flipping over drawings is silent, as over paper. */
export function hearFrames(): () => void {
  return useViewStore.subscribe((state, before) => {
    const { soundOn, scrubSound } = usePlayerStore.getState();
    const frame = state.onReel ? state.reelFrame : state.frame;
    const isStep =
      state.onReel === before.onReel &&
      frame !== (before.onReel ? before.reelFrame : before.frame) &&
      !state.playing &&
      !before.playing &&
      state.flippingFrom === null &&
      before.flippingFrom === null;
    if (!isStep || !soundOn || !scrubSound) return;
    // What can't be heard now is told when it is played; a step goes on.
    hearFrame(frame).catch((error: unknown) => console.warn('The frame’s sound could not be played.', error));
  });
}
