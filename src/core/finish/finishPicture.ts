import type { Finish, FinishEffect } from '@/core/document/finish';
import { blurred } from '@/core/finish/blur';
import { holdWithin } from '@/core/finish/holdColours';
import { layOver } from '@/core/finish/layOver';

/*
 * Effects are done one after another on the whole picture. Blurring and laying over go by premultiplied colours, holding
 * colours by straight ones. At the edges a blur takes the colours of the edge as going on: a drawing on paper that is blurred
 * is then the same as a blurred drawing laid on paper, whatever lies under it, and no rim comes up around a film.
 */

/** Colours times their alpha, half up; a new picture. */
function premultiplied(rgba: Uint8ClampedArray): Uint8ClampedArray {
  const out = new Uint8ClampedArray(rgba.length);
  for (let at = 0; at < rgba.length; at += 4) {
    const alpha = rgba[at + 3] as number;
    for (let channel = at; channel < at + 3; channel++) out[channel] = Math.floor(((rgba[channel] as number) * alpha) / 255 + 0.5);
    out[at + 3] = alpha;
  }
  return out;
}

/** Colours without their alpha again, half up, in place; where there is no alpha there is no colour. */
function straighten(rgba: Uint8ClampedArray): void {
  for (let at = 0; at < rgba.length; at += 4) {
    const alpha = rgba[at + 3] as number;
    for (let channel = at; channel < at + 3; channel++)
      rgba[channel] = alpha === 0 ? 0 : Math.floor(((rgba[channel] as number) * 255) / alpha + 0.5);
  }
}

/** A picture while effects are done on it, in whichever form the next one wants. */
class PictureWork {
  private isStraight = true;

  constructor(
    private rgba: Uint8ClampedArray,
    private readonly width: number,
    private readonly height: number,
    private readonly isOpaque: boolean,
    private readonly shrink: number,
  ) {}

  private get premultiplied(): Uint8ClampedArray {
    if (this.isStraight && !this.isOpaque) this.rgba = premultiplied(this.rgba);
    this.isStraight = false;
    return this.rgba;
  }

  get straight(): Uint8ClampedArray {
    if (!this.isStraight && !this.isOpaque) straighten(this.rgba);
    this.isStraight = true;
    return this.rgba;
  }

  private blurredBy(deviationPx: number): Uint8ClampedArray {
    return blurred(this.premultiplied, this.width, this.height, deviationPx / this.shrink);
  }

  do(effect: FinishEffect): void {
    switch (effect.kind) {
      case 'blur':
        this.rgba = this.blurredBy(effect.deviationPx);
        return;
      case 'layOver': {
        const over = this.blurredBy(effect.deviationPx);
        const below = this.premultiplied;
        layOver(below, over === below ? over.slice() : over, effect.mode, effect.opacityPercent / 100, this.isOpaque);
        return;
      }
      case 'holdColours':
        holdWithin(this.straight, effect.range);
    }
  }
}

/** How a picture to be finished is: whether all of it is opaque, and by how much its sides are shorter than the film's. */
export type PictureTraits = { readonly isOpaque: boolean; readonly shrink: number };

/** A picture (RGBA, straight alpha; overwritten) with the effects of a finish, in their order. Deviations are in pixels of the film's size. */
export function finishPicture(
  rgba: Uint8ClampedArray,
  width: number,
  height: number,
  finish: Finish,
  { isOpaque, shrink }: PictureTraits,
): Uint8ClampedArray {
  const picture = new PictureWork(rgba, width, height, isOpaque, shrink);
  for (const effect of finish) picture.do(effect);
  return picture.straight;
}
