import { z } from 'zod';
import { digestSchema, idSchema, shotSchema } from '@/contracts/document';
import { stepSchema } from '@/contracts/step';
import { readerOf, type Upgrade } from '@/contracts/versions';
import type { StoredValue } from '@/core/document/upgrade/stored';
import { stepInNextForm } from '@/core/document/upgrade/upgrade';
import { shotFromV2 } from '@/core/document/upgrade/v2';

/*
 * What a browser keeps in its own store: steps no server has acknowledged, strokes that are no picture yet,
 * what can be undone, and what was set aside. `order` numbers grow in the order things were made.
 */

const kept = { version: z.number().int(), order: z.number(), projectId: z.string() };

/** What brings the step of an entry from form `version` to the next. An entry of before was written with steps of that form. */
const withStepOf =
  (version: number): Upgrade =>
  (old) =>
    typeof old.step === 'object' && old.step !== null ? { ...old, step: stepInNextForm(old.step as StoredValue, version) } : { ...old };

/** The window an entry was made in; empty for entries of the first form. */
const windowId = z.string().max(60);

/**
 * A step waiting to be acknowledged, with an id of its own by which it is known again among what was accepted.
 * `sizeBytes` is what it takes to send it with its pictures. Entries of the first form had no id, and said
 * which sending they went out with instead.
 */
export const waitingSchema = z.object({
  ...kept,
  windowId,
  id: z.string().min(1).max(60),
  step: stepSchema,
  pictures: z.array(digestSchema),
  sizeBytes: z.number().int().min(0),
  sending: z.object({ batchId: idSchema, baseRevision: z.number().int().min(0) }).nullable(),
});
export type WaitingStep = z.infer<typeof waitingSchema>;

export const waitingReader = readerOf('A change that waits in this browser', waitingSchema, [
  (old) => ({ ...old, id: `first-${String(old.order)}`, windowId: '', sizeBytes: JSON.stringify(old.step ?? null).length }),
  withStepOf(1),
  withStepOf(2),
  withStepOf(3),
]);

/** The revision a window's waiting steps were made on, and what can be undone in it lies on top of. */
export const chainSchema = z.object({
  version: z.number().int(),
  windowId,
  projectId: z.string(),
  baseRevision: z.number().int().min(0),
});
export type Chain = z.infer<typeof chainSchema>;
export const chainReader = readerOf('Where waiting changes belong', chainSchema);

const percent = z.number().min(0).max(100);

/** A stroke as it was drawn, in pixels of the picture: enough to draw it again. */
export const inkStrokeSchema = z.object({
  ink: z.object({
    kind: z.enum(['ink', 'eraser']),
    colour: z.string().max(20),
    sizePx: z.number().positive(),
    hardnessPercent: percent,
    smoothingPercent: percent,
    taperPx: z.number().min(0),
  }),
  hasPressure: z.boolean(),
  points: z.array(z.object({ x: z.number(), y: z.number(), pressure: z.number() })).min(1),
});
export type InkStroke = z.infer<typeof inkStrokeSchema>;

/** What is drawn on. */
export const drawTargetSchema = z.object({ shotId: idSchema, levelId: idSchema, drawingId: idSchema });
export type DrawTarget = z.infer<typeof drawTargetSchema>;

/** A finished stroke whose picture is not made yet. */
export const draftSchema = z.object({ ...kept, windowId, target: drawTargetSchema, stroke: inkStrokeSchema });
export type StrokeDraft = z.infer<typeof draftSchema>;
export const draftReader = readerOf('A stroke that waits in this browser', draftSchema, [(old) => ({ ...old, windowId: '' })]);

/** Something that can be undone, or redone. */
export const historySchema = z.object({
  ...kept,
  windowId,
  stack: z.enum(['undo', 'redo']),
  step: stepSchema,
  words: z.string(),
});
export type HistoryEntry = z.infer<typeof historySchema>;
export const historyReader = readerOf('Something that can be undone', historySchema, [
  (old) => ({ ...old, windowId: '' }),
  withStepOf(1),
  withStepOf(2),
  withStepOf(3),
]);

/** Why something was set aside: it met another change, the server refused it, the server failed at it again and again, or it could not be read. */
export const ASIDE_KINDS = ['conflict', 'refused', 'failed', 'unreadable'] as const;
export type AsideKind = (typeof ASIDE_KINDS)[number];

/**
 * Something a person made that is in no document: what it was, why it was set aside, and what it needs to be
 * made again. `step` is null when it could not be read; it is kept as `stored` then. `shot` is the shot it was
 * for, as it was, when that was removed.
 */
export const asideSchema = z.object({
  ...kept,
  /** The step's own id, where it had one. */
  id: z.string().nullable(),
  kind: z.enum(ASIDE_KINDS),
  reason: z.string(),
  words: z.string(),
  step: stepSchema.nullable(),
  stored: z.unknown(),
  pictures: z.array(digestSchema),
  shot: shotSchema.nullable(),
  asideAt: z.string(),
});
export type Aside = z.infer<typeof asideSchema>;
export const asideReader = readerOf('Something that was set aside', asideSchema, [
  withStepOf(1),
  (old) => ({ ...withStepOf(2)(old), shot: old.shot === null ? null : shotFromV2(old.shot as StoredValue) }),
  withStepOf(3),
]);
