import fc from 'fast-check';
import { expect, it } from 'vitest';
import { START_LOOP } from '@/core/output/loop';
import { LoopFile } from '@/workers/output/loop/loopFile';

/** A file that is written at places. */
function fileInMemory() {
  let bytes = new Uint8Array(0);
  let writings = 0;
  const write = (position: number, part: Uint8Array) => {
    const longer = new Uint8Array(Math.max(bytes.length, position + part.length));
    longer.set(bytes);
    longer.set(part, position);
    bytes = longer;
    writings++;
  };
  return {
    sink: { storedAs: 'test', write, discard: async () => undefined, finish: async () => new Blob([bytes]) },
    writings: () => writings,
  };
}

it('holds its parts in their order, the head over the beginning, and counts their bytes, however large they are', async () => {
  const sizes = fc.array(fc.oneof(fc.integer({ min: 1, max: 40 }), fc.constantFrom(256 * 1024 - 1, 256 * 1024, 300_000)), {
    maxLength: 12,
  });
  await fc.assert(
    fc.asyncProperty(sizes, fc.nat(12), async (lengths, headAt) => {
      const { sink, writings } = fileInMemory();
      const file = new LoopFile(sink, START_LOOP);
      const [placeholder, head] = [Uint8Array.of(0, 0, 0), Uint8Array.of(7, 8, 9)];
      file.add(placeholder);
      const parts = lengths.map((length, index) => new Uint8Array(length).fill(index + 10));
      for (const [index, part] of parts.entries()) {
        if (index === headAt) file.begin(head);
        file.add(part);
      }
      file.begin(head);
      const meant = Buffer.concat([head, ...parts]);
      expect(file.fileBytes).toBe(meant.length);
      const { file: made } = await file.finish();
      expect(Buffer.from(await (made as Blob).arrayBuffer()).equals(meant)).toBe(true);
      // A block each, the head twice at most, and what lay before and after it.
      expect(writings()).toBeLessThanOrEqual(Math.ceil(meant.length / (256 * 1024)) + 5);
    }),
    { numRuns: 40 },
  );
});

it('is refused where it is larger than it may be', async () => {
  const file = new LoopFile(fileInMemory().sink, { ...START_LOOP, mostBytes: 1000 });
  file.add(new Uint8Array(1001));
  await expect(file.finish()).rejects.toThrow(/was to stay below/);
});
