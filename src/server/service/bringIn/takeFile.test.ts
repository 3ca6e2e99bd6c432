import { execFileSync } from 'node:child_process';
import { mkdtempSync, readFileSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { deflateSync } from 'node:zlib';
import { BlobReader, TextReader, Uint8ArrayWriter, ZipWriter } from '@zip.js/zip.js';
import { decode } from 'fast-png';
import sharp from 'sharp';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { AlphaKind } from '@/contracts/bringIn';
import { changesColours } from '@/core/format/png/chunks';
import { done, refused } from '@/core/outcome';
import { canonicalisePixels } from '@/core/raster/canonical';
import { digestOfPixels } from '@/core/raster/digest';
import { brokenWords, openPictures } from '@/server/service/bringIn/decode';
import type { Page } from '@/server/service/bringIn/pages';
import { noteSources, originalFile, sourcesOf } from '@/server/service/bringIn/sources';
import { takeFile } from '@/server/service/bringIn/takeFile';
import { createProject, picturePngs } from '@/server/service/projects';
import { bytesOf, received, useOwnDataFolder } from '@/testing/server';

const SIZE = { width: 32, height: 20 };
const folder = mkdtempSync(path.join(tmpdir(), 'lime-tick-bring-'));
afterAll(() => rmSync(folder, { recursive: true }));

/** A picture with every alpha and all sorts of colours. */
function randomPixels(seed: number, opaque = false): Uint8Array {
  const rgba = Uint8Array.from(
    { length: SIZE.width * SIZE.height * 4 },
    (_, index) => (Math.imul(index + seed * 977, 2654435761) >>> 11) % 256,
  );
  if (opaque) for (let at = 3; at < rgba.length; at += 4) rgba[at] = 255;
  return rgba;
}

const raw = (rgba: Uint8Array) => sharp(rgba, { raw: { ...SIZE, channels: 4 } });

async function digestOf(rgba: Uint8Array): Promise<string> {
  const copy = rgba.slice();
  canonicalisePixels(copy);
  return digestOfPixels(SIZE.width, SIZE.height, copy);
}

/** Files written by ffmpeg from pictures shown one after another. */
function byFfmpeg(pictures: readonly Uint8Array[], name: string, options: readonly string[]): Uint8Array {
  const file = path.join(folder, name);
  const input = ['-v', 'error', '-y', '-f', 'rawvideo', '-pix_fmt', 'rgba', '-s', `${SIZE.width}x${SIZE.height}`, '-r', '10', '-i', '-'];
  execFileSync('ffmpeg', [...input, ...options, file], { input: Buffer.concat(pictures) });
  return new Uint8Array(readFileSync(file));
}

/** A file with all of its pictures decoded, or why that can't be done. */
async function decodePictures(bytes: Uint8Array, name: string) {
  const file = await openPictures(bytes, name);
  if (!file.ok) return file;
  const pages: Page[] = [];
  try {
    for await (const page of file.value.pages) pages.push(page);
  } catch (error) {
    return refused(brokenWords(error));
  }
  return done({ ...file.value, pages });
}

async function decoded(bytes: Uint8Array, name = 'sock_01.png') {
  const file = await decodePictures(bytes, name);
  if (!file.ok) throw new Error(file.reason);
  return file.value;
}

describe('decodePictures', () => {
  it.each(['png', 'webp', 'tiff'] as const)('reads %s without a loss, whatever it is called', async (format) => {
    const rgba = randomPixels(1);
    const bytes = new Uint8Array(
      await raw(rgba)
        [format]({ lossless: true, compression: 'lzw', exact: true } as object)
        .toBuffer(),
    );
    const { pages } = await decoded(bytes, 'mislabelled.jpg');
    expect(pages).toHaveLength(1);
    expect(await digestOf(new Uint8Array(pages[0]?.rgba ?? []))).toBe(await digestOf(rgba));
  });

  it('reads a JPEG as an image library does', async () => {
    const bytes = new Uint8Array(await raw(randomPixels(2, true)).jpeg({ quality: 80 }).toBuffer());
    const { kind, pages } = await decoded(bytes);
    expect(kind).toBe('JPEG');
    expect(new Uint8Array(pages[0]?.rgba ?? [])).toEqual(new Uint8Array(await sharp(bytes).ensureAlpha().raw().toBuffer()));
  });

  it('reads animated pictures written by ffmpeg with their own times', async () => {
    const pictures = [3, 4, 5].map((seed) => randomPixels(seed, true));
    const apng = await decoded(byFfmpeg(pictures, 'a.apng', ['-f', 'apng', '-plays', '0']), 'a.png');
    expect(apng.kind).toBe('animated PNG');
    expect(apng.pages.map((page) => page.delayMilliseconds)).toEqual([100, 100, 100]);
    for (const [index, page] of apng.pages.entries())
      expect(await digestOf(new Uint8Array(page.rgba))).toBe(await digestOf(pictures[index] ?? new Uint8Array()));
    const gif = await decoded(byFfmpeg(pictures, 'a.gif', []), 'a.gif');
    expect([gif.kind, gif.pages.length]).toEqual(['animated GIF', 3]);
    expect(gif.pages.map((page) => page.delayMilliseconds)).toEqual([100, 100, 100]);
    const webp = await decoded(byFfmpeg(pictures, 'a.webp', ['-c:v', 'libwebp_anim', '-lossless', '1']), 'a.webp');
    expect([webp.kind, webp.pages.length]).toEqual(['animated WebP', 3]);
    for (const [index, page] of webp.pages.entries())
      expect(await digestOf(new Uint8Array(page.rgba))).toBe(await digestOf(pictures[index] ?? new Uint8Array()));
  });

  it('reads a layered picture, the lowest layer first, each at its place', async () => {
    const small = await sharp({ create: { width: 4, height: 3, channels: 4, background: '#c4553a' } })
      .png()
      .toBuffer();
    const whole = await raw(randomPixels(6)).png().toBuffer();
    const stack = `<?xml version="1.0"?><image w="32" h="20"><stack><layer name="Sock" src="data/b.png" x="30" y="-1"/><stack><layer name="Yard" src="data/a.png"/></stack></stack></image>`;
    const { kind, isLayered, pages } = await decoded(
      await openRaster({ 'stack.xml': stack, 'data/a.png': whole, 'data/b.png': small }),
      'layers.ora',
    );
    expect([kind, isLayered, pages.map((page) => page.name)]).toEqual(['OpenRaster', true, ['Yard', 'Sock']]);
    const sock = pages[1]?.rgba ?? new Uint8ClampedArray();
    const inked = Array.from({ length: SIZE.width * SIZE.height }, (_, index) => index).filter((index) => sock[index * 4 + 3] === 255);
    expect(inked).toEqual([30, 31, 62, 63]);
    expect([...sock.slice(120, 124)]).toEqual([196, 85, 58, 255]);
  });

  it('reads an OpenRaster layer as opaque as it and the stacks around it say', async () => {
    const whole = new Uint8Array(
      await raw(new Uint8Array(SIZE.width * SIZE.height * 4).fill(200))
        .png()
        .toBuffer(),
    );
    const stack = `<image w="32" h="20"><stack><stack opacity="0.5"><layer src="data/a.png" opacity="0.5"/></stack><layer src="data/a.png" opacity="rubbish"/></stack></image>`;
    const { pages } = await decoded(await openRaster({ 'stack.xml': stack, 'data/a.png': whole }), 'layers.ora');
    expect(pages.map((page) => [...page.rgba.slice(0, 4)])).toEqual([
      [200, 200, 200, 200],
      [200, 200, 200, 50],
    ]);
  });

  it.each<[string, () => Promise<Uint8Array>, string]>([
    ['nothing', async () => new Uint8Array(0), 'empty'],
    ['text', async () => new TextEncoder().encode('no picture, only words about one'), 'not a picture that can be read'],
    ['a PNG broken off', async () => new Uint8Array(await raw(randomPixels(7)).png().toBuffer()).subarray(0, 300), 'broken'],
    ['a JPEG broken off', async () => new Uint8Array(await raw(randomPixels(7, true)).jpeg().toBuffer()).subarray(0, 200), ''],
    ['a PNG that says it is enormous', async () => enormousPng(60_000, 60_000), '60000 px'],
    ['a ZIP that is none', async () => new Uint8Array([0x50, 0x4b, 3, 4, 1, 2, 3]), 'broken'],
    ['a ZIP without layers', async () => openRaster({ 'a.txt': 'words' }), 'no list of its layers'],
    [
      'a layer that is missing',
      async () => openRaster({ 'stack.xml': '<image w="32" h="20"><stack><layer name="Gone" src="data/x.png"/></stack></image>' }),
      'The layer “Gone” has no picture',
    ],
    [
      'layers on an enormous page',
      async () => openRaster({ 'stack.xml': '<image w="60000" h="60000"><stack><layer src="a"/></stack></image>' }),
      '60000 px',
    ],
  ])('refuses %s with a sentence', async (_what, make, reason) => {
    const file = await decodePictures(await make(), 'bad.png');
    expect(file.ok).toBe(false);
    if (!file.ok) expect(file.reason).toContain(reason);
  });

  it('unpacks no ZIP that would become gigabytes', async () => {
    const zeros = Buffer.alloc(70 * 1024 * 1024);
    const bomb = await openRaster({
      'stack.xml': '<image w="32" h="20"><stack><layer name="Bomb" src="data/x.png"/></stack></image>',
      'data/x.png': zeros,
    });
    expect(bomb.byteLength).toBeLessThan(1024 * 1024);
    const file = await decodePictures(bomb, 'bomb.ora');
    expect(file.ok ? '' : file.reason).toContain('over 64 MiB');
  });
});

describe('a file that is taken in', () => {
  let projectId = '';
  const take = (name: string, bytes: Uint8Array, alpha: AlphaKind = 'straight', id = projectId) =>
    received(name, bytes, 'picture', (file) => takeFile(id, file, alpha));

  beforeAll(async () => {
    await useOwnDataFolder();
    projectId = (await createProject({ title: 'Bring', rate: { num: 24, den: 1 }, size: SIZE, firstFrameNumber: 1, frames: 24 })).id;
  });

  it('is kept byte for byte, and its level remembers it', async () => {
    const bytes = new Uint8Array(await raw(randomPixels(8)).png().toBuffer());
    const taken = await take('sock.png', bytes);
    if (!taken.ok) throw new Error(taken.error);
    expect(taken.value.pictures).toEqual([
      { name: 'sock', picture: await digestOf(randomPixels(8)), ...SIZE, delayMilliseconds: null, hasTransparency: true },
    ]);
    expect(await bytesOf(await originalFile(taken.value.original))).toEqual(bytes);
    const source = { original: taken.value.original, fileName: 'sock.png', levelId: 'level' };
    expect(await noteSources(projectId, [source])).toMatchObject({ ok: true });
    expect(await sourcesOf(projectId)).toEqual({ ok: true, value: { sources: [source] } });
    expect(await noteSources(projectId, [{ ...source, original: 'e'.repeat(64) }])).toMatchObject({ ok: false, status: 422 });
  });

  it.each([
    ['a profile of other primaries', async () => new Uint8Array(await raw(randomPixels(5, true)).withIccProfile('p3').png().toBuffer())],
    [
      'a gamma of its own',
      async () => {
        const plain = await raw(randomPixels(6, true)).png().toBuffer();
        return new Uint8Array(Buffer.concat([plain.subarray(0, 33), pngChunk('gAMA', Buffer.from([0, 1, 134, 160])), plain.subarray(33)]));
      },
    ],
  ])('is stored without %s: its bytes hold the pixels of its digest for everybody', async (_what, file) => {
    const taken = await take('coloured.png', await file());
    if (!taken.ok) throw new Error(taken.error);
    const digest = taken.value.pictures[0]?.picture ?? '';
    const [png] = await picturePngs([digest]);
    if (!png) throw new Error('It is stored.');
    expect(changesColours(png)).toBe(false);
    const { data, channels } = decode(png);
    expect(channels).toBe(4);
    expect(await digestOf(Uint8Array.from(data))).toBe(digest);
  });

  it('has its premultiplied colours made straight when told', async () => {
    const straight = new Uint8Array(SIZE.width * SIZE.height * 4);
    for (let at = 0; at < straight.length; at += 4) straight.set([200, 100, 50, 51], at);
    const multiplied = straight.map((value, index) => (index % 4 === 3 ? value : Math.round((value * 51) / 255)));
    const taken = await take('half.png', new Uint8Array(await raw(multiplied).png().toBuffer()), 'premultiplied');
    expect(taken.ok ? taken.value.pictures[0]?.picture : taken.error).toBe(await digestOf(straight));
  });

  it('leaves nothing when it is bad, or the project is unknown', async () => {
    expect(await take('bad.png', new Uint8Array([1, 2, 3]))).toMatchObject({ ok: false, status: 422 });
    expect(await take('bad.png', new Uint8Array([1, 2, 3]), 'straight', 'nobody')).toMatchObject({ ok: false, status: 404 });
  });
});

async function openRaster(entries: Readonly<Record<string, string | Uint8Array>>): Promise<Uint8Array> {
  const zip = new ZipWriter(new Uint8ArrayWriter());
  await zip.add('mimetype', new TextReader('image/openraster'), { level: 0 });
  for (const [name, content] of Object.entries(entries))
    await zip.add(
      name,
      typeof content === 'string' ? new TextReader(content) : new BlobReader(new Blob([content as Uint8Array<ArrayBuffer>])),
    );
  return zip.close();
}

/** A chunk of a PNG, with its checksum (W3C PNG Third Edition, 5.3). */
function pngChunk(type: string, data: Uint8Array): Buffer {
  const table = Array.from({ length: 256 }, (_, index) =>
    Array.from({ length: 8 }).reduce<number>((crc) => (crc & 1 ? 0xedb88320 ^ (crc >>> 1) : crc >>> 1), index),
  );
  const body = Buffer.concat([Buffer.from(type, 'latin1'), data]);
  const crc = body.reduce((sum, byte) => (table[(sum ^ byte) & 255] ?? 0) ^ (sum >>> 8), 0xffffffff) ^ 0xffffffff;
  const [length, sum] = [Buffer.alloc(4), Buffer.alloc(4)];
  length.writeUInt32BE(data.byteLength);
  sum.writeUInt32BE(crc >>> 0);
  return Buffer.concat([length, body, sum]);
}

/** A well-formed PNG whose header says sides it hasn't. */
function enormousPng(width: number, height: number): Uint8Array {
  const header = Buffer.alloc(13);
  header.writeUInt32BE(width, 0);
  header.writeUInt32BE(height, 4);
  header.set([8, 6, 0, 0, 0], 8);
  const parts = [
    Buffer.from([137, 80, 78, 71, 13, 10, 26, 10]),
    pngChunk('IHDR', header),
    pngChunk('IDAT', deflateSync(Buffer.alloc(100))),
    pngChunk('IEND', Buffer.alloc(0)),
  ];
  return new Uint8Array(Buffer.concat(parts));
}
