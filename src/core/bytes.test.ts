import { describe, expect, it } from 'vitest';
import { bytesText } from '@/core/bytes';

describe('bytes in words', () => {
  it.each([
    [0, '0 kB'],
    [1, '1 kB'],
    [412_000, '412 kB'],
    [999_001, '1000 kB'],
    [1_000_000, '1.00 MB'],
    [1_930_001, '1.94 MB'],
    [52_981_750_000, '52.99 GB'],
  ])('%i are %s, never less than they are', (bytes, text) => expect(bytesText(bytes)).toBe(text));
});
