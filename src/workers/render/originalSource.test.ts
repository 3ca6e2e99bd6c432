import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import { BLOCK_BYTES, OriginalBlocks } from '@/workers/render/originalSource';

const FILE = Uint8Array.from({ length: 5 * BLOCK_BYTES + 77 }, (_, at) => (at * 31 + Math.floor(at / 251)) % 256);

/** What was asked of the server, as `from-to`, `to` inclusive as HTTP has it; `fails` answers are no answers at all. */
function serve(fails = 0): string[] {
  const asked: string[] = [];
  vi.stubGlobal('fetch', async (_address: URL, { headers }: { headers: { Range: string } }) => {
    const [from, to] = headers.Range.replace('bytes=', '').split('-').map(Number) as [number, number];
    asked.push(`${from}-${to}`);
    if (asked.length <= fails) throw new TypeError('Failed to fetch');
    return new Response(FILE.slice(from, to + 1), { status: 206, headers: { 'Content-Range': `bytes ${from}-${to}/${FILE.byteLength}` } });
  });
  return asked;
}

const blocksOf = async (mostKept = 4) => {
  const blocks = new OriginalBlocks('a'.repeat(64), mostKept);
  expect(await blocks.size()).toBe(FILE.byteLength);
  return blocks;
};

beforeEach(() => vi.stubGlobal('self', { location: { origin: 'http://here' } }));
afterEach(() => {
  vi.unstubAllGlobals();
  vi.useRealTimers();
});

describe('the parts of an original', () => {
  it.each([
    [0, 1],
    [BLOCK_BYTES - 1, BLOCK_BYTES + 1],
    [10, 3 * BLOCK_BYTES + 10],
    [FILE.byteLength - 100, FILE.byteLength],
    [0, FILE.byteLength],
  ])('from %i to %i are the file’s own bytes', async (from, to) => {
    serve();
    expect(Buffer.compare(await (await blocksOf()).read(from, to), FILE.subarray(from, to))).toBe(0);
  });

  it('are asked for once, together with the one before for who comes from elsewhere, and no megabyte ahead', async () => {
    const asked = serve();
    const blocks = await blocksOf();
    await blocks.read(3 * BLOCK_BYTES, 3 * BLOCK_BYTES + 9);
    await blocks.read(3 * BLOCK_BYTES + 9, 3 * BLOCK_BYTES + 99);
    await blocks.read(0, 9);
    expect(asked.slice(1)).toEqual([`${2 * BLOCK_BYTES}-${4 * BLOCK_BYTES - 1}`, `0-${BLOCK_BYTES - 1}`]);
  });

  it('are the file’s own where more is read at once than is kept, and the last of it was kept', async () => {
    serve();
    const blocks = await blocksOf(2);
    await blocks.read(4 * BLOCK_BYTES, 4 * BLOCK_BYTES + 9);
    const all = await blocks.read(0, 5 * BLOCK_BYTES);
    expect(Buffer.compare(all, FILE.subarray(0, 5 * BLOCK_BYTES))).toBe(0);
  });

  it('come with as many before them as it took to a key frame before', async () => {
    const asked = serve();
    const blocks = await blocksOf(6);
    // The frame lies in the third block, its key frame in the first: that one is asked for when it is wanted.
    for (const block of [2, 0, 1, 2]) await blocks.read(block * BLOCK_BYTES, block * BLOCK_BYTES + 9);
    await blocks.read(5 * BLOCK_BYTES, 5 * BLOCK_BYTES + 9);
    expect(asked.slice(1)).toEqual([
      `${BLOCK_BYTES}-${3 * BLOCK_BYTES - 1}`,
      `0-${BLOCK_BYTES - 1}`,
      `${3 * BLOCK_BYTES}-${FILE.byteLength - 1}`,
    ]);
  });

  it('come one block ahead to who goes on, up to the end', async () => {
    const asked = serve();
    const blocks = await blocksOf();
    for (let from = 0; from < FILE.byteLength; from += BLOCK_BYTES) await blocks.read(from, Math.min(FILE.byteLength, from + 9));
    expect(asked.slice(1)).toEqual(
      [0, 1, 2, 3, 4, 5].map((n) => `${n * BLOCK_BYTES}-${Math.min(FILE.byteLength, (n + 1) * BLOCK_BYTES) - 1}`),
    );
  });

  it('are let go, the longest unused first', async () => {
    const asked = serve();
    const blocks = await blocksOf(3);
    for (const block of [0, 1, 4, 0, 1]) await blocks.read(block * BLOCK_BYTES, block * BLOCK_BYTES + 1);
    // 4 comes with 3, for which 0 makes way; 2 comes ahead of whoever goes on from 0 to 1.
    expect(asked.slice(1).map((range) => Number(range.split('-')[0]) / BLOCK_BYTES)).toEqual([0, 1, 2, 3, 0, 1, 2]);
  });

  it('are asked for again when nothing answers, three times in all, and again when they are wanted after that', async () => {
    vi.useFakeTimers();
    const asked = serve(3);
    const blocks = new OriginalBlocks('a'.repeat(64), 2);
    const failed = expect(blocks.size()).rejects.toThrow('Failed to fetch');
    await vi.advanceTimersByTimeAsync(1000);
    await failed;
    expect(asked).toHaveLength(3);
    expect(await blocks.size()).toBe(FILE.byteLength);
  });

  it.each([
    [404, 1],
    [503, 3],
  ])('of one that is answered with %i are asked for %i times', async (status, times) => {
    vi.useFakeTimers();
    const fetched = vi.fn(async () => new Response(null, { status }));
    vi.stubGlobal('fetch', fetched);
    const failed = expect(new OriginalBlocks('a'.repeat(64), 2).size()).rejects.toThrow('can’t be read from the store');
    await vi.advanceTimersByTimeAsync(1000);
    await failed;
    expect(fetched).toHaveBeenCalledTimes(times);
  });
});
