import { z } from 'zod';
import { digestSchema, idSchema } from '@/contracts/document';
import { formatOptionsSchema, takingSchema } from '@/contracts/formatOptions';
import { readerOf } from '@/contracts/versions';
import { MOST_EFFECTS } from '@/core/document/finish';

const rate = z.object({ num: z.number().int().positive(), den: z.number().int().positive() });
const MOST_FRAMES = 1_000_000;
/** Frames that are named: a long film may have all of them wrong, and a check of each by itself would take seconds. */
const frames = z.custom<number[]>(
  (value) => Array.isArray(value) && value.length <= MOST_FRAMES && value.every((frame) => Number.isSafeInteger(frame) && frame >= 0),
  `Frames are whole numbers from 0 on, at most ${MOST_FRAMES} of them.`,
);

/** The format something was written in, by its id: one that this Lime Tick doesn't know is a later one's. */
const formatIdSchema = z.string().regex(/^[a-z0-9-]{1,40}$/, 'A format has 1 to 40 small letters, digits and -.');

type Fields = Readonly<Record<string, unknown>>;
const isFields = (value: unknown): value is Fields => typeof value === 'object' && value !== null;

/** What was counted by an earlier version: a missing file was told as a wrong frame, and one rate alone was kept. */
const countedSince = (counted: unknown): unknown =>
  isFields(counted) ? { hasTimes: 'rate' in counted && counted.rate !== null, otherRates: [], missingFrames: [], ...counted } : counted;

/** A receipt of form 3 said `kind`, `asked` and `counted`, and kept no digests of frames. */
const fromForm3 = ({ kind, asked, counted, ...old }: Fields): Fields => ({
  formatId: kind,
  request: asked,
  count: counted,
  frameDigests: null,
  ...old,
});

/** A receipt of form 4 said within which range colours were held, which was all the finish there was. */
function fromForm4({ holdColours, ...old }: Fields): Fields {
  if (!isFields(holdColours)) return old;
  return { finish: [`colours held within ${String(holdColours.from)}–${String(holdColours.to)}`], ...old };
}

/** A receipt as a page of an earlier version sends it, in today's form. */
function inTodaysForm(receipt: unknown): unknown {
  if (!isFields(receipt)) return receipt;
  return fromForm4('kind' in receipt ? fromForm3({ ...receipt, counted: countedSince(receipt.counted) }) : receipt);
}

/** SHA-256 of what a file holds for each frame; see `@/core/count/frameDigests`. A long film has as many as frames, so they are checked in one go. */
const frameDigestsSchema = z.object({
  version: z.number().int().min(1),
  of: z.enum(['file', 'packet']),
  digests: z.custom<string[]>(
    (value) => Array.isArray(value) && value.length <= MOST_FRAMES && value.every((digest) => /^[0-9a-f]{64}$/.test(String(digest))),
    'Digests of frames have 64 hexadecimal digits each.',
  ),
  runs: z.custom<[number, number][]>(
    (value) =>
      Array.isArray(value) &&
      value.length <= MOST_FRAMES &&
      value.every((run) => Array.isArray(run) && run.length === 2 && run.every((part) => Number.isSafeInteger(part) && part >= 0)),
    'Runs of digests are pairs of whole numbers.',
  ),
});

const soundRequest = z.object({
  codec: z.string().max(40),
  sampleRate: z.number().int().positive(),
  channels: z.number().int().positive(),
  samples: z.number().int().min(0),
});

/** The sound that was counted; see `@/core/count/soundCount`. */
const soundCount = z.object({
  codec: z.string().max(40),
  sampleRate: z.number().int().positive(),
  channels: z.number().int().positive(),
  startSample: z.number().int(),
  samples: z.number().int(),
  peak: z.number().nullable(),
  undecoded: z.string().max(500).nullable(),
  wrongFrames: frames.nullable(),
});

/** Times of a loop's pictures, in microseconds. */
const microseconds = z.custom<number[]>(
  (value) => Array.isArray(value) && value.length <= MOST_FRAMES && value.every((time) => Number.isSafeInteger(time) && time >= 0),
  'Times are whole numbers of microseconds.',
);

const receiptValues = z.object({
  id: idSchema,
  fileName: z.string().min(1).max(300),
  formatId: formatIdSchema,
  fileBytes: z.number().int().min(0),
  fileDigest: digestSchema.nullable(),
  /** Null for the whole reel, else the shot's id. */
  shotId: idSchema.nullable(),
  /** The one level that left; null for all that was seen, and in receipts of forms before 6. */
  levelId: idSchema.nullable().default(null),
  whole: z.boolean(),
  withBackground: z.boolean(),
  planDigest: digestSchema,
  /** The effects of the finish that lie over what was written, in words and in their order. */
  finish: z.array(z.string().max(200)).max(MOST_EFFECTS).default([]),
  /** Distinct pictures composited. */
  pictures: z.number().int().min(0),
  /** The frames of the shot or reel that left, from 0, both inclusive; null in receipts of forms before 6. */
  range: z
    .object({ fromFrame: z.number().int().min(0), toFrame: z.number().int().min(0) })
    .nullable()
    .default(null),
  /** How much of it was taken: all of it where this is null, as in receipts of forms before 6. */
  taking: takingSchema.nullable().default(null),
  /** What was asked of the format besides its frames; null in receipts of forms before 6. */
  options: formatOptionsSchema.nullable().default(null),
  request: z.object({
    frames: z.number().int(),
    rate,
    width: z.number().int(),
    height: z.number().int(),
    firstNumber: z.number().int(),
    /** Null where none was asked for, and in receipts of forms before 6, when films had none. */
    sound: soundRequest.nullable().default(null),
    /** A loop: what its pictures' times are to be in the file, how long it truly lasts, and how often it is played; null for all else. */
    loop: z
      .object({ microseconds, trueMicroseconds: z.number().int(), toleranceMicroseconds: z.number().int(), plays: z.number().int().min(0) })
      .nullable()
      .default(null),
  }),
  count: z.object({
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
    clipRepeatFrames: frames.default([]),
    missingFrames: frames,
    mistimedFrames: frames,
    untellableChanges: z.number().int(),
    /** What the file says of its colours; null where it says nothing, and in receipts of forms before 6. */
    colours: z.string().max(200).nullable().default(null),
    keyFrames: frames.nullable().default(null),
    sound: soundCount.nullable().default(null),
    loop: z
      .object({ microseconds, plays: z.number().int().min(0), colours: z.number().int().nullable() })
      .nullable()
      .default(null),
    comparison: z.discriminatedUnion('kind', [
      z.object({ kind: z.literal('exact') }),
      z.object({
        kind: z.literal('within'),
        toleranceLevels: z.number(),
        largestLevels: z.number(),
        whileWriting: z.boolean().default(false),
      }),
      z.object({ kind: z.literal('none'), reason: z.string().max(500) }),
    ]),
  }),
  /** Null in receipts of earlier forms, and where receipts are listed: they are long. */
  frameDigests: frameDigestsSchema.nullable().default(null),
});

/** A receipt as the maker of a handover sends it: what was asked, what was counted, and which plan it was. */
export const newReceiptSchema = z.preprocess(inTodaysForm, receiptValues);
export type NewReceipt = z.infer<typeof newReceiptSchema>;

/** A kept receipt. */
export const receiptSchema = receiptValues.extend({ madeAt: z.iso.datetime() });
export type Receipt = z.infer<typeof receiptSchema>;

export const receiptReader = readerOf('A receipt', receiptSchema, [
  (old) => ({ ...old }),
  (old) => ({ ...old, counted: countedSince(old.counted) }),
  (old) => ({ ...fromForm3(old) }),
  (old) => ({ ...fromForm4(old) }),
  // Films had no sound then: what is not there is none.
  (old) => ({ ...old }),
]);

/** A receipt that waits in the browser until the server has it. */
const waitingReceiptSchema = z.object({ version: z.number(), projectId: z.string(), madeAt: z.string(), receipt: newReceiptSchema });
export const waitingReceiptReader = readerOf('A receipt that waits', waitingReceiptSchema, [
  (old) => ({ ...old, receipt: inTodaysForm(old.receipt) }),
  (old) => ({ ...old, receipt: inTodaysForm(old.receipt) }),
  (old) => ({ ...old }),
]);

/** The JSON Schema of a receipt as it is saved: versioned, so that anybody can check a file against it later. */
export const receiptJsonSchema = (): object => ({
  title: 'A receipt of Lime Tick',
  ...z.toJSONSchema(receiptSchema.extend({ file: z.literal('lime-tick-receipt'), version: z.literal(receiptReader.version) }), {
    io: 'output',
    unrepresentable: 'any',
  }),
});
