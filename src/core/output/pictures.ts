import { LAYOUTS, type NamePart, type Numbering, START_NUMBERING } from '@/core/output/names';

/*
 * What can be asked of picture files: how they are coded, whether there is one for each frame or one for each drawing, and where
 * they go. Ids of kinds are stored in recipes and receipts: they never change.
 */

export const PICTURE_KINDS = ['png', 'jpeg', 'webp', 'tiff', 'tga', 'bmp'] as const;
export type PictureKind = (typeof PICTURE_KINDS)[number];

/** What a kind of picture file holds. `alphas` are the ways it can hold transparency, none where it has none; `lossy` whether pixels change. */
export type PictureKindFacts = {
  readonly name: string;
  readonly extension: string;
  readonly depths: readonly (8 | 16)[];
  readonly alphas: readonly ('straight' | 'premultiplied')[];
  readonly lossy: 'never' | 'always' | 'asked';
};

export const PICTURE_KIND_FACTS: Readonly<Record<PictureKind, PictureKindFacts>> = {
  png: { name: 'PNG', extension: 'png', depths: [8, 16], alphas: ['straight'], lossy: 'never' },
  jpeg: { name: 'JPEG', extension: 'jpg', depths: [8], alphas: [], lossy: 'always' },
  webp: { name: 'WebP', extension: 'webp', depths: [8], alphas: ['straight'], lossy: 'asked' },
  tiff: { name: 'TIFF', extension: 'tif', depths: [8], alphas: ['straight', 'premultiplied'], lossy: 'never' },
  tga: { name: 'TGA', extension: 'tga', depths: [8], alphas: ['straight', 'premultiplied'], lossy: 'never' },
  bmp: { name: 'BMP', extension: 'bmp', depths: [8], alphas: ['straight'], lossy: 'never' },
};

/** `quality` is from 1 to 100; null where every pixel is kept. `each` is what one file is for; `split` whether levels leave together or each by itself. */
export type PictureOptions = {
  readonly kind: 'pictures';
  readonly depth: 8 | 16;
  readonly alpha: 'straight' | 'premultiplied';
  readonly quality: number | null;
  readonly each: 'frame' | 'drawing';
  readonly within: 'zip' | 'folder';
  readonly split: 'together' | 'levels';
  readonly names: readonly NamePart[];
  readonly numbering: Numbering;
};

export const startPictureOptions = (kind: PictureKind): PictureOptions => ({
  kind: 'pictures',
  depth: 8,
  alpha: 'straight',
  quality: PICTURE_KIND_FACTS[kind].lossy === 'always' ? 92 : null,
  each: 'frame',
  within: 'zip',
  split: 'together',
  names: LAYOUTS.flat,
  numbering: START_NUMBERING,
});

/** The options of another kind as far as this one carries them. */
export function pictureOptionsIn(kind: PictureKind, options: PictureOptions): PictureOptions {
  const { depths, alphas, lossy } = PICTURE_KIND_FACTS[kind];
  return {
    ...options,
    depth: depths.includes(options.depth) ? options.depth : 8,
    alpha: alphas.includes(options.alpha) ? options.alpha : 'straight',
    quality: lossy === 'never' ? null : lossy === 'always' ? (options.quality ?? 92) : options.quality,
  };
}
