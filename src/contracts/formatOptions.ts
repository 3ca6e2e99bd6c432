import { z } from 'zod';
import { LEAST_KILOBITS, MOST_KEY_FRAME_GAP, MOST_KILOBITS, QUALITIES, SOUND_CODECS, VIDEO_CODECS } from '@/core/output/film';
import type { FormatOptions } from '@/core/output/format';
import { DITHERS, LEAST_COLOURS, MOST_COLOURS, MOST_HAND_TIMES, MOST_PLAYS, PALETTES } from '@/core/output/loop';
import { MOST_NUMBER, SEPARATORS } from '@/core/output/names';
import { LEAST_WIDTH_PX, MOST_WIDTH_PX, type Taking } from '@/core/output/taking';
import { MOST_MILLISECONDS } from '@/core/time/heldTimes';

const filmOptionsSchema = z.object({
  kind: z.literal('film'),
  video: z.enum(VIDEO_CODECS),
  // Recipes and receipts of before there were outside encoders don't say it.
  depth: z.union([z.literal(8), z.literal(10)]).default(8),
  quality: z.discriminatedUnion('by', [
    z.object({ by: z.literal('scale'), quality: z.enum(QUALITIES) }),
    z.object({ by: z.literal('rate'), kilobitsPerSecond: z.number().int().min(LEAST_KILOBITS).max(MOST_KILOBITS) }),
  ]),
  keyFrames: z.discriminatedUnion('at', [
    z.object({ at: z.literal('every'), frames: z.number().int().min(1).max(MOST_KEY_FRAME_GAP) }),
    z.object({ at: z.literal('changes') }),
    z.object({ at: z.literal('all') }),
  ]),
  transparency: z.boolean(),
  sound: z.enum(SOUND_CODECS).nullable(),
  title: z.string().max(200),
  language: z.string().regex(/^[a-z]{3}$/),
  timecode: z.string().regex(/^(\d\d:\d\d:\d\d[:;]\d\d)?$/),
});

const namePartSchema = z.discriminatedUnion('part', [
  z.object({ part: z.enum(['project', 'scope', 'shot', 'level', 'rate', 'date', 'drawing', 'frame', 'reelFrame']) }),
  z.object({ part: z.literal('words'), words: z.string().max(200) }),
  z.object({ part: z.literal('separator'), text: z.enum(SEPARATORS) }),
]);

const pictureOptionsSchema = z.object({
  kind: z.literal('pictures'),
  depth: z.union([z.literal(8), z.literal(16)]),
  alpha: z.enum(['straight', 'premultiplied']),
  quality: z.number().int().min(1).max(100).nullable(),
  each: z.enum(['frame', 'drawing']),
  within: z.enum(['zip', 'folder']),
  split: z.enum(['together', 'levels']),
  names: z.array(namePartSchema).min(1).max(40),
  numbering: z.object({
    start: z.number().int().min(0).max(MOST_NUMBER).nullable(),
    step: z.number().int().min(1).max(1000),
    digits: z.number().int().min(1).max(10),
  }),
});

const loopOptionsSchema = z.object({
  kind: z.literal('loop'),
  plays: z.number().int().min(0).max(MOST_PLAYS),
  colours: z.number().int().min(LEAST_COLOURS).max(MOST_COLOURS),
  palette: z.enum(PALETTES),
  dither: z.enum(DITHERS),
  quality: z.number().int().min(1).max(100).nullable(),
  transparency: z.boolean(),
  matte: z.string().regex(/^#[0-9a-f]{6}$/),
  mostBytes: z.number().int().positive().nullable(),
  times: z
    .array(z.object({ place: z.number().int().min(0), milliseconds: z.number().int().min(1).max(MOST_MILLISECONDS) }))
    .max(MOST_HAND_TIMES),
});

const rateSchema = z.object({ num: z.number().int().positive(), den: z.number().int().positive() });

/** How much of what leaves is taken. */
export const takingSchema: z.ZodType<Taking> = z.object({
  size: z.discriminatedUnion('kind', [
    z.object({ kind: z.literal('full') }),
    z.object({ kind: z.literal('half') }),
    z.object({ kind: z.literal('width'), widthPx: z.number().int().min(LEAST_WIDTH_PX).max(MOST_WIDTH_PX) }),
  ]),
  everySecond: z.boolean(),
  rate: z.object({ way: z.enum(['readAs', 'converted']), rate: rateSchema }).nullable(),
});

/** What is asked of a format besides its frames. */
export const formatOptionsSchema: z.ZodType<FormatOptions> = z.discriminatedUnion('kind', [
  filmOptionsSchema,
  pictureOptionsSchema,
  loopOptionsSchema,
]);
