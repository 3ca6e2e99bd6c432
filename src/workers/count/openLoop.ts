import type { Size } from '@/core/document/model';
import { readGif } from '@/core/format/gif/readGif';
import { isAnimatedPng, readApng } from '@/core/format/png/apng';
import { readPngSize } from '@/core/format/png/header';
import { readAnimatedWebp } from '@/core/format/webp/animatedWebp';
import type { OpenedOutside, OutsideFrame } from '@/core/outside/countOutside';
import { digestOfBytes } from '@/core/raster/digest';
import { type DecodedPicture, frameOf } from '@/workers/count/openPictures';

/* Opens loops, whoever made them: GIF, animated PNG and animated WebP, by their bytes. How their pictures are decoded is told from outside. */

/** What a loop says of itself. */
export type LoopFacts = {
  readonly made: 'GIF' | 'APNG' | 'animated WebP';
  readonly size: Size;
  readonly microseconds: readonly number[];
  readonly plays: number;
  readonly isWhole: boolean;
};

/** Times of a GIF are counted in hundredths of a second, of a WebP in thousandths; those of a PNG are fractions. */
const TICK_MICROSECONDS = { GIF: 10_000, APNG: 1, 'animated WebP': 1000 } as const;

function gifFacts(bytes: Uint8Array): LoopFacts | null {
  const gif = readGif(bytes);
  if (!gif.ok) return null;
  const { size, frames, plays, isWhole } = gif.value;
  return { made: 'GIF', size, microseconds: frames.map(({ centiseconds }) => centiseconds * 10_000), plays, isWhole };
}

function apngFacts(bytes: Uint8Array): LoopFacts | null {
  const size = readPngSize(bytes);
  const apng = size.ok ? readApng(bytes, size.value) : size;
  if (!apng.ok) return null;
  const { frames, plays, isWhole } = apng.value;
  const microseconds = frames.map(({ delay }) => Math.round((delay.num * 1_000_000) / delay.den));
  return { made: 'APNG', size: apng.value.size, microseconds, plays, isWhole };
}

/** What a file says of itself as a loop, by its bytes; null for one that is none. */
export function loopFacts(bytes: Uint8Array): LoopFacts | null {
  if (bytes[0] === 0x47 && bytes[1] === 0x49) return gifFacts(bytes);
  if (isAnimatedPng(bytes)) return apngFacts(bytes);
  const webp = readAnimatedWebp(bytes);
  if (!webp.ok) return null;
  const { size, frames, plays, isWhole } = webp.value;
  return { made: 'animated WebP', size, microseconds: frames.map(({ milliseconds }) => milliseconds * 1000), plays, isWhole };
}

async function* framesOfPages(pages: AsyncIterable<DecodedPicture>): AsyncGenerator<OutsideFrame> {
  for await (const page of pages) yield await frameOf(page);
}

/** Opens a loop whose facts are known; `pages` are its pictures as they are seen, one after another. */
export function openLoop(name: string, bytes: Uint8Array, facts: LoopFacts, pages: AsyncIterable<DecodedPicture>): OpenedOutside {
  const { made, size, microseconds, plays, isWhole } = facts;
  let at = 0;
  const startMicroseconds = microseconds.map((time) => {
    const start = at;
    at += time;
    return start;
  });
  const notes = isWhole ? [] : [`The ${made} is cut short: it ends before it says so.`];
  if (made === 'GIF' && microseconds.some((time) => time < 20_000))
    notes.push('Times below 2/100 s are slowed down by browsers: it will last longer there than it says.');
  return {
    kind: 'loop',
    name,
    fileBytes: bytes.byteLength,
    made,
    listedFrames: microseconds.length,
    times: {
      startMicroseconds,
      lastDurationMicroseconds: microseconds.at(-1) ?? null,
      statedDurationMicroseconds: null,
      tickMicroseconds: TICK_MICROSECONDS[made],
    },
    stampSeconds: null,
    size,
    colours: null,
    keyFrames: null,
    loop: { microseconds, plays },
    sequence: null,
    frames: framesOfPages(pages),
    sound: null,
    notes: () => notes,
    digests: async () => ({ file: await digestOfBytes(bytes), frames: null }),
  };
}
