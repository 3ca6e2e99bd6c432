import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { deltaOf, withDelta } from '@/core/delta';
import type { Project } from '@/core/document/model';
import { shareTexts } from '@/core/document/sharedTexts';
import { applyStep } from '@/core/edit/table';
import { anyStep, START } from '@/core/testing/steps';

describe('texts that are shared', () => {
  it('leave a document as it was, read from text or told step by step', () => {
    fc.assert(
      fc.property(fc.array(anyStep, { maxLength: 12 }), (steps) => {
        let here = START;
        let there = structuredClone(START);
        shareTexts(there.shots);
        for (const step of steps) {
          const next = applyStep(here, step);
          if (!next.ok) continue;
          there = withDelta(there, structuredClone(deltaOf(here, next.value))) as Project;
          shareTexts(there.shots);
          here = next.value;
          const read = JSON.parse(JSON.stringify(here)) as Project;
          shareTexts(read.shots);
          expect(read).toEqual(here);
        }
        expect(there).toEqual(here);
      }),
    );
  });

  it('are those of new shots and new lists alone: what was gone through is looked at no more', () => {
    let asked = 0;
    const picture = 'a'.repeat(64);
    const counted = new Proxy([{ id: 'd', number: '1', role: 'key' as const, picture }], {
      get(list, name, self) {
        if (name === Symbol.iterator) asked++;
        return Reflect.get(list, name, self) as unknown;
      },
    });
    const [shot] = structuredClone(START).shots;
    if (!shot) throw new Error('The first project of the tests has a shot.');
    const [level, ...others] = shot.levels;
    if (!level) throw new Error('Its shot has a level.');
    const shots = [{ ...shot, levels: [{ ...level, drawings: counted, exposures: [] }, ...others] }];
    shareTexts(shots);
    shareTexts(shots);
    shareTexts(shots.map((each) => ({ ...each, name: 'renamed' })));
    expect(asked).toBe(1);
  });
});
