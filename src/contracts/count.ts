import { z } from 'zod';
import { readerOf } from '@/contracts/versions';
import { COUNT_VERSION } from '@/core/outside/outsideCount';

/* What is counted in a file, and how it agrees with what it was held against, as it is written for scripts: one JSON object a line. */

const rate = z.object({ num: z.number().int().positive(), den: z.number().int().positive() });
const frame = z.number().int().min(0);
const microseconds = z.number();

const sound = z.object({
  codec: z.string(),
  sampleRate: z.number().positive(),
  channels: z.number().int().positive(),
  startSample: z.number().int(),
  samples: z.number().int().min(0),
  peak: z.number().nullable().describe('The loudest sample, 1 being full scale; null where it could not be decoded.'),
  undecoded: z.string().nullable(),
});

export const outsideCountSchema = z.object({
  kind: z.enum(['film', 'loop', 'pictures', 'sound']),
  name: z.string(),
  fileBytes: z.number().int().min(0),
  made: z.string().describe('What it is made of, in words.'),
  frames: z.number().int().min(0),
  rate: rate.nullable().describe('The nearest rate the times of its frames fit; null where there are none, or they fit none.'),
  otherRates: z.array(rate).readonly().describe('Rates its times fit as well, where it is too short to tell.'),
  mistimedFrames: z.array(frame).readonly().describe('Frames, from 0, that are off their time by that rate.'),
  backwardFrames: z.array(frame).readonly().describe('Frames, from 0, whose time is not after the one before.'),
  startMicroseconds: microseconds.nullable(),
  durationMicroseconds: microseconds.nullable(),
  width: z.number().int().min(0),
  height: z.number().int().min(0),
  otherSizes: z.array(z.object({ width: z.number().int(), height: z.number().int(), frames: z.number().int() }).readonly()).readonly(),
  colours: z.string().nullable(),
  keyFrames: z.number().int().nullable(),
  loop: z
    .object({ microseconds: z.array(microseconds).readonly(), plays: z.number().int().min(0) })
    .readonly()
    .nullable(),
  sequence: z
    .object({
      pattern: z.string(),
      firstNumber: z.number().int(),
      lastNumber: z.number().int(),
      missing: z.array(z.number().int()).readonly(),
      twice: z.array(z.number().int()).readonly(),
    })
    .readonly()
    .nullable(),
  sound: sound.readonly().nullable(),
  undecoded: z.string().nullable().describe('Why its pictures could not be looked at; null when they were.'),
  unreadable: z.array(z.object({ name: z.string(), reason: z.string() }).readonly()).readonly(),
  notes: z.array(z.string()).readonly(),
});

const line = z.object({ what: z.string(), asked: z.string(), counted: z.string(), agrees: z.boolean() });

/** One line of what the command writes as JSON. */
export const countLineSchema = z.discriminatedUnion('kind', [
  z.object({
    version: z.number().int().min(1),
    kind: z.literal('counted'),
    file: z.string(),
    count: outsideCountSchema,
    sentences: z.array(z.string()).readonly(),
    /** Null where it was held against nothing. */
    agreement: z
      .object({
        against: z.string(),
        agrees: z.boolean(),
        headline: z.string(),
        sentences: z.array(z.string()).readonly(),
        lines: z.array(line.readonly()).readonly(),
      })
      .readonly()
      .nullable(),
  }),
  z.object({ version: z.number().int().min(1), kind: z.literal('unreadable'), file: z.string(), reason: z.string() }),
]);
export type CountLine = z.infer<typeof countLineSchema>;

export const countLineReader = readerOf('A count', countLineSchema);

/** The JSON Schema of what the command writes. */
export const countJsonSchema = () => z.toJSONSchema(countLineSchema, { io: 'output', target: 'draft-2020-12' });

if (countLineReader.version !== COUNT_VERSION) throw new Error('A count is written in the form it is read in.');
