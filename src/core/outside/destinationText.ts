import type { Destination } from '@/core/check/destinations';
import { checkSize } from '@/core/document/size';
import { done, type Outcome, refused } from '@/core/outcome';
import { parseRate, rateName } from '@/core/time/rate';

/*
 * The rules of a destination as a person writes them: sizes as `1920 x 1080, 1280 x 720`, or `up to 3840, even`; rates as
 * `24, 25, 23.976`; lengths in seconds, bytes in MiB, colours as `16 to 235`. Nothing written is no limit.
 */

export type DestinationText = {
  readonly name: string;
  readonly loops: boolean;
  readonly sizes: string;
  readonly rates: string;
  readonly shortest: string;
  readonly longest: string;
  readonly mebibytes: string;
  readonly colours: string;
};

const MEBIBYTE = 1024 ** 2;

export function destinationText({
  name,
  loops,
  sizes,
  rates,
  shortestSeconds,
  longestSeconds,
  mostBytes,
  colours,
}: Destination): DestinationText {
  return {
    name,
    loops,
    sizes:
      sizes.kind === 'listed'
        ? sizes.sizes.map(({ width, height }) => `${width} x ${height}`).join(', ')
        : `up to ${sizes.longest}${sizes.even ? ', even' : ''}`,
    rates: rates.map(rateName).join(', '),
    shortest: shortestSeconds === 0 ? '' : String(shortestSeconds),
    longest: longestSeconds === null ? '' : String(longestSeconds),
    mebibytes: mostBytes === null ? '' : String(Number((mostBytes / MEBIBYTE).toFixed(3))),
    colours: colours ? `${colours.from} to ${colours.to}` : '',
  };
}

const parts = (text: string): readonly string[] =>
  text
    .split(',')
    .map((part) => part.trim())
    .filter((part) => part !== '');

function readSizes(text: string): Outcome<Destination['sizes']> {
  const within = /^up to\s+(\d+)\s*(?:px)?\s*(,\s*even)?$/i.exec(text.trim());
  if (within) {
    const size = checkSize(Number(within[1]), 1);
    return size.ok ? done({ kind: 'within', longest: size.value.width, even: within[2] !== undefined }) : size;
  }
  const sizes = [];
  for (const part of parts(text)) {
    const match = /^(\d+)\s*[x×]\s*(\d+)$/i.exec(part);
    const size = match
      ? checkSize(Number(match[1]), Number(match[2]))
      : refused(`“${part}” is not a size: write 1920 x 1080, or up to 3840.`);
    if (!size.ok) return size;
    sizes.push(size.value);
  }
  return sizes.length > 0 ? done({ kind: 'listed', sizes }) : refused('Write which sizes it takes: 1920 x 1080, or up to 3840.');
}

function readRates(text: string): Outcome<Destination['rates']> {
  const rates = [];
  for (const part of parts(text)) {
    const rate = parseRate(part);
    if (!rate.ok) return rate;
    rates.push(rate.value);
  }
  return rates.length > 0 ? done(rates) : refused('Write which rates it takes, as 24, 25.');
}

/** A number that may be left out. */
function readNumber(text: string, what: string): Outcome<number | null> {
  if (text.trim() === '') return done(null);
  const value = Number(text.trim());
  return Number.isFinite(value) && value > 0
    ? done(value)
    : refused(`“${text}” is not a ${what}: write a number above 0, or nothing for no limit.`);
}

function readColours(text: string): Outcome<Destination['colours']> {
  if (text.trim() === '') return done(null);
  const match = /^(\d{1,3})\s*(?:to|–|-)\s*(\d{1,3})$/.exec(text.trim());
  const [from, to] = [Number(match?.[1]), Number(match?.[2])];
  return match && from < to && to <= 255
    ? done({ from, to })
    : refused(`“${text}” is not a range of colours: write 16 to 235, or nothing.`);
}

/** The rules a person wrote, under an id; refused with what can't be read. */
export function readDestination(id: string, text: DestinationText): Outcome<Destination> {
  if (text.name.trim() === '') return refused('Give it a name.');
  const [sizes, rates] = [readSizes(text.sizes), readRates(text.rates)];
  if (!sizes.ok) return sizes;
  if (!rates.ok) return rates;
  const [shortest, longest, mebibytes] = [
    readNumber(text.shortest, 'length'),
    readNumber(text.longest, 'length'),
    readNumber(text.mebibytes, 'size of a file'),
  ];
  if (!shortest.ok) return shortest;
  if (!longest.ok) return longest;
  if (!mebibytes.ok) return mebibytes;
  const colours = readColours(text.colours);
  if (!colours.ok) return colours;
  const shortestSeconds = shortest.value ?? 0;
  if (longest.value !== null && longest.value <= shortestSeconds) return refused('The longest must be more than the shortest.');
  return done({
    id,
    name: text.name.trim(),
    loops: text.loops,
    sizes: sizes.value,
    rates: rates.value,
    takesTransparency: text.loops,
    colours: colours.value,
    shortestSeconds,
    longestSeconds: longest.value,
    mostBytes: mebibytes.value === null ? null : Math.round(mebibytes.value * MEBIBYTE),
  });
}
