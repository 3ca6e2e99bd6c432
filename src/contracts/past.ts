import { z } from 'zod';
import { revisionSchema } from '@/contracts/project';

/** Most changes of the past that are given at once. */
export const MOST_PAST_CHANGES = 2000;
/** Most letters of a moment's name. */
export const LONGEST_MOMENT_NAME = 80;

const sittingSchema = z.object({
  fromRevision: z.number(),
  toRevision: z.number(),
  startedAt: z.number(),
  endedAt: z.number(),
  changes: z.number(),
});

const namedMomentSchema = z.object({ revision: z.number(), name: z.string() });
export type NamedMoment = z.output<typeof namedMomentSchema>;

/** A project's past: its sittings, the last one first, and the revisions that have a name. */
export const pastSchema = z.object({ revision: z.number(), sittings: z.array(sittingSchema), named: z.array(namedMomentSchema) });
export type Past = z.output<typeof pastSchema>;

/** Changes of the past, oldest first. */
export const pastChangesSchema = z.object({
  changes: z.array(
    z.object({
      revision: z.number(),
      at: z.number(),
      windowId: z.string().nullable(),
      who: z.string(),
      words: z.string(),
      shotId: z.string().nullable(),
    }),
  ),
});

/** Names a moment of the past, or takes its name away. */
export const momentNameSchema = z.object({
  revision: revisionSchema,
  name: z
    .string()
    .trim()
    .min(1, 'A moment needs a name.')
    .max(LONGEST_MOMENT_NAME, `A name has at most ${LONGEST_MOMENT_NAME} letters.`)
    .nullable(),
});
export type MomentName = z.output<typeof momentNameSchema>;
