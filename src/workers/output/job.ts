import { countFile } from '@/core/count/fileCount';
import { notCompared, type PictureCount, PictureJudge } from '@/core/count/pictureJudge';
import type { ReadBack, ReadFrame } from '@/core/count/readBack';
import { LoudnessByFrame, wrongSoundFrames } from '@/core/count/soundCount';
import { formatOf, receiptNameOf } from '@/core/output/format';
import type { JobEvent, PhaseBefore } from '@/core/output/jobState';
import { picturesOfLoop } from '@/core/output/loop';
import { digestOfBytes } from '@/core/raster/digest';
import { planText } from '@/core/render/renderPlan';
import { digestOfStream } from '@/workers/output/fileDigest';
import type { TriedLoop } from '@/workers/output/loop/loopMaker';
import { madeOf } from '@/workers/output/loop/triedLoop';
import { MeantNotes } from '@/workers/output/meantPictures';
import {
  type Mixing,
  type OutputFormat,
  type OutputJob,
  OutputRefused,
  type Sink,
  type WrittenOutput,
} from '@/workers/output/outputFormat';
import type { HandoverEnd, HandoverOrder, HandoverResult } from '@/workers/protocol';
import { PictureMissing } from '@/workers/render/pictureSource';
import type { RenderedPicture } from '@/workers/render/renderedPicture';
import { StackPictures } from '@/workers/render/stackPictures';

const REPORT_MILLISECONDS = 200;

/** Reports no more often than eyes follow, but the beginning and the end of each phase: every report costs the page a painting. */
function calm(onEvent: (event: JobEvent) => void): (event: JobEvent) => void {
  let last = { kind: '', time: 0 };
  return (event) => {
    const time = performance.now();
    const isSoon = event.kind === last.kind && time - last.time < REPORT_MILLISECONDS;
    if ('progress' in event && isSoon && event.progress.framesDone < event.progress.frames) return;
    last = { kind: event.kind, time };
    onEvent(event);
  };
}

/** A handover while it is written and counted: the pictures its plan is rendered to, and how far it is. */
export class RunningJob {
  readonly notes: MeantNotes;
  private composited = () => 0;
  /** Holds the frames that are decoded while they are written against those meant. */
  readonly early: PictureJudge;
  earlyFrames = 0;
  /** How loud each frame is that was written; null where no sound was. */
  loudness: Float32Array | null = null;

  constructor(
    private readonly order: HandoverOrder,
    format: OutputFormat,
    private readonly onEvent: (event: JobEvent) => void,
    private readonly stop: AbortSignal,
    private readonly mix: Mixing | null,
    private readonly tried: TriedLoop | null,
  ) {
    this.notes = new MeantNotes(format.compares(order.options, order.ground));
    this.early = new PictureJudge(order.plan, this.notes.meant);
  }

  private readonly takeDecoded = (signature: Uint8Array): void => {
    this.earlyFrames++;
    this.early.take({ name: null, picture: { kind: 'near', signature }, digest: null });
  };

  private before: PhaseBefore | null = null;

  /** Tells how many frames are done in a phase. */
  tell(kind: PhaseBefore | 'writing' | 'counting', framesDone: number): void {
    if (kind === 'sending' || kind === 'looking') this.before = kind;
    const { before } = this;
    this.onEvent({
      kind,
      progress: { framesDone, frames: this.order.plan.frames, composited: this.pictures, ...(before ? { before } : {}) },
    });
  }

  /** How many pictures were rendered. */
  get pictures(): number {
    return this.composited();
  }

  private takeOver({ file, notes, composited }: TriedLoop): Blob {
    for (const [stack, note] of notes.entries()) this.notes.recall(stack, note);
    this.composited = () => composited;
    return file;
  }

  get forWriter(): OutputJob {
    const { plan, baseName, names, lists, ground, options, jobId, wasBegun } = this.order;
    return {
      baseName,
      names,
      lists,
      ground,
      options,
      jobId,
      wasBegun,
      notes: this.notes,
      tried: this.tried && (() => this.takeOver(this.tried as TriedLoop)),
      mix: this.mix,
      onSound: (levels) => {
        this.loudness = levels;
      },
      stop: this.stop,
      onDecoded: this.order.decodeWhileWriting ? this.takeDecoded : null,
      onSent: (framesDone) => this.tell('sending', framesDone),
      onLookedAt: (framesDone) => this.tell('looking', framesDone),
      onWritten: (framesDone) => this.tell('writing', framesDone),
      pictures: (make, bytesOf, notedBy = 'here', makeOfStored) => {
        const note = notedBy === 'here' ? (stack: number, picture: RenderedPicture) => this.notes.take(stack, picture) : undefined;
        const pictures = new StackPictures(plan, ground, make, bytesOf, note, makeOfStored);
        // Who goes over the film twice may render it twice.
        const { composited: before } = this;
        this.composited = () => before() + pictures.rendered;
        return pictures;
      },
    };
  }
}

/** What was found while writing, which says so. */
const whileWriting = (found: PictureCount): PictureCount =>
  found.comparison.kind === 'within' ? { ...found, comparison: { ...found.comparison, whileWriting: true } } : found;

/** Whether a coding keeps every sample. */
const isKept = (codec: string): boolean => codec === 'flac' || codec.startsWith('pcm');

/** Whether the packets of a file are the very ones that were decoded while they were written, in the order they are shown. */
function isDecoded({ decoded }: WrittenOutput, { packetDigests, decoderDigest }: ReadBack, { earlyFrames }: RunningJob): boolean {
  if (!decoded || !packetDigests || decoded.decoderDigest !== decoderDigest) return false;
  const isSame = decoded.packetDigests.length === packetDigests.length && earlyFrames === packetDigests.length;
  return isSame && decoded.packetDigests.every((digest, frame) => digest === packetDigests[frame]);
}

const NO_SIGNATURE = new Uint8Array(0);

/** Frames whose pictures were seen before: they are only counted. */
async function* seenBefore(frames: number): AsyncGenerator<ReadFrame> {
  for (let frame = 0; frame < frames; frame++) yield { name: null, picture: { kind: 'near', signature: NO_SIGNATURE }, digest: null };
}

/** Opens what was written, told where it lies and nothing else, counts it, and holds its pictures against those the plan was rendered to. */
async function count(
  format: OutputFormat,
  { plan, names, options }: HandoverOrder,
  written: WrittenOutput,
  job: RunningJob,
  stop: AbortSignal,
): Promise<Pick<HandoverResult, 'count' | 'frameDigests'>> {
  // A loop holds one picture for each run of frames.
  const judge = new PictureJudge(options.kind === 'loop' ? picturesOfLoop(plan) : plan, job.notes.meant, names);
  let framesDone = 0;
  job.tell('counting', framesDone);
  const opened = await format.readBack(written.source, stop);
  const wasSeen = isDecoded(written, opened, job);
  const readBack = wasSeen ? { ...opened, frames: seenBefore(job.earlyFrames) } : opened;
  const heard = readBack.sound && new LoudnessByFrame(plan.frames, plan.rate, readBack.sound.sampleRate);
  const file = await countFile(
    readBack,
    (frame) => {
      if (!wasSeen) judge.take(frame);
      framesDone++;
      job.tell('counting', Math.min(framesDone, plan.frames - 1));
    },
    (channels, startSample) => heard?.take(channels, startSample),
  );
  job.tell('counting', plan.frames);
  const seen = wasSeen ? whileWriting(job.early.result()) : judge.result();
  const pictures = file.undecoded === null ? seen : notCompared(file.undecoded);
  const sound = file.count.sound && {
    ...file.count.sound,
    wrongFrames:
      heard && job.loudness && file.count.sound.peak !== null
        ? wrongSoundFrames(job.loudness, heard.levels(), isKept(file.count.sound.codec))
        : null,
  };
  return { count: { ...file.count, ...pictures, sound }, frameDigests: file.digests };
}

async function writeAndCount(
  format: OutputFormat,
  order: HandoverOrder,
  sink: Sink,
  onEvent: (event: JobEvent) => void,
  stop: AbortSignal,
  mix: Mixing | null,
  tried: TriedLoop | null,
): Promise<HandoverResult> {
  const { plan, baseName } = order;
  // What was made of something else is not taken.
  const isSame = tried !== null && tried.madeOf === (await madeOf(order));
  const job = new RunningJob(order, format, onEvent, stop, mix, isSame ? tried : null);
  const written = await format.write(plan, sink, job.forWriter);
  try {
    return {
      fileName: receiptNameOf(format, order.options, baseName),
      storedAs: written.storedAs,
      fileBytes: written.fileBytes,
      ...(await count(format, order, written, job, stop)),
      fileDigest: written.file ? await digestOfStream(written.file) : null,
      composited: job.pictures,
      planDigest: await digestOfBytes(planText(plan)),
    };
  } catch (error) {
    await written.discard();
    throw error;
  } finally {
    await written.close();
  }
}

/** What a person is told of a disk or a folder that fails in the middle; null for what is neither's. */
function diskReason({ name }: DOMException, folder: FileSystemDirectoryHandle | null): string | null {
  if (name === 'QuotaExceededError')
    return 'There is no room left on this disk for the file. Nothing was left behind; make room and hand over again.';
  if (!folder) return null;
  if (name === 'NotFoundError')
    return `The folder ${folder.name} is gone: it was taken away while it was written to. Choose another one and hand over again.`;
  if (name === 'NotAllowedError' || name === 'NoModificationAllowedError')
    return `The folder ${folder.name} can’t be written to. Nothing was left in it; choose another one, or hand over a ZIP.`;
  return null;
}

/** Writes what the order asks for in one of the formats, opens it again and counts it. A stop or a failure leaves no half-written file. */
export async function runJob(
  order: HandoverOrder,
  formats: readonly OutputFormat[],
  folder: FileSystemDirectoryHandle | null,
  onEvent: (event: JobEvent) => void,
  stop: AbortSignal,
  mix: Mixing | null = null,
  tried: TriedLoop | null = null,
): Promise<HandoverEnd> {
  const format = formatOf(formats, order.formatId);
  if (!format) return { kind: 'refused', reason: `There is no format “${order.formatId}” here: choose another one.` };
  const refusal = format.refuse(order.plan);
  if (!refusal.ok) return { kind: 'refused', reason: refusal.reason };
  try {
    const sink = { owner: order.owner, folder };
    return { kind: 'written', result: await writeAndCount(format, order, sink, calm(onEvent), stop, mix, tried) };
  } catch (error) {
    if (stop.aborted) return { kind: 'stopped' };
    if (error instanceof PictureMissing || error instanceof OutputRefused) return { kind: 'refused', reason: error.message };
    const reason = error instanceof DOMException ? diskReason(error, folder) : null;
    if (reason === null) throw error;
    return { kind: 'refused', reason };
  }
}
