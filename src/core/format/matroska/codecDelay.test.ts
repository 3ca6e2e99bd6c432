import { describe, expect, it } from 'vitest';
import { codecDelayPatch, nameWithRoom } from '@/core/format/matroska/codecDelay';
import { readCodecDelay } from '@/core/format/matroska/readCodecDelay';

const bytesOf = (text: string) => [...new TextEncoder().encode(text)];
const element = (id: readonly number[], content: readonly number[]) => [
  ...id,
  0x40 | (content.length >> 8),
  content.length & 0xff,
  ...content,
];

/** The beginning of a Matroska file with a picture's and a sound's track, as RFC 9559 has it. */
const beginning = (name: string) => {
  const track = (type: number, more: readonly number[]) => element([0xae], [...element([0x83], [type]), ...more]);
  const nameElement = [0x53, 0x6e, 0x80 | bytesOf(name).length, ...bytesOf(name)];
  const tracks = element([0x16, 0x54, 0xae, 0x6b], [...track(1, []), ...track(2, nameElement)]);
  // A header, then a segment of unknown size: a file that was written as it came.
  return Uint8Array.from([
    ...element([0x1a, 0x45, 0xdf, 0xa3], [0x42, 0x86, 0x81, 1]),
    0x18,
    0x53,
    0x80,
    0x67,
    0x01,
    ...new Array(7).fill(0xff),
    ...tracks,
  ]);
};

describe('the delay of a sound in Matroska', () => {
  it.each(['Mix', 'Klang für dich', '音'])('is put into room its track’s name leaves, every place staying as it was (%s)', (name) => {
    const before = beginning(nameWithRoom(name));
    expect(readCodecDelay(before)).toBe(0);
    const patch = codecDelayPatch(before, name, 21_333_333);
    if (!patch) throw new Error('There was no room.');
    const after = before.slice();
    after.set(patch.bytes, patch.position);
    expect(after.length).toBe(before.length);
    expect(readCodecDelay(after)).toBe(21_333_333);
    // Element 53 6E now holds the name alone.
    const nameAt = patch.position;
    expect(new TextDecoder().decode(after.slice(nameAt + 3, nameAt + 3 + (after[nameAt + 2] as number) - 0x80))).toBe(name);
  });
  it('is refused a name too long for it, and not found where there is no such name', () => {
    expect(() => nameWithRoom('x'.repeat(116))).toThrow('too long');
    expect(nameWithRoom('x'.repeat(115))).toHaveLength(126);
    expect(codecDelayPatch(beginning('Another'), 'Mix', 1)).toBeNull();
  });
  it('is none in what is cut short or no such file', () => {
    const whole = beginning(nameWithRoom('Mix'));
    for (let length = 0; length < whole.length; length++) expect(readCodecDelay(whole.subarray(0, length))).toBe(0);
    expect(readCodecDelay(Uint8Array.from(bytesOf('ftypisom and no Matroska')))).toBe(0);
  });
});
