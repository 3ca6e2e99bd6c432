/**
 * How the paper is looked at: moved by `panX`, `panY` (px of the screen) from the middle of its room, turned
 * by `turnDegrees` (clockwise), `zoom` times as large as when it just fits, and seen from behind when `mirrored`.
 */
export type PaperView = {
  readonly panX: number;
  readonly panY: number;
  readonly turnDegrees: number;
  readonly zoom: number;
  readonly mirrored: boolean;
};

/** Fit the paper. */
export const WHOLE_PAPER: PaperView = { panX: 0, panY: 0, turnDegrees: 0, zoom: 1, mirrored: false };

type Point = { readonly x: number; readonly y: number };

const LEAST_ZOOM = 0.25;
const MOST_ZOOM = 32;

function turned({ x, y }: Point, degrees: number): Point {
  const radians = (degrees * Math.PI) / 180;
  const [sine, cosine] = [Math.sin(radians), Math.cos(radians)];
  return { x: x * cosine - y * sine, y: x * sine + y * cosine };
}

/** The paper's CSS transform, about its middle. */
export const paperTransform = ({ panX, panY, turnDegrees, zoom, mirrored }: PaperView): string =>
  `translate(${panX}px, ${panY}px) rotate(${turnDegrees}deg) scale(${mirrored ? -zoom : zoom}, ${zoom})`;

/** Where a point of the room (from its middle, px of the screen) lies on the fitted paper (from its middle, px of the paper as it just fits). */
export function onPaper({ panX, panY, turnDegrees, zoom, mirrored }: PaperView, point: Point): Point {
  const straight = turned({ x: point.x - panX, y: point.y - panY }, -turnDegrees);
  return { x: (straight.x / zoom) * (mirrored ? -1 : 1), y: straight.y / zoom };
}

/** Nearer or further by a factor, with what lies at a point of the room (from its middle) staying there. */
export function zoomed(view: PaperView, factor: number, at: Point = { x: 0, y: 0 }): PaperView {
  const zoom = Math.max(LEAST_ZOOM, Math.min(MOST_ZOOM, view.zoom * factor));
  const by = zoom / view.zoom;
  return { ...view, zoom, panX: at.x - (at.x - view.panX) * by, panY: at.y - (at.y - view.panY) * by };
}

/** Turned clockwise about a point of the room (from its middle). */
export function turnedBy(view: PaperView, degrees: number, at: Point = { x: 0, y: 0 }): PaperView {
  const pan = turned({ x: view.panX - at.x, y: view.panY - at.y }, degrees);
  const turnDegrees = (((view.turnDegrees + degrees) % 360) + 360) % 360;
  return { ...view, turnDegrees, panX: at.x + pan.x, panY: at.y + pan.y };
}

export const panned = (view: PaperView, byX: number, byY: number): PaperView => ({ ...view, panX: view.panX + byX, panY: view.panY + byY });

/** Seen from the other side, about the upright line through the middle of the room. */
export const mirroredView = (view: PaperView): PaperView => ({
  ...view,
  mirrored: !view.mirrored,
  panX: -view.panX,
  turnDegrees: (360 - view.turnDegrees) % 360,
});

/** How two fingers move a view: from where they were to where they are, with the paper staying under both. */
export function pinched(view: PaperView, before: readonly [Point, Point], after: readonly [Point, Point]): PaperView {
  const middle = ([a, b]: readonly [Point, Point]) => ({ x: (a.x + b.x) / 2, y: (a.y + b.y) / 2 });
  const apart = ([a, b]: readonly [Point, Point]) => Math.max(1, Math.hypot(b.x - a.x, b.y - a.y));
  const angle = ([a, b]: readonly [Point, Point]) => (Math.atan2(b.y - a.y, b.x - a.x) * 180) / Math.PI;
  const [from, to] = [middle(before), middle(after)];
  const moved = panned(view, to.x - from.x, to.y - from.y);
  return turnedBy(zoomed(moved, apart(after) / apart(before), to), angle(after) - angle(before), to);
}
