import type { Size } from '@/core/document/model';

/**
 * Lays a colour (`#rrggbb`) on an area of a picture (RGBA, straight alpha), in place. Where colour comes it
 * replaces what was there; one pixel further, within the walls' soft edges, it lies below what is drawn, so
 * that no pale seam stays between colour and line.
 */
export function layColour({ width }: Size, rgba: Uint8ClampedArray, area: Uint8Array, colour: string): void {
  const channels = [1, 3, 5].map((at) => Number.parseInt(colour.slice(at, at + 2), 16));
  const pixels = new Uint32Array(rgba.buffer, rgba.byteOffset, area.length);
  const [whole] = new Uint32Array(new Uint8Array([...channels, 255]).buffer);
  for (let index = 0; index < area.length; index++) {
    if (area[index] === 1) {
      const end = area.indexOf(0, index);
      const to = end === -1 ? area.length : end;
      pixels.fill(whole as number, index, to);
      index = to - 1;
      continue;
    }
    if (pixels[index] === 0) continue;
    const at = index * 4;
    if (rgba[at + 3] === 0) continue;
    const x = index % width;
    const beside =
      area[index - width] === 1 ||
      area[index + width] === 1 ||
      (x > 0 && area[index - 1] === 1) ||
      (x < width - 1 && area[index + 1] === 1);
    if (!beside) continue;
    // Destination-over an opaque colour: Co = Cb·αb + Cs·(1 − αb), αo = 1 (W3C Compositing and Blending Level 1, clause 9.1).
    const alpha = (rgba[at + 3] as number) / 255;
    for (let channel = 0; channel < 3; channel++)
      rgba[at + channel] = Math.round((rgba[at + channel] as number) * alpha + (channels[channel] as number) * (1 - alpha));
    rgba[at + 3] = 255;
  }
}
