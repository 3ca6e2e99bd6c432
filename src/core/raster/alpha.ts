/** Makes premultiplied pixels straight, in place: C = C·α / α, at most 255; what is fully transparent has no colour. */
export function unpremultiply(rgba: Uint8ClampedArray | Uint8Array): void {
  for (let at = 0; at < rgba.length; at += 4) {
    const alpha = rgba[at + 3] as number;
    if (alpha === 255) continue;
    for (let channel = at; channel < at + 3; channel++)
      rgba[channel] = alpha === 0 ? 0 : Math.min(255, Math.round(((rgba[channel] as number) * 255) / alpha));
  }
}

/** Whether any pixel lets something through. */
export function hasTransparency(rgba: Uint8ClampedArray | Uint8Array): boolean {
  for (let at = 3; at < rgba.length; at += 4) if (rgba[at] !== 255) return true;
  return false;
}
