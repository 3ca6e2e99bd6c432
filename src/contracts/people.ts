import { z } from 'zod';
import { idSchema } from '@/contracts/document';
import { revisionSchema } from '@/contracts/project';
import { readerOf } from '@/contracts/versions';

/** Colours people are told apart by, besides their names. */
export const PERSON_COLOURS = ['#2b6e72', '#8a4fbf', '#b8431a', '#2f62b5', '#9a6a00', '#b03a78'] as const;

/** Somebody who works here: called as they call themselves, once for a browser. */
export const personSchema = z.object({
  id: idSchema,
  name: z.string().trim().min(1, 'Write a name, so that others know who you are.').max(40, 'A name has at most 40 letters.'),
  colour: z.enum(PERSON_COLOURS),
});
export type Person = z.output<typeof personSchema>;

/** Who a browser is, as it keeps it. */
export const keptPersonReader = readerOf('Who you are', personSchema.extend({ version: z.number() }));

/** Where somebody is: a stage, a shot, and a frame of it from 0. */
export const whereSchema = z.object({
  stage: z.string().max(20),
  shotId: idSchema.nullable(),
  frame: z.number().int().min(0).max(10_000_000),
});
export type Where = z.output<typeof whereSchema>;

/** What a window tells of itself; nowhere (null) when it leaves. */
export const presenceSchema = z.object({ windowId: idSchema, person: personSchema, where: whereSchema.nullable() });
export type Presence = z.output<typeof presenceSchema>;

/** Somebody who is there. */
export type Present = Presence & { readonly where: Where };

/** Takes a shot in hand, from whoever has it when that is meant, or gives it back. */
export const handChangeSchema = z.object({
  shotId: idSchema,
  person: personSchema,
  act: z.enum(['take', 'take-over', 'give-back']),
});
export type HandChange = z.output<typeof handChangeSchema>;

/** A shot that somebody has taken in hand, and when. */
export const handSchema = z.object({
  shotId: z.string(),
  person: z.object({ id: z.string(), name: z.string(), colour: z.string() }),
  takenAt: z.string(),
});
export type Hand = z.output<typeof handSchema>;
export const handsSchema = z.object({ hands: z.array(handSchema) });

/** Who is there, as a page hears it; `isShared` says that others may come from other machines. */
export const peopleSchema = z.object({ isShared: z.boolean(), people: z.array(presenceSchema) });

/**
 * What servers on one database tell each other, in the form of version 1. A server of another version ignores what it
 * doesn't know: whatever is told can be asked for as well.
 */
export const tidingSchema = z.discriminatedUnion('kind', [
  z.object({
    version: z.literal(1),
    kind: z.literal('revision'),
    projectId: idSchema,
    revision: revisionSchema,
    windowId: z.string().nullable(),
  }),
  z.object({ version: z.literal(1), kind: z.literal('here'), projectId: idSchema, presence: presenceSchema }),
  /** Whoever is there is asked to say so again. */
  z.object({ version: z.literal(1), kind: z.literal('who'), projectId: idSchema }),
  z.object({ version: z.literal(1), kind: z.literal('hands'), projectId: idSchema }),
]);
export type Tiding = z.output<typeof tidingSchema>;
