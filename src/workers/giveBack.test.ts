import { describe, expect, it } from 'vitest';
import { giveBack } from '@/workers/giveBack';

describe('a buffer that is given back', () => {
  it('is nobody’s any more, one as well as the next', () => {
    for (const sizeBytes of [1, 4096]) {
      const buffer = new ArrayBuffer(sizeBytes);
      giveBack(buffer);
      expect(buffer.byteLength).toBe(0);
    }
  });
});
