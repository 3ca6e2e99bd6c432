/** A box of pixels: from (left, top) inclusive to (right, bottom) exclusive. */
export type Box = { readonly left: number; readonly top: number; readonly right: number; readonly bottom: number };

/** The smallest box around everything with any alpha in an RGBA picture; null when it is empty. */
export function boundsOfPixels(width: number, height: number, rgba: Uint8Array | Uint8ClampedArray): Box | null {
  let left = width;
  let right = 0;
  let top = -1;
  let bottom = 0;
  for (let y = 0; y < height; y++) {
    const row = y * width * 4 + 3;
    let first = 0;
    while (first < width && rgba[row + first * 4] === 0) first++;
    if (first === width) continue;
    let last = width - 1;
    while (rgba[row + last * 4] === 0) last--;
    if (top < 0) top = y;
    bottom = y + 1;
    if (first < left) left = first;
    if (last + 1 > right) right = last + 1;
  }
  return top < 0 ? null : { left, top, right, bottom };
}
