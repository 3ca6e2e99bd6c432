import { CustomSource } from 'mediabunny';
import { originalAtHand } from '@/workers/render/atHand';

const MOST_TRIES = 3;
const RETRY_MILLISECONDS = 300;

/**
 * What is asked for at once. Whoever goes elsewhere waits for what was asked for before: some tens of milliseconds of a film's
 * pictures are worth the asking, megabytes ahead of them are not.
 */
export const BLOCK_BYTES = 256 * 1024;

/** The server answered, and has not got it: asking again would change nothing. */
class OriginalGone extends Error {
  override readonly name = 'OriginalGone';
}

/** The parts of an original, asked for by whole blocks, of which the last used are kept. */
export class OriginalBlocks {
  private readonly address: URL;
  private readonly kept = new Map<number, Promise<Uint8Array>>();
  private lastBlock = Number.NEGATIVE_INFINITY;
  private sizeBytes = 0;

  constructor(
    original: string,
    private readonly mostKept: number,
  ) {
    this.address = new URL(`/api/originals/${original}`, self.location.origin);
  }

  /** The answer with bytes `from` to `to`, `to` exclusive. A server that doesn't answer, or is in trouble, is asked again before that counts. */
  private async ask(from: number, to: number, tried = 1): Promise<Response> {
    try {
      // A browser's own cache takes turns over one address, and would write whole films to the disk once more.
      const answer = await fetch(this.address, { cache: 'no-store', headers: { Range: `bytes=${from}-${to - 1}` } });
      if (answer.status === 206) return answer;
      const said = 'its original can’t be read from the store';
      throw answer.status < 500 ? new OriginalGone(said) : new Error(said);
    } catch (error) {
      if (error instanceof OriginalGone || tried === MOST_TRIES) throw error;
      await new Promise((resolve) => setTimeout(resolve, RETRY_MILLISECONDS));
      return this.ask(from, to, tried + 1);
    }
  }

  async size(): Promise<number> {
    const answer = await this.ask(0, 1);
    await answer.arrayBuffer();
    this.sizeBytes = Number(answer.headers.get('Content-Range')?.split('/')[1]);
    return this.sizeBytes;
  }

  private block(number: number): Promise<Uint8Array> {
    const from = number * BLOCK_BYTES;
    const asked =
      this.kept.get(number) ??
      this.ask(from, Math.min(this.sizeBytes, from + BLOCK_BYTES)).then(async (answer) => new Uint8Array(await answer.arrayBuffer()));
    this.kept.delete(number);
    this.kept.set(number, asked);
    asked.catch(() => this.kept.delete(number));
    for (const longestUnused of this.kept.keys()) {
      if (this.kept.size <= this.mostKept) break;
      this.kept.delete(longestUnused);
    }
    return asked;
  }

  async read(from: number, to: number): Promise<Uint8Array> {
    const [first, last] = [Math.floor(from / BLOCK_BYTES), Math.floor((to - 1) / BLOCK_BYTES)];
    const blocks = Array.from({ length: last - first + 1 }, (_, index) => this.block(first + index));
    // Who goes on from one block to the next wants the one after that; who comes from elsewhere begins at a key frame before it.
    const goesOn = last === this.lastBlock + 1 || last > first;
    const isElsewhere = Math.abs(first - this.lastBlock) > 1;
    if (goesOn && (last + 1) * BLOCK_BYTES < this.sizeBytes) void this.block(last + 1).catch(() => undefined);
    else if (isElsewhere && first > 0) void this.block(first - 1).catch(() => undefined);
    this.lastBlock = last;
    if (blocks.length === 1)
      return (await (blocks[0] as Promise<Uint8Array>)).subarray(from - first * BLOCK_BYTES, to - first * BLOCK_BYTES);
    const bytes = new Uint8Array(to - from);
    for (const [index, block] of blocks.entries()) {
      const start = (first + index) * BLOCK_BYTES;
      bytes.set((await block).subarray(Math.max(0, from - start), to - start), Math.max(0, start - from));
    }
    return bytes;
  }
}

/** An original that is at hand, or on the server, read where it is wanted. `mostKeptBytes` of it stay in memory. */
export function originalSource(original: string, mostKeptBytes: number): CustomSource {
  const blocks = new OriginalBlocks(original, Math.ceil(mostKeptBytes / BLOCK_BYTES));
  let atHand: Promise<Blob | null> | null = null;
  const own = () => {
    atHand ??= originalAtHand(original);
    return atHand;
  };
  return new CustomSource({
    maxCacheSize: 0,
    prefetchProfile: 'none',
    getSize: async () => (await own())?.size ?? blocks.size(),
    read: async (from, to) => {
      const blob = await own();
      return blob ? new Uint8Array(await blob.slice(from, to).arrayBuffer()) : blocks.read(from, to);
    },
  });
}
