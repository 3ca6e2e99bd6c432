import type { MeantPictures } from '@/core/count/pictureJudge';
import type { Size } from '@/core/document/model';
import type { Comparing } from '@/core/output/format';
import { fingerprintOf } from '@/core/raster/digest';
import { premultiplied, signatureOfPixels } from '@/core/raster/pictureSignature';
import { i420aPlanes, i420Planes, signatureOfPlanes } from '@/core/raster/signature';
import { i420aBytes, pixelsToI420A } from '@/core/raster/yuva';
import type { MeantNote } from '@/workers/output/pictures/keptPictures';
import type { Ground } from '@/workers/render/compositor';
import type { RenderedPicture } from '@/workers/render/renderedPicture';

/** What pixels (RGBA) are noted as, to be held against a file that is compared so. */
export async function noteOfPixels(
  comparing: Exclude<Comparing, 'film'>,
  { width, height }: Size,
  ground: Ground,
  rgba: Uint8Array,
): Promise<MeantNote> {
  if (comparing === 'picture' || comparing === 'clearPicture')
    return { signature: signatureOfPixels(width, height, rgba, comparing === 'clearPicture') };
  // The pixels as a file of this kind keeps them.
  return { fingerprint: await fingerprintOf(ground === 'none' && comparing === 'premultiplied' ? premultiplied(rgba) : rgba) };
}

/** Notes what each stack of a plan was rendered as, once, whoever writes it: that is what a file is held against afterwards. */
export class MeantNotes {
  private readonly fingerprints: string[] = [];
  private readonly signatures: Uint8Array[] = [];

  constructor(private readonly comparing: Comparing) {}

  /** How pixels are held against a file. Throws for films, which are noted by their planes. */
  get comparingPixels(): Exclude<Comparing, 'film'> {
    if (this.comparing === 'film') throw new Error('A film is noted by its planes.');
    return this.comparing;
  }

  async take(stack: number, picture: RenderedPicture): Promise<void> {
    if (this.noteOf(stack)) return;
    if (this.comparing === 'film') this.signatures[stack] = await this.signatureOfPlanes(picture);
    else await this.takePixels(stack, picture.size, picture.ground, await picture.rgbaPixels());
  }

  /** Notes a stack, once, by pixels (RGBA) as a file of pictures is to hold them. Throws for films, which are noted by their planes. */
  async takePixels(stack: number, size: Size, ground: Ground, rgba: Uint8Array): Promise<void> {
    const { comparingPixels } = this;
    if (!this.noteOf(stack)) this.recall(stack, await noteOfPixels(comparingPixels, size, ground, rgba));
  }

  /** Notes a stack, once, by straight pixels (RGBA) without a background, in whatever way the file is held against it. */
  async takeClear(stack: number, size: Size, rgba: Uint8Array): Promise<void> {
    if (this.noteOf(stack)) return;
    if (this.comparing !== 'film') return this.takePixels(stack, size, 'none', rgba);
    const { width, height } = size;
    const planes = new Uint8Array(i420aBytes(width, height));
    pixelsToI420A(width, height, rgba, planes);
    this.signatures[stack] = signatureOfPlanes(planes, i420aPlanes(width, height));
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

  /** What each of so many stacks was rendered as. Throws where one was not noted. */
  ofAll(stacks: number): readonly MeantNote[] {
    return Array.from({ length: stacks }, (_, stack) => {
      const note = this.noteOf(stack);
      if (!note) throw new Error(`What stack ${stack} was rendered as was not noted.`);
      return note;
    });
  }

  private get isExact(): boolean {
    return this.comparing === 'exact' || this.comparing === 'premultiplied';
  }

  private async signatureOfPlanes(picture: RenderedPicture): Promise<Uint8Array> {
    const { width, height } = picture.size;
    const planes = picture.ground === 'none' ? i420aPlanes(width, height) : i420Planes(width, height);
    return signatureOfPlanes(await picture.planes(), planes);
  }

  get meant(): MeantPictures {
    return this.isExact ? { kind: 'exact', fingerprints: this.fingerprints } : { kind: 'near', signatures: this.signatures };
  }
}
