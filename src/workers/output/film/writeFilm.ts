import { Output, StreamTarget, VideoSample, VideoSampleSource } from 'mediabunny';
import { i420Bytes } from '@/core/raster/yuv';
import type { RenderPlan } from '@/core/render/renderPlan';
import { containerOf, encodingFor, type FilmCoding } from '@/workers/output/film/filmCodec';
import type { OutputJob, Sink, WrittenOutput } from '@/workers/output/outputFormat';
import { createOwnFile } from '@/workers/output/ownFile';

const BT709 = { primaries: 'bt709', transfer: 'bt709', matrix: 'bt709', fullRange: false } as const;

/** Writes a film by count: frame i starts at i × den/num; each distinct stack is rendered and brought to Y, U and V once. */
export async function writeFilm(plan: RenderPlan, coding: FilmCoding, sink: Sink, job: OutputJob): Promise<WrittenOutput> {
  const { width, height } = plan.size;
  const encoding = await encodingFor(coding, plan.size);
  const own = await createOwnFile(`${job.baseName}.${coding.container}`, sink.owner);
  try {
    // A buffer that is done with is used again: the encoder has copied it, and a film makes thousands.
    let spare: Uint8Array | undefined;
    const pictures = job.pictures<Uint8Array>(
      (picture) => {
        const room = spare ?? new Uint8Array(i420Bytes(width, height));
        spare = undefined;
        return picture.planes(room);
      },
      (yuv) => yuv.byteLength,
    );
    const output = new Output({ format: containerOf(coding), target: new StreamTarget(own.stream, { chunked: true }) });
    const source = new VideoSampleSource(encoding);
    output.addVideoTrack(source, { frameRate: plan.rate.num / plan.rate.den });
    await output.start();
    for (const [index, run] of plan.runs.entries()) {
      const yuv = await pictures.ofRun(index);
      // One picture in the browser's memory for the whole run: every frame of it is that one with another time.
      const held = new VideoFrame(yuv, { format: 'I420', codedWidth: width, codedHeight: height, timestamp: 0, colorSpace: BT709 });
      try {
        for (let frame = run.startFrame; frame < run.startFrame + run.frames; frame++) {
          job.stop.throwIfAborted();
          const sample = new VideoSample(held.clone(), {
            timestamp: (frame * plan.rate.den) / plan.rate.num,
            duration: plan.rate.den / plan.rate.num,
          });
          await source.add(sample);
          sample.close();
        }
      } finally {
        held.close();
      }
      if (!pictures.keeps(index)) spare = yuv;
      job.onWritten(run.startFrame + run.frames);
    }
    await output.finalize();
    const file = await own.finish();
    return {
      storedAs: own.storedAs,
      file,
      fileBytes: file.size,
      source: { kind: 'file', file },
      close: async () => undefined,
      discard: own.discard,
    };
  } catch (error) {
    await own.discard();
    throw error;
  }
}
