/*
 * Files that are at hand and need not be asked of the server: what is packed in a package that something is held against. Names are
 * digests of what they name, so that a picture of one package is that of any other.
 */

/** What is at hand, each by its digest; null for what is not among it. */
export type AtHand = {
  readonly picture: (digest: string) => Promise<Uint8Array | null>;
  readonly original: (digest: string) => Promise<Blob | null>;
};

const all: AtHand[] = [];

/** Has pictures and originals be looked for here before the server is asked. */
export function layAtHand(more: AtHand): void {
  all.push(more);
}

async function firstOf<T>(find: (each: AtHand) => Promise<T | null>): Promise<T | null> {
  for (const each of all) {
    const found = await find(each);
    if (found) return found;
  }
  return null;
}

export const pictureAtHand = (digest: string): Promise<Uint8Array | null> => firstOf(({ picture }) => picture(digest));
export const originalAtHand = (digest: string): Promise<Blob | null> => firstOf(({ original }) => original(digest));
