import { done, type Outcome, refused } from '@/core/outcome';

/*
 * Words with the time they are seen: SubRip (common practice: numbered, `00:00:01,250 --> 00:00:02,000`) and WebVTT (W3C: a head,
 * `00:00:01.250 --> 00:00:02.000`). Times are in ms and of whole frames: a word ends where the next begins at the latest.
 */

/** Words from one time (inclusive) to another (exclusive), in ms. */
export type Caption = { readonly startMilliseconds: number; readonly endMilliseconds: number; readonly words: string };

function clock(milliseconds: number, separator: ',' | '.'): string {
  const two = (value: number) => String(value).padStart(2, '0');
  const [seconds, rest] = [Math.floor(milliseconds / 1000), milliseconds % 1000];
  return `${two(Math.floor(seconds / 3600))}:${two(Math.floor(seconds / 60) % 60)}:${two(seconds % 60)}${separator}${String(rest).padStart(3, '0')}`;
}

const spanOf = ({ startMilliseconds, endMilliseconds }: Caption, separator: ',' | '.'): string =>
  `${clock(startMilliseconds, separator)} --> ${clock(endMilliseconds, separator)}`;

/** Words as one block: an empty line would end it, and an arrow would be taken for a time. */
const block = (words: string): string =>
  words
    .replace(/\r\n?/g, '\n')
    .replace(/\n{2,}/g, '\n')
    .replaceAll('-->', '→')
    .trim();

export const writeSubRip = (captions: readonly Caption[]): string =>
  captions
    .map((caption, index) => `${index + 1}\r\n${spanOf(caption, ',')}\r\n${block(caption.words).replaceAll('\n', '\r\n')}\r\n`)
    .join('\r\n');

const escaped = (words: string): string => words.replaceAll('&', '&amp;').replaceAll('<', '&lt;').replaceAll('>', '&gt;');

export const writeWebVtt = (captions: readonly Caption[]): string =>
  ['WEBVTT\n', ...captions.map((caption) => `${spanOf(caption, '.')}\n${escaped(block(caption.words))}\n`)].join('\n');

const SPAN = /^(?:(\d{2,}):)?(\d{2}):(\d{2})[,.](\d{3})\s+-->\s+(?:(\d{2,}):)?(\d{2}):(\d{2})[,.](\d{3})/;

/** Reads SubRip or WebVTT; refused, with where, when a time is none. */
export function readCaptions(text: string): Outcome<readonly Caption[]> {
  const captions: Caption[] = [];
  const isVtt = /^\uFEFF?WEBVTT/.test(text);
  const blocks = text
    .replace(/^\uFEFF/, '')
    .replace(/\r\n?/g, '\n')
    .split(/\n{2,}/);
  for (const [index, part] of blocks.entries()) {
    const lines = part.split('\n').filter((line) => line !== '');
    const at = lines.findIndex((line) => line.includes('-->'));
    if (at < 0) continue;
    const span = SPAN.exec(lines[at] as string);
    if (!span) return refused(`Block ${index + 1} has no time that can be read: “${(lines[at] as string).slice(0, 60)}”.`);
    const parts = span.slice(1).map((value) => Number(value ?? 0)) as [number, number, number, number, number, number, number, number];
    const time = (from: 0 | 4) =>
      ((parts[from] * 60 + (parts[from + 1] as number)) * 60 + (parts[from + 2] as number)) * 1000 + (parts[from + 3] as number);
    const words = lines.slice(at + 1).join('\n');
    const plain = isVtt ? words.replaceAll('&lt;', '<').replaceAll('&gt;', '>').replaceAll('&amp;', '&') : words;
    captions.push({ startMilliseconds: time(0), endMilliseconds: time(4), words: plain });
  }
  return captions.length === 0 ? refused('There are no words with times in it.') : done(captions);
}
