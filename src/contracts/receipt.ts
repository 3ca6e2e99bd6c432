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

/** A receipt as a page of an earlier version sends it, in today's form. */
const inTodaysForm = (receipt: unknown): unknown =>
  isFields(receipt) && 'kind' in receipt ? fromForm3({ ...receipt, counted: countedSince(receipt.counted) }) : receipt;

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

const receiptValues = z.object({
  id: idSchema,
  fileName: z.string().min(1).max(300),
  formatId: formatIdSchema,
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
  request: z.object({ frames: z.number().int(), rate, width: z.number().int(), height: z.number().int(), firstNumber: z.number().int() }),
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
    missingFrames: frames,
    mistimedFrames: frames,
    untellableChanges: z.number().int(),
    comparison: z.discriminatedUnion('kind', [
      z.object({ kind: z.literal('exact') }),
      z.object({ kind: z.literal('within'), toleranceLevels: z.number(), largestLevels: z.number() }),
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
]);

/** A receipt that waits in the browser until the server has it. */
const waitingReceiptSchema = z.object({ version: z.number(), projectId: z.string(), madeAt: z.string(), receipt: newReceiptSchema });
export const waitingReceiptReader = readerOf('A receipt that waits', waitingReceiptSchema, [
  (old) => ({ ...old, receipt: inTodaysForm(old.receipt) }),
]);
