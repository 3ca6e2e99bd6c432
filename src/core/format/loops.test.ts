import { execFileSync } from 'node:child_process';
import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { deflateSync } from 'node:zlib';
import { decodeApng } from 'fast-png';
import sharp from 'sharp';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { inOne } from '@/core/bytes';
import type { Size } from '@/core/document/model';
import { readApng } from '@/core/format/png/apng';
import { APNG_END, apngHead, apngPicture } from '@/core/format/png/writeApng';
import { pngRows } from '@/core/format/png/writePng';
import { readAnimatedWebp, webpFrame, webpHead, webpPicture } from '@/core/format/webp/animatedWebp';
import { mustBeDone } from '@/core/outcome';
import { type Area, changedArea, cropped, evenArea } from '@/core/raster/changedArea';
import { delaysOf, heldTimesOf, roundedDurations } from '@/core/time/heldTimes';

/* Animated PNGs and WebPs, as kept libraries and programs that share no code with them read them. */

const SIZE: Size = { width: 40, height: 26 };
const RATE = { num: 24_000, den: 1001 };
const HELD = heldTimesOf([1, 2, 7, 96], []);

/** Pictures of which a square moves, half transparent where asked. */
const pictureAt = (place: number, alpha: number): Uint32Array => {
  const rgba = new Uint8Array(SIZE.width * SIZE.height * 4);
  for (let pixel = 0; pixel < SIZE.width * SIZE.height; pixel++) {
    const [x, y] = [pixel % SIZE.width, Math.floor(pixel / SIZE.width)];
    const isSquare = x >= 3 + place * 5 && x < 9 + place * 5 && y >= 7 && y < 15;
    rgba.set(isSquare ? [200, 40 * place, 20, 255] : alpha === 255 ? [240, 240, 230, 255] : [0, 0, 0, 0], pixel * 4);
  }
  return new Uint32Array(rgba.buffer);
};
const PLACES = [0, 1, 2, 3];
const WHOLE: Area = { x: 0, y: 0, ...SIZE };
const areaAt = (place: number, alpha: number): Area =>
  place === 0 ? WHOLE : (changedArea(pictureAt(place - 1, alpha), pictureAt(place, alpha), SIZE) ?? WHOLE);
const bytesOf = (words: Uint32Array): Uint8Array => new Uint8Array(words.buffer, words.byteOffset, words.byteLength);

let folder: string;
beforeAll(() => {
  folder = mkdtempSync(path.join(tmpdir(), 'lime-tick-loops-'));
});
afterAll(() => rmSync(folder, { recursive: true }));

describe.each([
  { what: 'opaque', alpha: 255 },
  { what: 'transparent', alpha: 0 },
])('an animated PNG, $what', ({ alpha }) => {
  const channels = alpha === 255 ? 3 : 4;
  const delays = delaysOf(HELD, RATE);
  const apng = inOne([
    apngHead(SIZE, channels, PLACES.length, 3),
    ...PLACES.map((place) => {
      const area = areaAt(place, alpha);
      const rgba = bytesOf(cropped(pictureAt(place, alpha), SIZE, area));
      const samples = channels === 4 ? rgba : rgba.filter((_, at) => at % 4 !== 3);
      const rows = pngRows({ width: area.width, height: area.height, channels, depth: 8 }, samples);
      const delay = delays[place];
      if (!delay) throw new Error('There is a time for each.');
      return apngPicture(place, area, delay, deflateSync(rows));
    }),
    APNG_END,
  ]);

  it('comes back from ffmpeg with every picture', () => {
    const file = path.join(folder, `pictures-${channels}.png`);
    writeFileSync(file, apng);
    const raw = execFileSync('ffmpeg', ['-v', 'error', '-i', file, '-vsync', '0', '-f', 'rawvideo', '-pix_fmt', 'rgba', '-']);
    const pageBytes = SIZE.width * SIZE.height * 4;
    // Its decoder plays it as often as it says.
    expect(raw.length % (pageBytes * PLACES.length)).toBe(0);
    for (const place of PLACES)
      expect([...raw.subarray(place * pageBytes, (place + 1) * pageBytes)], `picture ${place + 1}`).toEqual([
        ...bytesOf(pictureAt(place, alpha)),
      ]);
  });

  it('says its exact times to a kept library', () => {
    const { frames, numberOfFrames, numberOfPlays } = decodeApng(apng);
    expect({ numberOfFrames, numberOfPlays }).toEqual({ numberOfFrames: 4, numberOfPlays: 3 });
    expect(frames.map(({ delayNumber, delayDenominator }) => ({ num: delayNumber, den: delayDenominator }))).toEqual(delays);
    expect(delays.map(({ num, den }) => (num * 24_000) / den / 1001).map(Math.round)).toEqual([1, 2, 7, 96]);
  });

  it('is counted alike by ffprobe, and read here as it was written', () => {
    const file = path.join(folder, `${channels}.png`);
    writeFileSync(file, apng);
    const entries = 'stream=codec_name,nb_read_frames,width,height';
    const told = execFileSync('ffprobe', ['-v', 'error', '-count_frames', '-show_entries', entries, '-of', 'csv=p=0', file], {
      encoding: 'utf8',
    });
    expect(told.trim()).toBe('apng,40,26,4');
    const read = mustBeDone(readApng(apng, SIZE));
    expect(read).toMatchObject({ plays: 3, isWhole: true });
    expect(read.frames.map(({ delay }) => delay)).toEqual(delays);
    expect(mustBeDone(readApng(apng.slice(0, -20), SIZE)).isWhole).toBe(false);
  });
});

describe.each([
  { what: 'opaque', alpha: 255 },
  { what: 'transparent', alpha: 0 },
])('an animated WebP, $what', ({ alpha }) => {
  const durations = roundedDurations(HELD, RATE, 1000);
  const make = async (): Promise<Uint8Array> => {
    const pictures = await Promise.all(
      PLACES.map(async (place) => {
        const area = evenArea(areaAt(place, alpha));
        const cut = bytesOf(cropped(pictureAt(place, alpha), SIZE, area));
        const webp = await sharp(cut, { raw: { width: area.width, height: area.height, channels: 4 } })
          .webp({ lossless: true, exact: true })
          .toBuffer();
        return mustBeDone(webpPicture(area, durations[place] as number, new Uint8Array(webp)));
      }),
    );
    const body = inOne(pictures);
    return inOne([webpHead(SIZE, alpha !== 255, 5, body.byteLength), body]);
  };

  it('comes back from an image library with every picture, its times and how often it is played', async () => {
    const webp = Buffer.from(await make());
    expect(await sharp(webp, { animated: true }).metadata()).toMatchObject({
      pages: 4,
      loop: 5,
      delay: durations,
      pageHeight: 26,
      width: 40,
    });
    const { data } = await sharp(webp, { animated: true }).ensureAlpha().raw().toBuffer({ resolveWithObject: true });
    const pageBytes = SIZE.width * SIZE.height * 4;
    for (const place of PLACES)
      expect([...data.subarray(place * pageBytes, (place + 1) * pageBytes)]).toEqual([...bytesOf(pictureAt(place, alpha))]);
  });

  it('is read here as it was written, and each picture stands alone as a WebP', async () => {
    const webp = await make();
    const read = mustBeDone(readAnimatedWebp(webp));
    expect(read).toMatchObject({ size: SIZE, plays: 5, isWhole: true });
    expect(read.frames.map(({ milliseconds }) => milliseconds)).toEqual(durations);
    for (const frame of read.frames) {
      const { width, height } = await sharp(Buffer.from(webpFrame(webp, frame))).metadata();
      expect({ width, height }).toEqual({ width: frame.area.width, height: frame.area.height });
    }
    expect(mustBeDone(readAnimatedWebp(webp.slice(0, -10))).isWhole).toBe(false);
  });
});

it('a WebP of one picture, or none at all, is refused as an animation', async () => {
  const still = await sharp({ create: { width: 4, height: 4, channels: 3, background: '#ffffff' } })
    .webp()
    .toBuffer();
  expect(readAnimatedWebp(new Uint8Array(still)).ok).toBe(false);
  expect(readAnimatedWebp(new Uint8Array(40))).toEqual({ ok: false, reason: 'It is not a WebP.' });
});

describe('the rectangle that changes', () => {
  it('is none where nothing does, and one pixel where one does', () => {
    const before = new Uint32Array(6 * 4);
    expect(changedArea(before, before.slice(), { width: 6, height: 4 })).toBeNull();
    const after = before.slice();
    after[2 * 6 + 5] = 1;
    expect(changedArea(before, after, { width: 6, height: 4 })).toEqual({ x: 5, y: 2, width: 1, height: 1 });
    expect(evenArea({ x: 5, y: 2, width: 1, height: 1 })).toEqual({ x: 4, y: 2, width: 2, height: 1 });
  });
});
