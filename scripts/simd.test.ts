import { readFile } from 'node:fs/promises';
import { expect, it } from 'vitest';
import { codeFile, PARTS } from './simd.mjs';

it.each(PARTS)(
  'the code in $target is what $source says',
  async (part) => {
    expect(await readFile(part.target, 'utf8')).toBe(await codeFile(part));
  },
  60_000,
);
