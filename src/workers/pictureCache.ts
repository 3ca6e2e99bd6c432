import type { Digest } from '@/core/sheet/document';
import { loadPicturePng } from '@/workers/pictureSource';

/** Decoded pictures by digest, the longest unused let go when more than `mostBytes` are held. */
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
    for (const [oldest, old] of this.held) {
      if (this.heldBytes <= this.mostBytes || oldest === digest) break;
      this.held.delete(oldest);
      this.heldBytes -= old.width * old.height * 4;
    }
    return bitmap;
  }
}
