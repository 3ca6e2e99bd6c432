import { z } from 'zod';
import {
  chartSchema,
  checksChangeSchema,
  clipReadingSchema,
  digestSchema,
  drawingSchema,
  effectSchema,
  exposureSchema,
  frameSchema,
  idSchema,
  keptNoteSchema,
  lengthSchema,
  levelKindSchema,
  levelSchema,
  noteSchema,
  rateSchema,
  reelItemSchema,
  shotSchema,
  sizeSchema,
  soundChangeSchema,
  soundSchema,
  titleSchema,
  trimSchema,
} from '@/contracts/document';
import { BLEND_MODES } from '@/core/document/blendModes';
import { LONGEST_SHOT_NOTE } from '@/core/document/model';
import { MOST_COLOURS } from '@/core/document/palette';
import { MOST_ITEMS } from '@/core/edit/reelSteps';
import type { Step } from '@/core/edit/step';

const onShot = { shotId: idSchema };
const onSounds = { shotId: idSchema.nullable() };
const onLevel = { ...onShot, levelId: idSchema };
const onDrawing = { ...onLevel, drawingId: idSchema };
const place = z.number().int().min(0);

const itemsOnReel = z.array(z.object({ item: reelItemSchema, index: place })).max(MOST_ITEMS);
const soundTimings = z.array(z.object({ soundId: idSchema, startFrame: frameSchema })).max(100_000);

const shotTimingSchema = z.object({
  ...onShot,
  frames: lengthSchema,
  notes: z.array(noteSchema).max(100_000),
  sounds: soundTimings,
  levels: z.array(z.object({ levelId: idSchema, exposures: z.array(exposureSchema).max(1_000_000) })).max(100_000),
});

/** A step as it crosses the wire. Whether it applies to a document is for the core to say. */
export const stepSchema: z.ZodType<Step> = z.lazy(() =>
  z.discriminatedUnion('type', [
    z.object({ type: z.literal('renameProject'), title: titleSchema }),
    z.object({
      type: z.literal('setFormat'),
      rate: rateSchema.optional(),
      size: sizeSchema.optional(),
      firstFrameNumber: z.number().int().min(0).max(1_000_000).optional(),
    }),
    z.object({
      type: z.literal('setTiming'),
      words: z.string().max(200),
      rate: rateSchema,
      shots: z.array(shotTimingSchema).max(100_000),
      items: z
        .array(z.object({ itemId: idSchema, trim: trimSchema.nullable().optional(), frames: lengthSchema.optional() }))
        .max(MOST_ITEMS),
      reelSounds: soundTimings,
    }),
    z.object({ type: z.literal('setPalette'), palette: z.array(z.string().max(7)).max(MOST_COLOURS) }),
    z.object({ type: z.literal('setChecks'), change: checksChangeSchema }),
    z.object({ type: z.literal('keepFinding'), finding: z.string().min(1).max(300), note: keptNoteSchema.nullable() }),
    z.object({
      type: z.literal('addShot'),
      shot: shotSchema,
      index: place,
      items: itemsOnReel,
    }),
    z.object({ type: z.literal('removeShot'), ...onShot }),
    z.object({ type: z.literal('addItems'), items: itemsOnReel }),
    z.object({ type: z.literal('removeItems'), itemIds: z.array(idSchema).max(MOST_ITEMS) }),
    z.object({ type: z.literal('trimItem'), itemId: idSchema, trim: trimSchema.nullable() }),
    z.object({ type: z.literal('setGapLength'), itemId: idSchema, frames: lengthSchema }),
    z.object({ type: z.literal('readClip'), itemId: idSchema, way: clipReadingSchema, trim: trimSchema.nullable() }),
    z.object({ type: z.literal('finishItem'), itemId: idSchema, finished: z.boolean() }),
    z.object({ type: z.literal('setEffect'), effectId: idSchema, effect: effectSchema.nullable(), index: place }),
    z.object({ type: z.literal('moveEffect'), effectId: idSchema, index: place }),
    z.object({ type: z.literal('moveItem'), itemId: idSchema, index: place }),
    z.object({
      type: z.literal('describeShot'),
      ...onShot,
      code: z.string().max(30).optional(),
      name: z.string().max(120).optional(),
      note: z.string().max(LONGEST_SHOT_NOTE).optional(),
    }),
    z.object({ type: z.literal('setShotLength'), ...onShot, frames: lengthSchema }),
    z.object({ type: z.literal('setNotes'), ...onShot, notes: z.array(noteSchema).max(100_000) }),
    z.object({ type: z.literal('addSound'), ...onSounds, sound: soundSchema, index: place }),
    z.object({ type: z.literal('removeSound'), ...onSounds, soundId: idSchema }),
    z.object({ type: z.literal('changeSound'), ...onSounds, soundId: idSchema, change: soundChangeSchema }),
    z.object({ type: z.literal('addLevel'), ...onShot, level: levelSchema, index: place }),
    z.object({ type: z.literal('removeLevel'), ...onLevel }),
    z.object({ type: z.literal('moveLevel'), ...onLevel, index: place }),
    z.object({
      type: z.literal('describeLevel'),
      ...onLevel,
      change: z.object({
        name: z.string().max(60).optional(),
        kind: levelKindSchema.optional(),
        visible: z.boolean().optional(),
        locked: z.boolean().optional(),
        opacityPercent: z.number().int().min(0).max(100).optional(),
        blend: z.enum(BLEND_MODES).optional(),
      }),
    }),
    z.object({ type: z.literal('setCharts'), ...onLevel, charts: z.array(chartSchema).max(10_000) }),
    z.object({ type: z.literal('addDrawing'), ...onLevel, drawing: drawingSchema, index: place }),
    z.object({
      type: z.literal('copyDrawing'),
      ...onLevel,
      sourceId: idSchema,
      copyId: idSchema,
      number: z.string().max(12),
      index: place,
    }),
    z.object({ type: z.literal('deleteDrawing'), ...onDrawing }),
    z.object({
      type: z.literal('describeDrawing'),
      ...onDrawing,
      number: z.string().max(12).optional(),
      role: z.enum(['key', 'breakdown', 'inbetween']).optional(),
    }),
    z.object({
      type: z.literal('renumberDrawings'),
      ...onLevel,
      order: z.array(z.object({ drawingId: idSchema, number: z.string().max(12) })).max(100_000),
    }),
    z.object({ type: z.literal('setPicture'), ...onDrawing, picture: digestSchema.nullable() }),
    z.object({ type: z.literal('expose'), ...onDrawing, startFrame: frameSchema, frames: lengthSchema }),
    z.object({ type: z.literal('blank'), ...onLevel, startFrame: frameSchema, frames: lengthSchema }),
    z.object({ type: z.literal('removeExposure'), ...onLevel, atFrame: frameSchema }),
    z.object({
      type: z.literal('setLength'),
      ...onLevel,
      atFrame: frameSchema,
      frames: lengthSchema,
      following: z.enum(['push', 'overwrite']),
    }),
    z.object({
      type: z.literal('replaceRuns'),
      ...onLevel,
      startFrame: frameSchema,
      removedFrames: frameSchema,
      runs: z.array(exposureSchema).max(1_000_000),
    }),
    z.object({ type: z.literal('together'), words: z.string().max(200), steps: z.array(stepSchema).max(20_000) }),
  ]),
);
