import { expect, it } from 'vitest';
import { pictureAlone, type StackLayer, stackOf } from '@/core/render/stacks';

const LAYER: StackLayer = { picture: 'a'.repeat(64), opacityPercent: 100 };
const OTHER: StackLayer = { picture: 'b'.repeat(64), opacityPercent: 100 };

it.each([
  ['one layer as it is', [LAYER], true, false, true],
  ['one with a normal blend that is said', [{ ...LAYER, blend: 'normal' }], true, false, true],
  ['one that the finish leaves as it is', [LAYER], false, true, true],
  ['one under the finish', [LAYER], true, true, false],
  ['one partly there', [{ ...LAYER, opacityPercent: 99 }], true, false, false],
  ['one that meets what lies below in another way', [{ ...LAYER, blend: 'multiply' }], true, false, false],
  ['two', [LAYER, OTHER], true, false, false],
  ['nothing', [], true, false, false],
] as const)('%s', (_what, layers, finished, hasFinish, isAlone) => {
  expect(pictureAlone(stackOf(layers, finished), hasFinish)).toBe(isAlone ? LAYER.picture : null);
});
