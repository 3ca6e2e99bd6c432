import { z } from 'zod';
import { LONGEST_SIDE_PX } from '@/core/document/size';
import { OUTSIDE_CODECS, QUALITIES } from '@/core/output/film';
import type { OutsideEncoder, OutsideOrder, OutsideRun } from '@/core/output/outsideFilm';

const MOST_FRAMES = 1_000_000;
const side = z.number().int().min(1).max(LONGEST_SIDE_PX);

/** What is asked of an outside encoder, as it reaches the server. */
export const outsideOrderSchema: z.ZodType<OutsideOrder> = z.object({
  container: z.enum(['mov', 'mkv']),
  codec: z.enum(OUTSIDE_CODECS),
  depth: z.union([z.literal(8), z.literal(10)]),
  quality: z.enum(QUALITIES),
  transparency: z.boolean(),
  width: side,
  height: side,
  rate: z.object({ num: z.number().int().positive(), den: z.number().int().positive() }),
  frames: z.number().int().min(1).max(MOST_FRAMES),
  sound: z
    .object({
      codec: z.enum(['pcm', 'flac']),
      sampleRate: z.number().int().min(8000).max(192_000),
      channels: z.number().int().min(1).max(8),
      samples: z.number().int().min(1),
    })
    .nullable(),
  title: z.string().max(200),
  language: z.string().regex(/^[a-z]{3}$/),
  timecode: z.string().regex(/^(\d\d:\d\d:\d\d[:;]\d\d)?$/),
});

/** Which outside encoder the server has. */
export const outsideEncoderSchema: z.ZodType<OutsideEncoder> = z.discriminatedUnion('found', [
  z.object({ found: z.literal(true), version: z.string(), codecs: z.array(z.enum(OUTSIDE_CODECS)) }),
  z.object({ found: z.literal(false), reason: z.string() }),
]);

/** The runs of a film, in order. */
export const outsideRunsSchema: z.ZodType<{ readonly runs: readonly OutsideRun[] }> = z.object({
  runs: z
    .array(z.object({ picture: z.number().int().min(0), frames: z.number().int().min(1).max(MOST_FRAMES) }))
    .min(1)
    .max(MOST_FRAMES),
});
