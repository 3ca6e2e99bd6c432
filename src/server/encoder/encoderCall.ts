import type { Quality } from '@/core/output/film';
import type { OutsideOrder, OutsideRun } from '@/core/output/outsideFilm';
import type { Rate } from '@/core/time/rate';
import { CODER_NAMES } from '@/server/encoder/findEncoder';

/*
 * What is said to the encoder. Each distinct picture is read once a run: a list says how long each is held, in microseconds,
 * and a filter lays it on every frame until the next. Frame f starts at
 *
 *   t(f) = f · den / num seconds,
 *
 * written as the nearest whole microsecond, so it is off by at most half of one. The list's reader counts time in frames of the
 * film, which it is told for every file (it would count in 25ths of a second): the nearest of those is always f. How long the last picture is held no list can say; the filter
 * repeats it, and the count of frames ends the film.
 */

const microsecondsOf = (frame: number, { num, den }: Rate): number =>
  Number((BigInt(frame) * BigInt(den) * 2_000_000n + BigInt(num)) / (2n * BigInt(num)));

/** The file name of a picture in the job's folder. */
export const pictureName = (picture: number): string => `${picture}.png`;

const fileLines = (picture: number, { num, den }: Rate): readonly string[] => [
  `file ${pictureName(picture)}`,
  `option framerate ${num}/${den}`,
];

/** The list of pictures and how long each is held, as the encoder's reader of lists takes it. */
export function pictureList(runs: readonly OutsideRun[], rate: Rate): string {
  const lines = ['ffconcat version 1.0'];
  let frame = 0;
  for (const { picture, frames } of runs) {
    const microseconds = microsecondsOf(frame + frames, rate) - microsecondsOf(frame, rate);
    lines.push(...fileLines(picture, rate), `duration ${microseconds}us`);
    frame += frames;
  }
  const last = runs.at(-1);
  // A list's last length is not kept by its reader: the picture is named once more, and the count ends the film.
  if (last) lines.push(...fileLines(last.picture, rate));
  return `${lines.join('\n')}\n`;
}

/** ProRes has kinds instead of a scale; with transparency there is one. */
const PRORES_KINDS: Readonly<Record<Quality, number>> = { small: 0, fair: 1, good: 2, fine: 3, finest: 3 };
const PRORES_CLEAR_KIND = 4;

/** The pixels a film is made of, and how they are coded. */
function codingOf({ codec, depth, quality, transparency }: OutsideOrder): { readonly pixels: string; readonly coding: readonly string[] } {
  if (codec === 'ffv1') {
    const pixels = depth === 10 ? (transparency ? 'gbrap10le' : 'gbrp10le') : transparency ? 'bgra' : 'bgr0';
    // Level 3 with a checksum in every slice; each frame stands alone.
    return { pixels, coding: ['-level', '3', '-g', '1', '-slicecrc', '1'] };
  }
  if (codec === 'png') return { pixels: transparency ? 'rgba' : 'rgb24', coding: [] };
  const kind = ['-profile:v', String(transparency ? PRORES_CLEAR_KIND : PRORES_KINDS[quality])];
  return {
    pixels: transparency ? 'yuva444p10le' : 'yuv422p10le',
    coding: [...kind, ...(transparency ? ['-alpha_bits', '16'] : []), ...BT709_TAGS],
  };
}

/** Brightness and colours are made by ITU-R BT.709, in the range of video, and both the frames and the file say so. */
const BT709_TAGS = ['-color_primaries', 'bt709', '-color_trc', 'bt709', '-colorspace', 'bt709', '-color_range', 'tv'];
const TO_BT709 = 'scale=out_color_matrix=bt709:out_range=tv:flags=accurate_rnd+full_chroma_int';
const SAID_BT709 = 'setparams=color_primaries=bt709:color_trc=bt709:colorspace=bt709:range=tv';

function filterOf(order: OutsideOrder): string {
  const { codec, rate, frames } = order;
  const { pixels } = codingOf(order);
  // A limit outside the filter would end the sound with the picture, some samples early.
  const held = `fps=${rate.num}/${rate.den}:round=near,tpad=stop=${frames}:stop_mode=clone,trim=end_frame=${frames}`;
  return codec === 'prores' ? `${held},${TO_BT709},format=${pixels},${SAID_BT709}` : `${held},format=${pixels}`;
}

const SOUND_CODING = { pcm: ['-c:a', 'pcm_s24le'], flac: ['-c:a', 'flac', '-sample_fmt', 's32', '-bits_per_raw_sample', '24'] } as const;

/** The arguments the encoder is started with, in the job's folder. */
export function encoderArguments(order: OutsideOrder, list: string, sound: string, film: string): readonly string[] {
  const { container, codec, title, language, timecode } = order;
  const heard = order.sound
    ? [
        '-f',
        'f32le',
        '-ar',
        String(order.sound.sampleRate),
        '-ac',
        String(order.sound.channels),
        '-i',
        sound,
        ...['-map', '0:v:0', '-map', '1:a:0'],
      ]
    : ['-map', '0:v:0'];
  return [
    ...['-hide_banner', '-nostdin', '-xerror', '-y', '-v', 'error', '-progress', 'pipe:1', '-nostats'],
    // Only lists that are trusted may say how their files are read; this one is ours.
    ...['-f', 'concat', '-safe', '0', '-i', list],
    ...heard,
    ...['-vf', filterOf(order), '-c:v', CODER_NAMES[codec], ...codingOf(order).coding],
    ...(order.sound ? SOUND_CODING[order.sound.codec] : []),
    ...(title === '' ? [] : ['-metadata', `title=${title}`]),
    ...(order.sound
      ? ['-metadata:s:a:0', `language=${language}`, '-metadata:s:a:0', 'handler_name=Mix', '-metadata:s:a:0', 'title=Mix']
      : []),
    ...['-metadata:s:v:0', `language=${language}`, '-metadata:s:v:0', 'handler_name=Picture', '-metadata:s:v:0', 'title=Picture'],
    ...(timecode === '' ? [] : container === 'mov' ? ['-timecode', timecode] : ['-metadata', `TIMECODE=${timecode}`]),
    ...['-f', container === 'mov' ? 'mov' : 'matroska', film],
  ];
}
