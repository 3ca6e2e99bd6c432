import { LOOP_PAGE_END, loopPageHead, PNG_ADDRESS } from '@/core/format/page/loopPage';
import { type LoopOptions, microsecondsIn } from '@/core/output/loop';
import type { RenderPlan } from '@/core/render/renderPlan';
import type { LoopFile } from '@/workers/output/loop/loopFile';
import { asPng, onceEach } from '@/workers/output/loop/onceEach';
import type { OutputJob } from '@/workers/output/outputFormat';

const PART_BYTES = 0x6000;

/** Bytes in base64; parts of a multiple of three join without a gap. */
function inBase64(bytes: Uint8Array): string {
  const parts: string[] = [];
  for (let at = 0; at < bytes.length; at += PART_BYTES) parts.push(btoa(String.fromCharCode(...bytes.subarray(at, at + PART_BYTES))));
  return parts.join('');
}

/** Writes a plan as a page that plays it. The list of what is shown stands before the pictures, so it is known first. */
export async function writePageLoop(plan: RenderPlan, options: LoopOptions, job: OutputJob, file: LoopFile): Promise<void> {
  const text = new TextEncoder();
  const order = new Map<number, number>();
  for (const { stack } of plan.runs) if (!order.has(stack)) order.set(stack, order.size);
  const microseconds = microsecondsIn('page', plan, options);
  const shown = plan.runs.map(({ stack }, index): [number, number] => [order.get(stack) as number, microseconds[index] as number]);
  file.add(text.encode(loopPageHead({ title: job.baseName, ...plan.size, plays: options.plays, shown })));
  let isFirst = true;
  await onceEach(plan, job, asPng, (png) => {
    file.add(text.encode(`${isFirst ? '' : ','}"${PNG_ADDRESS}${inBase64(png)}"`));
    isFirst = false;
  });
  file.add(text.encode(LOOP_PAGE_END));
}
