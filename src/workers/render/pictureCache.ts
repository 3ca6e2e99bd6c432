import type { Digest } from '@/core/document/model';
import { loadPicturePng } from '@/workers/render/pictureSource';

/** Decoded pictures by digest. `trim` lets the longest unused go when more than `mostBytes` are held. */
export class PictureCache {
  private readonly held = new Map<Digest, ImageBitmap>();
  private readonly coming = new Map<Digest, Promise<ImageBitmap>>();
  private heldBytes = 0;

  constructor(private readonly mostBytes = 256 * 1024 * 1024) {}

  /** The picture if it is decoded already. */
  peek(digest: Digest): ImageBitmap | undefined {
    const bitmap = this.held.get(digest);
    if (bitmap) {
      this.held.delete(digest);
      this.held.set(digest, bitmap);
    }
    return bitmap;
  }

  /** The decoded picture; rejects with PictureMissing when it can't be had. */
  async get(digest: Digest): Promise<ImageBitmap> {
    const ready = this.peek(digest);
    if (ready) return ready;
    let loading = this.coming.get(digest);
    if (!loading) {
      loading = this.load(digest).finally(() => this.coming.delete(digest));
      this.coming.set(digest, loading);
    }
    return loading;
  }

  private async load(digest: Digest): Promise<ImageBitmap> {
    const bitmap = await createImageBitmap(await loadPicturePng(digest), { colorSpaceConversion: 'none' });
    this.held.set(digest, bitmap);
    this.heldBytes += bitmap.width * bitmap.height * 4;
    return bitmap;
  }

  /**
   * Lets go of the longest unused pictures past the limit. Called by whoever uses the cache alone, at a
   * moment when it draws none of them, so that their memory is given back at once and not some time later.
   */
  trim(mostBytes = this.mostBytes): void {
    for (const [digest, bitmap] of this.held) {
      if (this.heldBytes <= mostBytes) return;
      this.held.delete(digest);
      this.heldBytes -= bitmap.width * bitmap.height * 4;
      bitmap.close();
    }
  }
}
