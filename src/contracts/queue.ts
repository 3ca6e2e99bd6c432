import { z } from 'zod';
import { formatOptionsSchema, takingSchema } from '@/contracts/formatOptions';
import { readerOf } from '@/contracts/versions';
import { PLANNED } from '@/core/output/jobState';
import type { Queue } from '@/core/output/queue';
import type { Recipe } from '@/core/output/recipe';

/** What is asked of a handover, as it is kept. */
export const recipeSchema: z.ZodType<Recipe> = z.object({
  shotId: z.string().nullable(),
  levelId: z.string().nullable().default(null),
  fromText: z.string().max(20),
  toText: z.string().max(20),
  withBackground: z.boolean(),
  formatId: z.string().regex(/^[a-z0-9-]{1,40}$/),
  options: formatOptionsSchema,
  taking: takingSchema,
});

const stateSchema = z.discriminatedUnion('kind', [
  z.object({ kind: z.literal('stopped') }),
  z.object({ kind: z.literal('failed'), reason: z.string() }),
]);

/** Handovers that were asked for in a window and aren't made: of those being made only that they were asked for is kept. */
const queueSchema = z.object({
  version: z.number(),
  jobs: z.array(
    z.object({
      id: z.string(),
      projectId: z.string(),
      recipe: recipeSchema,
      fileName: z.string(),
      held: z.string().nullable(),
      wasBegun: z.boolean().default(false),
      over: stateSchema.nullable(),
    }),
  ),
});

export const queueReader = readerOf('A queue of handovers', queueSchema);

/** A queue as it is kept. */
export const keptQueue = (queue: Queue): z.infer<typeof queueSchema> => ({
  version: queueReader.version,
  jobs: queue
    .filter(({ state }) => state.kind !== 'done')
    .map(({ state, ...job }) => ({
      ...job,
      recipe: recipeSchema.parse(job.recipe),
      wasBegun: job.wasBegun || 'progress' in state,
      over: state.kind === 'stopped' || state.kind === 'failed' ? state : null,
    })),
});

/** A kept queue as it is. */
export const queueOf = ({ jobs }: z.infer<typeof queueSchema>): Queue =>
  jobs.map(({ over, ...job }) => ({ ...job, state: over ?? PLANNED }));
