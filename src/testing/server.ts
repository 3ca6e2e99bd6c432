import { cp, mkdtemp } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import path from 'node:path';
import sharp from 'sharp';
import type { Size } from '@/core/document/model';
import { canonicalisePixels } from '@/core/raster/canonical';
import { digestOfPixels } from '@/core/raster/digest';
import type { Answer } from '@/server/service/answer';
import { type ReceivedFile, receiveFile } from '@/server/service/bringIn/receive';
import type { SentPicture } from '@/server/service/sentPictures';
import type { OriginalFile } from '@/server/store/originals';
import { newDatabase } from '@/testing/newDatabase';

/** Points this process's database at a new empty folder of its own; for tests, before the first use. */
export async function useEmptyDataFolder(): Promise<string> {
  const folder = await mkdtemp(path.join(tmpdir(), 'lime-tick-test-'));
  process.env.LIME_TICK_DATA = folder;
  delete process.env.DATABASE_URL;
  return folder;
}

/** The same with a new database in it, of which none is made here: that takes seconds. */
export async function useOwnDataFolder(): Promise<string> {
  const folder = await useEmptyDataFolder();
  await cp(newDatabase(), folder, { recursive: true });
  // It would be taken for one that was left long ago, and copied before it is opened.
  process.env.LIME_TICK_COPIES = 'off';
  return folder;
}

/** A kept file whole; empty when there is none. */
export async function bytesOf(file: OriginalFile | null): Promise<Uint8Array> {
  const parts: Uint8Array[] = [];
  for await (const part of file?.bytes(0, file.sizeBytes) ?? []) parts.push(part);
  return new Uint8Array(Buffer.concat(parts));
}

/** Bytes as if they had been received as a file. */
export const received = <T>(
  name: string,
  bytes: Uint8Array,
  kind: 'picture' | 'recording' | 'clip',
  use: (file: ReceivedFile) => Promise<Answer<T>>,
): Promise<Answer<T>> => receiveFile(name, new Blob([bytes as Uint8Array<ArrayBuffer>]).stream(), kind, use);

/** A flat picture of one colour (`#rrggbb` or `#rrggbbaa`), as a browser would send it. */
export async function flatPicture(colour: string, size: Size): Promise<SentPicture> {
  const image = sharp({ create: { ...size, channels: 4, background: colour } });
  const rgba = await image.clone().raw().toBuffer();
  canonicalisePixels(rgba);
  return { digest: await digestOfPixels(size.width, size.height, rgba), png: await image.png().toBuffer() };
}
