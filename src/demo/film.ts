import type { Clip, ClipReading } from '@/core/document/clip';
import type { Finish } from '@/core/document/finish';
import type { LevelKind, SheetNote, Trim } from '@/core/document/model';
import type { ChartPlan } from '@/demo/chartPlan';
import { DUSK_FRAMES, DUSK_RATE } from '@/demo/dusk';
import { DUSK_CLIP } from '@/demo/duskClip';
import { kettle, snail, snailStudy } from '@/demo/figures';
import type { Pen } from '@/demo/pen';
import { lane, passingGround, wavingLine, windStudy, yard } from '@/demo/scenery';
import {
  PEG_CHARTS,
  PEG_EXPOSURES,
  PEG_KEYS,
  PEG_UNDRAWN,
  pegDrawing,
  SOCK_BREAKDOWNS,
  SOCK_CHARTS,
  SOCK_EXPOSURES,
  SOCK_KEYS,
  SOCK_UNDRAWN,
  sockDrawing,
} from '@/demo/sockShot';
import { bell, hum, plop, type SoundPlan, wind } from '@/demo/sounds';

/** A level as it is thought up: exposures in the sheet's notation, and who draws each number. */
export type LevelPlan = {
  readonly name: string;
  readonly kind: LevelKind;
  readonly exposures: string;
  readonly numbers: readonly string[];
  readonly keys?: readonly string[];
  readonly breakdowns?: readonly string[];
  readonly undrawn?: readonly string[];
  readonly opacityPercent?: number;
  readonly charts?: readonly ChartPlan[];
  readonly draw: (number: string) => Pen;
};

export type ShotPlan = {
  readonly code: string;
  readonly name: string;
  readonly note: string;
  readonly frames: number;
  readonly levels: readonly LevelPlan[];
  readonly notes: readonly SheetNote[];
  readonly sounds: readonly SoundPlan[];
};
/** A clip as a file, with what is in it. */
export type ClipPlan = Omit<Clip, 'original' | 'startMicroseconds'> & { readonly file: Uint8Array };

/** An item of the reel: the shot of a code, whole or trimmed, a clip, or a gap. */
export type ItemPlan =
  | { readonly code: string; readonly trim?: Trim }
  | { readonly clip: ClipPlan; readonly way: ClipReading }
  | { readonly gapFrames: number };

export type FilmPlan = {
  readonly title: string;
  readonly framesPerSecond: number;
  readonly shots: readonly ShotPlan[];
  /** The reel; all shots whole, in their order, where there is none. */
  readonly finish?: Finish;
  readonly reel?: { readonly items: readonly ItemPlan[]; readonly sounds: readonly SoundPlan[] };
};

const numbered = (count: number) => Array.from({ length: count }, (_, index) => String(index + 1));
const around = (count: number, frames: number, times: number) =>
  Array.from({ length: times }, () =>
    numbered(count)
      .map((number) => `${number}*${frames}`)
      .join(' '),
  ).join(' ');
const still = (name: string, draw: () => Pen): LevelPlan => ({ name, kind: 'still', exposures: '', numbers: ['1'], draw });
const line = (times: number): LevelPlan => ({
  name: 'Line',
  kind: 'animated',
  numbers: numbered(6),
  keys: ['1', '4'],
  exposures: around(6, 2, times),
  draw: (number) => wavingLine(Number(number) - 1),
});

/** The evening, brought in as a clip of 25 frames a second: two seconds, which are 48 frames of the film. */
const DUSK: ClipPlan = {
  fileName: 'evening.webm',
  size: { width: 960, height: 540 },
  frames: DUSK_FRAMES,
  timing: { kind: 'constant', rate: DUSK_RATE },
  file: Uint8Array.from(Buffer.from(DUSK_CLIP, 'base64')),
};

/** Washday: a sock drops from the line, a bell rings over an empty moment, a snail takes it home, and the moon comes up. Faults are left in shot 020 for Check to find. */
export const WASHDAY: FilmPlan = {
  title: 'Washday',
  finish: [{ id: 'lamplight', kind: 'layOver', deviationPx: 12, mode: 'screen', opacityPercent: 18, inPreview: true, inHandover: true }],
  framesPerSecond: 24,
  shots: [
    {
      code: '010',
      name: 'Line in the wind',
      note: 'Nothing but wind. Let it breathe.',
      frames: 72,
      notes: [
        { frame: 0, kind: 'accent', words: 'wind' },
        { frame: 36, kind: 'accent', words: 'gust' },
      ],
      sounds: [{ name: 'Wind', fileName: 'wind.wav', startFrame: 0, seconds: 7, make: wind(41, 7, [1.9, 4.3]) }],
      levels: [still('Yard', yard), line(6)],
    },
    {
      code: '020',
      name: 'The sock drops',
      note: 'Sways twice, lets go, lands soft.',
      frames: 96,
      notes: [
        { frame: 0, kind: 'note', words: 'sways' },
        { frame: 24, kind: 'note', words: 'lets go' },
        { frame: 35, kind: 'accent', words: 'plop' },
        { frame: 38, kind: 'note', words: 'settles' },
      ],
      sounds: [{ name: 'Plop', fileName: 'plop.wav', startFrame: 35, seconds: 0.5, make: plop }],
      levels: [
        still('Yard', yard),
        {
          name: 'Wind clip',
          kind: 'guide',
          numbers: numbered(4),
          exposures: '1*24 2*24 3*24 4*24',
          opacityPercent: 35,
          draw: (number) => windStudy(Number(number)),
        },
        line(8),
        {
          name: 'Pegs',
          kind: 'animated',
          numbers: numbered(12),
          keys: PEG_KEYS,
          undrawn: PEG_UNDRAWN,
          exposures: PEG_EXPOSURES,
          charts: PEG_CHARTS,
          draw: pegDrawing,
        },
        {
          name: 'Sock',
          kind: 'animated',
          numbers: numbered(27),
          keys: SOCK_KEYS,
          breakdowns: SOCK_BREAKDOWNS,
          undrawn: SOCK_UNDRAWN,
          exposures: SOCK_EXPOSURES,
          charts: SOCK_CHARTS,
          draw: sockDrawing,
        },
      ],
    },
    {
      code: '030',
      name: 'Snail takes it home',
      note: 'Crawl on threes; it stops and looks.',
      frames: 96,
      notes: [
        { frame: 0, kind: 'accent', words: 'hum' },
        { frame: 72, kind: 'note', words: 'looks up' },
      ],
      sounds: [{ name: 'Hum', fileName: 'hum.wav', startFrame: 0, seconds: 4, make: hum(4) }],
      levels: [
        still('Lane', lane),
        {
          name: 'Snail clip',
          kind: 'guide',
          numbers: numbered(8),
          exposures: around(8, 12, 1),
          opacityPercent: 35,
          draw: (number) => snailStudy(Number(number) / 8, 400 + Number(number)),
        },
        {
          name: 'Ground',
          kind: 'animated',
          numbers: numbered(4),
          keys: ['1'],
          exposures: `${around(4, 3, 6)} 1*24`,
          draw: (number) => passingGround(Number(number) - 1),
        },
        {
          name: 'Snail',
          kind: 'animated',
          numbers: numbered(7),
          keys: ['1', '3', '5'],
          exposures: `${around(4, 3, 6)} 5*4 6*6 7*14`,
          draw: (number) =>
            Number(number) <= 4
              ? snail((Number(number) - 1) / 4, 0, 420 + Number(number))
              : snail(0, [0.4, 0.85, 1][Number(number) - 5] ?? 1, 420 + Number(number)),
        },
      ],
    },
  ],
  reel: {
    items: [
      { code: '010', trim: { fromFrame: 0, frames: 60 } },
      { code: '020' },
      { gapFrames: 12 },
      { code: '030' },
      { clip: DUSK, way: 'converted' },
    ],
    sounds: [{ name: 'Bell', fileName: 'bell.wav', startFrame: 156, seconds: 2, make: bell }],
  },
};

const LIFTS: readonly (readonly [lift: number, puffs: number])[] = [
  [0, 0],
  [6, 1],
  [20, 1],
  [34, 2],
  [12, 2],
  [26, 3],
  [4, 3],
];

/** A small piece at 12 frames a second, to be brought onto 24. */
export const KETTLE: FilmPlan = {
  title: 'Kettle, at 12 a second',
  framesPerSecond: 12,
  shots: [
    {
      code: '010',
      name: 'It boils',
      note: 'On ones at 12: the same as twos at 24.',
      frames: 36,
      notes: [{ frame: 12, kind: 'note', words: 'lid lifts' }],
      sounds: [],
      levels: [
        still('Wall', lane),
        {
          name: 'Kettle',
          kind: 'animated',
          numbers: numbered(7),
          keys: ['1', '4', '7'],
          exposures: '1*12 2 3 4 5 6 5 6 4 5 6 5 6 7*12',
          draw: (number) => kettle(...(LIFTS[Number(number) - 1] ?? LIFTS[0] ?? [0, 0]), 500 + Number(number)),
        },
      ],
    },
  ],
};
