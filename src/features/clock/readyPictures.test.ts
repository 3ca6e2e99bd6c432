import { describe, expect, it, vi } from 'vitest';
import { ReadyPictures } from '@/features/clock/readyPictures';

const BYTES = 10 * 10 * 4;
const bitmap = () => ({ width: 10, height: 10, close: vi.fn() }) as unknown as ImageBitmap & { readonly close: ReturnType<typeof vi.fn> };

describe('composites that are ready', () => {
  it('past a limit the longest unused goes, and its memory at once', () => {
    const ready = new ReadyPictures();
    const [a, b, c] = [bitmap(), bitmap(), bitmap()];
    ready.add('a', a, '1', 2 * BYTES);
    ready.add('b', b, '1', 2 * BYTES);
    expect(ready.get('a')).toBe(a);
    ready.add('c', c, '1', 2 * BYTES);
    expect(ready.peek('b')).toBeUndefined();
    expect(b.close).toHaveBeenCalledOnce();
    expect([ready.peek('a'), ready.peek('c')]).toEqual([a, c]);
  });

  it('looking is no use, and the one that came stays however little room there is', () => {
    const ready = new ReadyPictures();
    const [a, b] = [bitmap(), bitmap()];
    ready.add('a', a, '1', 1);
    ready.peek('a');
    ready.add('b', b, '1', 1);
    expect(ready.peek('a')).toBeUndefined();
    expect(ready.peek('b')).toBe(b);
  });

  it('of sizes those of the last two stay: what another stage showed takes no room for long', () => {
    const ready = new ReadyPictures();
    const made = ['1', '1.5', '1', '2', '1'].map((size, index) => {
      const one = bitmap();
      ready.add(`${size} ${index}`, one, size, 100 * BYTES);
      return one;
    });
    expect(made.map((_, index) => ready.peek(`${['1', '1.5', '1', '2', '1'][index]} ${index}`) !== undefined)).toEqual([
      true,
      false,
      true,
      true,
      true,
    ]);
    expect(made[1]?.close).toHaveBeenCalledOnce();
  });

  it('one that is made again takes the place of the one before, and is counted once', () => {
    const ready = new ReadyPictures();
    const [old, anew, other] = [bitmap(), bitmap(), bitmap()];
    ready.add('a', old, '1', 2 * BYTES);
    ready.add('a', anew, '1', 2 * BYTES);
    ready.add('b', other, '1', 2 * BYTES);
    expect(old.close).toHaveBeenCalledOnce();
    expect([ready.peek('a'), ready.peek('b')]).toEqual([anew, other]);
    ready.clear();
    expect(anew.close).toHaveBeenCalledOnce();
  });
});
