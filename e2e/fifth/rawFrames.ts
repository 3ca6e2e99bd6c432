import type { ReadFrame } from '@/core/count/readBack';
import { startFilmOptions } from '@/core/output/film';
import { refuseByCarries } from '@/core/output/format';
import { digestOfBytes, fingerprintOf } from '@/core/raster/digest';
import { fileOf, type OutputFormat } from '@/workers/output/outputFormat';
import { createOwnFile } from '@/workers/output/ownFile';

/*
 * A format made up for the tests: a line of JSON that says size, rate and number of frames, then the pixels of every frame,
 * R G B A. `lateFrom` makes a writer with a mistake: from that frame on each new drawing comes a frame late.
 */

type Head = { readonly width: number; readonly height: number; readonly num: number; readonly den: number; readonly frames: number };
const HEAD_BYTES = 128;

export function rawFrames(id: string, lateFrom = Number.POSITIVE_INFINITY): OutputFormat {
  const format: OutputFormat = {
    id,
    name: 'Raw frames',
    group: 'film',
    files: { kind: 'one', extension: 'raw' },
    carries: { rates: 'any', sizes: 'any', transparency: true, sound: false, colours: 'exact' },
    start: { ...startFilmOptions('mkv'), transparency: true },
    compares: () => 'exact',
    refuse: (plan) => refuseByCarries(format, plan),

    load: async () => undefined,

    async write(plan, sink, job) {
      const own = await createOwnFile(`${job.baseName}.raw`, sink.owner);
      const writer = own.stream.getWriter();
      const { width, height } = plan.size;
      const head: Head = { width, height, ...plan.rate, frames: plan.frames };
      await writer.write({ data: new TextEncoder().encode(JSON.stringify(head).padEnd(HEAD_BYTES)), position: 0 });
      const pictures = job.pictures(
        async (picture) => picture.straightPixels().slice(),
        (pixels) => pixels.byteLength,
      );
      let before: Uint8Array | null = null;
      for (const [index, run] of plan.runs.entries()) {
        const pixels = await pictures.ofRun(index);
        for (let frame = run.startFrame; frame < run.startFrame + run.frames; frame++) {
          job.stop.throwIfAborted();
          const isLate = frame >= lateFrom && frame === run.startFrame;
          await writer.write({ data: isLate && before ? before : pixels, position: HEAD_BYTES + frame * width * height * 4 });
        }
        before = pixels;
        job.onWritten(run.startFrame + run.frames);
      }
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

    async readBack(source) {
      const file = fileOf(source);
      const head = JSON.parse(await file.slice(0, HEAD_BYTES).text()) as Head;
      const frameBytes = head.width * head.height * 4;
      const size = { width: head.width, height: head.height };
      const bytesOf = async (frame: number) =>
        new Uint8Array(await file.slice(HEAD_BYTES + frame * frameBytes, HEAD_BYTES + (frame + 1) * frameBytes).arrayBuffer());
      async function* frames(): AsyncGenerator<ReadFrame> {
        for (let frame = 0; frame < head.frames; frame++) {
          const bytes = await bytesOf(frame);
          const picture = { kind: 'exact' as const, fingerprint: await fingerprintOf(bytes), size };
          yield { name: null, picture, digest: await digestOfBytes(bytes) };
        }
      }
      const frameMicroseconds = (head.den * 1e6) / head.num;
      return {
        size,
        times: {
          startMicroseconds: Array.from({ length: head.frames }, (_, frame) => frame * frameMicroseconds),
          lastDurationMicroseconds: frameMicroseconds,
          statedDurationMicroseconds: frameMicroseconds,
          tickMicroseconds: 0,
        },
        packetDigests: null,
        decoderDigest: null,
        colours: () => null,
        sound: null,
        loop: null,
        keyFrames: null,
        frames: frames(),
      };
    },
  };
  return format;
}
