import type { JobEvent } from '@/core/output/jobState';
import { FORMATS } from '@/workers/output/formats/list';
import { runJob } from '@/workers/output/job';
import { handoverOrderSchema } from '@/workers/protocol';
import { rawFrames } from './rawFrames';

/** The program's own job, given one format more than its list has. */
const formats = [...FORMATS, rawFrames('raw-frames'), rawFrames('raw-frames-late', 5)];

addEventListener('message', ({ data }) => {
  const events: JobEvent[] = [];
  const order = handoverOrderSchema.parse(data);
  runJob(order, formats, null, (event) => events.push(event), new AbortController().signal).then(
    (end) => postMessage({ end, events }),
    (error: unknown) => postMessage({ end: { kind: 'failed', reason: String(error) }, events }),
  );
});
