import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { align } from '@/core/outside/align';
import { faultsOf } from '@/core/outside/faults';

const idsOf = (letters: string): Uint32Array => Uint32Array.from(letters, (letter) => letter.charCodeAt(0));

/** The fewest faults by the table of all prefixes (Wagner and Fischer, 1974), as a check on what gets there quicker. */
function fewestFaults(plan: Uint32Array, file: Uint32Array): number {
  let row = Array.from({ length: file.length + 1 }, (_, column) => column);
  for (let at = 1; at <= plan.length; at++) {
    const next = [at];
    for (let column = 1; column <= file.length; column++) {
      const same = (row[column - 1] as number) + (plan[at - 1] === file[column - 1] ? 0 : 1);
      next.push(Math.min(same, (row[column] as number) + 1, (next[column - 1] as number) + 1));
    }
    row = next;
  }
  return row[file.length] as number;
}

describe('an alignment', () => {
  const letters = fc.array(fc.nat(4), { maxLength: 30 }).map((ids) => Uint32Array.from(ids));

  it('has the fewest faults there can be, goes forwards, and gives each frame once', () => {
    fc.assert(
      fc.property(letters, letters, (plan, file) => {
        const found = align(plan, file);
        if (!found) throw new Error('Few faults are always found.');
        const { fileOf, planOf, isSame, faults } = found;
        expect(faults).toBe(fewestFaults(plan, file));
        let before = -1;
        let wrong = 0;
        for (let frame = 0; frame < plan.length; frame++) {
          const own = fileOf[frame] as number;
          expect(isSame[frame]).toBe(own >= 0 && plan[frame] === file[own] ? 1 : 0);
          if (isSame[frame] === 0) wrong++;
          if (own < 0) continue;
          expect(planOf[own]).toBe(frame);
          expect(own).toBeGreaterThan(before);
          before = own;
        }
        wrong += [...planOf].filter((frame) => frame === -1).length;
        expect(wrong).toBe(faults);
      }),
      { numRuns: 600 },
    );
  });

  it('is not sought where more is wrong than is told', () => {
    expect(align(idsOf('abcdefgh'), idsOf('ijklmnop'), 4)).toBeNull();
    expect(align(idsOf('abcdefgh'), idsOf('abXdefgh'), 4)?.faults).toBe(1);
  });
});

describe('faults', () => {
  const faults = (plan: string, file: string) => {
    const shared = { plan: idsOf(plan), file: idsOf(file) };
    const alignment = align(shared.plan, shared.file);
    if (!alignment) throw new Error('They can be aligned.');
    return faultsOf(shared, alignment, (frame) => (file[frame] === '.' ? 'black' : null)).map((fault) => ({ ...fault }));
  };

  it.each([
    ['abcdef', 'abcdef', []],
    ['abcdef', 'abccdef', [{ kind: 'twice', planFrame: 2, fileFrame: 3, frames: 1 }]],
    ['abcdef', 'abcccdef', [{ kind: 'twice', planFrame: 2, fileFrame: 3, frames: 2 }]],
    ['abcdef', 'abdef', [{ kind: 'missing', planFrame: 2, fileFrame: 2, frames: 1 }]],
    ['abcdef', 'abdcef', [{ kind: 'swapped', planFrame: 2, fileFrame: 2, frames: 2 }]],
    ['abcdef', 'bacdef', [{ kind: 'swapped', planFrame: 0, fileFrame: 0, frames: 2 }]],
    ['abcdef', 'abcdfe', [{ kind: 'swapped', planFrame: 4, fileFrame: 4, frames: 2 }]],
    // On twos: a frame that is missing of a hold is missing at its end, and so is one too many.
    ['aabbccdd', 'aabbbccdd', [{ kind: 'twice', planFrame: 3, fileFrame: 4, frames: 1 }]],
    ['aabbccdd', 'aabccdd', [{ kind: 'missing', planFrame: 3, fileFrame: 3, frames: 1 }]],
    ['abcdef', 'abXdef', [{ kind: 'other', planFrame: 2, fileFrame: 2, frames: 1, shows: null, flat: null }]],
    ['abcdef', 'abfdef', [{ kind: 'other', planFrame: 2, fileFrame: 2, frames: 1, shows: 5, flat: null }]],
    ['abcdef', 'ab..ef', [{ kind: 'other', planFrame: 2, fileFrame: 2, frames: 2, shows: null, flat: 'black' }]],
    ['abcdef', '..abcdef', [{ kind: 'extra', planFrame: 0, fileFrame: 0, frames: 2, shows: null, flat: 'black' }]],
    ['abcdef', 'abc', [{ kind: 'missing', planFrame: 3, fileFrame: 3, frames: 3 }]],
    ['abc', 'abcabc', [{ kind: 'extra', planFrame: 3, fileFrame: 3, frames: 3, shows: 0, flat: null }]],
  ])('of %s beside %s', (plan, file, expected) => expect(faults(plan, file)).toEqual(expected));
});
