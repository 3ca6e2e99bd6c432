import type { Project, ReelItemId, Shot, ShotId } from '@/core/document/model';
import { framesOfSound, type Sound, soundFrom } from '@/core/document/sound';
import { firstPlaceOf, type PlacedShot, placedShots } from '@/core/reel/reel';
import { remembered } from '@/core/remembered';
import type { Rate } from '@/core/time/rate';

/**
 * A sound where it is heard on the reel: from `startFrame` (inclusive, from 0) to `endFrame` (exclusive), the last frame
 * touched by however little. `shot` and `itemId` are the shot it belongs to and the item that is heard of it, both null for
 * one of the reel. `sound` is what is heard: where an item shows its shot from a later frame on, its head is cut off by
 * `cutFrames` frames, and `whole` is the sound as it is in the document.
 */
export type ReelSound = {
  readonly sound: Sound;
  readonly whole: Sound;
  readonly cutFrames: number;
  readonly shot: Shot | null;
  readonly itemId: ReelItemId | null;
  readonly startFrame: number;
  readonly endFrame: number;
};

/** Every sound of a project with the shot it belongs to, null for one of the reel; on the reel or not. */
export const everySound = (project: Project): readonly { readonly shot: Shot | null; readonly sound: Sound }[] => [
  ...project.shots.flatMap((shot) => shot.sounds.map((sound) => ({ shot, sound }))),
  ...project.reel.sounds.map((sound) => ({ shot: null, sound })),
];

const heardFrom = (sound: Sound, startFrame: number, rate: Rate) => ({
  sound,
  whole: sound,
  cutFrames: 0,
  startFrame,
  endFrame: startFrame + framesOfSound(sound, rate),
});

/*
 * An item shows its shot's frames f to f + n. A sound of the shot that starts on frame s is heard
 *   from the reel's frame start + s − f       when f ≤ s, and, trimmed, s < f + n;
 *   from the item's first frame, its first f − s frames cut off, when s < f; not at all when it is over by then.
 * It goes on after the item as long as it lasts. Of a whole shot a sound that starts past its end is heard, too, over what follows.
 */
function soundOfItem(placed: PlacedShot, sound: Sound, rate: Rate): ReelSound | null {
  const { shot, item, fromFrame, startFrame, endFrame } = placed;
  const isOutside = item.trim !== null && sound.startFrame >= fromFrame + endFrame - startFrame;
  if (isOutside) return null;
  const of = { shot, itemId: item.id };
  const cutFrames = fromFrame - sound.startFrame;
  if (cutFrames <= 0) return { ...heardFrom(sound, startFrame - cutFrames, rate), ...of };
  const rest = soundFrom(sound, fromFrame, rate);
  return rest && { ...heardFrom(rest, startFrame, rate), ...of, whole: sound, cutFrames };
}

/** Every sound of a project where it is heard on the reel, in order of their starts. */
export const soundsOfReel = remembered((project: Project): readonly ReelSound[] =>
  [
    ...placedShots(project).flatMap((placed) => placed.shot.sounds.flatMap((sound) => soundOfItem(placed, sound, project.rate) ?? [])),
    ...project.reel.sounds.map((sound) => ({ ...heardFrom(sound, sound.startFrame, project.rate), shot: null, itemId: null })),
  ].toSorted((a, b) => a.startFrame - b.startFrame),
);

/** A sound of a shot that an item of the reel doesn't let be heard, since it is over before the item starts or starts after it. */
export type UnheardSound = { readonly placed: PlacedShot; readonly sound: Sound };

/** Sounds of shots on the reel that items leave unheard. */
export const unheardSounds = (project: Project): readonly UnheardSound[] =>
  placedShots(project).flatMap((placed) =>
    placed.shot.sounds.filter((sound) => soundOfItem(placed, sound, project.rate) === null).map((sound) => ({ placed, sound })),
  );

/**
 * Sounds heard while a whole shot is on, with its own and those that are heard over it on the reel; frames count from the
 * shot's first, so that one that began before has a negative `startFrame`. Of a shot that is on the reel several times, the first place counts.
 */
export function soundsOverShot(project: Project, shotId: ShotId): readonly ReelSound[] {
  const shot = project.shots.find(({ id }) => id === shotId);
  if (!shot) return [];
  const own = shot.sounds.map((sound) => ({ ...heardFrom(sound, sound.startFrame, project.rate), shot, itemId: null }));
  const placed = firstPlaceOf(project, shotId);
  if (!placed) return own;
  const origin = placed.startFrame - placed.fromFrame;
  const others = soundsOfReel(project)
    .filter((heard) => heard.itemId !== placed.item.id && heard.startFrame < placed.endFrame && heard.endFrame > placed.startFrame)
    .map((heard) => ({ ...heard, startFrame: heard.startFrame - origin, endFrame: heard.endFrame - origin }));
  const isHeard = ({ startFrame, endFrame }: ReelSound) => startFrame < shot.frames && endFrame > 0;
  return [...others, ...own].filter(isHeard).toSorted((a, b) => a.startFrame - b.startFrame);
}

/** A sound in the lane it is shown in, from 0. */
export type LanedSound = ReelSound & { readonly lane: number };

/** Sounds side by side where they overlap: each, in order of their starts, in the first lane that is free. */
export function inLanes(sounds: readonly ReelSound[]): { readonly laned: readonly LanedSound[]; readonly lanes: number } {
  const ends: number[] = [];
  const laned = sounds.map((heard) => {
    const free = ends.findIndex((end) => end <= heard.startFrame);
    const lane = free < 0 ? ends.length : free;
    ends[lane] = heard.endFrame;
    return { ...heard, lane };
  });
  return { laned, lanes: Math.max(1, ends.length) };
}
