import { z } from 'zod';
import { digestSchema, frameSchema, idSchema, lengthSchema, rateSchema, sizeSchema, titleSchema } from '@/contracts/document';
import { receiptSchema } from '@/contracts/receipt';
import { stepSchema } from '@/contracts/step';
import { BLEND_MODES } from '@/core/document/blendModes';
import type { Project } from '@/core/document/model';
import type { MadeBy } from '@/core/edit/madeBy';
import type { Step } from '@/core/edit/step';

/** The form sendings are written in. */
export const SENDING_VERSION = 5;

/** What it takes to start a project: it gets one shot of the given length with one level. */
export const newProjectSchema = z.object({
  title: titleSchema,
  rate: rateSchema,
  size: sizeSchema,
  firstFrameNumber: z
    .number()
    .int()
    .min(0, 'The first frame number is 0 or more.')
    .max(1_000_000, 'The first frame number is at most 1,000,000.'),
  frames: lengthSchema,
});
export type NewProject = z.infer<typeof newProjectSchema>;

/** Most a database counts to. */
const LARGEST_REVISION = 2 ** 31 - 1;
export const revisionSchema = z.number().int().min(0).max(LARGEST_REVISION, 'There is no such revision: it is past what is counted.');

/** Who made something: a window, and in a few words where it is. */
export const madeBySchema: z.ZodType<MadeBy> = z.object({ windowId: idSchema, words: z.string().max(80) });

/** Most steps of one sending. */
const MOST_STEPS_SENT = 2000;

/** A sending of steps: made on `baseRevision`, in order; `batchId` lets a repeated sending be known. */
export const sendingSchema = z.object({
  version: z.literal(SENDING_VERSION, 'This page is of another version of Lime Tick than its server: reload it.').optional(),
  baseRevision: revisionSchema,
  batchId: idSchema,
  madeBy: madeBySchema.nullable().default(null),
  steps: z.array(stepSchema).min(1, 'A sending holds at least one step.').max(MOST_STEPS_SENT, 'A sending holds at most 2,000 steps.'),
  /** An id for each step, by which its window knows it again among what was accepted; none in sendings of the first form. */
  stepIds: z.array(idSchema).max(MOST_STEPS_SENT).default([]),
  /**
   * Whether steps that others were faster than may be taken where they belong by then; else they are answered with what came
   * between. Who asks for it takes over the `changes` of the answer.
   */
  mapsOver: z.boolean().optional(),
});
export type Sending = z.output<typeof sendingSchema>;

/** A step as it was accepted: the revision it made, and who made it. The server that answers has checked it, so it is taken as it is. */
export const changeSchema = z.object({
  revision: z.number().int(),
  step: z.custom<Step>((value) => typeof value === 'object' && value !== null && 'type' in value),
  stepId: z.string().nullable(),
  madeBy: madeBySchema.nullable(),
});
export type AcceptedStep = z.infer<typeof changeSchema>;

/**
 * The answer to an accepted sending: the revision it made. Where others came between, `changes` are all that was accepted since the
 * revision it was made on; the last of them are its own steps, as they were taken.
 */
export const acceptedSchema = z.object({ revision: z.number().int(), changes: z.array(changeSchema).default([]) });
export type Accepted = z.input<typeof acceptedSchema>;

/** What has been accepted since a revision, in order. */
export const changesSchema = z.object({ revision: z.number().int(), changes: z.array(changeSchema) });
export type Changes = z.infer<typeof changesSchema>;

/** The answer to a sending made on a revision that isn't the project's: what came between, or that the sender knows more than the server. */
export const staleSchema = z.discriminatedUnion('kind', [
  z.object({ kind: z.literal('stale'), error: z.string(), ...changesSchema.shape }),
  z.object({ kind: z.literal('ahead'), error: z.string(), revision: z.number().int() }),
]);

/** What is told of a project as it changes: the revision it has now, and which window made it so. */
export const noticeSchema = z.object({ revision: z.number().int(), windowId: z.string().nullable() });

/** Any refusal: one sentence. */
export const refusalSchema = z.object({ error: z.string() });

/** A project as the shelf shows it. */
export const shelfEntrySchema = z.object({
  id: idSchema,
  title: z.string(),
  rate: z.object({ num: z.number(), den: z.number() }),
  size: z.object({ width: z.number(), height: z.number() }),
  shots: z.number(),
  frames: frameSchema,
  drawings: z.number(),
  drawn: z.number(),
  keptAt: z.iso.datetime(),
  /** When it was put away from the shelf; null while it stands there. */
  putAwayAt: z.iso.datetime().nullable().default(null),
  cover: z.array(z.object({ picture: digestSchema, opacityPercent: z.number(), blend: z.enum(BLEND_MODES).optional() })),
});
export type ShelfEntry = z.infer<typeof shelfEntrySchema>;
export const shelfSchema = z.object({ projects: z.array(shelfEntrySchema) });

/** A project's document as it was at a revision. */
export const documentSchema = z.object({
  project: z.custom<Project>((value) => typeof value === 'object' && value !== null && 'shots' in value),
  revision: z.number().int(),
});

/** An opened project. Its document has been checked by the server that answers, so it is taken as it is. */
export const openedSchema = z.object({
  project: z.custom<Project>((value) => typeof value === 'object' && value !== null && 'shots' in value),
  revision: z.number().int(),
  keptAt: z.iso.datetime(),
  receipts: z.array(receiptSchema),
  /** Receipts that could not be read, each named in a sentence; they are kept. */
  unreadable: z.array(z.string()).default([]),
});
export type OpenedProject = z.infer<typeof openedSchema>;

/** A revision as it is written in an address. */
export const atRevisionSchema = z
  .string('A revision is a whole number.')
  .regex(/^\d{1,10}$/, 'A revision is a whole number.')
  .transform(Number)
  .pipe(revisionSchema);
