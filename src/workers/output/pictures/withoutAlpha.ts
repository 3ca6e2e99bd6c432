/** Pixels without the fourth channel. */
export function withoutAlpha(rgba: Uint8Array): Uint8Array {
  const rgb = new Uint8Array((rgba.length / 4) * 3);
  for (let from = 0, to = 0; from < rgba.length; from += 4) {
    rgb[to++] = rgba[from] as number;
    rgb[to++] = rgba[from + 1] as number;
    rgb[to++] = rgba[from + 2] as number;
  }
  return rgb;
}
