import { describe, expect, test } from 'vitest';
import { packetWindows } from '@/core/format/aac/packetWindows';

/** Bits written one after another, from a text of 0 and 1 with blanks between fields, filled with zeros to whole bytes. */
function bytesOf(text: string, least = 3): Uint8Array {
  const bits = text.replaceAll(' ', '').padEnd(least * 8, '0');
  return Uint8Array.from({ length: bits.length / 8 }, (_, index) => Number.parseInt(bits.slice(index * 8, index * 8 + 8), 2));
}

// Fields by hand from ISO/IEC 14496-3, tables 4.4 to 4.6 (from memory): element, tag, common_window, [gain,] reserved, sequence, shape.
const TABLE = [
  ['a pair with shared long windows', '001 0000 1 0 00 1', { sequence: 0, shape: 1, areShared: true }],
  ['a pair that turns to short ones', '001 0000 1 0 01 0', { sequence: 1, shape: 0, areShared: true }],
  ['eight short ones', '001 1111 1 0 10 1', { sequence: 2, shape: 1, areShared: true }],
  ['back to long ones', '001 0000 1 0 11 0', { sequence: 3, shape: 0, areShared: true }],
  ['each channel its own, after the gain of the first', '001 0000 0 11111111 0 10 1', { sequence: 2, shape: 1, areShared: false }],
  ['one channel', '000 0000 1 0 00 1', null],
  ['something that only fills', '110 0000 1 0 00 1', null],
] as const;

describe('the windows of an AAC packet', () => {
  test.each(TABLE)('%s', (_, bits, windows) => {
    expect(packetWindows(bytesOf(bits))).toEqual(windows);
  });

  test('a packet that is too short says nothing', () => {
    expect(packetWindows(Uint8Array.of(0b00100001, 0b00010000))).toBeNull();
    expect(packetWindows(new Uint8Array(0))).toBeNull();
  });
});
