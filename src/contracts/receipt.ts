import { z } from 'zod';
import { digestSchema, idSchema } from '@/contracts/document';
import { readerOf } from '@/contracts/versions';

const rate = z.object({ num: z.number().int().positive(), den: z.number().int().positive() });
const MOST_FRAMES = 1_000_000;
/** Frames that are named: a long film may have all of them wrong, and a check of each by itself would take seconds. */
const frames = z.custom<number[]>(
  (value) => Array.isArray(value) && value.length <= MOST_FRAMES && value.every((frame) => Number.isSafeInteger(frame) && frame >= 0),
  `Frames are whole numbers from 0 on, at most ${MOST_FRAMES} of them.`,
);

/** What a handover wrote: a film, or numbered pictures in one ZIP or in a folder. */
export const handoverKindSchema = z.enum(['mp4', 'webm', 'png-zip', 'png-folder']);
export type HandoverKind = z.infer<typeof handoverKindSchema>;

/** What was counted by an earlier version: a missing file was told as a wrong frame, and one rate alone was kept. */
const countedSince = (counted: unknown): unknown =>
  typeof counted === 'object' && counted !== null
    ? { hasTimes: 'rate' in counted && counted.rate !== null, otherRates: [], missingFrames: [], ...counted }
    : counted;

/** A receipt as the maker of a handover sends it: asked, counted, and which plan it was. */
export const newReceiptSchema = z.object({
  id: idSchema,
  fileName: z.string().min(1).max(300),
  kind: handoverKindSchema,
  fileBytes: z.number().int().min(0),
  fileDigest: digestSchema.nullable(),
  /** Null for the whole reel, else the shot's id. */
  shotId: idSchema.nullable(),
  whole: z.boolean(),
  withBackground: z.boolean(),
  planDigest: digestSchema,
  /** Colours were held within this range in what was written; null when they left as they are. */
  holdColours: z.object({ from: z.number().int(), to: z.number().int() }).nullable().default(null),
  /** Distinct pictures composited. */
  pictures: z.number().int().min(0),
  asked: z.object({ frames: z.number().int(), rate, width: z.number().int(), height: z.number().int(), firstNumber: z.number().int() }),
  counted: z.preprocess(
    countedSince,
    z.object({
      frames: z.number().int(),
      hasTimes: z.boolean(),
      rate: rate.nullable(),
      otherRates: z.array(rate).max(300),
      durationMicroseconds: z.number().nullable(),
      timeToleranceMicroseconds: z.number(),
      width: z.number().int(),
      height: z.number().int(),
      repeatFrames: frames,
      wrongFrames: frames,
      missingFrames: frames,
      mistimedFrames: frames,
      untellableChanges: z.number().int(),
      comparison: z.discriminatedUnion('kind', [
        z.object({ kind: z.literal('exact') }),
        z.object({ kind: z.literal('within'), toleranceLevels: z.number(), largestLevels: z.number() }),
        z.object({ kind: z.literal('none'), reason: z.string().max(500) }),
      ]),
    }),
  ),
});
export type NewReceipt = z.infer<typeof newReceiptSchema>;

/** A kept receipt. */
export const receiptSchema = newReceiptSchema.extend({ madeAt: z.iso.datetime() });
export type Receipt = z.infer<typeof receiptSchema>;

export const receiptReader = readerOf('A receipt', receiptSchema, [
  (old) => ({ ...old }),
  (old) => ({ ...old, counted: countedSince(old.counted) }),
]);
