/** How two pictures of one size differ. `largest` is the greatest difference of any channel, of 255. */
export type Difference = { readonly changedPixels: number; readonly largest: number };

/** Compares two RGBA pictures pixel for pixel; throws when they are not of one size. */
export function differenceOfPixels(a: Uint8Array | Uint8ClampedArray, b: Uint8Array | Uint8ClampedArray): Difference {
  if (a.byteLength !== b.byteLength) throw new Error(`Pictures of ${a.byteLength} and ${b.byteLength} bytes can't be compared.`);
  let changedPixels = 0;
  let largest = 0;
  for (let index = 0; index < a.length; index += 4) {
    let pixel = 0;
    for (let channel = 0; channel < 4; channel++) {
      const apart = Math.abs((a[index + channel] as number) - (b[index + channel] as number));
      if (apart > pixel) pixel = apart;
    }
    if (pixel > 0) changedPixels++;
    if (pixel > largest) largest = pixel;
  }
  return { changedPixels, largest };
}
