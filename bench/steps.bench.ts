import { setLengths, setStepKeepingTime } from '@/core/edit/blockActs';
import type { Step } from '@/core/edit/step';
import { applyStep } from '@/core/edit/table';
import type { Drawing, Level, Project } from '@/core/sheet/document';
import { print, quantile } from './figure';

const LEVELS = 10;
const FRAMES = 10_000;
const STEPS = 6000;

/** Ten levels of 10,000 frames, every one on ones: the most exposures such a shot can have. */
function largeProject(): Project {
  const levels = Array.from({ length: LEVELS }, (_, place): Level => {
    const drawings = Array.from(
      { length: FRAMES },
      (_, index): Drawing => ({ id: `${place}-${index}`, number: String(index + 1), role: 'inbetween', picture: null }),
    );
    return {
      id: `level${place}`,
      name: `Level ${place}`,
      kind: 'animated',
      visible: true,
      opacityPercent: 100,
      drawings,
      exposures: drawings.map((drawing) => ({ drawing: drawing.id, frames: 1 })),
      charts: [],
    };
  });
  const shot = { id: 'shot', code: '010', name: '', note: '', frames: FRAMES, levels, notes: [] };
  return { id: 'large', title: 'Large', rate: { num: 24, den: 1 }, size: { width: 1280, height: 720 }, startFrame: 1, shots: [shot] };
}

let seed = 1;
const random = (most: number) => {
  seed = (Math.imul(seed, 1664525) + 1013904223) >>> 0;
  return seed % most;
};

function randomStep(count: number): Step {
  const place = random(LEVELS);
  const at = { shotId: 'shot', levelId: `level${place}` };
  const frame = random(FRAMES);
  const drawingId = `${place}-${random(FRAMES)}`;
  switch (count % 7) {
    case 0:
      return { type: 'setLength', ...at, atFrame: frame, frames: 1 + random(4), following: 'push' };
    case 1:
      return { type: 'setLength', ...at, atFrame: frame, frames: 1 + random(4), following: 'overwrite' };
    case 2:
      return { type: 'expose', ...at, drawingId, startFrame: frame, frames: 1 + random(6) };
    case 3:
      return { type: 'blank', ...at, startFrame: frame, frames: 1 + random(6) };
    case 4:
      return { type: 'removeExposure', ...at, atFrame: frame };
    case 5:
      return { type: 'setPicture', ...at, drawingId, picture: (count % 2 === 0 ? 'a' : 'b').repeat(64) };
    default:
      return { type: 'addDrawing', ...at, drawing: { id: `new${count}`, number: `n${count}`, role: 'key', picture: null }, index: 0 };
  }
}

let project = largeProject();
const milliseconds: number[] = [];
for (let count = 0; count < STEPS; count++) {
  const step = randomStep(count);
  const started = performance.now();
  const next = applyStep(project, step);
  milliseconds.push(performance.now() - started);
  if (next.ok) project = next.value;
}
print({ name: 'step.apply.p99', value: quantile(milliseconds, 0.99), unit: 'ms' });
print({ name: 'step.apply.median', value: quantile(milliseconds, 0.5), unit: 'ms' });

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
    const act = way({ shot, firstNumber: 1, following: 'push', newId: () => `made${round}` }, block, 2);
    if (!act.ok || !applyStep(large, act.value.step).ok) throw new Error('The block could not be set on twos.');
    rounds.push(performance.now() - started);
  }
  print({ name: `${name}.p95`, value: quantile(rounds, 0.95), unit: 'ms' });
}
