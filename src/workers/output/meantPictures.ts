import type { MeantPictures } from '@/core/count/pictureJudge';
import type { Comparing } from '@/core/output/format';
import { fingerprintOf } from '@/core/raster/digest';
import { premultiplied, signatureOfPixels } from '@/core/raster/pictureSignature';
import { inRgba } from '@/core/raster/pixelOrder';
import { i420aPlanes, i420Planes, signatureOfPlanes } from '@/core/raster/signature';
import type { MeantNote } from '@/workers/output/pictures/keptPictures';
import type { RenderedPicture } from '@/workers/render/renderedPicture';

/** Notes what each stack of a plan was rendered as, once, whoever writes it: that is what a file is held against afterwards. */
export class MeantNotes {
  private readonly fingerprints: string[] = [];
  private readonly signatures: Uint8Array[] = [];

  constructor(private readonly comparing: Comparing) {}

  async take(stack: number, picture: RenderedPicture): Promise<void> {
    if (this.isExact) this.fingerprints[stack] ??= await fingerprintOf(await this.keptPixels(picture));
    else this.signatures[stack] ??= await this.signatureOf(picture);
  }

  /** What a stack was rendered as; null where that was not noted. */
  noteOf(stack: number): MeantNote | null {
    const [fingerprint, signature] = [this.fingerprints[stack], this.signatures[stack]];
    return fingerprint !== undefined ? { fingerprint } : signature ? { signature } : null;
  }

  /** Takes what a stack was rendered as before; false where it is not held against files in that way. */
  recall(stack: number, note: MeantNote): boolean {
    if ('fingerprint' in note !== this.isExact) return false;
    if ('fingerprint' in note) this.fingerprints[stack] = note.fingerprint;
    else this.signatures[stack] = note.signature;
    return true;
  }

  private get isExact(): boolean {
    return this.comparing === 'exact' || this.comparing === 'premultiplied';
  }

  /** The pixels as a file of this kind keeps them. */
  private async keptPixels(picture: RenderedPicture): Promise<Uint8Array> {
    const pixels = await pixelsOf(picture);
    return picture.ground === 'none' && this.comparing === 'premultiplied' ? premultiplied(pixels) : pixels;
  }

  private async signatureOf(picture: RenderedPicture): Promise<Uint8Array> {
    const { width, height } = picture.size;
    if (this.comparing !== 'film') return signatureOfPixels(width, height, await pixelsOf(picture), this.comparing === 'clearPicture');
    const planes = picture.ground === 'none' ? i420aPlanes(width, height) : i420Planes(width, height);
    return signatureOfPlanes(await picture.planes(new Uint8Array(picture.planeBytes)), planes);
  }

  get meant(): MeantPictures {
    return this.isExact ? { kind: 'exact', fingerprints: this.fingerprints } : { kind: 'near', signatures: this.signatures };
  }
}

/** The pixels of a picture, RGBA: opaque on paper, else canonical straight ones. */
export async function pixelsOf(picture: RenderedPicture): Promise<Uint8Array> {
  if (picture.ground === 'none') return picture.straightPixels();
  const { pixels, order } = await picture.opaquePixels();
  return inRgba(pixels, order, () => new Uint8Array(pixels.byteLength));
}
