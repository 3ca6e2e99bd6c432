import { Output, StreamTarget, VideoSample, VideoSampleSource } from 'mediabunny';
import { type Container, type FilmOptions, keyFramesOf } from '@/core/output/film';
import type { RenderPlan } from '@/core/render/renderPlan';
import { containerOf, encodingFor } from '@/workers/output/film/filmCodec';
import { SoundTrack } from '@/workers/output/film/soundTrack';
import { WrittenFrames, type WrittenPackets } from '@/workers/output/film/writtenFrames';
import type { OutputJob, Sink, WrittenOutput } from '@/workers/output/outputFormat';
import { createOwnFile, type OwnFile } from '@/workers/output/ownFile';
import type { RenderedPicture } from '@/workers/render/renderedPicture';

const BT709 = { primaries: 'bt709', transfer: 'bt709', matrix: 'bt709', fullRange: false } as const;
/** The tracks are named at the beginning of a file, long before its first frame. */
const BEGINNING_BYTES = 16 * 1024;
/** Sound is written so far ahead of the picture that a player finds both in one place. */
const SOUND_AHEAD_FRAMES = 24;

const isMatroska = (container: Container): boolean => container === 'mkv' || container === 'webm';

/** A film is written by count: frame i starts at i × den/num; each distinct stack is rendered and brought to planes once. */
class FilmWriter {
  private readonly output: Output;
  private readonly source: VideoSampleSource;
  private sound: SoundTrack | null = null;
  /** Transparency is a film of its own beside the picture, which a decoder of packets doesn't see. */
  private readonly written: WrittenFrames | null;

  constructor(
    private readonly plan: RenderPlan,
    private readonly container: Container,
    private readonly options: FilmOptions,
    private readonly job: OutputJob,
    private readonly own: OwnFile,
    encoding: ConstructorParameters<typeof VideoSampleSource>[0],
  ) {
    this.output = new Output({ format: containerOf(container), target: new StreamTarget(own.stream, { chunked: true }) });
    const written = options.transparency || !job.onDecoded ? null : new WrittenFrames(job.onDecoded);
    this.written = written;
    this.source = new VideoSampleSource({
      ...encoding,
      onEncodedPacket: (packet, meta) => written?.take(packet, meta?.decoderConfig),
    });
  }

  async write(): Promise<{ file: File; decoded: WrittenPackets | null }> {
    const { plan, options, job, output } = this;
    output.addVideoTrack(this.source, { frameRate: plan.rate.num / plan.rate.den, name: 'Picture', languageCode: options.language });
    if (job.mix) this.sound = await SoundTrack.addTo(output, plan, this.container, options, job.mix);
    const timecode = options.timecode !== '' && isMatroska(this.container) ? { raw: { TIMECODE: options.timecode } } : {};
    if (options.title !== '' || options.timecode !== '')
      output.setMetadataTags({ ...(options.title === '' ? {} : { title: options.title }), ...timecode });
    await output.start();
    await this.writeRuns();
    this.source.close();
    await this.sound?.finish();
    await output.finalize();
    const patch = this.sound?.patch(this.own.read(0, BEGINNING_BYTES));
    if (patch) this.own.write(patch.position, patch.bytes);
    if (this.sound) job.onSound(this.sound.loudness.levels());
    const decoded = (await this.written?.finish()) ?? null;
    return { file: await this.own.finish(), decoded };
  }

  /** Lets go of the coders. */
  async cancel(): Promise<void> {
    this.written?.close();
    await this.sound?.cancel();
    if (this.output.state === 'started') await this.output.cancel();
  }

  private async writeRuns(): Promise<void> {
    const { plan, job, options } = this;
    const keyFrames = keyFramesOf(plan, options.keyFrames);
    // A buffer that is done with is used again: the encoder has copied it, and a film makes thousands.
    let spare: Uint8Array | undefined;
    const pictures = job.pictures<Uint8Array>(
      (picture: RenderedPicture) =>
        picture.planes(() => {
          const room = spare ?? new Uint8Array(picture.planeBytes);
          spare = undefined;
          return room;
        }),
      (yuv) => yuv.byteLength,
    );
    for (const [index, run] of plan.runs.entries()) {
      const yuv = await pictures.ofRun(index);
      await this.writeRun(yuv, run, keyFrames);
      if (!pictures.keeps(index)) spare = yuv;
      job.onWritten(run.startFrame + run.frames);
    }
  }

  /** One picture in the browser's memory for the whole run: every frame of it is that one with another time. */
  private async writeRun(yuv: Uint8Array, run: RenderPlan['runs'][number], keyFrames: ReadonlySet<number>): Promise<void> {
    const { plan, job } = this;
    const { width, height } = plan.size;
    const format = job.ground === 'none' ? 'I420A' : 'I420';
    const held = new VideoFrame(yuv, { format, codedWidth: width, codedHeight: height, timestamp: 0, colorSpace: BT709 });
    try {
      for (let frame = run.startFrame; frame < run.startFrame + run.frames; frame++) {
        job.stop.throwIfAborted();
        await this.sound?.until(Math.min(plan.frames, frame + SOUND_AHEAD_FRAMES));
        const sample = new VideoSample(held.clone(), {
          timestamp: (frame * plan.rate.den) / plan.rate.num,
          duration: plan.rate.den / plan.rate.num,
        });
        await this.source.add(sample, { keyFrame: keyFrames.has(frame) });
        sample.close();
        await this.written?.room();
      }
    } finally {
      held.close();
    }
  }
}

/** Writes a film with its sound. Removes what it began when it fails or is stopped. */
export async function writeFilm(
  plan: RenderPlan,
  container: Container,
  options: FilmOptions,
  sink: Sink,
  job: OutputJob,
): Promise<WrittenOutput> {
  const encoding = await encodingFor(container, options, plan.size);
  const own = await createOwnFile(`${job.baseName}.${container}`, sink.owner);
  const writer = new FilmWriter(plan, container, options, job, own, encoding);
  try {
    const { file, decoded } = await writer.write();
    return {
      storedAs: own.storedAs,
      file,
      fileBytes: file.size,
      source: { kind: 'file', file, copyAt: null },
      decoded,
      close: async () => undefined,
      discard: own.discard,
    };
  } catch (error) {
    await writer.cancel().catch(() => undefined);
    await own.discard();
    throw error;
  }
}
