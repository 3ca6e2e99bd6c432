import sharp, { type Sharp } from 'sharp';
import { expect, it } from 'vitest';
import { changesColours } from '@/core/format/png/chunks';
import { saysSrgb } from '@/core/format/png/srgb';
import { MANY_COLOURS, storedPng } from '@/workers/render/storedPng';

it('asks a browser by colours all over the cube, in a PNG that says nothing of them', async () => {
  const png = Uint8Array.from(Buffer.from(MANY_COLOURS, 'base64'));
  expect([saysSrgb(png), changesColours(png)]).toEqual([false, false]);
  const { data, info } = await sharp(png).raw().toBuffer({ resolveWithObject: true });
  expect(info).toMatchObject({ width: 64, height: 64, channels: 3 });
  const colours = new Set(Array.from({ length: data.length / 3 }, (_, pixel) => data.subarray(pixel * 3, pixel * 3 + 3).toString('hex')));
  const steps = Array.from({ length: 16 }, (_, step) => (step * 17).toString(16).padStart(2, '0'));
  expect(colours).toEqual(new Set(steps.flatMap((r) => steps.flatMap((g) => steps.map((b) => `${r}${g}${b}`)))));
});

it('a picture with a profile of its own is not plain', async () => {
  const picture = sharp({ create: { width: 4, height: 4, channels: 3, background: '#8a2' } }).png();
  const isPlain = async (made: Sharp) => storedPng(new Uint8Array(await made.toBuffer())).isPlain;
  expect([await isPlain(picture.clone()), await isPlain(picture.clone().withIccProfile('p3'))]).toEqual([true, false]);
});
