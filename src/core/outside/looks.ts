/*
 * The looks of a film's pictures lie in parts, one after another: a film of ten hours has close to a million of them, and a row of
 * bytes of its own for each takes three times the room of what is in it.
 */

/** Looks of one kind, `lookBytes` bytes each, `LOOKS_A_PART` in each part but the last. */
export type Looks = { readonly count: number; readonly lookBytes: number; readonly parts: readonly Uint8Array[] };

const LOOKS_A_PART = 256;

/** Takes looks one after another. */
export class LookRow {
  private readonly parts: Uint8Array[] = [];
  private lookBytes = 0;
  count = 0;

  push(look: Uint8Array): void {
    const place = this.count % LOOKS_A_PART;
    if (this.count === 0) this.lookBytes = look.length;
    if (look.length !== this.lookBytes) throw new Error(`A look of ${look.length} bytes among those of ${this.lookBytes}.`);
    if (place === 0) this.parts.push(new Uint8Array(LOOKS_A_PART * look.length));
    this.parts.at(-1)?.set(look, place * look.length);
    this.count++;
  }

  /** All that were taken until now. */
  get looks(): Looks {
    const { count, lookBytes } = this;
    const inLast = count % LOOKS_A_PART || LOOKS_A_PART;
    const last = this.parts.at(-1)?.slice(0, inLast * lookBytes);
    return { count, lookBytes, parts: last ? [...this.parts.slice(0, -1), last] : [] };
  }
}

/** A look by its place. Throws where there is none. */
export function lookAt({ count, lookBytes, parts }: Looks, index: number): Uint8Array {
  const part = parts[Math.floor(index / LOOKS_A_PART)];
  if (!part || index >= count) throw new Error(`There is no look ${index} of ${count}.`);
  const start = (index % LOOKS_A_PART) * lookBytes;
  return part.subarray(start, start + lookBytes);
}

/** All looks, each by itself. */
export const allLooks = (looks: Looks): readonly Uint8Array[] => Array.from({ length: looks.count }, (_, index) => lookAt(looks, index));

/** Looks in a row. */
export function looksOf(all: Iterable<Uint8Array>): Looks {
  const row = new LookRow();
  for (const look of all) row.push(look);
  return row.looks;
}
