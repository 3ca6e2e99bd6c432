import { describe, expect, it } from 'vitest';
import { rangeOf } from '@/app/api/byteRange';

// RFC 9110, 14.1.2, with its own examples for a file of 10,000 bytes.
describe('the range of bytes that is asked for', () => {
  it.each([
    ['bytes=0-499', { from: 0, to: 500 }],
    ['bytes=500-999', { from: 500, to: 1000 }],
    ['bytes=-500', { from: 9500, to: 10_000 }],
    ['bytes=9500-', { from: 9500, to: 10_000 }],
    ['bytes=0-0', { from: 0, to: 1 }],
    ['bytes=9999-20000', { from: 9999, to: 10_000 }],
    ['bytes=-20000', { from: 0, to: 10_000 }],
    ['bytes=10000-', 'unsatisfiable'],
    ['bytes=-0', 'unsatisfiable'],
    ['bytes=0-0,-1', null],
    ['bytes=9-3', null],
    ['lines=1-2', null],
    ['bytes=-', null],
    [null, null],
  ])('%s', (header, range) => expect(rangeOf(header, 10_000)).toEqual(range));
});
