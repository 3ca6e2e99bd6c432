import type { Step } from '@/core/edit/step';
import { applyStep } from '@/core/edit/table';
import { print, quantile } from './figure';
import { FRAMES, LEVELS, largeProject } from './large';

const STEPS = 6000;

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
