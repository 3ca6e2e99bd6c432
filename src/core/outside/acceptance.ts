import type { Flashes } from '@/core/analysis/flashRule';
import type { Destination } from '@/core/check/destinations';
import { sizeText } from '@/core/document/size';
import type { CountedOutside } from '@/core/outside/countOutside';
import { secondsOfMicroseconds } from '@/core/outside/countWords';
import { endingOf } from '@/core/outside/pictureKind';
import { plural } from '@/core/time/counts';
import { rateName, sameRate } from '@/core/time/rate';

/** A point on which a destination refuses a file: what is wrong, and what would mend it. */
export type Refusal = { readonly what: string; readonly sentence: string; readonly fix: string };

const megabytes = (bytes: number) => `${(bytes / 1024 ** 2).toFixed(1)} MiB`;

/** Sound and picture may part by so much: a frame at 24 a second. */
const SOUND_APART_MICROSECONDS = 41_667;
/** A name that every system and every list takes. */
const PLAIN_NAME = /^[A-Za-z0-9._-]+$/;

/** On which points a destination refuses a file that was counted; none where it takes it. `flashes` are those of its worst seconds. */
export function refusalsOf(destination: Destination, { count, seen }: CountedOutside, flashes: readonly Flashes[]): readonly Refusal[] {
  const out: Refusal[] = [];
  const refuse = (what: string, sentence: string, fix: string) => void out.push({ what, sentence, fix });
  const { name, sizes, rates, shortestSeconds, longestSeconds, mostBytes, colours, loops } = destination;
  const kind = count.kind === 'loop' ? 'a loop' : count.kind === 'pictures' ? 'pictures' : count.kind === 'sound' ? 'a sound' : 'a film';
  if (count.kind !== (loops ? 'loop' : 'film'))
    refuse(
      'kind',
      `${name} takes ${loops ? 'loops' : 'films'}; this is ${kind}.`,
      `Hand it over as ${loops ? 'a GIF, APNG or WebP' : 'a film'}.`,
    );
  const isSize =
    sizes.kind === 'listed'
      ? sizes.sizes.some(({ width, height }) => width === count.width && height === count.height)
      : Math.max(count.width, count.height) <= sizes.longest && !(sizes.even && (count.width % 2 !== 0 || count.height % 2 !== 0));
  if (!isSize && count.width > 0)
    refuse(
      'size',
      `${name} takes ${sizes.kind === 'listed' ? sizes.sizes.map(sizeText).join(' or ') : `sides up to ${sizes.longest} px${sizes.even ? ', even ones' : ''}`}; this is ${sizeText(count)}.`,
      sizes.kind === 'listed' ? `Hand it over in ${sizeText(sizes.sizes[0] ?? count)}.` : 'Hand it over smaller, with even sides.',
    );
  if (count.kind === 'film') {
    const own = count.rate ? [count.rate, ...count.otherRates] : [];
    if (!own.some((rate) => rates.some((taken) => sameRate(taken, rate))))
      refuse(
        'rate',
        `${name} takes ${rates.map(rateName).join(', ')} a second; this ${count.rate ? `runs at ${rateName(count.rate)}` : 'has no one rate'}.`,
        `Hand it over at ${rateName(rates[0] ?? { num: 24, den: 1 })}, converted on exposures.`,
      );
    if (count.mistimedFrames.length > 0)
      refuse(
        'times',
        `${plural(count.mistimedFrames.length, 'frame')} off their time.`,
        'Hand it over again: frames are written at their very times.',
      );
  }
  const { durationMicroseconds: length } = count;
  if (length !== null && length < shortestSeconds * 1_000_000)
    refuse(
      'length',
      `${name} takes ${shortestSeconds} s or more; this lasts ${secondsOfMicroseconds(length)}.`,
      'Make it longer, or play it more than once.',
    );
  if (length !== null && longestSeconds !== null && length > longestSeconds * 1_000_000)
    refuse(
      'length',
      `${name} takes ${longestSeconds} s at most; this lasts ${secondsOfMicroseconds(length)}.`,
      'Hand over a shorter range.',
    );
  if (mostBytes !== null && count.fileBytes > mostBytes)
    refuse(
      'bytes',
      `${name} takes ${megabytes(mostBytes)} at most; this has ${megabytes(count.fileBytes)}.`,
      'Hand it over with a lower quality, or smaller.',
    );
  if (count.sound && length !== null) {
    const sound = ((count.sound.startSample + count.sound.samples) * 1_000_000) / count.sound.sampleRate;
    if (Math.abs(sound - length) > SOUND_APART_MICROSECONDS)
      refuse(
        'sound',
        `Sound and picture are not of one length: ${secondsOfMicroseconds(sound)} and ${secondsOfMicroseconds(length)}.`,
        'Hand it over with the sound cut to the picture.',
      );
  }
  if (colours && seen?.colours && (seen.colours.lowest < colours.from || seen.colours.highest > colours.to))
    refuse(
      'colours',
      `${name} takes colours from ${colours.from} to ${colours.to}; this has ${seen.colours.lowest} to ${seen.colours.highest}.`,
      'Hold colours in range, in the finish.',
    );
  const worst = flashes[0];
  if (worst)
    refuse(
      'flashes',
      `${worst.kind === 'red' ? 'Red flashes' : 'It flashes'} ${worst.flashes} times within a second, frames ${worst.fromFrame + 1}–${worst.toFrame + 1}: more than three are not safe (WCAG 2.2, 2.3.1).`,
      'Take some of them out, or make them smaller or weaker.',
    );
  const file = count.name.slice(count.name.lastIndexOf('/') + 1);
  if (count.kind !== 'pictures' && !PLAIN_NAME.test(file))
    refuse(
      'name',
      `“${file}” has other signs than letters, digits, “.”, “_” and “-”.`,
      `Call it ${file.replace(/[^A-Za-z0-9._-]+/g, '_')}.`,
    );
  if (count.kind !== 'pictures' && endingOf(file) === '') refuse('name', 'Its name has no ending.', 'Give it the ending of its kind.');
  return out;
}
