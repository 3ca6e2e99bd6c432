import { z } from 'zod';
import { readerOf } from '@/contracts/versions';
import type { Destination } from '@/core/check/destinations';
import { LONGEST_SIDE_PX } from '@/core/document/size';
import { makeRate } from '@/core/time/rate';

/** The most destinations of a person's own. */
export const MOST_DESTINATIONS = 50;

const side = z.number().int().min(1).max(LONGEST_SIDE_PX);
const rate = z
  .object({ num: z.number().int().positive(), den: z.number().int().positive() })
  .refine(({ num, den }) => makeRate(num, den).ok, 'A rate is from 1 to 240 frames a second.');
const level = z.number().int().min(0).max(255);
const MOST_SECONDS = 86_400;

/** A destination of a person's own: what it takes. */
export const destinationSchema: z.ZodType<Destination> = z
  .object({
    id: z.string().regex(/^own-[a-z0-9-]{1,60}$/, 'A destination of one’s own has an id that says so.'),
    name: z.string().trim().min(1, 'A destination has a name.').max(60, 'The name of a destination has at most 60 characters.'),
    sizes: z.discriminatedUnion('kind', [
      z.object({
        kind: z.literal('listed'),
        sizes: z
          .array(z.object({ width: side, height: side }))
          .min(1)
          .max(20),
      }),
      z.object({ kind: z.literal('within'), longest: side, even: z.boolean() }),
    ]),
    rates: z.array(rate).min(1, 'A destination takes a rate at least.').max(30),
    takesTransparency: z.boolean(),
    colours: z.object({ from: level, to: level }).nullable(),
    shortestSeconds: z.number().min(0).max(MOST_SECONDS),
    longestSeconds: z.number().positive().max(MOST_SECONDS).nullable(),
    mostBytes: z.number().int().positive().nullable(),
    loops: z.boolean(),
  })
  .refine(({ colours }) => !colours || colours.from < colours.to, 'Colours go from the darker to the lighter.')
  .refine(
    ({ shortestSeconds, longestSeconds }) => longestSeconds === null || longestSeconds > shortestSeconds,
    'The longest is more than the shortest.',
  );

/** Destinations as they are stored. */
export const storedDestinationsReader = readerOf(
  'The destinations',
  z.object({ version: z.number(), destinations: z.array(destinationSchema).max(MOST_DESTINATIONS) }),
);

export const destinationsSchema = z.object({ destinations: z.array(destinationSchema) });

/** A destination to be saved; with none (null), the one of that id is taken away. */
export const destinationChangeSchema = z.object({ id: z.string().min(1).max(80), destination: destinationSchema.nullable() });
export type DestinationChange = z.infer<typeof destinationChangeSchema>;
