import { z } from 'zod';
import { digestSchema, frameSchema, idSchema, lengthSchema, rateSchema, sizeSchema, titleSchema } from '@/contracts/document';
import { receiptSchema } from '@/contracts/receipt';
import { stepSchema } from '@/contracts/step';
import { BLEND_MODES, type Project } from '@/core/sheet/document';

/** What it takes to start a project: it gets one shot of the given length with one level. */
export const newProjectSchema = z.object({
  title: titleSchema,
  rate: rateSchema,
  size: sizeSchema,
  startFrame: z
    .number()
    .int()
    .min(0, 'The first frame number is 0 or more.')
    .max(1_000_000, 'The first frame number is at most 1,000,000.'),
  frames: lengthSchema,
});
export type NewProject = z.infer<typeof newProjectSchema>;

/** A sending of steps: made on `baseRevision`, in order; `batchId` lets a repeated sending be known. */
export const sendingSchema = z.object({
  baseRevision: z.number().int().min(0),
  batchId: idSchema,
  steps: z.array(stepSchema).min(1, 'A sending holds at least one step.').max(2000, 'A sending holds at most 2,000 steps.'),
});
export type Sending = z.infer<typeof sendingSchema>;

/** The answer to an accepted sending. */
export const acceptedSchema = z.object({ revision: z.number().int() });

/** The answer to a sending made on a stale revision: what has been accepted since. */
export const staleSchema = z.object({ error: z.string(), revision: z.number().int(), stepsSince: z.array(stepSchema) });

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
  cover: z.array(z.object({ picture: digestSchema, opacityPercent: z.number(), blend: z.enum(BLEND_MODES).optional() })),
});
export type ShelfEntry = z.infer<typeof shelfEntrySchema>;
export const shelfSchema = z.object({ projects: z.array(shelfEntrySchema) });

/** An opened project. Its document has been checked by the server that answers, so it is taken as it is. */
export const openedSchema = z.object({
  project: z.custom<Project>((value) => typeof value === 'object' && value !== null && 'shots' in value),
  revision: z.number().int(),
  keptAt: z.iso.datetime(),
  receipts: z.array(receiptSchema),
});
export type Opened = z.infer<typeof openedSchema>;
