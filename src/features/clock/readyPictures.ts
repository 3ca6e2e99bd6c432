/** Composites that are ready, by key; past a limit the longest unused are let go. */
export class ReadyPictures {
  private readonly held = new Map<string, ImageBitmap>();
  private heldBytes = 0;

  /** The one of this key if it is ready, without counting as its use. */
  peek(key: string): ImageBitmap | undefined {
    return this.held.get(key);
  }

  /** The one of this key if it is ready. */
  get(key: string): ImageBitmap | undefined {
    const bitmap = this.held.get(key);
    if (bitmap) {
      this.held.delete(key);
      this.held.set(key, bitmap);
    }
    return bitmap;
  }

  /** Keeps one, and lets go of others when more than `mostBytes` are held; never of the one that came. */
  add(key: string, bitmap: ImageBitmap, mostBytes: number): void {
    this.letGo(key);
    this.held.set(key, bitmap);
    this.heldBytes += bytesOf(bitmap);
    for (const oldest of this.held.keys()) {
      if (this.heldBytes <= mostBytes || oldest === key) break;
      this.letGo(oldest);
    }
  }

  /** Whoever draws one does so at once: what is let go is given back now, not in a pause some time later. */
  private letGo(key: string): void {
    const bitmap = this.held.get(key);
    if (!bitmap) return;
    this.held.delete(key);
    this.heldBytes -= bytesOf(bitmap);
    bitmap.close();
  }

  clear(): void {
    for (const key of [...this.held.keys()]) this.letGo(key);
  }
}

const bytesOf = ({ width, height }: ImageBitmap): number => width * height * 4;
