import { mkdtemp } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import path from 'node:path';
import sharp from 'sharp';
import { canonicalisePixels, digestOfPixels } from '@/core/raster/digest';
import type { Size } from '@/core/sheet/document';
import type { SentPicture } from '@/server/service/sentPictures';

/** Points this process's database at a new folder of its own; for tests, before the first use. */
export async function useOwnDataFolder(): Promise<string> {
  const folder = await mkdtemp(path.join(tmpdir(), 'lime-tick-test-'));
  process.env.LIME_TICK_DATA = folder;
  delete process.env.DATABASE_URL;
  return folder;
}

/** A flat picture of one colour (`#rrggbb` or `#rrggbbaa`), as a browser would send it. */
export async function flatPicture(colour: string, size: Size): Promise<SentPicture> {
  const image = sharp({ create: { ...size, channels: 4, background: colour } });
  const rgba = await image.clone().raw().toBuffer();
  canonicalisePixels(rgba);
  return { digest: await digestOfPixels(size.width, size.height, rgba), png: await image.png().toBuffer() };
}
