import { setLengths, setStepKeepingTime } from '@/core/edit/blockEdits';
import { applyStep } from '@/core/edit/table';
import { print, quantile } from './figure';
import { largeProject } from './large';

/** Five levels of 1,000 frames each: 5,000 cells, set on twos with their drawings kept and with their time kept. */
const large = largeProject();
const [shot] = large.shots;
if (!shot) throw new Error('The large project has a shot.');
const block = { levelIds: shot.levels.slice(0, 5).map((level) => level.id), fromFrame: 0, toFrame: 999 };
for (const [name, way] of [
  ['block.twos', setLengths],
  ['block.twos.time', setStepKeepingTime],
] as const) {
  const rounds: number[] = [];
  for (let round = 0; round < 60; round++) {
    const started = performance.now();
    const edit = way({ shot, firstNumber: 1, following: 'push', newId: () => `made${round}` }, block, 2);
    if (!edit.ok || !applyStep(large, edit.value.step).ok) throw new Error('The block could not be set on twos.');
    rounds.push(performance.now() - started);
  }
  print({ name: `${name}.p95`, value: quantile(rounds, 0.95), unit: 'ms' });
}
