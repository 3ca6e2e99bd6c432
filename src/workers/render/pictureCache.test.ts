import { describe, expect, it, vi } from 'vitest';
import { pictureOf } from '@/core/testing/sheets';
import { PictureCache } from '@/workers/render/pictureCache';

const BYTES = 10 * 10 * 4;

function cacheOf(mostBytes: number) {
  const decoded: string[] = [];
  const closed: string[] = [];
  const cache = new PictureCache(async (name) => {
    decoded.push(name[0] ?? '');
    return { width: 10, height: 10, close: vi.fn(() => closed.push(name[0] ?? '')) } as unknown as ImageBitmap;
  }, mostBytes);
  const get = async (letters: string) => {
    for (const letter of letters) await cache.get(pictureOf(letter));
  };
  return { cache, decoded, closed, get };
}

describe('decoded pictures', () => {
  it('each is decoded once while it is held, and the longest unused go first', async () => {
    const { cache, decoded, closed, get } = cacheOf(2 * BYTES);
    await get('abac');
    cache.trim();
    expect([decoded, closed]).toEqual([['a', 'b', 'c'], ['b']]);
    await get('ab');
    expect(decoded).toEqual(['a', 'b', 'c', 'b']);
  });

  it('those used last stay where that is asked, however large they are', async () => {
    const { cache, closed, get } = cacheOf(1);
    await get('abc');
    cache.trim(undefined, 2);
    expect(closed).toEqual(['a']);
    cache.trim();
    expect(closed).toEqual(['a', 'b', 'c']);
  });

  it('two who want one at once share it', async () => {
    const { cache, decoded } = cacheOf(BYTES);
    const [first, second] = await Promise.all([cache.get(pictureOf('a')), cache.get(pictureOf('a'))]);
    expect(first).toBe(second);
    expect(decoded).toEqual(['a']);
  });
});
