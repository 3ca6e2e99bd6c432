import {
  canEncodeVideo,
  Mp4OutputFormat,
  type OutputFormat,
  QUALITY_HIGH,
  type VideoCodec,
  type VideoEncodingConfig,
  WebMOutputFormat,
} from 'mediabunny';
import type { Size } from '@/core/document/model';
import { isEvenSize, sizeText } from '@/core/document/size';

/** This browser can't write such a film; the message says what is missing. */
export class FilmCodecMissing extends Error {
  override readonly name = 'FilmCodecMissing';
}

export type FilmKind = 'mp4' | 'webm';

const FILMS: Record<FilmKind, { codec: VideoCodec; name: string; format: () => OutputFormat }> = {
  mp4: { codec: 'avc', name: 'H.264', format: () => new Mp4OutputFormat() },
  webm: { codec: 'vp9', name: 'VP9', format: () => new WebMOutputFormat() },
};

/** How a film of this kind and size is encoded here. Throws FilmCodecMissing when it can't be. */
export async function filmCodec(kind: FilmKind, size: Size): Promise<{ encoding: VideoEncodingConfig; format: OutputFormat }> {
  const { codec, name, format } = FILMS[kind];
  if (!isEvenSize(size)) {
    throw new FilmCodecMissing(
      `A film with ${name} needs an even width and height, and this project is ${sizeText(size)}: hand over picture files, which take any size.`,
    );
  }
  const encoding: VideoEncodingConfig = { codec, bitrate: QUALITY_HIGH, keyFrameInterval: 2, latencyMode: 'quality' };
  if (!(await canEncodeVideo(codec, { width: size.width, height: size.height, bitrate: QUALITY_HIGH }))) {
    throw new FilmCodecMissing(`This browser can't write ${name} at ${sizeText(size)}: choose the other kind of film, or picture files.`);
  }
  return { encoding, format: format() };
}
