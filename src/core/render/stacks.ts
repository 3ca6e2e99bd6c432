import type { BlendMode } from '@/core/document/blendModes';
import type { Digest, Level, Shot } from '@/core/document/model';

/** A picture to lay: a drawing's by its digest, or a frame of a clip by its name, see `@/core/render/clipPicture`. */
export type PictureName = Digest;

/** One picture of a stack, with how much of it is seen, and how it meets what lies below; normal when not said. */
export type StackLayer = { readonly picture: PictureName; readonly opacityPercent: number; readonly blend?: BlendMode };

/**
 * Pictures lying over each other, lowest first, and whether the finish lies over them. Two stacks with one `key` are the same
 * picture under the same finish.
 */
export type PictureStack = { readonly key: string; readonly layers: readonly StackLayer[]; readonly finished: boolean };

/** Whether a level is part of what leaves: guides never are, still ones only with the background. */
export const leaves = (level: Level, withBackground: boolean): boolean =>
  level.visible && level.opacityPercent > 0 && level.kind !== 'guide' && (withBackground || level.kind !== 'still');

/** The key of a stack: its pictures, opacities and blend modes in order. */
export const stackKey = (layers: readonly StackLayer[]): string =>
  layers.map((layer) => `${layer.picture}@${layer.opacityPercent}${layer.blend ? `~${layer.blend}` : ''}`).join('+');

/** What is marked on the key of a stack that the finish leaves as it is. */
const UNFINISHED = ' unfinished';

/** Layers as a stack. */
export const stackOf = (layers: readonly StackLayer[], finished: boolean): PictureStack => ({
  key: `${stackKey(layers)}${finished ? '' : UNFINISHED}`,
  layers,
  finished,
});

/** The picture that is all there is to be seen of a stack, as it is; null where anything is done to it, or more lies there. */
export function pictureAlone({ layers, finished }: Pick<PictureStack, 'layers' | 'finished'>, hasFinish: boolean): PictureName | null {
  const [layer] = layers;
  if (layers.length !== 1 || !layer || (finished && hasFinish)) return null;
  return layer.opacityPercent === 100 && (layer.blend ?? 'normal') === 'normal' ? layer.picture : null;
}

/** A level's picture as it lies in a stack. */
export const layerOf = (level: Pick<Level, 'opacityPercent' | 'blend'>, picture: Digest): StackLayer => ({
  picture,
  opacityPercent: level.opacityPercent,
  ...(level.blend === 'normal' ? {} : { blend: level.blend }),
});

/** Levels of a shot that leave, background and all. */
export const leavingLevels = (shot: Shot): readonly Level[] => shot.levels.filter((level) => leaves(level, true));
