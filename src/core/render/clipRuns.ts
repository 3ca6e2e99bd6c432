import { type Clip, type ClipReading, clipFrameAt, framesOfClip } from '@/core/document/clip';
import { rememberedUnder } from '@/core/remembered';
import { clipPictureName } from '@/core/render/clipPicture';
import type { ShotRun } from '@/core/render/shotRuns';
import type { Rate } from '@/core/time/rate';

const runsUnder = rememberedUnder<Clip, string, readonly ShotRun[]>();

/** What a clip shows over the frames of the film it covers whole; a frame that is shown longer is one run. */
export const clipRuns = (clip: Clip, way: ClipReading, rate: Rate): readonly ShotRun[] =>
  runsUnder(clip, `${way} ${rate.num}/${rate.den}`, () => {
    const runs: ShotRun[] = [];
    const frames = framesOfClip(clip, way, rate);
    let shown = -1;
    for (let frame = 0; frame < frames; frame++) {
      const next = clipFrameAt(clip, way, rate, frame);
      const last = runs.at(-1);
      if (last && next === shown) runs[runs.length - 1] = { ...last, frames: last.frames + 1 };
      else runs.push({ startFrame: frame, frames: 1, layers: [{ picture: clipPictureName(clip, next), opacityPercent: 100 }] });
      shown = next;
    }
    return runs;
  });
