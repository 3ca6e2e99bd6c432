import type { Size } from '@/core/document/model';

/** How a picture is laid on another size: its pixels as they are in the middle, or scaled to fit or to fill. */
export type PlacementMode = 'asIs' | 'fit' | 'fill';

/** Where a picture lies on a size, in whole pixels; what lies outside is cut. */
export type Placement = Size & { readonly x: number; readonly y: number };

/** From where a picture is laid: the middle of both, or their upper left corner. */
export type Anchor = 'middle' | 'corner';

/** Lays a picture on a size. */
export function placeOn(picture: Size, size: Size, laying: PlacementMode, anchor: Anchor = 'middle'): Placement {
  const [across, down] = [size.width / picture.width, size.height / picture.height];
  const scale = laying === 'asIs' ? 1 : laying === 'fit' ? Math.min(across, down) : Math.max(across, down);
  const [width, height] = [Math.round(picture.width * scale), Math.round(picture.height * scale)];
  if (anchor === 'corner') return { x: 0, y: 0, width, height };
  return { x: Math.floor((size.width - width) / 2), y: Math.floor((size.height - height) / 2), width, height };
}
