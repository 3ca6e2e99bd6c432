import { z } from 'zod';
import { digestSchema, idSchema } from '@/contracts/document';

/** A picture of a file that was taken in; an animated or layered file has several. */
export const takenPictureSchema = z.object({
  name: z.string(),
  picture: digestSchema,
  width: z.number().int(),
  height: z.number().int(),
  /** How long it says it stays, in milliseconds; null when it says nothing. */
  delayMilliseconds: z.number().int().nullable(),
  hasTransparency: z.boolean(),
});
export type TakenPicture = z.infer<typeof takenPictureSchema>;

/** What a file held; its bytes are kept as they are under `original`. */
export const takenFileSchema = z.object({
  original: digestSchema,
  kind: z.string(),
  isLayered: z.boolean(),
  /** Whether the file ends before what it says it holds: only what is there was read. */
  cutShort: z.boolean(),
  pictures: z.array(takenPictureSchema),
});
export type TakenFile = z.infer<typeof takenFileSchema>;

/** A recording or a clip that was taken in; its bytes are kept as they are under `original`. */
export const takenOriginalSchema = z.object({ original: digestSchema, cutShort: z.boolean() });

/** How the colours of half-transparent pixels are written in a file: on their own, or already multiplied by their alpha. */
export const alphaSchema = z.enum(['straight', 'premultiplied']);
export type AlphaKind = z.infer<typeof alphaSchema>;

/** A file that a level's pictures came from. */
export const sourceSchema = z.object({ original: digestSchema, fileName: z.string().min(1).max(255), levelId: idSchema });
export type LevelSource = z.infer<typeof sourceSchema>;
export const newSourcesSchema = z.object({ sources: z.array(sourceSchema).min(1).max(5000) });
export const sourcesSchema = z.object({ sources: z.array(sourceSchema) });
