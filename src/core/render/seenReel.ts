import { isHalfOff } from '@/core/conform/conformReel';
import { conformedFrame } from '@/core/conform/rounding';
import type { Project, ReelItemId, ShotId } from '@/core/document/model';
import { framesOfReel, placedItems } from '@/core/reel/reel';
import { remembered } from '@/core/remembered';
import { itemRuns } from '@/core/render/itemRuns';
import type { ShotRun } from '@/core/render/shotRuns';
import { stackKey } from '@/core/render/stacks';
import { countText, plural } from '@/core/time/counts';
import { type Rate, rateName, sameRate } from '@/core/time/rate';
import { secondsText } from '@/core/time/seconds';

/** An item as it was seen: what it shows (null for a gap), what it was called, where it started, how long it was, and a number that is another when another picture shows. */
export type SeenItem = {
  readonly id: ReelItemId;
  readonly sourceId: ShotId | null;
  readonly name: string;
  readonly startFrame: number;
  readonly frames: number;
  readonly pictures: number;
};

/** A sound of the reel as it was seen. */
export type SeenSound = { readonly id: string; readonly name: string; readonly startFrame: number };

/** The reel as somebody saw it last. */
export type SeenReel = {
  readonly rate: Rate;
  readonly frames: number;
  readonly items: readonly SeenItem[];
  readonly sounds: readonly SeenSound[];
};

/** FNV-1a, 32 bits, over the UTF-16 units of a text: enough to notice a change, not to prove that there is none. */
function hashOf(text: string, start: number): number {
  let hash = start;
  for (let index = 0; index < text.length; index++) hash = Math.imul(hash ^ text.charCodeAt(index), 0x01000193);
  return hash >>> 0;
}
const FNV_START = 0x811c9dc5;

/** What a list of runs shows and for how long, as one number. */
const picturesOf = remembered((runs: readonly ShotRun[]): number =>
  runs.reduce((hash, { frames, layers }) => hashOf(`${frames} ${stackKey(layers)};`, hash), FNV_START),
);

/** The reel as it is now. */
export const seenReel = (project: Project): SeenReel => ({
  rate: project.rate,
  frames: framesOfReel(project),
  items: placedItems(project).map((placed) => ({
    id: placed.item.id,
    sourceId: placed.shot?.id ?? placed.source?.clip?.original ?? null,
    name: placed.source?.name ?? 'gap',
    startFrame: placed.startFrame,
    frames: placed.endFrame - placed.startFrame,
    pictures: picturesOf(itemRuns(project, placed, true)),
  })),
  sounds: project.reel.sounds.map(({ id, name, startFrame }) => ({ id, name, startFrame })),
});

/** Something that is otherwise on the reel than it was seen: a sentence, and the item it is about; null for the whole reel. */
export type SeenChange = { readonly sentence: string; readonly itemId: ReelItemId | null };

const names = (items: readonly SeenItem[]): string =>
  items.length <= 3 ? items.map(({ name }) => name).join(', ') : `${items.length} items`;

/** Items that start elsewhere though they follow the same item as before, grouped by how far. */
function movedItems(before: SeenReel, after: SeenReel): readonly SeenChange[] {
  const was = new Map(before.items.map((item) => [item.id, item]));
  const byDistance = new Map<number, SeenItem[]>();
  for (const item of after.items) {
    const old = was.get(item.id);
    if (!old || item.sourceId === null || old.startFrame === item.startFrame) continue;
    const distance = item.startFrame - old.startFrame;
    const same = byDistance.get(distance);
    if (same) same.push(item);
    else byDistance.set(distance, [item]);
  }
  return [...byDistance].map(([distance, items]) => ({
    sentence: `${names(items)} ${items.length === 1 ? 'starts' : 'start'} ${plural(Math.abs(distance), 'frame')} ${distance > 0 ? 'later' : 'earlier'}`,
    itemId: items[0]?.id ?? null,
  }));
}

function lengthsAndPictures(before: SeenReel, after: SeenReel): readonly SeenChange[] {
  const was = new Map(before.items.map((item) => [item.id, item]));
  const is = new Set(after.items.map(({ id }) => id));
  const sameTime = sameRate(before.rate, after.rate);
  return [
    ...after.items.flatMap((item): readonly SeenChange[] => {
      const old = was.get(item.id);
      if (!old) return [{ sentence: `${item.name} is new on the reel, ${plural(item.frames, 'frame')}`, itemId: item.id }];
      const by = item.frames - old.frames;
      if (by !== 0 && sameTime)
        return [
          {
            sentence: `${item.name} is ${plural(Math.abs(by), 'frame')} ${by > 0 ? 'longer' : 'shorter'} (${item.frames}, was ${old.frames})`,
            itemId: item.id,
          },
        ];
      if (by === 0 && item.pictures !== old.pictures) return [{ sentence: `${item.name} has other drawings or timing`, itemId: item.id }];
      return [];
    }),
    ...before.items
      .filter((item) => !is.has(item.id))
      .map((item) => ({ sentence: `${item.name} is no longer on the reel (it had ${plural(item.frames, 'frame')})`, itemId: null })),
  ];
}

/** Cuts that a new rate left half a frame or more from where they stood in time. */
function cutsOffTime(before: SeenReel, after: SeenReel, firstNumber: number): readonly SeenChange[] {
  if (sameRate(before.rate, after.rate)) return [];
  const was = new Map(before.items.map((item) => [item.id, item]));
  return after.items.flatMap((item): readonly SeenChange[] => {
    const old = was.get(item.id);
    if (!old) return [];
    if (!isHalfOff(old.startFrame, before.rate, item.startFrame, after.rate)) return [];
    const due = conformedFrame(old.startFrame, before.rate, after.rate);
    const apart = item.startFrame - due;
    const then = `frame ${old.startFrame + firstNumber} at ${rateName(before.rate)}`;
    return [
      {
        sentence: `The cut to ${item.name} stands on frame ${item.startFrame + firstNumber}, ${plural(Math.abs(apart), 'frame')} ${apart > 0 ? 'after' : 'before'} its time (${then})`,
        itemId: item.id,
      },
    ];
  });
}

/** Sounds of the reel beside items that moved: each stays, or was moved. */
function soundsBeside(before: SeenReel, after: SeenReel, itemsMoved: boolean, firstNumber: number): readonly SeenChange[] {
  const was = new Map(before.sounds.map((sound) => [sound.id, sound]));
  return after.sounds.flatMap(({ id, name, startFrame }): readonly SeenChange[] => {
    const old = was.get(id);
    if (!old) return [];
    if (old.startFrame !== startFrame)
      return [
        { sentence: `${name} starts on frame ${startFrame + firstNumber} of the reel, was ${old.startFrame + firstNumber}`, itemId: null },
      ];
    return itemsMoved ? [{ sentence: `${name} stays on frame ${startFrame + firstNumber} of the reel`, itemId: null }] : [];
  });
}

/** What is otherwise on the reel than it was seen, in sentences. */
export function changesSince(before: SeenReel, after: SeenReel, firstNumber: number): readonly SeenChange[] {
  const moved = movedItems(before, after);
  const rate: readonly SeenChange[] = sameRate(before.rate, after.rate)
    ? []
    : [
        {
          sentence: `The film runs at ${rateName(after.rate)}, was ${rateName(before.rate)}: the reel lasts ${secondsText(after.frames, after.rate)} s, was ${secondsText(before.frames, before.rate)} s`,
          itemId: null,
        },
      ];
  const length: readonly SeenChange[] =
    before.frames === after.frames
      ? []
      : [{ sentence: `The reel has ${plural(after.frames, 'frame')}, was ${countText(before.frames)}`, itemId: null }];
  return [
    ...rate,
    ...lengthsAndPictures(before, after),
    ...moved,
    ...cutsOffTime(before, after, firstNumber),
    ...soundsBeside(before, after, moved.length > 0, firstNumber),
    ...length,
  ];
}
