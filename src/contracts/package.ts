import { z } from 'zod';
import {
  checksChangeSchema,
  digestSchema,
  effectSchema,
  idSchema,
  keptNoteSchema,
  rateSchema,
  reelItemSchema,
  shotSchema,
  sizeSchema,
  soundSchema,
  titleSchema,
} from '@/contracts/document';
import { madeBySchema, revisionSchema } from '@/contracts/project';
import { MOST_KEPT } from '@/core/document/checks';
import { MOST_EFFECTS } from '@/core/document/finish';
import { DOCUMENT_VERSION, type Project } from '@/core/document/model';
import { MOST_COLOURS } from '@/core/document/palette';

/*
 * A package is a ZIP of plain files that holds a whole project: `project.json`, which this describes, the pictures of its drawings
 * as `pictures/<digest>.png`, and the files that were brought in as `originals/<SHA-256>`. Whoever reads it brings the
 * document from its form to today's first; what is checked here is of today's.
 */

export const PACKAGE_VERSION = 1;
export const PACKAGE_FORMAT = 'lime-tick-package';
const MOST_SHOTS = 10_000;
const MOST_ITEMS = 100_000;
const MOST_FILES = 200_000;
const MOST_CHANGES = 10_000_000;

/** A document whole. */
export const projectSchema = z.object({
  version: z.literal(DOCUMENT_VERSION),
  id: idSchema,
  title: titleSchema,
  rate: rateSchema,
  size: sizeSchema,
  firstFrameNumber: z.number().int().min(0).max(1_000_000),
  palette: z.array(z.string().regex(/^#[0-9a-f]{6}$/)).max(MOST_COLOURS),
  checks: checksChangeSchema
    .required()
    .extend({ kept: z.array(z.object({ finding: z.string().max(400), note: keptNoteSchema })).max(MOST_KEPT) }),
  shots: z.array(shotSchema).max(MOST_SHOTS),
  reel: z.object({ items: z.array(reelItemSchema).max(MOST_ITEMS), sounds: z.array(soundSchema).max(MOST_ITEMS) }),
  finish: z.array(effectSchema).max(MOST_EFFECTS),
}) satisfies z.ZodType<Project>;

/** What stands in `project.json` beside the document, which is in the form it says. */
export const packageSchema = z.object({
  format: z.literal(PACKAGE_FORMAT),
  version: z.number().int().min(1),
  madeAt: z.iso.datetime(),
  /** The revision of the project that it is of. */
  revision: z.number().int().min(0),
  document: z.looseObject({ version: z.number().int().min(1), id: idSchema }),
  /** The pictures of its drawings, by the digest of their pixels. */
  pictures: z.array(z.object({ digest: digestSchema, sizeBytes: z.number().int().min(1) })).max(MOST_FILES),
  /** Files that were brought in, by the SHA-256 of their bytes. */
  originals: z
    .array(z.object({ digest: digestSchema, sizeBytes: z.number().int().min(0), fileName: z.string().max(255).nullable() }))
    .max(MOST_FILES),
  /** Files that the document names and that were not in the store when it was made. */
  missing: z.array(digestSchema).max(MOST_FILES),
  /** Which file the pictures of a level came from. */
  sources: z.array(z.object({ original: digestSchema, fileName: z.string().min(1).max(255), levelId: idSchema })).max(MOST_FILES),
  /** Receipts of handovers, each in the form it says. */
  receipts: z.array(z.looseObject({ id: idSchema, version: z.number().int().min(1), madeAt: z.iso.datetime() })).max(MOST_ITEMS),
  /** Recipes saved with the project. */
  recipes: z.array(z.looseObject({ name: z.string().max(80) })).max(1000),
  /** Where `journal.jsonl` is in it: how many changes stand there, up to `revision`, and the pictures that only they name. */
  journal: z.object({ entries: z.number().int().min(1).max(MOST_CHANGES), pictures: z.array(digestSchema).max(MOST_FILES) }).optional(),
});
export type PackageFacts = z.infer<typeof packageSchema>;

/** A line of `journal.jsonl`: a change as it was accepted, in the form it says, and what undoes it. */
export const journalLineSchema = z.object({
  revision: revisionSchema,
  version: z.number().int().min(1),
  step: z.looseObject({ type: z.string() }),
  inverse: z.looseObject({ type: z.string() }).nullable(),
  stepId: idSchema.nullable(),
  batchId: idSchema,
  madeBy: madeBySchema.nullable(),
  madeAt: z.iso.datetime(),
});
export type JournalLine = z.infer<typeof journalLineSchema>;

/** What is told while a package is checked or brought in, line by line. */
export const packageLineSchema = z.discriminatedUnion('kind', [
  z.object({ kind: z.literal('progress'), done: z.number(), all: z.number() }),
  z.object({
    kind: z.literal('checked'),
    token: idSchema,
    title: z.string(),
    shots: z.number(),
    frames: z.number(),
    pictures: z.number(),
    originals: z.number(),
    missing: z.number(),
    /** How many changes of its past are in it. */
    changes: z.number(),
    /** How it differs from the project of the same id that is here; null where there is none. */
    differs: z.array(z.string()).nullable(),
  }),
  z.object({ kind: z.literal('taken'), projectId: idSchema }),
  z.object({ kind: z.literal('refused'), reason: z.string() }),
]);
export type PackageLine = z.infer<typeof packageLineSchema>;
export type CheckedPackage = Extract<PackageLine, { kind: 'checked' }>;

/** What `project.json` is, as a JSON Schema made from the definitions that read it. */
export const packageJsonSchema = (): object => ({
  title: 'project.json of a Lime Tick package',
  ...z.toJSONSchema(packageSchema.extend({ document: projectSchema }), { io: 'input', unrepresentable: 'any' }),
});
