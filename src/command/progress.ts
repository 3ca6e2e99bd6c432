import type { Output } from '@/command/options';
import { countText } from '@/core/time/counts';

/** What is over sooner needs no telling; and how often it is told afterwards. */
const [FIRST_MILLISECONDS, EVERY_MILLISECONDS] = [1000, 250];

/** How far a count is, told to whoever watches it while it goes on. */
export type Progress = {
  /** Its list was read: so many frames are to come, null where that isn't known. */
  readonly opened: (listedFrames: number | null) => void;
  readonly onFrame: (frames: number) => void;
  readonly end: () => void;
};

/** Tells how far the count of a thing is, from the second second on, until it ends. Where nobody watches nothing is told. */
export function progressOf(name: string, { tell }: Output): Progress {
  if (!tell) return { opened: () => undefined, onFrame: () => undefined, end: () => undefined };
  let listed: number | null = null;
  let frames: number | null = null;
  const words = (): string => {
    if (frames === null) return `${name}: its list is read …`;
    // A sound has no frames, and pictures without a list are not counted yet.
    if (frames === 0 && listed === null) return `${name}: it is counted …`;
    return `${name}: ${countText(frames)}${listed === null ? '' : ` of ${countText(listed)}`} frames …`;
  };
  let every: ReturnType<typeof setInterval> | undefined;
  const first = setTimeout(() => {
    tell(words());
    every = setInterval(() => tell(words()), EVERY_MILLISECONDS);
  }, FIRST_MILLISECONDS);
  return {
    opened: (listedFrames) => {
      [listed, frames] = [listedFrames, 0];
    },
    onFrame: (done) => {
      frames = done;
    },
    end: () => {
      clearTimeout(first);
      clearInterval(every);
      tell(null);
    },
  };
}
