import { CustomSource } from 'mediabunny';
import { originalAtHand } from '@/workers/render/atHand';

const MOST_TRIES = 3;
const RETRY_MILLISECONDS = 300;

/**
 * What is asked for at once. Whoever goes elsewhere waits for what was asked for before: some tens of milliseconds of a film's
 * pictures are worth the asking, megabytes ahead of them are not.
 */
export const BLOCK_BYTES = 256 * 1024;

/** So far before a frame its key frame is looked for at once; what is farther is asked for when it is wanted. */
const MOST_KEY_BLOCKS = 4;

/** The server answered, and has not got it: asking again would change nothing. */
class OriginalGone extends Error {
  override readonly name = 'OriginalGone';
}

/** The parts of an original, asked for by whole blocks, of which the last used are kept. */
export class OriginalBlocks {
  private readonly address: URL;
  private readonly kept = new Map<number, Promise<Uint8Array>>();
  private lastBlock = Number.NEGATIVE_INFINITY;
  /** The block that was gone to last, from elsewhere. */
  private goneTo = Number.NEGATIVE_INFINITY;
  /** How many blocks before the one gone to the key frame lay at which whoever went there had to begin; the most of all times. */
  private keyBlocksBefore = 1;
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

  /** Asks for blocks one after another at once, those that are not kept; each is kept as it is used. */
  private blocks(first: number, last: number): readonly Promise<Uint8Array>[] {
    const numbers = Array.from({ length: last - first + 1 }, (_, index) => first + index);
    // Looked for before any is kept: keeping one lets go of another, which may be among these.
    const kept = numbers.map((number) => this.kept.get(number));
    const missing = numbers.filter((_, index) => !kept[index]);
    const [from, to] = [Math.min(...missing), Math.max(...missing) + 1];
    // One answer for all of them takes less time than one each.
    const asked = missing.length > 0 ? this.ask(from * BLOCK_BYTES, Math.min(this.sizeBytes, to * BLOCK_BYTES)) : null;
    const arrived = asked?.then(async (answer) => new Uint8Array(await answer.arrayBuffer()));
    return numbers.map((number, index) => {
      const block =
        kept[index] ??
        (arrived as Promise<Uint8Array>).then((bytes) => bytes.subarray((number - from) * BLOCK_BYTES, (number - from + 1) * BLOCK_BYTES));
      this.keep(number, block);
      return block;
    });
  }

  private keep(number: number, block: Promise<Uint8Array>): void {
    this.kept.delete(number);
    this.kept.set(number, block);
    block.catch(() => this.kept.delete(number));
    for (const longestUnused of this.kept.keys()) {
      if (this.kept.size <= this.mostKept) break;
      this.kept.delete(longestUnused);
    }
  }

  async read(from: number, to: number): Promise<Uint8Array> {
    const [first, last] = [Math.floor(from / BLOCK_BYTES), Math.floor((to - 1) / BLOCK_BYTES)];
    const blocksBack = this.lastBlock - first;
    const isKeyFrame = this.lastBlock === this.goneTo && blocksBack > 0 && blocksBack <= MOST_KEY_BLOCKS;
    if (isKeyFrame) this.keyBlocksBefore = Math.max(this.keyBlocksBefore, blocksBack);
    const isElsewhere = Math.abs(blocksBack) > 1 && !isKeyFrame;
    if (isElsewhere) this.goneTo = last;
    // Who comes from elsewhere begins at a key frame before it.
    const before = isElsewhere ? Math.min(first, this.keyBlocksBefore) : 0;
    const blocks = this.blocks(first - before, last).slice(before);
    // Who goes on past what was gone to wants the block after as well.
    const goesOn = last > this.lastBlock && last !== this.goneTo && (last + 1) * BLOCK_BYTES < this.sizeBytes;
    if (goesOn && !isElsewhere) this.blocks(last + 1, last + 1);
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
