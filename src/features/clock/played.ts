import { useMemo } from 'react';
import type { Project, Shot } from '@/core/document/model';
import { framesOfReel } from '@/core/reel/reel';
import { type ReelSound, soundsOfReel, soundsOverShot } from '@/core/reel/sounds';
import { once } from '@/core/remembered';
import { previewOfReel, previewOfShot, type RenderPlan, stackOfShot, stackOnReel } from '@/core/render/renderPlan';
import type { PictureStack } from '@/core/render/stacks';
import type { PlayRange } from '@/core/time/playing';
import { useProject, useShot } from '@/features/project/hooks';
import { goToFrame, goToReelFrame } from '@/features/project/navigation';
import { type FrameRange, useViewStore } from '@/features/project/viewStore';

/** What is stepped, scrubbed and played: one shot, or the reel. Its frames count from its own first. */
export type Played = {
  readonly project: Project;
  /** What it is called: `shot 020`, `the reel`. */
  readonly name: string;
  readonly frames: number;
  /** What is seen on every frame; worked out when it is first asked for, since of a long reel that takes a moment. */
  readonly plan: () => RenderPlan;
  /** What is seen on one frame. */
  readonly stackAt: (frame: number) => PictureStack;
  readonly sounds: readonly ReelSound[];
  /** Makes a frame the current one while playing. */
  readonly show: (frame: number) => void;
  /** Goes to a frame as a person does, at most to the last and the first. */
  readonly go: (frame: number) => void;
  /** The current frame, read once. */
  readonly now: () => number;
};

const shotPlayed = (project: Project, shot: Shot): Played => ({
  project,
  name: `shot ${shot.code}`,
  frames: shot.frames,
  plan: once(() => previewOfShot(project, shot)),
  stackAt: (frame) => stackOfShot(project, shot, frame),
  sounds: soundsOverShot(project, shot.id),
  show: (frame) => useViewStore.setState({ frame }),
  go: goToFrame,
  now: () => Math.min(useViewStore.getState().frame, shot.frames - 1),
});

function reelPlayed(project: Project): Played | null {
  const frames = framesOfReel(project);
  if (frames === 0) return null;
  return {
    project,
    name: 'the reel',
    frames,
    plan: once(() => previewOfReel(project) as RenderPlan),
    stackAt: (frame) => stackOnReel(project, frame),
    sounds: soundsOfReel(project),
    show: goToReelFrame,
    go: goToReelFrame,
    now: () => Math.min(useViewStore.getState().reelFrame, frames - 1),
  };
}

/** What is played in this stage; null when there is nothing. */
export function usePlayed(): Played | null {
  const project = useProject();
  const onReel = useViewStore((state) => state.onReel);
  // The open shot follows the reel while that is played, and changes nothing of what is.
  const open = useShot();
  const shot = onReel ? null : open;
  return useMemo(() => (onReel ? reelPlayed(project) : shot ? shotPlayed(project, shot) : null), [onReel, project, shot]);
}

/** The current frame of what is played; −1 while playing when `stillOnly`. */
export const usePlayedFrame = (stillOnly = false): number =>
  useViewStore((state) => (stillOnly && state.playing ? -1 : state.onReel ? state.reelFrame : state.frame));

/** The range that is played over and over; null for all of it. */
export const usePlayedLoop = (): FrameRange | null => useViewStore((state) => (state.onReel ? state.reelLoop : state.loop));

/** What is played of so many frames: the loop as far as it is within them, else all. */
export function rangeOf(frames: number, loop: FrameRange | null): PlayRange {
  const lastFrame = frames - 1;
  return loop
    ? { fromFrame: Math.min(loop.fromFrame, lastFrame), toFrame: Math.min(loop.toFrame, lastFrame) }
    : { fromFrame: 0, toFrame: lastFrame };
}
