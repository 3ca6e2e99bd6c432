import { nearKey, type PictureFacts, type PictureTrouble } from '@/core/analysis/facts';
import { FlashFilm } from '@/core/analysis/flashFilm';
import { type FlashPart, flashParts, movedFlashes, worstOfEachKind } from '@/core/analysis/flashParts';
import type { Flashes } from '@/core/analysis/flashRule';
import { lightOfPicture, type PictureLight } from '@/core/analysis/light';
import { type BlockMeans, measurePicture, type PictureMeasure } from '@/core/analysis/measure';
import { isNear, mayBeNear, type Nearness, nearness } from '@/core/analysis/nearness';
import type { FilmLookedAt, ShownPlan } from '@/core/analysis/packedFilm';
import { MOST_NEAR_PER_MILLE } from '@/core/document/checks';
import type { Digest, Size } from '@/core/document/model';
import type { Box } from '@/core/raster/bounds';
import { isClipPicture } from '@/core/render/clipPicture';
import type { PictureName, PictureStack } from '@/core/render/stacks';
import type { Rate } from '@/core/time/rate';

/**
 * What is looked at. `clips` says whether frames of clips are decoded, too: that takes long, and what drawings tell is wanted before.
 * Until they are, a part of the film that shows them tells what it told when it was looked at last.
 */
export type Inspection = FilmLookedAt & { readonly clips: 'decoded' | 'later' };

/** A picture as whoever has it gives it: its pixels (RGBA, straight alpha), why there are none, or null when that can't be told now. */
export type PictureLookup = { readonly rgba: Uint8Array | Uint8ClampedArray } | { readonly trouble: PictureTrouble } | null;

type PictureNotes = { readonly measure: PictureMeasure; readonly blocks: BlockMeans | null; readonly light: PictureLight };

function known(size: Size, rgba: Uint8Array | Uint8ClampedArray): PictureNotes {
  const measured = measurePicture(size, rgba);
  return { ...measured, light: lightOfPicture(size, rgba, measured.measure.box) };
}

/** The plan of an empty reel, as far as it is asked for. */
const NOTHING: ShownPlan = { stacks: [], runs: [], rate: { num: 1, den: 1 } };

const wholeOf = ({ width, height }: Size): Box => ({ left: 0, top: 0, right: width, bottom: height });

/** How many pictures are prepared for ahead of their turn. */
const AHEAD = 16;

/**
 * Looks at the pictures of a film. Each picture and each pair is looked at once and remembered, so
 * that after an edit only what is new costs anything; what a film no longer has is forgotten.
 */
export class Inspector {
  private size: Size | null = null;
  private readonly known = new Map<Digest, PictureNotes>();
  private readonly pairs = new Map<string, Nearness | null>();
  /** The light of frames of clips, as far as a part of the film is being looked at that shows them. */
  private readonly clipLight = new Map<PictureName, PictureLight>();
  /** Flashes of parts with frames of clips by their keys, counted from the part's first frame. */
  private readonly ofParts = new Map<string, readonly Flashes[]>();
  private film: FlashFilm | null = null;

  /** `look` gives the pixels of a picture or of a frame of a clip; `prepare` is told which pictures will be asked for next, in order; `rest` lets whoever wants to stop it be heard. */
  constructor(
    private readonly look: (picture: PictureName, size: Size) => Promise<PictureLookup>,
    private readonly prepare: (digests: readonly Digest[]) => void = () => undefined,
    private readonly rest: () => Promise<void> = async () => undefined,
  ) {}

  /**
   * What looking at a film tells. `onProgress` is told how many pictures of all have been looked at; null is
   * given when `isStopped` says so meanwhile, and what was seen by then is remembered.
   */
  async inspect(
    { size, levels, plan, clips }: Inspection,
    onProgress: (done: number, all: number) => void = () => undefined,
    isStopped: () => boolean = () => false,
  ): Promise<PictureFacts | null> {
    if (this.size?.width !== size.width || this.size.height !== size.height) this.forgetAll();
    this.size = size;
    const { stacks, runs, rate } = plan ?? NOTHING;
    const wantedOnce = new Set(levels.flat());
    for (const stack of stacks) for (const { picture } of stack.layers) if (!isClipPicture(picture)) wantedOnce.add(picture);
    const wanted = [...wantedOnce];
    const fresh = wanted.filter((digest) => !this.known.has(digest));
    const parts = flashParts(stacks, runs, rate);
    const isFresh = ({ clipPictures, key }: FlashPart) => clipPictures.length > 0 && !this.ofParts.has(key);
    const freshParts = clips === 'decoded' ? parts.filter(isFresh) : [];
    const all = freshParts.reduce((sum, { clipPictures }) => sum + clipPictures.length, fresh.length);
    const troubles = new Map<Digest, PictureTrouble>();
    let done = 0;
    for (const [index, digest] of fresh.entries()) {
      if (isStopped()) return null;
      this.prepare(fresh.slice(index, index + AHEAD));
      const found = await this.look(digest, size);
      if (found && 'trouble' in found) troubles.set(digest, found.trouble);
      else if (found) this.known.set(digest, known(size, found.rgba));
      onProgress(++done, all);
    }
    const near = new Map<string, Nearness>();
    for (const level of levels) this.findNear(level, near);
    if (isStopped()) return null;
    const flashes: Flashes[] = [];
    for (const part of parts) {
      if (clips === 'later' && isFresh(part)) continue;
      const ofPart = await this.flashesOf(part, stacks, rate, isStopped, () => onProgress(++done, all));
      if (!ofPart) return null;
      flashes.push(...ofPart);
    }
    this.forgetOthers(wantedOnce, new Set(parts.map(({ key }) => key)));
    const measures = new Map(
      wanted.flatMap((digest) => {
        const known = this.known.get(digest);
        return known ? [[digest, known.measure] as const] : [];
      }),
    );
    return { measures, troubles, near, flashes: worstOfEachKind(flashes) };
  }

  /** The flashes of a part of the film; what a part with frames of clips held is remembered, since these have to be decoded for it. */
  private async flashesOf(
    part: FlashPart,
    stacks: readonly PictureStack[],
    rate: Rate,
    isStopped: () => boolean,
    onFrame: () => void,
  ): Promise<readonly Flashes[] | null> {
    const size = this.size as Size;
    const startFrame = part.runs[0]?.startFrame ?? 0;
    const before = this.ofParts.get(part.key);
    if (before) return movedFlashes(before, startFrame);
    let isAllKnown = true;
    for (const picture of part.clipPictures) {
      if (isStopped()) return null;
      if (!this.clipLight.has(picture)) {
        const found = await this.look(picture, size);
        if (found && 'rgba' in found) this.clipLight.set(picture, lightOfPicture(size, found.rgba, wholeOf(size)));
        else isAllKnown = false;
      }
      onFrame();
    }
    const film = this.film ?? new FlashFilm(size, (picture) => (this.known.get(picture)?.light ?? this.clipLight.get(picture)) || null);
    this.film = film;
    const found = await film.worst(stacks, part.runs, rate, async () => {
      await this.rest();
      return isStopped();
    });
    if (!found) return null;
    if (part.clipPictures.length === 0) return found;
    if (isAllKnown) this.ofParts.set(part.key, movedFlashes(found, -startFrame));
    // The next part begins with the second before it: the frames of that are decoded once.
    const kept = part.clipPictures.slice(-Math.ceil(rate.num / rate.den) - 1);
    for (const picture of this.clipLight.keys()) if (!kept.includes(picture)) this.clipLight.delete(picture);
    film.keepOnly(new Set([...this.known.keys(), ...this.clipLight.keys()]));
    return found;
  }

  private findNear(pictures: readonly Digest[], near: Map<string, Nearness>): void {
    for (let first = 0; first < pictures.length; first++) {
      const a = this.known.get(pictures[first] as Digest);
      if (!a) continue;
      for (let second = first + 1; second < pictures.length; second++) {
        const b = this.known.get(pictures[second] as Digest);
        if (!b || !mayBeNear(a.measure, b.measure)) continue;
        const key = nearKey(pictures[first] as Digest, pictures[second] as Digest);
        let apart = this.pairs.get(key);
        if (apart === undefined) {
          const measured = nearness(a.blocks, b.blocks);
          apart = isNear(measured, MOST_NEAR_PER_MILLE) ? measured : null;
          this.pairs.set(key, apart);
        }
        if (apart) near.set(key, apart);
      }
    }
  }

  private forgetAll(): void {
    this.known.clear();
    this.clipLight.clear();
    this.ofParts.clear();
    this.pairs.clear();
    this.film = null;
  }

  private forgetOthers(pictures: ReadonlySet<Digest>, parts: ReadonlySet<string>): void {
    this.film?.keepOnly(pictures);
    this.clipLight.clear();
    for (const key of this.ofParts.keys()) if (!parts.has(key)) this.ofParts.delete(key);
    for (const digest of this.known.keys()) if (!pictures.has(digest)) this.known.delete(digest);
    for (const key of this.pairs.keys()) if (!key.split(' ').every((digest) => pictures.has(digest))) this.pairs.delete(key);
  }
}
