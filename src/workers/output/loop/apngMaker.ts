import { apngPicture } from '@/core/format/png/writeApng';
import { changedArea, cropped } from '@/core/raster/changedArea';
import { inRgba, type OrderedPixels } from '@/core/raster/pixelOrder';
import type { ApngWork, LoopMaker, LoopPart, LoopPicture } from '@/workers/output/loop/loopMaker';
import { noteOfPixels } from '@/workers/output/meantPictures';
import { packRows } from '@/workers/output/pictures/packRows';

const NOTHING = { x: 0, y: 0, width: 1, height: 1 };

/** Its pixels in the order R G B A, written over what they were. */
const rgbaOf = ({ pixels, order }: OrderedPixels): Uint8Array => inRgba(pixels, order, () => pixels);

/** Makes the pictures of an animated PNG: of each the rectangle that changes. */
export class ApngMaker implements LoopMaker {
  private before: Uint8Array | null = null;

  constructor(private readonly work: ApngWork) {}

  async make({ place, before, ...picture }: LoopPicture): Promise<LoopPart> {
    const { size, channels, delays, ground, comparing } = this.work;
    const delay = delays[place];
    if (!delay) throw new Error('Every picture of a loop has a time.');
    const last = before === 'last' ? this.before : before === 'nothing' ? null : rgbaOf(before);
    const rgba = rgbaOf(picture);
    const words = wordsOf(rgba);
    const area = last ? (changedArea(wordsOf(last), words, size) ?? NOTHING) : { x: 0, y: 0, ...size };
    const changed = new Uint8Array(cropped(words, size, area).buffer);
    this.before = rgba;
    const note = await noteOfPixels(comparing, size, ground, rgba);
    const packed = await packRows(changed, { width: area.width, height: area.height, channels, depth: 8 });
    return { bytes: apngPicture(place, area, delay, packed), note, room: last };
  }
}

const wordsOf = (rgba: Uint8Array): Uint32Array => new Uint32Array(rgba.buffer, rgba.byteOffset, rgba.byteLength >> 2);
