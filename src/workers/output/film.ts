import { Output, StreamTarget, VideoSample, VideoSampleSource } from 'mediabunny';
import { FILM_TOLERANCE_LEVELS, FrameJudge } from '@/core/count/frameJudge';
import { i420Planes, signatureOfPlanes } from '@/core/raster/signature';
import { i420Bytes, pixelsToI420 } from '@/core/raster/yuv';
import { digestOfStream } from '@/workers/output/fileDigest';
import { filmCodec } from '@/workers/output/filmCodec';
import { countFilm } from '@/workers/output/filmCount';
import { createOwnFile } from '@/workers/output/ownFile';
import type { HandoverOrder, HandoverProgress, HandoverResult } from '@/workers/protocol';
import { StackPictures } from '@/workers/render/stackPictures';

const BT709 = { primaries: 'bt709', transfer: 'bt709', matrix: 'bt709', fullRange: false } as const;

/**
 * Writes a film by count: frame i stands at i × den/num, each distinct stack is composited and brought
 * to Y, U and V once. Then opens the written file, decodes every frame and counts.
 */
export async function writeFilm(
  order: HandoverOrder,
  onProgress: (progress: HandoverProgress) => void,
  stop: AbortSignal,
): Promise<Omit<HandoverResult, 'planDigest'>> {
  const { plan } = order;
  const kind = order.kind === 'webm' ? 'webm' : 'mp4';
  const { width, height } = plan.size;
  const { encoding, format } = await filmCodec(kind, plan.size);
  const fileName = `${order.baseName}.${kind}`;
  const own = await createOwnFile(fileName, order.owner);
  try {
    const signatures: Uint8Array[] = [];
    const planes = i420Planes(width, height);
    // A buffer that is done with is used again: the encoder has copied it, and a film makes thousands.
    let spare: Uint8Array | undefined;
    const pictures = new StackPictures<Uint8Array>(
      plan,
      'paper',
      async (_canvas, stack, compositor) => {
        const { pixels, order } = await compositor.opaquePixels();
        const yuv = spare ?? new Uint8Array(i420Bytes(width, height));
        spare = undefined;
        pixelsToI420(width, height, pixels, order, yuv);
        signatures[stack] ??= signatureOfPlanes(yuv, planes);
        return yuv;
      },
      (yuv) => yuv.byteLength,
    );
    const output = new Output({ format, target: new StreamTarget(own.stream, { chunked: true }) });
    const source = new VideoSampleSource(encoding);
    output.addVideoTrack(source, { frameRate: plan.rate.num / plan.rate.den });
    await output.start();
    for (const [index, run] of plan.runs.entries()) {
      const yuv = await pictures.ofRun(index);
      // One picture in the browser's memory for the whole run: every frame of it is that one with another time.
      const held = new VideoFrame(yuv, { format: 'I420', codedWidth: width, codedHeight: height, timestamp: 0, colorSpace: BT709 });
      try {
        for (let frame = run.startFrame; frame < run.startFrame + run.frames; frame++) {
          stop.throwIfAborted();
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
      onProgress({
        phase: 'writing',
        framesDone: run.startFrame + run.frames,
        frames: plan.frames,
        composited: pictures.compositor.composited,
        pictures: plan.stacks.length,
      });
    }
    await output.finalize();
    const file = await own.finish();
    const judge = new FrameJudge(plan, signatures);
    const composited = pictures.compositor.composited;
    const film = await countFilm(file, kind, judge, stop, (framesDone) => {
      onProgress({ phase: 'counting', framesDone, frames: plan.frames, composited, pictures: plan.stacks.length });
    });
    const { largestLevels, ...judged } = judge.result();
    const { undecoded, ...counted } = film;
    const nothing = { repeatFrames: [], wrongFrames: [], untellableChanges: 0 };
    const missing = { missingFrames: [] };
    return {
      fileName,
      storedAs: own.storedAs,
      fileBytes: file.size,
      fileDigest: await digestOfStream(file),
      composited,
      counted:
        undecoded === null
          ? { ...counted, ...judged, ...missing, comparison: { kind: 'within', toleranceLevels: FILM_TOLERANCE_LEVELS, largestLevels } }
          : { ...counted, ...nothing, ...missing, comparison: { kind: 'none', reason: undecoded } },
    };
  } catch (error) {
    await own.discard();
    throw error;
  }
}
