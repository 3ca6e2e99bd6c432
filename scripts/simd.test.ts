import { readFile } from 'node:fs/promises';
import { expect, it } from 'vitest';
import { codeFile, compiled } from './simd.mjs';

it('code that ships as text is what its source says', async () => {
  expect(await readFile('src/core/finish/blurCode.ts', 'utf8')).toBe(codeFile(await compiled()));
}, 60_000);
