/** A composite, what size it was made for, and the bytes it takes. */
type Held = { readonly bitmap: ImageBitmap; readonly size: string; readonly sizeBytes: number };

/** Pictures of one stage are shown in one size, and while they play in a lighter preview in another. */
const MOST_SIZES = 2;

/**
 * Composites that are ready, by key; past a limit the longest unused are let go, and all that were made for a size that is shown no
 * more: another stage shows them in its own, and would keep the room of both.
 */
export class ReadyPictures {
  private readonly held = new Map<string, Held>();
  /** The sizes that were made last, the latest first. */
  private sizes: readonly string[] = [];
  private heldBytes = 0;

  /** The one of this key if it is ready, without counting as its use. */
  peek(key: string): ImageBitmap | undefined {
    return this.held.get(key)?.bitmap;
  }

  /** The one of this key if it is ready. */
  get(key: string): ImageBitmap | undefined {
    const one = this.held.get(key);
    if (one) {
      this.held.delete(key);
      this.held.set(key, one);
    }
    return one?.bitmap;
  }

  /** Keeps one that was made for a size, and lets go of others when more than `mostBytes` are held; never of the one that came. */
  add(key: string, bitmap: ImageBitmap, size: string, mostBytes: number): void {
    this.letGo(key);
    const sizeBytes = bitmap.width * bitmap.height * 4;
    this.held.set(key, { bitmap, size, sizeBytes });
    this.heldBytes += sizeBytes;
    if (this.sizes[0] !== size) this.letGoOfOthers([size, ...this.sizes.filter((other) => other !== size)].slice(0, MOST_SIZES));
    for (const oldest of this.held.keys()) {
      if (this.heldBytes <= mostBytes || oldest === key) break;
      this.letGo(oldest);
    }
  }

  private letGoOfOthers(sizes: readonly string[]): void {
    this.sizes = sizes;
    for (const [key, { size }] of [...this.held]) if (!sizes.includes(size)) this.letGo(key);
  }

  /** Whoever draws one does so at once: what is let go is given back now, not in a pause some time later. */
  private letGo(key: string): void {
    const one = this.held.get(key);
    if (!one) return;
    this.held.delete(key);
    this.heldBytes -= one.sizeBytes;
    one.bitmap.close();
  }

  clear(): void {
    this.sizes = [];
    for (const key of [...this.held.keys()]) this.letGo(key);
  }
}
