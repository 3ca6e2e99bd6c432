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

function numberOf(look: Uint8Array, signs: Int8Array): number {
  let sum = 0;
  for (let cell = 0; cell < look.length; cell++) sum += (signs[cell] as number) * (look[cell] as number);
  return sum / look.length;
}

/** So many cells that differ most from picture to picture are held against each other first: two pictures that differ do so there. */
const PROBES = 24;
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

type Known = {
  readonly second: number;
  readonly third: number;
  readonly fourth: number;
  readonly probes: Uint8Array;
  readonly look: Uint8Array;
  readonly id: number;
};

/** Pictures that were met, each different from the others, ordered by their first number. */
class KnownPictures {
  private readonly firsts: number[] = [];
  private readonly order: Known[] = [];
  private readonly signs: readonly Int8Array[];
  private readonly probes: Uint16Array;

  /** `looks` are those that are to be met. */
  constructor(looks: readonly Uint8Array[]) {
    this.signs = signsOf(looks[0]?.length ?? 0);
    this.probes = probesOf(looks);
  }

  /** The first place whose number is not below `number`. */
  private placeOf(number: number): number {
    let [low, high] = [0, this.firsts.length];
    while (low < high) {
      const middle = (low + high) >> 1;
      if ((this.firsts[middle] as number) < number) low = middle + 1;
      else high = middle;
    }
    return low;
  }

  /** The id of the picture that is nearest of those a look may be; its own, new one where there is none. */
  idOf(look: Uint8Array, nearby: Nearby): number {
    const { mean, most } = nearby;
    const [first = 0, second = 0, third = 0, fourth = 0] = this.signs.map((signs) => numberOf(look, signs));
    const own = Uint8Array.from(this.probes, (cell) => look[cell] as number);
    const { firsts, order } = this;
    let [nearest, least] = [-1, Number.POSITIVE_INFINITY];
    candidates: for (let place = this.placeOf(first - mean); place < order.length && (firsts[place] as number) <= first + mean; place++) {
      const known = order[place] as Known;
      if (Math.abs(known.second - second) > mean || Math.abs(known.third - third) > mean || Math.abs(known.fourth - fourth) > mean)
        continue;
      const { probes } = known;
      for (let probe = 0; probe < own.length; probe++) {
        const apart = (own[probe] as number) - (probes[probe] as number);
        if (apart >= most || -apart >= most) continue candidates;
      }
      const distance = lookDistance(look, known.look, nearby);
      if (distance >= least) continue;
      [nearest, least] = [known.id, distance];
      if (distance === 0) break;
    }
    if (nearest >= 0) return nearest;
    const id = order.length;
    const place = this.placeOf(first);
    firsts.splice(place, 0, first);
    order.splice(place, 0, { second, third, fourth, probes: own, look, id });
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
  const known = new KnownPictures([...ofPlan, ...ofFile]);
  const idsOf = (looks: readonly Uint8Array[], { pictureOf }: SeenFrames, nearby: Nearby) => {
    const ids = Uint32Array.from(looks, (look) => known.idOf(look, nearby));
    return pictureOf.map((picture) => ids[picture] as number);
  };
  return { plan: idsOf(ofPlan, plan, nearbyAt(STEADY_WIDTH_PX)), file: idsOf(ofFile, file, nearbyAt(widthPx)) };
}

/** A film from so wide on is told by the strictest limits. */
const STEADY_WIDTH_PX = 4096;
