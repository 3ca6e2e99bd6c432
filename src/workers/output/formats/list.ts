import { animatedWebp, apng, gif, page, strip } from '@/workers/output/formats/loops';
import { mkv } from '@/workers/output/formats/mkv';
import { mov } from '@/workers/output/formats/mov';
import { mp4 } from '@/workers/output/formats/mp4';
import { bmp, jpeg, png, tga, tiff, webp } from '@/workers/output/formats/pictures';
import { webm } from '@/workers/output/formats/webm';
import type { OutputFormat } from '@/workers/output/outputFormat';

/** Every format there is, in the order they are offered. Their writers and readers are loaded when they are used. */
export const FORMATS: readonly OutputFormat[] = [
  mp4,
  mov,
  webm,
  mkv,
  png,
  jpeg,
  webp,
  tiff,
  tga,
  bmp,
  gif,
  apng,
  animatedWebp,
  page,
  strip,
];
