import type { RenderPlan } from '@/core/render/renderPlan';

/*
 * What can be asked of a film: how its picture and its sound are coded, how well, where its key frames stand, and what the file
 * says of itself. Ids of codecs are stored in recipes and receipts: they never change.
 */

/** Those a browser may write, and those an outside encoder on the server does: each of its frames stands alone. */
export const BROWSER_CODECS = ['avc', 'vp9', 'av1'] as const;
export const OUTSIDE_CODECS = ['ffv1', 'png', 'prores'] as const;
export const VIDEO_CODECS = [...BROWSER_CODECS, ...OUTSIDE_CODECS] as const;
export type BrowserCodec = (typeof BROWSER_CODECS)[number];
export type OutsideCodec = (typeof OUTSIDE_CODECS)[number];
export type VideoCodec = BrowserCodec | OutsideCodec;
export const VIDEO_CODEC_NAMES: Readonly<Record<VideoCodec, string>> = {
  avc: 'H.264',
  vp9: 'VP9',
  av1: 'AV1',
  ffv1: 'FFV1',
  png: 'PNG',
  prores: 'ProRes',
};

export const isOutside = (codec: VideoCodec): codec is OutsideCodec => OUTSIDE_CODECS.some((outside) => outside === codec);

/** Codecs that keep every pixel. */
export const isLossless = (codec: VideoCodec): boolean => codec === 'ffv1' || codec === 'png';

/** Codecs whose transparency these containers hold. */
const CLEAR_CODECS: readonly VideoCodec[] = ['vp9', ...OUTSIDE_CODECS];

/** Bits a colour may have, the first unless told. */
export const DEPTHS = [8, 10] as const;
export type Depth = (typeof DEPTHS)[number];
const CODEC_DEPTHS: Readonly<Record<VideoCodec, readonly Depth[]>> = {
  avc: [8],
  vp9: [8],
  av1: [8],
  ffv1: [8, 10],
  png: [8],
  prores: [10],
};
export const depthsOf = (codec: VideoCodec): readonly Depth[] => CODEC_DEPTHS[codec];

export const SOUND_CODECS = ['aac', 'opus', 'flac', 'pcm'] as const;
export type SoundCodec = (typeof SOUND_CODECS)[number];
export const SOUND_CODEC_NAMES: Readonly<Record<SoundCodec, string>> = { aac: 'AAC', opus: 'Opus', flac: 'FLAC', pcm: 'PCM, 24 bit' };

/** Samples a coded sound is made of at a time, at 48,000 a second: an AAC frame, and an Opus one of 20 ms. One that isn't coded ends on the sample. */
export const SOUND_FRAME_SAMPLES: Readonly<Record<SoundCodec, number>> = { aac: 1024, opus: 960, flac: 0, pcm: 0 };

export const CONTAINERS = ['mp4', 'mov', 'webm', 'mkv'] as const;
export type Container = (typeof CONTAINERS)[number];

/** What a container holds, the first of each being what it is made with unless told. */
export const CONTAINER_CODECS: Readonly<
  Record<Container, { readonly video: readonly VideoCodec[]; readonly sound: readonly SoundCodec[]; readonly transparency: boolean }>
> = {
  mp4: { video: ['avc', 'av1'], sound: ['aac', 'opus', 'flac'], transparency: false },
  mov: { video: ['avc', 'av1', 'prores', 'png', 'ffv1'], sound: ['pcm', 'aac'], transparency: true },
  webm: { video: ['vp9', 'av1'], sound: ['opus'], transparency: true },
  mkv: { video: ['vp9', 'av1', 'avc', 'ffv1', 'png'], sound: ['flac', 'opus', 'aac', 'pcm'], transparency: true },
};

/** The sounds of a container beside a picture: an outside encoder is asked only for those that keep every sample. */
export const soundsBeside = (container: Container, video: VideoCodec): readonly SoundCodec[] =>
  CONTAINER_CODECS[container].sound.filter((sound) => !isOutside(video) || sound === 'pcm' || sound === 'flac');

/** How well a picture is coded: one of five, or so many kilobits a second. */
export const QUALITIES = ['small', 'fair', 'good', 'fine', 'finest'] as const;
export type Quality = (typeof QUALITIES)[number];
export type FilmQuality = { readonly by: 'scale'; readonly quality: Quality } | { readonly by: 'rate'; readonly kilobitsPerSecond: number };

export const LEAST_KILOBITS = 50;
export const MOST_KILOBITS = 400_000;

/** Where key frames stand, which a film can be cut at and gone to without decoding others: every so many frames, on each change of drawing, or everywhere. */
export type KeyFrames = { readonly at: 'every'; readonly frames: number } | { readonly at: 'changes' } | { readonly at: 'all' };

export const MOST_KEY_FRAME_GAP = 600;

/** `sound` is null for a film without. `language` is a code of three letters (ISO 639-2), `timecode` that of the first frame, where it is said. */
export type FilmOptions = {
  readonly kind: 'film';
  readonly video: VideoCodec;
  readonly depth: Depth;
  readonly quality: FilmQuality;
  readonly keyFrames: KeyFrames;
  readonly transparency: boolean;
  readonly sound: SoundCodec | null;
  readonly title: string;
  readonly language: string;
  readonly timecode: string;
};

export const startFilmOptions = (container: Container): FilmOptions => ({
  kind: 'film',
  video: CONTAINER_CODECS[container].video[0] as VideoCodec,
  depth: 8,
  quality: { by: 'scale', quality: 'fine' },
  keyFrames: { at: 'every', frames: 48 },
  transparency: false,
  sound: CONTAINER_CODECS[container].sound[0] as SoundCodec,
  title: '',
  language: 'und',
  timecode: '',
});

/** The options of another container as far as this one carries them. */
export function optionsIn(container: Container, options: FilmOptions): FilmOptions {
  const { video, transparency } = CONTAINER_CODECS[container];
  const coded = video.includes(options.video) ? options.video : (video[0] as VideoCodec);
  const sound = soundsBeside(container, coded);
  const depths = depthsOf(coded);
  return {
    ...options,
    video: coded,
    depth: depths.includes(options.depth) ? options.depth : (depths[0] as Depth),
    sound: options.sound === null || sound.includes(options.sound) ? options.sound : (sound[0] as SoundCodec),
    transparency: options.transparency && transparency && CLEAR_CODECS.includes(coded),
  };
}

/** Whether transparency can be asked for: the container and the codec hold it. */
export const canBeTransparent = (container: Container, { video }: FilmOptions): boolean =>
  CONTAINER_CODECS[container].transparency && CLEAR_CODECS.includes(video);

/** Whether a timecode to start with can be written: Matroska has a tag for it, MOV a track that only an outside encoder writes. */
export const hasTimecode = (container: Container, video: VideoCodec): boolean =>
  container === 'webm' || container === 'mkv' || (container === 'mov' && isOutside(video));

/** The key frames of a film, in order, from 0; the first frame is always one. */
export function keyFramesOf(plan: RenderPlan, keyFrames: KeyFrames): ReadonlySet<number> {
  if (keyFrames.at === 'changes') return new Set(plan.runs.map(({ startFrame }) => startFrame));
  const gap = keyFrames.at === 'all' ? 1 : keyFrames.frames;
  return new Set(Array.from({ length: Math.ceil(plan.frames / gap) }, (_, index) => index * gap));
}
