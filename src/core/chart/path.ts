import type { Size } from '@/core/document/model';
import type { PathPoint } from '@/core/document/timingChart';

/** Most points a path keeps. */
export const MOST_PATH_POINTS = 200;

const distance = (a: PathPoint, b: PathPoint) => Math.hypot(b.x - a.x, b.y - a.y);

/** The point a part of the way (0 to 1) along a path, measured on the path itself; undefined for a path without points. */
export function pointOnPath(path: readonly PathPoint[], part: number): PathPoint | undefined {
  const [first] = path;
  if (!first || path.length === 1) return first;
  const lengths = path.slice(1).map((point, index) => distance(path[index] as PathPoint, point));
  let left = Math.max(0, Math.min(1, part)) * lengths.reduce((sum, length) => sum + length, 0);
  for (const [index, length] of lengths.entries()) {
    const [from, to] = [path[index] as PathPoint, path[index + 1] as PathPoint];
    if (left <= length && length > 0)
      return { x: from.x + ((to.x - from.x) * left) / length, y: from.y + ((to.y - from.y) * left) / length };
    left -= length;
  }
  return path.at(-1);
}

/**
 * A path drawn by hand with few points: only those a stride apart are kept, and both ends; the stride grows
 * until at most MOST_PATH_POINTS are left. Points in whole pixels.
 */
export function thinnedPath(drawn: readonly PathPoint[], stridePx = 6): readonly PathPoint[] {
  const whole = drawn.map(({ x, y }) => ({ x: Math.round(x), y: Math.round(y) }));
  const [first] = whole;
  const last = whole.at(-1);
  if (!first || !last) return [];
  const kept: PathPoint[] = [first];
  for (const point of whole) if (distance(kept.at(-1) as PathPoint, point) >= stridePx) kept.push(point);
  if (distance(kept.at(-1) as PathPoint, last) > 0) kept.push(last);
  return kept.length > MOST_PATH_POINTS ? thinnedPath(kept, stridePx * 1.6) : kept;
}

/** A path carried along when the picture it was drawn on is laid elsewhere; points in whole pixels. */
export const carriedPath = (path: readonly PathPoint[], picture: Size, placed: Size & PathPoint): readonly PathPoint[] =>
  path.map(({ x, y }) => ({
    x: Math.round(placed.x + (x * placed.width) / picture.width),
    y: Math.round(placed.y + (y * placed.height) / picture.height),
  }));
