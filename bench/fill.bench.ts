import { filledArea } from '@/core/raster/fill';
import { layColour } from '@/core/raster/layColour';
import { print, quantile } from './figure';

const SIZE = { width: 1920, height: 1080 };
const ROUNDS = 15;

/** A page with a large round shape in it, its line 6 px thick with a gap of 8 px: most of the page is to be filled. */
function page(): Uint8ClampedArray {
  const rgba = new Uint8ClampedArray(SIZE.width * SIZE.height * 4);
  for (let y = 0; y < SIZE.height; y++)
    for (let x = 0; x < SIZE.width; x++) {
      const from = Math.hypot((x - 960) / 1.7, y - 540);
      if (from > 500 && from < 506 && !(x > 960 && Math.abs(y - 540) < 4)) rgba.set([29, 42, 35, 255], (y * SIZE.width + x) * 4);
    }
  return rgba;
}

for (const [name, closesGapsPx] of [
  ['fill.page', 0],
  ['fill.gap', 12],
] as const) {
  const milliseconds: number[] = [];
  for (let round = 0; round < ROUNDS; round++) {
    const rgba = page();
    const started = performance.now();
    layColour(SIZE, rgba, filledArea(SIZE, rgba, 960, 540, { tolerance: 16, closesGapsPx }), '#c4553a');
    milliseconds.push(performance.now() - started);
  }
  print({ name: `${name}`, value: quantile(milliseconds, 0.5), unit: 'ms' });
}
