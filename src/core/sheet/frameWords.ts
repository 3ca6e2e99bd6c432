/** One frame or several by the numbers shown: `frame 3`, `frames 3–6`. Frames count from 0, both ends inclusive. */
export function framesInWords(fromFrame: number, toFrame: number, firstNumber: number): string {
  return fromFrame === toFrame ? `frame ${fromFrame + firstNumber}` : `frames ${fromFrame + firstNumber}–${toFrame + firstNumber}`;
}
