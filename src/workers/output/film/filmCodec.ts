import {
  canEncodeVideo,
  MkvOutputFormat,
  MovOutputFormat,
  Mp4OutputFormat,
  type OutputFormat,
  QUALITY_HIGH,
  QUALITY_LOW,
  QUALITY_MEDIUM,
  QUALITY_VERY_HIGH,
  QUALITY_VERY_LOW,
  type Quality as QualityLevel,
  type VideoEncodingConfig,
  WebMOutputFormat,
} from 'mediabunny';
import type { Size } from '@/core/document/model';
import { sizeText } from '@/core/document/size';
import {
  BROWSER_CODECS,
  type BrowserCodec,
  CONTAINER_CODECS,
  type Container,
  type FilmOptions,
  isOutside,
  type Quality,
  VIDEO_CODEC_NAMES,
} from '@/core/output/film';
import { OutputRefused } from '@/workers/output/outputFormat';

const CONTAINER_FORMATS: Readonly<Record<Container, () => OutputFormat>> = {
  mp4: () => new Mp4OutputFormat(),
  mov: () => new MovOutputFormat(),
  webm: () => new WebMOutputFormat(),
  mkv: () => new MkvOutputFormat(),
};

/** The container a film is written into. */
export const containerOf = (container: Container): OutputFormat => CONTAINER_FORMATS[container]();

const LEVELS: Readonly<Record<Quality, QualityLevel>> = {
  small: QUALITY_VERY_LOW,
  fair: QUALITY_LOW,
  good: QUALITY_MEDIUM,
  fine: QUALITY_HIGH,
  finest: QUALITY_VERY_HIGH,
};

/** Whether this browser can write a codec at a size. */
export const canWrite = (codec: BrowserCodec, { width, height }: Size): Promise<boolean> =>
  canEncodeVideo(codec, { width, height, bitrate: QUALITY_HIGH });

/** Codecs of which a browser writes either every size or none: asked at a size, it sets up an encoder of that size, and of these one for 1280 x 720 takes 100 MiB. */
const OF_ANY_SIZE: ReadonlySet<BrowserCodec> = new Set(['vp9']);
const SMALL: Size = { width: 64, height: 64 };

/** The codecs this browser can write at a size, so that others are not offered; tried one after another, since each takes memory. What is handed over is tried at its very size. */
export async function writableAt(size: Size): Promise<ReadonlySet<BrowserCodec>> {
  const can = new Set<BrowserCodec>();
  for (const codec of BROWSER_CODECS) if (await canWrite(codec, OF_ANY_SIZE.has(codec) ? SMALL : size)) can.add(codec);
  return can;
}

/** How pictures of this size are encoded. Throws `OutputRefused`, saying what would work, when this browser can't. */
export async function encodingFor(container: Container, options: FilmOptions, size: Size): Promise<VideoEncodingConfig> {
  const { video, quality, transparency } = options;
  if (isOutside(video)) throw new Error('A browser does not write this film.');
  if (!(await canWrite(video, size))) {
    const others: string[] = [];
    for (const other of CONTAINER_CODECS[container].video)
      if (other !== video && !isOutside(other) && (await canWrite(other, size))) others.push(VIDEO_CODEC_NAMES[other]);
    const instead = others.length > 0 ? `it can write ${others.join(' and ')}` : 'choose another kind of film, or picture files';
    throw new OutputRefused(`This browser can’t write ${VIDEO_CODEC_NAMES[video]} at ${sizeText(size)}: ${instead}.`);
  }
  return {
    codec: video,
    bitrate: quality.by === 'rate' ? quality.kilobitsPerSecond * 1000 : LEVELS[quality.quality],
    // Every key frame is asked for by its number.
    keyFrameInterval: 3600,
    latencyMode: 'quality',
    ...(transparency ? { alpha: 'keep' } : {}),
  };
}
