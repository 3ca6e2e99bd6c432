import { CompiledCode } from '@/core/compiledCode';
import { MOST_SOME_CELLS, type Nearby } from '@/core/outside/look';
import { LOOKS_CODE } from '@/core/outside/looksCode';

/*
 * Which of the pictures that were met a picture is. Every one against every other would take minutes, so looks that can't be
 * the same are passed over: with any row of signs s (1 or −1), p(a) = Σ s·a / n gives, for looks whose cells differ by d,
 *
 *   |p(a) − p(b)| = |Σ s·d| / n ≤ Σ |d| / n ≤ mean
 *
 * whenever they are the same. Looks are ordered by one such number and sought in its neighbourhood; three more are held
 * against each other before the looks themselves are. None is missed by it.
 */

const NUMBERS = 4;

/** Signs that look like chance and are always the same (xorshift, 32 bits): four rows of `rowBytes`, 0 past the cells. */
function signsOf(cells: number, rowBytes: number): Int8Array {
  const signs = new Int8Array(NUMBERS * rowBytes);
  let state = 0x9e3779b9;
  for (let number = 0; number < NUMBERS; number++) {
    for (let cell = 0; cell < cells; cell++) {
      state ^= state << 13;
      state ^= state >>> 17;
      state ^= state << 5;
      // The first is the brightness of the whole less that of its lower part: films part by where something moves.
      const isPlus = number === 0 ? cell < cells / 2 : (state & 1) === 1;
      signs[number * rowBytes + cell] = isPlus ? 1 : -1;
    }
  }
  return signs;
}

/** So many cells that differ most from picture to picture are held against each other first: two pictures that differ do so there. */
const PROBES = 32;
const LOOKS_TRIED = 200;

/** The cells in which looks differ most: those of the greatest variance, over some of them. */
function probesOf(looks: readonly Uint8Array[]): Uint16Array {
  const step = Math.max(1, Math.floor(looks.length / LOOKS_TRIED));
  const tried = looks.filter((_, index) => index % step === 0);
  const cells = looks[0]?.length ?? 0;
  const variance = Float64Array.from({ length: cells }, (_, cell) => {
    let [sum, squares] = [0, 0];
    for (const look of tried) {
      const value = look[cell] as number;
      sum += value;
      squares += value * value;
    }
    return squares / tried.length - (sum / tried.length) ** 2;
  });
  const order = Array.from({ length: cells }, (_, cell) => cell).sort((a, b) => (variance[b] as number) - (variance[a] as number));
  return Uint16Array.from(order.slice(0, PROBES));
}

/** What `src/simd/looks.ts` does; places are bytes from the beginning of its memory. */
type LooksCode = {
  readonly sums: (look: number, signs: number, lookBytes: number, to: number) => void;
  readonly nearest: (
    ...sought: readonly [
      head: number,
      look: number,
      heads: number,
      looks: number,
      lookBytes: number,
      order: number,
      from: number,
      to: number,
      mostSum: number,
      most: number,
      some: number,
      mostSome: number,
    ]
  ) => number;
};

/** A head: sums of four bytes each, and probes. A look is filled up to sixteens. */
const [SUM_BYTES, ALIGNED_BYTES] = [4, 16];
const HEAD_BYTES = NUMBERS * SUM_BYTES + PROBES;
const aligned = (bytes: number): number => Math.ceil(bytes / ALIGNED_BYTES) * ALIGNED_BYTES;

/** Pictures that were met, each different from the others, ordered by their first sum. */
export class KnownPictures {
  private readonly compiled = new CompiledCode<LooksCode>(LOOKS_CODE);
  private readonly probes: Uint16Array;
  private readonly firsts: Int32Array;
  private readonly lookBytes: number;
  private readonly at: {
    readonly look: number;
    readonly signs: number;
    readonly order: number;
    readonly heads: number;
    readonly looks: number;
  };
  private known = 0;

  /** `looks` are those that are to be met. */
  constructor(looks: readonly Uint8Array[]) {
    const cells = looks[0]?.length ?? 0;
    this.probes = probesOf(looks);
    this.firsts = new Int32Array(looks.length);
    this.lookBytes = aligned(cells);
    // The memory: head and look of what is sought, the signs, the numbers of those known in their order, their heads, their looks.
    const signs = HEAD_BYTES + this.lookBytes;
    const order = signs + NUMBERS * this.lookBytes;
    const heads = order + aligned(looks.length * 4);
    this.at = { look: HEAD_BYTES, signs, order, heads, looks: heads + looks.length * HEAD_BYTES };
    const { memory } = this.compiled.withRoom(this.at.looks);
    memory.set(new Uint8Array(signsOf(cells, this.lookBytes).buffer), signs);
  }

  /** The first place whose sum is not below `sum`. */
  private placeOf(sum: number): number {
    let [low, high] = [0, this.known];
    while (low < high) {
      const middle = (low + high) >> 1;
      if ((this.firsts[middle] as number) < sum) low = middle + 1;
      else high = middle;
    }
    return low;
  }

  /** The id of the picture that is nearest of those a look may be; its own, new one where there is none. */
  idOf(look: Uint8Array, { mean, most, some }: Nearby): number {
    const { compiled, lookBytes, at, firsts, known } = this;
    const { functions, memory } = compiled.withRoom(at.looks + (known + 1) * lookBytes);
    memory.set(look, at.look);
    functions.sums(at.look, at.signs, lookBytes, 0);
    const [first = 0] = new Int32Array(memory.buffer, 0, 1);
    this.probes.forEach((cell, probe) => {
      memory[NUMBERS * SUM_BYTES + probe] = look[cell] as number;
    });
    const mostSum = Math.floor(mean * look.length);
    const [from, to] = [this.placeOf(first - mostSum), this.placeOf(first + mostSum + 1)];
    const among = [0, at.look, at.heads, at.looks, lookBytes, at.order, from, to] as const;
    const nearest = functions.nearest(...among, mostSum, Math.ceil(most), Math.ceil(some), MOST_SOME_CELLS);
    if (nearest >= 0) return nearest;
    const place = this.placeOf(first);
    firsts.copyWithin(place + 1, place, known);
    firsts[place] = first;
    const order = new Int32Array(memory.buffer, at.order, firsts.length);
    order.copyWithin(place + 1, place, known);
    order[place] = known;
    memory.copyWithin(at.heads + known * HEAD_BYTES, 0, HEAD_BYTES);
    memory.copyWithin(at.looks + known * lookBytes, at.look, at.look + lookBytes);
    return this.known++;
  }
}
