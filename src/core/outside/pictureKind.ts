/* What kind of picture a file is, by its first bytes; a TGA has none of its own and is told by its name. */

const ENDINGS = {
  PNG: ['png', 'apng'],
  JPEG: ['jpg', 'jpeg', 'jpe'],
  WebP: ['webp'],
  GIF: ['gif'],
  TIFF: ['tif', 'tiff'],
  BMP: ['bmp'],
  TGA: ['tga'],
} as const;
export type PictureKind = keyof typeof ENDINGS;

const PICTURE_ENDINGS: ReadonlySet<string> = new Set(Object.values(ENDINGS).flat());

/** A name's ending, small: `png`. */
export const endingOf = (name: string): string => /\.([^./]+)$/.exec(name)?.[1]?.toLowerCase() ?? '';

/** Whether a file is called as pictures are. */
export const isPictureName = (name: string): boolean => PICTURE_ENDINGS.has(endingOf(name));

/** Whether a picture is called as its kind is. */
export const isNamedSo = (name: string, kind: PictureKind): boolean => (ENDINGS[kind] as readonly string[]).includes(endingOf(name));

const MAGIC: readonly [kind: PictureKind, at: number, bytes: readonly number[]][] = [
  ['PNG', 0, [0x89, 0x50, 0x4e, 0x47]],
  ['JPEG', 0, [0xff, 0xd8, 0xff]],
  ['WebP', 8, [0x57, 0x45, 0x42, 0x50]],
  ['GIF', 0, [0x47, 0x49, 0x46, 0x38]],
  ['TIFF', 0, [0x49, 0x49, 0x2a, 0]],
  ['TIFF', 0, [0x4d, 0x4d, 0, 0x2a]],
  ['BMP', 0, [0x42, 0x4d]],
];

/** The kind of picture a file is by its first 32 bytes; null for one that is none. */
export function pictureKind(head: Uint8Array, name: string): PictureKind | null {
  const found = MAGIC.find(([, at, bytes]) => bytes.every((byte, index) => head[at + index] === byte));
  if (found) return found[0];
  return endingOf(name) === 'tga' && head.length >= 18 ? 'TGA' : null;
}
