import type { ColourRange } from '@/core/document/checks';
import type { Size } from '@/core/document/model';
import type { Rate } from '@/core/time/rate';

/**
 * A place a film can go to, with what it takes: simulated stand-ins of our own, each like many of its kind. Sizes
 * are listed, or bounded; lengths are in seconds, files in bytes; null is no limit.
 */
export type Destination = {
  readonly id: string;
  readonly name: string;
  readonly sizes:
    | { readonly kind: 'listed'; readonly sizes: readonly Size[] }
    | { readonly kind: 'within'; readonly longest: number; readonly even: boolean };
  readonly rates: readonly Rate[];
  readonly takesTransparency: boolean;
  readonly colours: ColourRange | null;
  readonly shortestSeconds: number;
  readonly longestSeconds: number | null;
  readonly mostBytes: number | null;
  readonly loops: boolean;
};

const rate = (num: number, den = 1): Rate => ({ num, den });

/*
 * Colour limits: a picture whose red, green and blue are read as video levels keeps 16 to 235 between black and
 * white (ITU-R BT.709, 8 bit); EBU R 103 prefers 5 to 246 (from memory).
 */
export const DESTINATIONS: readonly Destination[] = [
  {
    id: 'web-film',
    name: 'Web film',
    sizes: { kind: 'within', longest: 3840, even: true },
    rates: [rate(12), rate(24000, 1001), rate(24), rate(25), rate(30000, 1001), rate(30), rate(50), rate(60000, 1001), rate(60)],
    takesTransparency: false,
    colours: null,
    shortestSeconds: 1,
    longestSeconds: 3600,
    mostBytes: 1024 ** 3,
    loops: false,
  },
  {
    id: 'broadcast-25',
    name: 'Broadcast, 25',
    sizes: {
      kind: 'listed',
      sizes: [
        { width: 1920, height: 1080 },
        { width: 1280, height: 720 },
      ],
    },
    rates: [rate(25)],
    takesTransparency: false,
    colours: { from: 5, to: 246 },
    shortestSeconds: 5,
    longestSeconds: null,
    mostBytes: null,
    loops: false,
  },
  {
    id: 'cinema-24',
    name: 'Cinema, 24',
    sizes: {
      kind: 'listed',
      sizes: [
        { width: 1920, height: 1080 },
        { width: 1998, height: 1080 },
        { width: 2048, height: 858 },
        { width: 3996, height: 2160 },
      ],
    },
    rates: [rate(24)],
    takesTransparency: false,
    colours: null,
    shortestSeconds: 1,
    longestSeconds: null,
    mostBytes: null,
    loops: false,
  },
  {
    id: 'web-loop',
    name: 'Web loop',
    sizes: { kind: 'within', longest: 1280, even: false },
    rates: [rate(10), rate(12), rate(15), rate(20), rate(24), rate(25), rate(30)],
    takesTransparency: true,
    colours: null,
    shortestSeconds: 0,
    longestSeconds: 15,
    mostBytes: 8 * 1024 ** 2,
    loops: true,
  },
];

/** The destination of that id; null when there is none. */
export const destinationOf = (id: string | null, own: readonly Destination[] = []): Destination | null =>
  [...DESTINATIONS, ...own].find((destination) => destination.id === id) ?? null;
