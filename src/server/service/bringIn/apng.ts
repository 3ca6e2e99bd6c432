import sharp from 'sharp';
import { type Apng, apngFramePng, clearApngFrame, layApngFrame, readApng } from '@/core/format/png/apng';
import { readPngSize } from '@/core/format/png/header';
import { done, type Outcome } from '@/core/outcome';
import { checkPages, type DecodedFile, type Page } from '@/server/service/bringIn/pages';

async function* pagesOf(bytes: Uint8Array, apng: Apng, name: string): AsyncGenerator<Page> {
  const { size } = apng;
  const page = new Uint8ClampedArray(size.width * size.height * 4);
  for (const [index, frame] of apng.frames.entries()) {
    const before = frame.dispose === 'previous' ? page.slice() : null;
    const rgba = await sharp(apngFramePng(bytes, apng, frame), { failOn: 'error' })
      .toColourspace('srgb')
      .ensureAlpha()
      .raw({ depth: 'uchar' })
      .toBuffer();
    layApngFrame(page, size, frame, rgba);
    yield { name: `${name} ${index + 1}`, delayMilliseconds: frame.delayMilliseconds, png: null, size, rgba: page.slice() };
    if (frame.dispose === 'background') clearApngFrame(page, size, frame);
    if (before) page.set(before);
  }
}

/** An animated PNG's pictures with their own times, decoded one after another. */
export function readAnimatedPng(bytes: Uint8Array, name: string): Outcome<DecodedFile> {
  const said = readPngSize(bytes);
  if (!said.ok) return said;
  const apng = readApng(bytes, said.value);
  if (!apng.ok) return apng;
  const checked = checkPages(apng.value.frames.map(() => said.value));
  if (!checked.ok) return checked;
  return done({ kind: 'animated PNG', isLayered: false, count: apng.value.frames.length, pages: pagesOf(bytes, apng.value, name) });
}
