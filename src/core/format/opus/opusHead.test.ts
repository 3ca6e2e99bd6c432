import { expect, it } from 'vitest';
import { opusPriming } from '@/core/format/opus/opusHead';

/** `OpusHead`, version 1, two channels, 312 samples before the first, 48,000 Hz: what a browser's coder writes. */
const HEADER = Uint8Array.from([79, 112, 117, 115, 72, 101, 97, 100, 1, 2, 56, 1, 128, 187, 0, 0, 0, 0, 0]);

it('the samples before the first are those an Opus header tells, wherever it lies', () => {
  expect(opusPriming(HEADER)).toBe(312);
  expect(opusPriming(HEADER.buffer)).toBe(312);
  const within = new Uint8Array(40);
  within.set(HEADER, 7);
  expect(opusPriming(within.subarray(7, 26))).toBe(312);
  expect([opusPriming(undefined), opusPriming(HEADER.subarray(0, 11))]).toEqual([0, 0]);
});
