import { CELL_BYTES, type CellBox, type CellGrid, codedOf, LINEAR, linearOf, luminanceOf, type PictureLight } from '@/core/analysis/light';
import type { BlendMode } from '@/core/document/blendModes';
import { BLENDING } from '@/core/raster/blend';

/** Linear red, green and blue of a frame, and its relative luminance, averaged over cells, row by row. */
export type LightCells = CellGrid & {
  readonly red: Float32Array;
  readonly green: Float32Array;
  readonly blue: Float32Array;
  readonly luminance: Float32Array;
};

/** A picture of a frame, and how it meets what lies below. */
export type LightLayer = { readonly light: PictureLight; readonly opacityPercent: number; readonly blend?: BlendMode | undefined };

/** Light of white paper under pictures that lie over each other. */
export const paperLight = (grid: CellGrid): LightCells => {
  const white = () => new Float32Array(grid.columns * grid.rows).fill(1);
  return { ...grid, red: white(), green: white(), blue: white(), luminance: white() };
};

/** Every cell of a grid. */
export const wholeGrid = ({ columns, rows }: CellGrid): CellBox => ({ left: 0, top: 0, right: columns, bottom: rows });

// Powers are dear and cells come by the million: both curves are looked up; steps this fine are below what 8 bits hold.
const STEPS = 4095;
const CODED_OF = Float32Array.from({ length: STEPS + 1 }, (_, step) => codedOf((step / STEPS) ** 2));
const LINEAR_OF = Float32Array.from({ length: STEPS + 1 }, (_, step) => linearOf(step / STEPS));
// The square root spreads the dark end, where the curve is steep.
const coded = (linear: number): number => CODED_OF[Math.round(Math.sqrt(linear) * STEPS)] as number;
const linear = (channel: number): number => LINEAR_OF[Math.round(channel * STEPS)] as number;

/*
 * Where a layer covers a part a of a cell, that part shows the layer over what lies below and the rest shows
 * what lies below: L = a·l + (1 − a)·L_below. A layer that is half-transparent or blends meets what is below
 * in coded values, as canvases and films do: l = linear((1 − o)·c_below + o·B(c_below, c)).
 */
function mixed(below: number, value: number, cover: number, opacity: number, blend: BlendMode): number {
  const backdrop = coded(below);
  return cover * linear((1 - opacity) * backdrop + opacity * BLENDING[blend](backdrop, value / 255)) + (1 - cover) * below;
}

function layOne(
  { red, green, blue }: LightCells,
  { light, opacityPercent, blend = 'normal' }: LightLayer,
  columns: number,
  box: CellBox,
): void {
  const { spans, values } = light;
  const lightOf = LINEAR;
  const isWhole = opacityPercent === 100 && blend === 'normal';
  const [from, to] = [box.top * columns, box.bottom * columns];
  let next = 0;
  for (let span = 0; span < spans.length; span += 2) {
    const start = spans[span] as number;
    const end = start + (spans[span + 1] as number);
    const first = next;
    next += (end - start) * CELL_BYTES;
    if (end <= from) continue;
    if (start >= to) return;
    const rowStart = start - (start % columns);
    const left = Math.max(start, rowStart + box.left);
    const right = Math.min(end, rowStart + box.right);
    for (let cell = left, at = first + (left - start) * CELL_BYTES; cell < right; cell++, at += CELL_BYTES) {
      const [r, g, b] = [values[at] as number, values[at + 1] as number, values[at + 2] as number];
      const cover = (values[at + 3] as number) / 255;
      if (isWhole && values[at + 4] === 255) {
        const rest = 1 - cover;
        red[cell] = cover * (lightOf[r] as number) + rest * (red[cell] as number);
        green[cell] = cover * (lightOf[g] as number) + rest * (green[cell] as number);
        blue[cell] = cover * (lightOf[b] as number) + rest * (blue[cell] as number);
        continue;
      }
      const opacity = ((values[at + 4] as number) * opacityPercent) / 25500;
      red[cell] = mixed(red[cell] as number, r, cover, opacity, blend);
      green[cell] = mixed(green[cell] as number, g, cover, opacity, blend);
      blue[cell] = mixed(blue[cell] as number, b, cover, opacity, blend);
    }
  }
}

/** Lays the cells of a box anew on white paper, lowest layer first, in place. */
export function layLight(light: LightCells, layers: readonly LightLayer[], box: CellBox): void {
  const { columns, red, green, blue, luminance } = light;
  for (let row = box.top; row < box.bottom; row++) {
    for (const channel of [red, green, blue]) channel.fill(1, row * columns + box.left, row * columns + box.right);
  }
  for (const layer of layers) layOne(light, layer, columns, box);
  for (let row = box.top; row < box.bottom; row++) {
    const end = row * columns + box.right;
    for (let cell = row * columns + box.left; cell < end; cell++) {
      luminance[cell] = luminanceOf(red[cell] as number, green[cell] as number, blue[cell] as number);
    }
  }
}
