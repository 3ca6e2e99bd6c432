import { PAINT, Pen, type Point, points } from '@/demo/pen';

/** How many frames the clip of the evening has, and how many a second. */
export const DUSK_FRAMES = 50;
export const DUSK_RATE = { num: 25, den: 1 } as const;

const NIGHT = { sky: '#3d5568', hill: '#4d6b58', grass: '#3c5a47', moon: '#f4e8b8' } as const;

/** Points on a circle. */
const circle = ([x, y]: Point, radius: number): Point[] =>
  Array.from({ length: 12 }, (_, index): Point => {
    const turn = (2 * Math.PI * index) / 12;
    return [x + radius * Math.cos(turn), y + radius * Math.sin(turn)];
  });

/** Frame `index` (from 0) of the evening: the moon comes up over the hill, and the stars with it. */
export function duskFrame(index: number): Pen {
  const part = index / (DUSK_FRAMES - 1);
  // The same hand draws every frame: what stands still is drawn the same.
  const pen = new Pen(71);
  pen.box(0, 0, 1280, 720, NIGHT.sky);
  for (const [x, y, comes] of [
    [180, 120, 0.1],
    [420, 70, 0.3],
    [700, 150, 0.45],
    [980, 90, 0.6],
    [1130, 190, 0.75],
  ] as const)
    pen.area(circle([x, y], 6), PAINT.cream, Math.max(0, Math.min(1, (part - comes) * 5)));
  pen.shape(circle([860, 470 - 250 * part], 66), NIGHT.moon, 5);
  pen.area(points('-40,470 180,392 470,430 760,372 1040,418 1330,376 1330,760 -40,760'), NIGHT.hill);
  pen.area(points('-40,590 1320,586 1320,760 -40,760'), NIGHT.grass);
  pen.line(points('-10,590 640,588 1290,587'), { width: 5 });
  return pen;
}
