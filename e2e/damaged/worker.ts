import { LoudnessByFrame } from '@/core/count/soundCount';
import { mp4 } from '@/workers/output/formats/mp4';
import { runJob } from '@/workers/output/job';
import type { OutputFormat } from '@/workers/output/outputFormat';
import { createOwnFile } from '@/workers/output/ownFile';
import { handoverOrderSchema } from '@/workers/protocol';

/*
 * A writer that means every picture and sound as the program's own does, and then puts a file there that somebody damaged. It is
 * opened and counted by the program's own reader and counter.
 */
const SAMPLE_RATE = 48_000;
const bytesAt = async (address: string): Promise<ArrayBuffer> => (await fetch(address)).arrayBuffer();

const damaged: OutputFormat = {
  ...mp4,
  id: 'damaged',
  async write(plan, sink, job) {
    const pictures = job.pictures(
      async () => null,
      () => 1,
    );
    for (const index of plan.runs.keys()) await pictures.ofRun(index);
    const loudness = new LoudnessByFrame(plan.frames, plan.rate, SAMPLE_RATE);
    const channel = new Float32Array(await bytesAt('/meant-sound'));
    loudness.take([channel, channel], 0);
    job.onSound(loudness.levels());
    const own = await createOwnFile('damaged.mp4', sink.owner);
    own.write(0, new Uint8Array(await bytesAt('/damaged-film')));
    const file = await own.finish();
    return {
      storedAs: own.storedAs,
      file,
      fileBytes: file.size,
      source: { kind: 'file', file, copyAt: null },
      decoded: null,
      close: async () => undefined,
      discard: own.discard,
    };
  },
};

addEventListener('message', ({ data }) => {
  runJob(handoverOrderSchema.parse(data), [damaged], null, () => undefined, new AbortController().signal).then(
    (end) => postMessage(end),
    (error: unknown) => postMessage({ kind: 'failed', reason: String(error) }),
  );
});
