import type { Size } from '@/core/document/model';
import { unpackLzw } from '@/core/format/gif/lzw';
import { done, type Outcome, refused } from '@/core/outcome';
import type { Area } from '@/core/raster/changedArea';

/*
 * Reads a GIF (GIF87a and GIF89a, CompuServe 1990), whoever made it: what it says of itself first, its pictures one after another
 * then, each as it is seen with those before it. Nothing is taken over from what writes one here.
 */

/** A picture of a GIF as it lies in the file. `disposal`: 2 clears its place afterwards, 3 puts back what was there. */
export type GifFrame = {
  readonly area: Area;
  readonly centiseconds: number;
  readonly disposal: number;
  readonly transparent: number | null;
  readonly isInterlaced: boolean;
  /** Where its palette stands in the file, and of how many colours it is. */
  readonly palette: { readonly at: number; readonly colours: number };
  readonly codeSize: number;
  /** Where its packed pixels begin. */
  readonly dataAt: number;
};

/** A GIF: `plays` is 0 for ever. `isWhole` is false where it ends before it says so. */
export type Gif = { readonly size: Size; readonly frames: readonly GifFrame[]; readonly plays: number; readonly isWhole: boolean };

const word = (bytes: Uint8Array, at: number): number => (bytes[at] as number) | ((bytes[at + 1] as number) << 8);
const textAt = (bytes: Uint8Array, at: number, length: number): string => String.fromCharCode(...bytes.subarray(at, at + length));

/** Where blocks of up to 255 bytes end that begin at a place. */
function endOfBlocks(bytes: Uint8Array, at: number): number {
  let end = at;
  while (end < bytes.length && bytes[end] !== 0) end += 1 + (bytes[end] as number);
  return end + 1;
}

/** What stands before a picture and is of it. */
type Control = Pick<GifFrame, 'centiseconds' | 'disposal' | 'transparent'>;
const NO_CONTROL: Control = { centiseconds: 0, disposal: 0, transparent: null };

function controlAt(bytes: Uint8Array, at: number): Control {
  const packed = bytes[at + 1] as number;
  return { centiseconds: word(bytes, at + 2), disposal: (packed >> 2) & 7, transparent: packed & 1 ? (bytes[at + 4] as number) : null };
}

class GifWalk {
  at = 13;
  readonly frames: GifFrame[] = [];
  plays = 1;
  private control = NO_CONTROL;

  constructor(
    private readonly bytes: Uint8Array,
    private readonly size: Size,
    private readonly shared: GifFrame['palette'] | null,
  ) {
    if (shared) this.at += shared.colours * 3;
  }

  /** Walks to the end of the file; true where it says that it ends there. */
  walk(): Outcome<boolean> {
    while (this.at < this.bytes.length) {
      const kind = this.bytes[this.at] as number;
      if (kind === 0x3b) return done(true);
      if (kind === 0x21) this.extension();
      else if (kind === 0x2c) {
        const picture = this.picture();
        if (!picture.ok) return picture;
      } else return done(false);
    }
    return done(false);
  }

  private extension(): void {
    const { bytes, at } = this;
    if (bytes[at + 1] === 0xf9 && bytes[at + 2] === 4) this.control = controlAt(bytes, at + 2);
    if (bytes[at + 1] === 0xff && textAt(bytes, at + 3, 11) === 'NETSCAPE2.0' && bytes[at + 15] === 1) {
      const again = word(bytes, at + 16);
      this.plays = again === 0 ? 0 : again + 1;
    }
    this.at = endOfBlocks(bytes, at + 2);
  }

  private picture(): Outcome<null> {
    const { bytes, at, size } = this;
    if (at + 11 > bytes.length) {
      this.at = bytes.length;
      return done(null);
    }
    const area = { x: word(bytes, at + 1), y: word(bytes, at + 3), width: word(bytes, at + 5), height: word(bytes, at + 7) };
    if (area.width === 0 || area.height === 0 || area.x + area.width > size.width || area.y + area.height > size.height)
      return refused(`Picture ${this.frames.length + 1} of the GIF lies outside of it.`);
    const packed = bytes[at + 9] as number;
    const own = packed & 0x80 ? { at: at + 10, colours: 2 << (packed & 7) } : null;
    const palette = own ?? this.shared;
    if (!palette) return refused(`Picture ${this.frames.length + 1} of the GIF has no colours.`);
    const codeAt = at + 10 + (own ? own.colours * 3 : 0);
    const codeSize = bytes[codeAt] ?? 0;
    if (codeSize < 1 || codeSize > 11) return refused(`Picture ${this.frames.length + 1} of the GIF is not packed as a GIF’s are.`);
    this.frames.push({ area, ...this.control, isInterlaced: (packed & 0x40) !== 0, palette, codeSize, dataAt: codeAt + 1 });
    this.control = NO_CONTROL;
    this.at = endOfBlocks(bytes, codeAt + 1);
    return done(null);
  }
}

/** Reads what a GIF says of itself and of its pictures; nothing is unpacked. */
export function readGif(bytes: Uint8Array): Outcome<Gif> {
  if (bytes.length < 13 || !/^GIF8[79]a$/.test(textAt(bytes, 0, 6))) return refused('It is not a GIF.');
  const size = { width: word(bytes, 6), height: word(bytes, 8) };
  if (size.width === 0 || size.height === 0) return refused('The GIF has no size.');
  const packed = bytes[10] as number;
  const walk = new GifWalk(bytes, size, packed & 0x80 ? { at: 13, colours: 2 << (packed & 7) } : null);
  const walked = walk.walk();
  if (!walked.ok) return walked;
  return done({ size, frames: walk.frames, plays: walk.plays, isWhole: walked.value });
}

/** The rows of an interlaced picture in the order they are stored: every eighth, those between, and so on. */
function* interlacedRows(height: number): Generator<number> {
  for (const [start, step] of [
    [0, 8],
    [4, 8],
    [2, 4],
    [1, 2],
  ] as const)
    for (let row = start; row < height; row += step) yield row;
}

/** The pictures of a GIF as they are seen, RGBA with straight alpha, on one page that the next overwrites. */
export function* gifPages(bytes: Uint8Array, { size, frames }: Gif): Generator<Uint8Array> {
  const page = new Uint8Array(size.width * size.height * 4);
  for (const frame of frames) {
    const before = frame.disposal === 3 ? page.slice() : null;
    layFrame(bytes, page, size, frame);
    yield page;
    if (frame.disposal === 2) clearFrame(page, size, frame);
    if (before) page.set(before);
  }
}

function layFrame(bytes: Uint8Array, page: Uint8Array, { width }: Size, frame: GifFrame): void {
  const { area, palette, transparent } = frame;
  const indices = unpackLzw(bytes, frame.dataAt, frame.codeSize, area.width * area.height);
  const rows = frame.isInterlaced ? [...interlacedRows(area.height)] : Array.from({ length: area.height }, (_, row) => row);
  for (const [stored, row] of rows.entries()) {
    let to = ((area.y + row) * width + area.x) * 4;
    for (let column = 0; column < area.width; column++, to += 4) {
      const index = indices[stored * area.width + column] as number;
      if (index === transparent || index >= palette.colours) continue;
      const from = palette.at + index * 3;
      page[to] = bytes[from] as number;
      page[to + 1] = bytes[from + 1] as number;
      page[to + 2] = bytes[from + 2] as number;
      page[to + 3] = 255;
    }
  }
}

function clearFrame(page: Uint8Array, { width }: Size, { area }: GifFrame): void {
  for (let row = 0; row < area.height; row++) {
    const start = ((area.y + row) * width + area.x) * 4;
    page.fill(0, start, start + area.width * 4);
  }
}
