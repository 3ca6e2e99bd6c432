import type { PictureName } from '@/core/render/stacks';
import { loadPicturePng } from '@/workers/render/pictureSource';
import { decodeStored } from '@/workers/render/storedPng';

/** A stored picture decoded; rejects with PictureMissing when it is missing. */
export const decodedPicture = async (name: PictureName): Promise<ImageBitmap> => decodeStored(await loadPicturePng(name));

/** Decoded pictures by name, had from `decode`. `trim` lets the longest unused go when more than `mostBytes` are held, but for the `leastHeld` used last. */
export class PictureCache {
  private readonly held = new Map<PictureName, ImageBitmap>();
  private readonly coming = new Map<PictureName, Promise<ImageBitmap>>();
  private heldBytes = 0;

  constructor(
    private readonly decode: (name: PictureName) => Promise<ImageBitmap> = decodedPicture,
    public mostBytes = 256 * 1024 * 1024,
  ) {}

  /** The picture if it is decoded already. */
  peek(name: PictureName): ImageBitmap | undefined {
    const bitmap = this.held.get(name);
    if (bitmap) {
      this.held.delete(name);
      this.held.set(name, bitmap);
    }
    return bitmap;
  }

  /** Whether the picture is decoded already, or on its way. */
  isAskedFor(name: PictureName): boolean {
    return this.held.has(name) || this.coming.has(name);
  }

  /** The decoded picture; rejects with PictureMissing when it is missing. */
  async get(name: PictureName): Promise<ImageBitmap> {
    const ready = this.peek(name);
    if (ready) return ready;
    let loading = this.coming.get(name);
    if (!loading) {
      loading = this.load(name).finally(() => this.coming.delete(name));
      this.coming.set(name, loading);
    }
    return loading;
  }

  private async load(name: PictureName): Promise<ImageBitmap> {
    const bitmap = await this.decode(name);
    this.held.set(name, bitmap);
    this.heldBytes += bitmap.width * bitmap.height * 4;
    return bitmap;
  }

  /**
   * Lets go of the longest unused pictures past the limit. Called by whoever uses the cache alone, at a
   * moment when it draws none of them, so that their memory is given back at once and not some time later.
   */
  trim(mostBytes = this.mostBytes, leastHeld = 0): void {
    for (const [name, bitmap] of this.held) {
      if (this.heldBytes <= mostBytes || this.held.size <= leastHeld) return;
      this.held.delete(name);
      this.heldBytes -= bitmap.width * bitmap.height * 4;
      bitmap.close();
    }
  }
}
