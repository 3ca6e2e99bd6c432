/*
 * How far a file's sound is moved against its plan's: both are brought down to how loud each hundredth of a second is, and the
 * rise and fall of one is laid over the other's at every distance up to the most that is sought. Where they fit best (the
 * greatest correlation, normalised) is the distance, if they fit well there.
 */

/** A hundredth of a second each. */
export const LOUDNESS_A_SECOND = 100;

/** How loud each hundredth of a second is, taken part by part; samples before the first are passed over. */
export class LoudnessCurve {
  private squares = new Float32Array(1024);
  private counts = new Uint32Array(1024);
  private filled = 0;

  constructor(private readonly sampleRate: number) {}

  take(channels: readonly Float32Array[], startSample: number): void {
    const [first] = channels;
    if (!first) return;
    for (let index = Math.max(0, -startSample); index < first.length; ) {
      const step = Math.floor(((startSample + index) * LOUDNESS_A_SECOND) / this.sampleRate);
      const nextStep = Math.ceil(((step + 1) * this.sampleRate) / LOUDNESS_A_SECOND) - startSample;
      const end = Math.min(first.length, Math.max(index + 1, nextStep));
      if (step >= this.squares.length) this.grow(step);
      let squares = this.squares[step] as number;
      for (const channel of channels) for (let sample = index; sample < end; sample++) squares += (channel[sample] as number) ** 2;
      this.squares[step] = squares;
      this.counts[step] = (this.counts[step] as number) + channels.length * (end - index);
      this.filled = Math.max(this.filled, step + 1);
      index = end;
    }
  }

  private grow(step: number): void {
    const length = Math.max(step + 1, Math.ceil(this.squares.length * 1.5));
    const [squares, counts] = [new Float32Array(length), new Uint32Array(length)];
    squares.set(this.squares);
    counts.set(this.counts);
    [this.squares, this.counts] = [squares, counts];
  }

  get curve(): Float32Array {
    return Float32Array.from({ length: this.filled }, (_, step) =>
      Math.sqrt((this.squares[step] as number) / Math.max(1, this.counts[step] as number)),
    );
  }
}

/** Up to so far it is sought, and over so much of the beginning: two and sixty seconds. */
const MOST_SHIFT = 2 * LOUDNESS_A_SECOND;
const MOST_LOOKED_AT = 60 * LOUDNESS_A_SECOND;
/** Below this they don't fit anywhere. */
const LEAST_FIT = 0.8;
/** Another distance must fit better than none by so much. */
const CLEARLY = 0.02;

function fitAt(plan: Float32Array, file: Float32Array, shift: number): number {
  const from = Math.max(0, -shift);
  const to = Math.min(plan.length, file.length - shift, from + MOST_LOOKED_AT);
  const count = to - from;
  if (count < LOUDNESS_A_SECOND / 4) return 0;
  let [sumA, sumB] = [0, 0];
  for (let step = from; step < to; step++) {
    sumA += plan[step] as number;
    sumB += file[step + shift] as number;
  }
  let [product, squareA, squareB] = [0, 0, 0];
  for (let step = from; step < to; step++) {
    const a = (plan[step] as number) - sumA / count;
    const b = (file[step + shift] as number) - sumB / count;
    product += a * b;
    squareA += a * a;
    squareB += b * b;
  }
  return squareA === 0 || squareB === 0 ? 0 : product / Math.sqrt(squareA * squareB);
}

/** By how many hundredths of a second a file's sound is later than its plan's (earlier: below 0); null where they fit nowhere. */
export function soundShift(plan: Float32Array, file: Float32Array): number | null {
  const unmoved = fitAt(plan, file, 0);
  let best = { shift: 0, fit: unmoved };
  for (let shift = -MOST_SHIFT; shift <= MOST_SHIFT; shift++) {
    const fit = fitAt(plan, file, shift);
    if (fit > best.fit + 1e-9) best = { shift, fit };
  }
  if (best.fit < LEAST_FIT) return null;
  return best.fit > unmoved + CLEARLY ? best.shift : 0;
}
