import { COARSE_LOOK_BYTES, type ColourReading, coarseLook, lookDistance, type Nearby, nearbyAt, readAs } from '@/core/outside/look';
import type { SeenFrames } from '@/core/outside/seenFrames';

/*
 * Which pictures of two films are the same. Every picture against every other would take minutes, so looks that can't be
 * the same are passed over: with any row of signs s (1 or −1), p(a) = Σ s·a / n gives, for looks whose cells differ by d,
 *
 *   |p(a) − p(b)| = |Σ s·d| / n ≤ Σ |d| / n ≤ mean
 *
 * whenever they are the same. Looks are ordered by one such number and sought in its neighbourhood; three more are held
 * against each other before the looks themselves are. None is missed by it.
 */

const NUMBERS = 4;

/** Signs that look like chance and are always the same (xorshift, 32 bits). */
function signsOf(cells: number): readonly Int8Array[] {
  let state = 0x9e3779b9;
  return Array.from({ length: NUMBERS }, (_, number) =>
    Int8Array.from({ length: cells }, (_each, cell) => {
      // The first is the brightness of the whole less that of its lower part: films part by where something moves.
      if (number === 0) return cell < cells / 2 ? 1 : -1;
      state ^= state << 13;
      state ^= state >>> 17;
      state ^= state << 5;
      return state & 1 ? 1 : -1;
    }),
  );
}

function numbersOf(look: Uint8Array, signs: readonly Int8Array[]): Float64Array {
  return Float64Array.from(signs, (row) => {
    let sum = 0;
    for (let cell = 0; cell < look.length; cell++) sum += (row[cell] as number) * (look[cell] as number);
    return sum / look.length;
  });
}

/** Pictures that were met, each different from the others, ordered by their first number. */
class KnownPictures {
  private readonly order: { readonly numbers: Float64Array; readonly look: Uint8Array; readonly id: number }[] = [];
  private readonly signs: readonly Int8Array[];

  constructor(cells: number) {
    this.signs = signsOf(cells);
  }

  /** The first place whose number is not below `number`. */
  private placeOf(number: number): number {
    let [low, high] = [0, this.order.length];
    while (low < high) {
      const middle = (low + high) >> 1;
      if ((this.order[middle]?.numbers[0] as number) < number) low = middle + 1;
      else high = middle;
    }
    return low;
  }

  /** The id of the picture that is nearest of those a look may be; its own, new one where there is none. */
  idOf(look: Uint8Array, nearby: Nearby): number {
    const numbers = numbersOf(look, this.signs);
    const first = numbers[0] as number;
    let nearest: { id: number; distance: number } | null = null;
    for (let place = this.placeOf(first - nearby.mean); place < this.order.length; place++) {
      const known = this.order[place];
      if (!known || (known.numbers[0] as number) > first + nearby.mean) break;
      if (numbers.some((number, at) => Math.abs(number - (known.numbers[at] as number)) > nearby.mean)) continue;
      const distance = lookDistance(look, known.look, nearby);
      if (distance < (nearest?.distance ?? Number.POSITIVE_INFINITY)) nearest = { id: known.id, distance };
      if (distance === 0) break;
    }
    if (nearest) return nearest.id;
    const id = this.order.length;
    this.order.splice(this.placeOf(first), 0, { numbers, look, id });
    return id;
  }
}

/** The pictures of two films by shared ids, frame by frame: where both have one id, they show the same picture. */
export type SharedPictures = { readonly plan: Uint32Array; readonly file: Uint32Array };

/** How pictures of two films are told to be the same: how wide the smaller is, and how the file's colours are read. */
export type Telling = { readonly widthPx: number; readonly reading: ColourReading };

/**
 * Tells which pictures of two films are the same: those of the plan first, by what coding does to one film, then each of the file's
 * as the nearest of them, by what becomes of it in another coding and size.
 */
export function sharedPictures(plan: SeenFrames, file: SeenFrames, { widthPx, reading }: Telling): SharedPictures {
  const isCoarse = [plan, file].some(({ pictures }) => pictures[0]?.length === COARSE_LOOK_BYTES);
  const looksOf = ({ pictures }: SeenFrames) => (isCoarse ? pictures.map(coarseLook) : pictures);
  const [ofPlan, ofFile] = [looksOf(plan), looksOf(file).map((look) => readAs(look, reading))];
  const known = new KnownPictures(ofPlan[0]?.length ?? ofFile[0]?.length ?? 0);
  const idsOf = (looks: readonly Uint8Array[], { pictureOf }: SeenFrames, nearby: Nearby) => {
    const ids = Uint32Array.from(looks, (look) => known.idOf(look, nearby));
    return pictureOf.map((picture) => ids[picture] as number);
  };
  return { plan: idsOf(ofPlan, plan, nearbyAt(STEADY_WIDTH_PX)), file: idsOf(ofFile, file, nearbyAt(widthPx)) };
}

/** A film from so wide on is told by the strictest limits. */
const STEADY_WIDTH_PX = 4096;
