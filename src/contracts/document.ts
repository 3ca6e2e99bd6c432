import { z } from 'zod';
import { BLEND_MODES } from '@/core/document/blendModes';
import { LONGEST_NOTE, MOST_NEAR_PER_MILLE, MOST_STILL_FRAMES } from '@/core/document/checks';
import { type Clip, MOST_CLIP_SPANS } from '@/core/document/clip';
import { type FinishEffect, LAY_MODES, MOST_DEVIATION_PX } from '@/core/document/finish';
import {
  type Drawing,
  type Exposure,
  type Level,
  LONGEST_SHOT_NOTE,
  NOTE_KINDS,
  type ReelItem,
  type SheetNote,
  type Shot,
  type Trim,
} from '@/core/document/model';
import { checkSize } from '@/core/document/size';
import {
  LAST_SOUND_FRAME,
  LEAST_GAIN_DECIBELS,
  LONGEST_FADE_FRAMES,
  MOST_GAIN_DECIBELS,
  type Recording,
  type Sound,
  type SoundChange,
} from '@/core/document/sound';
import { CHART_SHAPES, MOST_INBETWEENS, type TimingChart } from '@/core/document/timingChart';
import { checkLength } from '@/core/time/counts';
import { makeRate } from '@/core/time/rate';

const NAME = /^[A-Za-z0-9_-]{1,40}$/;

/** An id made by a client or the server. */
export const idSchema = z.string().regex(NAME, 'An id has 1 to 40 letters, digits, - and _.');

/** SHA-256 in hexadecimal. */
export const digestSchema = z.string().regex(/^[0-9a-f]{64}$/, 'A digest has 64 hexadecimal digits.');

/** An exact rate; refused with the reason of `makeRate`. */
export const rateSchema = z.object({ num: z.number(), den: z.number() }).transform((value, context) => {
  const rate = makeRate(value.num, value.den);
  if (rate.ok) return rate.value;
  context.addIssue({ code: 'custom', message: rate.reason });
  return z.NEVER;
});

/** A picture size; refused with the reason of `checkSize`. */
export const sizeSchema = z.object({ width: z.number(), height: z.number() }).transform((value, context) => {
  const size = checkSize(value.width, value.height);
  if (size.ok) return size.value;
  context.addIssue({ code: 'custom', message: size.reason });
  return z.NEVER;
});

/** A length in frames; refused with the reason of `checkLength`. */
export const lengthSchema = z.number().superRefine((frames, context) => {
  const length = checkLength(frames);
  if (!length.ok) context.addIssue({ code: 'custom', message: length.reason });
});

const frameSchema = z.number().int().min(0).max(2_000_000);
const textSchema = (most: number) => z.string().max(most);

export const drawingSchema: z.ZodType<Drawing> = z.object({
  id: idSchema,
  number: textSchema(12),
  role: z.enum(['key', 'breakdown', 'inbetween']),
  picture: digestSchema.nullable(),
});

export const exposureSchema: z.ZodType<Exposure> = z.object({ drawing: idSchema.nullable(), frames: lengthSchema });

export const levelKindSchema = z.enum(['animated', 'still', 'guide']);

const placeSchema = z.object({ num: z.number().int().min(0), den: z.number().int().min(1) });
const pointSchema = z.object({ x: z.number().int().min(-100_000).max(100_000), y: z.number().int().min(-100_000).max(100_000) });

export const chartSchema: z.ZodType<TimingChart> = z.object({
  id: idSchema,
  fromDrawing: idSchema,
  toDrawing: idSchema,
  shape: z.enum(CHART_SHAPES),
  ticks: z.array(z.object({ place: placeSchema, drawing: idSchema.nullable() })).max(MOST_INBETWEENS),
  path: z.array(pointSchema).max(500),
});

export const levelSchema: z.ZodType<Level> = z.object({
  id: idSchema,
  name: textSchema(60),
  kind: levelKindSchema,
  visible: z.boolean(),
  locked: z.boolean().default(false),
  opacityPercent: z.number().int().min(0).max(100),
  blend: z.enum(BLEND_MODES).default('normal'),
  drawings: z.array(drawingSchema).max(100_000),
  exposures: z.array(exposureSchema).max(1_000_000),
  charts: z.array(chartSchema).max(10_000),
  media: z
    .object({
      fileName: z.string().max(255),
      frames: z.number().int().positive(),
      lengthMicroseconds: z.number().int().positive(),
      way: z.enum(['readAs', 'converted']),
    })
    .nullable()
    .default(null),
});

/** What of the checks can be changed by one step; each part only when it is there. */
export const checksChangeSchema = z.object({
  destination: z.string().max(40).nullable().optional(),
  stillFrames: z.number().int().min(0).max(MOST_STILL_FRAMES).optional(),
  nearPerMille: z.number().int().min(0).max(MOST_NEAR_PER_MILLE).optional(),
});

export const keptNoteSchema = z.string().max(LONGEST_NOTE);

export const noteSchema: z.ZodType<SheetNote> = z.object({ frame: frameSchema, kind: z.enum(NOTE_KINDS), words: textSchema(400) });

/** What a recording was counted to hold; whether that can be is for the core to say. */
export const recordingSchema: z.ZodType<Recording> = z.object({
  original: digestSchema,
  fileName: z.string().min(1).max(255),
  sampleRate: z.number().int().positive(),
  samples: z.number().int().positive(),
  channels: z.number().int().positive(),
});

const soundValues = {
  name: textSchema(60),
  startFrame: z.number().int().min(0).max(LAST_SOUND_FRAME),
  fromSample: z.number().int().min(0),
  samples: z.number().int().positive(),
  gainDecibels: z.number().int().min(LEAST_GAIN_DECIBELS).max(MOST_GAIN_DECIBELS),
  fadeInFrames: z.number().int().min(0).max(LONGEST_FADE_FRAMES),
  fadeOutFrames: z.number().int().min(0).max(LONGEST_FADE_FRAMES),
  muted: z.boolean(),
};

export const soundSchema: z.ZodType<Sound> = z.object({ id: idSchema, recording: recordingSchema, ...soundValues });

/** What of a sound can be changed by one step; each part only when it is there. */
export const soundChangeSchema: z.ZodType<SoundChange> = z.object(soundValues).partial();

export const shotSchema: z.ZodType<Shot> = z.object({
  id: idSchema,
  code: textSchema(30),
  name: textSchema(120),
  note: textSchema(LONGEST_SHOT_NOTE),
  frames: lengthSchema,
  levels: z.array(levelSchema).max(200),
  notes: z.array(noteSchema).max(100_000),
  sounds: z.array(soundSchema).max(500).default([]),
});

export const trimSchema: z.ZodType<Trim> = z.object({ fromFrame: frameSchema, frames: lengthSchema });

const microseconds = z.number().int().min(0).max(Number.MAX_SAFE_INTEGER);

/** What a clip was counted to hold; whether that can be is for the core to say. */
export const clipSchema: z.ZodType<Clip> = z.object({
  original: digestSchema,
  fileName: z.string().min(1).max(255),
  size: sizeSchema,
  frames: z.number().int().positive(),
  startMicroseconds: z.number().int(),
  timing: z.discriminatedUnion('kind', [
    z.object({ kind: z.literal('constant'), rate: rateSchema }),
    z.object({
      kind: z.literal('variable'),
      spans: z.array(z.object({ frames: z.number().int().positive(), microseconds })).max(MOST_CLIP_SPANS),
    }),
  ]),
});
export const clipReadingSchema = z.enum(['readAs', 'converted']);

const onReel = { id: idSchema, finished: z.boolean() };
export const reelItemSchema: z.ZodType<ReelItem> = z.discriminatedUnion('kind', [
  z.object({ ...onReel, kind: z.literal('shot'), shotId: idSchema, trim: trimSchema.nullable() }),
  z.object({ ...onReel, kind: z.literal('clip'), clip: clipSchema, way: clipReadingSchema, trim: trimSchema.nullable() }),
  z.object({ ...onReel, kind: z.literal('gap'), frames: lengthSchema }),
]);

const byteSchema = z.number().int().min(0).max(255);
const onEffect = { id: idSchema, inPreview: z.boolean(), inHandover: z.boolean() };
const deviationSchema = z.number().min(0).max(MOST_DEVIATION_PX);
export const effectSchema: z.ZodType<FinishEffect> = z.discriminatedUnion('kind', [
  z.object({ ...onEffect, kind: z.literal('blur'), deviationPx: deviationSchema }),
  z.object({
    ...onEffect,
    kind: z.literal('layOver'),
    deviationPx: deviationSchema,
    mode: z.enum(LAY_MODES),
    opacityPercent: z.number().int().min(0).max(100),
  }),
  z.object({ ...onEffect, kind: z.literal('holdColours'), range: z.object({ from: byteSchema, to: byteSchema }) }),
]);
export const titleSchema = z.string().trim().min(1, 'A project needs a title.').max(120, 'A title has at most 120 characters.');
export { frameSchema };
