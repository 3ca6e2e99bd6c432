import { FlashFilm } from '@/core/analysis/flashFilm';
import { areTooMany, type Flashes } from '@/core/analysis/flashRule';
import { lightOfPicture, type PictureLight } from '@/core/analysis/light';
import { lookPixels } from '@/core/outside/look';
import { lookAt } from '@/core/outside/looks';
import type { SeenFrames } from '@/core/outside/seenFrames';
import type { Rate } from '@/core/time/rate';

/**
 * The worst seconds of flashes of a film somebody else made, worked out of the looks of its frames: cells of a 64th of its width, so
 * that a pattern finer than that is told as its mean. `isStopped` is asked now and then; null is given when it says so, and for a
 * film so long that its looks are coarse.
 */
export async function flashesIn(seen: SeenFrames, rate: Rate, isStopped: () => boolean = () => false): Promise<readonly Flashes[] | null> {
  const lights = new Map<string, PictureLight>();
  const size = { width: 0, height: 0 };
  for (let index = 0; index < seen.pictures.count; index++) {
    const pixels = lookPixels(lookAt(seen.pictures, index));
    if (!pixels) return null;
    Object.assign(size, pixels.size);
    const whole = { left: 0, top: 0, right: pixels.size.width, bottom: pixels.size.height };
    lights.set(`${index}`, lightOfPicture(pixels.size, pixels.rgba, whole));
  }
  if (seen.pictures.count === 0) return [];
  const runs: { stack: number; startFrame: number; frames: number }[] = [];
  for (let frame = 0; frame < seen.frames; frame++) {
    const stack = seen.pictureOf[frame] as number;
    const last = runs.at(-1);
    if (last?.stack === stack) last.frames++;
    else runs.push({ stack, startFrame: frame, frames: 1 });
  }
  const stacks = Array.from({ length: seen.pictures.count }, (_, index) => ({
    key: `${index}`,
    layers: [{ picture: `${index}`, opacityPercent: 100 }],
    finished: false,
  }));
  const film = new FlashFilm(size, (picture) => lights.get(picture) ?? null);
  const found = await film.worst(stacks, runs, rate, async () => isStopped());
  return found?.filter(areTooMany) ?? null;
}
