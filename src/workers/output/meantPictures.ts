import type { MeantPictures } from '@/core/count/pictureJudge';
import type { FormatCarries } from '@/core/output/format';
import { fingerprintOf } from '@/core/raster/digest';
import { inRgba } from '@/core/raster/pixelOrder';
import { i420Planes, signatureOfPlanes } from '@/core/raster/signature';
import { i420Bytes } from '@/core/raster/yuv';
import type { RenderedPicture } from '@/workers/render/renderedPicture';

/** Notes what each stack of a plan was rendered as, once, whoever writes it: that is what a file is held against afterwards. */
export class MeantNotes {
  private readonly fingerprints: string[] = [];
  private readonly signatures: Uint8Array[] = [];

  constructor(private readonly colours: FormatCarries['colours']) {}

  async take(stack: number, picture: RenderedPicture): Promise<void> {
    if (this.colours === 'exact') this.fingerprints[stack] ??= await fingerprintOf(await pixelsOf(picture));
    else this.signatures[stack] ??= await signatureOf(picture);
  }

  get meant(): MeantPictures {
    return this.colours === 'exact' ? { kind: 'exact', fingerprints: this.fingerprints } : { kind: 'near', signatures: this.signatures };
  }
}

async function pixelsOf(picture: RenderedPicture): Promise<Uint8Array> {
  if (picture.ground === 'none') return picture.straightPixels();
  const { pixels, order } = await picture.opaquePixels();
  return inRgba(pixels, order, () => new Uint8Array(pixels.byteLength));
}

async function signatureOf(picture: RenderedPicture): Promise<Uint8Array> {
  const { width, height } = picture.size;
  return signatureOfPlanes(await picture.planes(new Uint8Array(i420Bytes(width, height))), i420Planes(width, height));
}
