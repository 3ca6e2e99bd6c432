import { z } from 'zod';
import { readerOf } from '@/contracts/versions';

/**
 * Recorded strokes, as a pen made them: each point is its place in pixels of the picture, its pressure (0 to 1), how steeply the pen
 * stood (in degrees, 90 upright), and when, in milliseconds from the beginning of the recording.
 */
const point = z.tuple([z.number(), z.number(), z.number().min(0).max(1), z.number().min(0).max(90), z.number().min(0)]).readonly();
const stroke = z.object({
  colour: z.string().regex(/^#[0-9a-f]{6}$/),
  sizePx: z.number().min(1).max(80),
  points: z.array(point).min(2).max(20_000).readonly(),
});
const recordingSchema = z.object({
  file: z.literal('lime-tick-strokes'),
  version: z.number(),
  size: z.object({ width: z.number().int().positive(), height: z.number().int().positive() }),
  strokes: z.array(stroke).min(1).max(1000).readonly(),
});
export type StrokeRecording = z.infer<typeof recordingSchema>;

export const strokeRecordingReader = readerOf('The recorded strokes', recordingSchema);
