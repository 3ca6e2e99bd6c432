import { transfer } from 'comlink';
import { sampleOfFrame } from '@/core/document/sound';
import type { Leaving } from '@/core/output/leaving';
import { MIX_RATE } from '@/core/reel/mix';
import type { ReelSound } from '@/core/reel/sounds';
import { mixFrames } from '@/features/clock/soundOut';
import { RecordingUnavailable, recording } from '@/features/project/recordings';
import type { Mixing } from '@/workers/client';

/*
 * What leaves begins with a frame of its own: its sample s is the sample sampleOfFrame(first) + s of the reel. Frames of the reel
 * and of what leaves differ by a sample where the rate has no whole number of samples a frame, so that a frame more is mixed on
 * both sides and what is wanted is cut out.
 */

/** The names of sounds whose recording is missing: mixed, they would be silent, and a count of what was mixed would agree. Rejects when the server is away. */
export async function missingSounds(sounds: readonly ReelSound[]): Promise<readonly string[]> {
  const missing = new Set<string>();
  for (const { sound } of sounds) {
    await recording(sound.recording.original).catch((error: unknown) => {
      if (!(error instanceof RecordingUnavailable)) throw error;
      missing.add(sound.name);
    });
  }
  return [...missing];
}

/** The mix of frames of what leaves, each of which lasts `stride` frames of the reel or shot the sounds lie on, and the first of which is its frame `firstFrame`. */
export function mixingFrom({ sounds, firstFrame, rate, stride }: NonNullable<Leaving['heard']>): Mixing {
  const at = (frame: number) => sampleOfFrame(frame, rate, MIX_RATE);
  return async (fromTaken, toTaken) => {
    const [fromFrame, toFrame] = [fromTaken * stride, (toTaken + 1) * stride - 1];
    const start = Math.max(0, firstFrame + fromFrame - 1);
    const from = at(firstFrame) + at(fromFrame) - at(start);
    const to = at(firstFrame) + at(toFrame + 1) - at(start);
    const mixed = await mixFrames(sounds, start, firstFrame + toFrame + 1, rate);
    const channels = Array.from({ length: mixed.numberOfChannels }, (_, index) => mixed.getChannelData(index).slice(from, to));
    return transfer(
      channels,
      channels.map(({ buffer }) => buffer),
    );
  };
}
