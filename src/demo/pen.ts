import getStroke from 'perfect-freehand';

/** A point on the page, in pixels of a 1280 × 720 picture. */
export type Point = readonly [x: number, y: number];

/** Points written as `x,y x,y`. */
export const points = (text: string): Point[] =>
  text.split(' ').map((pair): Point => {
    const [x = 0, y = 0] = pair.split(',').map(Number);
    return [x, y];
  });

/** Repeatable random numbers from 0 to 1: a line wobbles the same way each time the demo is made. */
export function randomFrom(seed: number): () => number {
  let state = (seed * 2654435761) >>> 0;
  return () => {
    state = (state + 0x6d2b79f5) >>> 0;
    let mixed = Math.imul(state ^ (state >>> 15), state | 1);
    mixed ^= mixed + Math.imul(mixed ^ (mixed >>> 7), mixed | 61);
    return ((mixed ^ (mixed >>> 14)) >>> 0) / 4294967296;
  };
}

const STEP_PX = 6;

/** Points every few pixels along a smooth curve through the given ones (Catmull-Rom). */
export function smooth(points: readonly Point[], closed: boolean): Point[] {
  const at = (index: number): Point => {
    const count = points.length;
    const place = closed ? (index + count) % count : Math.max(0, Math.min(count - 1, index));
    return points[place] as Point;
  };
  const curve: Point[] = [];
  const spans = closed ? points.length : points.length - 1;
  for (let span = 0; span < spans; span++) {
    const [p0, p1, p2, p3] = [at(span - 1), at(span), at(span + 1), at(span + 2)];
    const steps = Math.max(2, Math.round(Math.hypot(p2[0] - p1[0], p2[1] - p1[1]) / STEP_PX));
    for (let step = 0; step < steps; step++) {
      const t = step / steps;
      const along = (axis: 0 | 1) =>
        0.5 *
        (2 * p1[axis] +
          (p2[axis] - p0[axis]) * t +
          (2 * p0[axis] - 5 * p1[axis] + 4 * p2[axis] - p3[axis]) * t * t +
          (3 * p1[axis] - p0[axis] - 3 * p2[axis] + p3[axis]) * t * t * t);
      curve.push([along(0), along(1)]);
    }
  }
  if (!closed) curve.push(at(points.length - 1));
  return curve;
}

/** The curve with a hand's slow unsteadiness of up to `reachPx`. */
function wobbled(curve: readonly Point[], reachPx: number, random: () => number): Point[] {
  const every = 7;
  const knots = Array.from(
    { length: Math.ceil(curve.length / every) + 2 },
    () => [(random() - 0.5) * 2 * reachPx, (random() - 0.5) * 2 * reachPx] as const,
  );
  return curve.map(([x, y], index) => {
    const place = index / every;
    const [from, to] = [knots[Math.floor(place)], knots[Math.floor(place) + 1]];
    const part = place % 1;
    const ease = part * part * (3 - 2 * part);
    const mix = (axis: 0 | 1) => (from?.[axis] ?? 0) * (1 - ease) + (to?.[axis] ?? 0) * ease;
    return [x + mix(0), y + mix(1)];
  });
}

const pathOf = (points: readonly (readonly number[])[]) =>
  `M${points.map(([x = 0, y = 0]) => `${x.toFixed(1)} ${y.toFixed(1)}`).join('L')}Z`;

/** Colours of the demo, flat as paint. */
export const PAINT = {
  ink: '#26302a',
  sky: '#e6efe9',
  cloud: '#f8faf5',
  farHill: '#cddcbd',
  grass: '#b3cb8f',
  grassDark: '#93b06c',
  wood: '#a98358',
  woodDark: '#8a6842',
  cream: '#faf3e3',
  brick: '#c8583c',
  pond: '#4b8e96',
  straw: '#e6bf55',
  shell: '#d79a5f',
  snail: '#d9cf9e',
} as const;

/** A pen and brush that draw onto an SVG; every line is slightly unsteady, from the seed. */
export class Pen {
  private readonly parts: string[] = [];
  private readonly random: () => number;

  constructor(seed: number) {
    this.random = randomFrom(seed);
  }

  /** A line of ink through the points, thicker in the middle than at its ends. */
  line(points: readonly Point[], options: { width?: number; colour?: string; closed?: boolean; wobble?: number } = {}): this {
    const { width = 6, colour = PAINT.ink, closed = false, wobble = 1.6 } = options;
    const curve = wobbled(smooth(points, closed), wobble, this.random);
    if (closed) curve.push(curve[0] as Point, curve[1] as Point);
    const outline = getStroke(
      curve.map(([x, y], index) => [x, y, 0.45 + 0.25 * Math.sin((Math.PI * index) / curve.length) + 0.1 * this.random()]),
      { size: width, thinning: 0.5, smoothing: 0.6, streamline: 0.3, simulatePressure: false, last: true },
    );
    this.parts.push(`<path d="${pathOf(outline)}" fill="${colour}"/>`);
    return this;
  }

  /** A flat area inside the points, with no line around it. */
  area(points: readonly Point[], colour: string, opacity = 1): this {
    const curve = wobbled(smooth(points, true), 1.2, this.random);
    this.parts.push(`<path d="${pathOf(curve)}" fill="${colour}" fill-opacity="${opacity}"/>`);
    return this;
  }

  /** A flat area with a line of ink around it. */
  shape(points: readonly Point[], colour: string, width = 6): this {
    return this.area(points, colour).line(points, { width, closed: true });
  }

  /** A rectangle of paint with straight sides. */
  box(x: number, y: number, width: number, height: number, colour: string): this {
    this.parts.push(`<rect x="${x}" y="${y}" width="${width}" height="${height}" fill="${colour}"/>`);
    return this;
  }

  svg(): string {
    return `<svg xmlns="http://www.w3.org/2000/svg" width="1280" height="720" viewBox="0 0 1280 720">${this.parts.join('')}</svg>`;
  }
}

/** Moves points drawn around the origin: first stretched, then turned (radians), then shifted. */
export function placed(points: readonly Point[], at: Point, turn = 0, stretchX = 1, stretchY = 1): Point[] {
  const [cosine, sine] = [Math.cos(turn), Math.sin(turn)];
  return points.map(([x, y]) => {
    const [sx, sy] = [x * stretchX, y * stretchY];
    return [at[0] + sx * cosine - sy * sine, at[1] + sx * sine + sy * cosine];
  });
}
