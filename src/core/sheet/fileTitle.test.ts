import { describe, expect, it } from 'vitest';
import { fileTitle } from '@/core/sheet/fileTitle';

describe('a name made of a file’s', () => {
  it.each([
    ['big_plop-02.wav', [], 'Big plop 02'],
    ['wind.wav', ['Wind'], 'Wind 2'],
    ['wind.wav', ['Wind', 'Wind 2'], 'Wind 3'],
    ['.wav', [], 'Sound'],
    ['take.1.flac', [], 'Take.1'],
    [`${'a'.repeat(80)}.wav`, [], `A${'a'.repeat(45)}`],
  ])('%s, when %j are taken: %s', (fileName, taken, name) => expect(fileTitle(fileName, 'Sound', new Set(taken))).toBe(name));
});
