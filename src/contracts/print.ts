import { z } from 'zod';
import type { PrintChoices } from '@/core/format/pdf/sheetPdf';

const paperSchema = z.enum(['a4', 'letter'], 'The paper is a4 or letter.');

/** What drawings are printed on, as it is written in an address. */
export const contactSchema = z.object({ paper: paperSchema });

/** How a sheet is to be printed, as it is written in an address. */
export const printSchema = z
  .object({
    paper: paperSchema,
    frames: z.enum(['96', '100'], 'A page holds 96 or 100 frames.'),
    charts: z.enum(['0', '1'], 'Charts are printed (1) or not (0).'),
  })
  .transform(({ paper, frames, charts }): PrintChoices => ({ paper, framesAPage: frames === '96' ? 96 : 100, charts: charts === '1' }));
