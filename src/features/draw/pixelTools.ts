import type { Level } from '@/core/document/model';
import { layColour } from '@/core/raster/layColour';
import { layerOf, type StackLayer } from '@/core/render/stacks';
import { type Desk, newPage } from '@/features/draw/desk';
import { deskKey, keepDrawing } from '@/features/draw/keepDrawing';
import { pageOf } from '@/features/ink/drawAgain';
import { type DrawTarget, drawingOf, makePicture } from '@/features/ink/makePicture';
import { pictures } from '@/features/project/pictures';
import { useViewStore } from '@/features/project/viewStore';
import { nextOrder } from '@/features/sync/outbox';
import { settle } from '@/features/sync/settling';
import { toast } from '@/ui/toast';
import { drawLayers, fillArea } from '@/workers/client';

type Point = { readonly x: number; readonly y: number };

/** What lies on the paper: the layers below and above the drawing under the pen, and its own level. */
export type OnPaper = { readonly below: readonly StackLayer[]; readonly above: readonly StackLayer[]; readonly level: Level };

/** Everything that shows, as one picture on white, in the picture's own pixels; the onion skin is none of it. */
async function allThatShows({ page, size }: Desk, { below, above, level }: OnPaper): Promise<ImageData> {
  const drawn = newPage(size);
  drawn.drawImage(page.canvas, 0, 0);
  const all = newPage(size);
  all.fillStyle = '#ffffff';
  all.fillRect(0, 0, size.width, size.height);
  const lay = async (layers: readonly StackLayer[]) =>
    drawLayers(all, await Promise.all(layers.map((layer) => pictures.get(layer.picture))), layers);
  await lay(below);
  drawLayers(all, [drawn.canvas], [layerOf(level, '')]);
  await lay(above);
  return all.getImageData(0, 0, size.width, size.height);
}

/** Fills the area around a point with the brush's colour; the page goes on meanwhile. */
export function fillAt(desk: Desk, target: DrawTarget, onPaper: OnPaper, at: Point): void {
  const { brush } = useViewStore.getState();
  const { size } = desk;
  const before = desk.pixels();
  const { base } = desk;
  const order = nextOrder();
  const seen = brush.borders === 'all' ? allThatShows(desk, onPaper).then((image) => image.data) : Promise.resolve(before.slice());
  const shows = deskKey(target.drawingId, '');
  void settle(order, async () => {
    const options = { tolerance: brush.tolerance, closesGapsPx: brush.gapPx };
    const area = await fillArea(size, await seen, Math.floor(at.x), Math.floor(at.y), options);
    if (!area.includes(1)) return;
    const isOnDesk = desk.ready && desk.shows.startsWith(shows) && desk.base === base && drawingOf(target)?.picture === base.digest;
    if (isOnDesk) keepDrawing(desk, target, desk.colourArea(area, brush.colour));
    else {
      // Another drawing lies on the desk by now, or this one was changed: it gets its colour as it is.
      const { context } = await pageOf(size, target);
      const page = context.getImageData(0, 0, size.width, size.height).data;
      layColour(size, page, area, brush.colour);
      await makePicture(size, target, page, { order, fromDraft: false });
    }
  }).catch((error: unknown) => toast.error(`The area could not be filled: ${error instanceof Error ? error.message : 'unknown reason'}.`));
}

/** Takes the colour that shows at a point for the brush, and goes back to it. */
export function takeColourAt(desk: Desk, onPaper: OnPaper, at: Point): void {
  const [x, y] = [Math.floor(at.x), Math.floor(at.y)];
  if (x < 0 || y < 0 || x >= desk.size.width || y >= desk.size.height) return;
  allThatShows(desk, onPaper).then(
    ({ data, width }) => {
      const start = (y * width + x) * 4;
      const colour = `#${[...data.slice(start, start + 3)].map((channel) => channel.toString(16).padStart(2, '0')).join('')}`;
      useViewStore.setState(({ brush }) => ({ brush: { ...brush, colour, tool: 'brush' } }));
    },
    () => toast.message('What lies here is still on its way: try again in a moment.', { id: 'coming' }),
  );
}
