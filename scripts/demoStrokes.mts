// Writes the recorded strokes of the demo again, `npm run demo-strokes`: sock 13, as a hand would draw it, slower in curves and at both ends.
import { writeFileSync } from 'node:fs';
import { sockLines } from '../src/demo/figures';
import { randomFrom, smooth } from '../src/demo/pen';
import { sockPose } from '../src/demo/sockShot';

const PIXELS_A_MILLISECOND = 0.42;
const PAUSE_MILLISECONDS = 260;
const random = randomFrom(1313);
const round = (value: number, places: number) => Number(value.toFixed(places));

let at = 0;
const strokes = sockLines(sockPose('13')).map(({ points, width, colour, closed }) => {
  const curve = smooth(points, closed);
  // A hand overshoots a little where it closes a line.
  if (closed) curve.push(...curve.slice(0, 2));
  let before = curve[0] as readonly [number, number];
  const recorded = curve.map(([x, y], index) => {
    const part = index / (curve.length - 1);
    const ends = Math.sin(Math.PI * Math.min(1, Math.max(0, part)));
    at += Math.hypot(x - before[0], y - before[1]) / (PIXELS_A_MILLISECOND * (0.45 + 0.55 * ends));
    before = [x, y];
    const pressure = 0.32 + 0.3 * ends + 0.06 * random();
    const degrees = 62 - 14 * part + 3 * random();
    return [round(x + random() - 0.5, 1), round(y + random() - 0.5, 1), round(pressure, 3), round(degrees, 1), Math.round(at)];
  });
  at += PAUSE_MILLISECONDS;
  return { colour, sizePx: width, points: recorded };
});
writeFileSync(
  'src/features/project/recordings/sock13.json',
  `${JSON.stringify({ file: 'lime-tick-strokes', version: 1, size: { width: 1280, height: 720 }, strokes })}\n`,
);
console.log(`${strokes.length} strokes, ${(at / 1000).toFixed(1)} s`);
