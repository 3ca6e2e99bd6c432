import { canEncodeVideo, Mp4OutputFormat, QUALITY_HIGH, type VideoEncodingConfig, WebMOutputFormat } from 'mediabunny';
import type { Size } from '@/core/document/model';
import { sizeText } from '@/core/document/size';
import { OutputRefused } from '@/workers/output/outputFormat';

/** How a film is coded and in which container, as its format says. */
export type FilmCoding = { readonly codec: 'avc' | 'vp9'; readonly codecName: string; readonly container: 'mp4' | 'webm' };

/** The container a film of this coding is written into. */
export const containerOf = ({ container }: FilmCoding) => (container === 'mp4' ? new Mp4OutputFormat() : new WebMOutputFormat());

/** How pictures of this size are encoded. Throws `OutputRefused` when this browser can't. */
export async function encodingFor({ codec, codecName }: FilmCoding, size: Size): Promise<VideoEncodingConfig> {
  if (!(await canEncodeVideo(codec, { width: size.width, height: size.height, bitrate: QUALITY_HIGH })))
    throw new OutputRefused(`This browser can't write ${codecName} at ${sizeText(size)}: choose the other kind of film, or picture files.`);
  return { codec, bitrate: QUALITY_HIGH, keyFrameInterval: 2, latencyMode: 'quality' };
}
