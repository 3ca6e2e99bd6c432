import { LoudnessByFrame } from '@/core/count/soundCount';
import { sampleOfFrame } from '@/core/document/sound';
import { type Container, type FilmOptions, isOutside } from '@/core/output/film';
import type { OutsideOrder } from '@/core/output/outsideFilm';
import { startPictureOptions } from '@/core/output/pictures';
import { MIX_RATE } from '@/core/reel/mix';
import type { RenderPlan } from '@/core/render/renderPlan';
import { OutsideFilm, OutsideRefused } from '@/workers/output/film/outsideCalls';
import { type OutputJob, OutputRefused, type Sink, type WrittenOutput } from '@/workers/output/outputFormat';
import { createOwnFile } from '@/workers/output/ownFile';
import { packStored, packTaken, takePicture } from '@/workers/output/pictures/packPicture';

const CHANNELS = 2;
/** Frames whose sound is mixed and sent at once. */
const FRAMES_AT_ONCE = 240;
/** Pictures on their way to the server at a time. */
const MOST_ON_THEIR_WAY = 3;

function orderOf(plan: RenderPlan, container: Container, options: FilmOptions, job: OutputJob): OutsideOrder {
  const { video, sound } = options;
  if (!isOutside(video) || (container !== 'mov' && container !== 'mkv')) throw new Error('This film is not for the outside encoder.');
  if (job.mix && sound !== 'pcm' && sound !== 'flac') throw new Error('The outside encoder is asked for kept sounds only.');
  return {
    container,
    codec: video,
    depth: options.depth,
    quality: options.quality.by === 'scale' ? options.quality.quality : 'finest',
    transparency: job.ground === 'none',
    width: plan.size.width,
    height: plan.size.height,
    rate: plan.rate,
    frames: plan.frames,
    sound: job.mix
      ? {
          codec: sound === 'flac' ? 'flac' : 'pcm',
          sampleRate: MIX_RATE,
          channels: CHANNELS,
          samples: sampleOfFrame(plan.frames, plan.rate, MIX_RATE),
        }
      : null,
    title: options.title,
    language: options.language,
    timecode: options.timecode,
  };
}

/** Sends each distinct picture once, however long and often it is held. */
async function sendPictures(plan: RenderPlan, film: OutsideFilm, job: OutputJob): Promise<void> {
  const options = startPictureOptions('png');
  const pictures = job.pictures(
    async (picture) => (await packTaken(await takePicture('png', options, picture))).bytes,
    (png) => png.byteLength,
    'here',
    // A drawing that is all of a picture leaves with its own colours, as it does as a picture file.
    async (png, stack) => {
      const order = { kind: 'png', options, size: plan.size, comparing: null, png } as const;
      return (await packStored(order, (rgba) => job.notes.takeClear(stack, plan.size, rgba))).bytes;
    },
  );
  const sent = new Set<number>();
  const onTheirWay = new Set<Promise<void>>();
  const failures: unknown[] = [];
  const throwFailure = () => {
    if (failures.length > 0) throw failures[0];
  };
  for (const [index, run] of plan.runs.entries()) {
    job.stop.throwIfAborted();
    throwFailure();
    const png = await pictures.ofRun(index);
    if (!sent.has(run.stack)) {
      sent.add(run.stack);
      const sending: Promise<void> = film
        .sendPicture(run.stack, png)
        .catch((error: unknown) => void failures.push(error))
        .finally(() => onTheirWay.delete(sending));
      onTheirWay.add(sending);
      if (onTheirWay.size >= MOST_ON_THEIR_WAY) await Promise.race(onTheirWay);
    }
    job.onSent(run.startFrame + run.frames);
  }
  await Promise.all(onTheirWay);
  throwFailure();
}

/** The samples of some channels, one of each after another, as 32-bit floats of the least byte first. */
function interleaved(channels: readonly Float32Array[]): Uint8Array {
  const samples = channels[0]?.length ?? 0;
  const view = new DataView(new ArrayBuffer(samples * channels.length * 4));
  for (let sample = 0, at = 0; sample < samples; sample++)
    for (const channel of channels) {
      view.setFloat32(at, channel[sample] as number, true);
      at += 4;
    }
  return new Uint8Array(view.buffer);
}

async function sendSound(plan: RenderPlan, film: OutsideFilm, job: OutputJob): Promise<void> {
  if (!job.mix) return;
  const loudness = new LoudnessByFrame(plan.frames, plan.rate, MIX_RATE);
  for (let frame = 0; frame < plan.frames; frame += FRAMES_AT_ONCE) {
    job.stop.throwIfAborted();
    const channels = await job.mix(frame, Math.min(plan.frames, frame + FRAMES_AT_ONCE) - 1);
    const start = sampleOfFrame(frame, plan.rate, MIX_RATE);
    loudness.take(channels, start);
    await film.sendSound(start, interleaved(channels));
  }
  job.onSound(loudness.levels());
}

/** Brings the film over into the browser's own folder. */
async function bringOver(
  name: string,
  film: OutsideFilm,
  sink: Sink,
): Promise<{ file: File; storedAs: string; discard: () => Promise<void> }> {
  const own = await createOwnFile(name, sink.owner);
  try {
    let position = 0;
    const reader = (await film.file()).getReader();
    for (;;) {
      const { done, value } = await reader.read();
      if (done) break;
      own.write(position, value);
      position += value.byteLength;
    }
    return { file: await own.finish(), storedAs: own.storedAs, discard: own.discard };
  } catch (error) {
    await own.discard();
    throw error;
  }
}

/** Has a film written by the outside encoder on the server, and brought over. Removes what it began when it fails or is stopped. */
export async function writeOutside(
  plan: RenderPlan,
  container: Container,
  options: FilmOptions,
  sink: Sink,
  job: OutputJob,
): Promise<WrittenOutput> {
  let film: OutsideFilm | null = null;
  try {
    film = await OutsideFilm.begin(orderOf(plan, container, options, job), job.stop);
    await sendPictures(plan, film, job);
    await sendSound(plan, film, job);
    const runs = plan.runs.map(({ stack, frames }) => ({ picture: stack, frames }));
    await film.encode(runs, job.onWritten);
    const { file, storedAs, discard } = await bringOver(`${job.baseName}.${container}`, film, sink);
    const { address, letGo } = { address: film.address, letGo: film.letGo.bind(film) };
    return { storedAs, file, fileBytes: file.size, source: { kind: 'file', file, copyAt: address }, decoded: null, close: letGo, discard };
  } catch (error) {
    await film?.letGo();
    if (error instanceof OutsideRefused) throw new OutputRefused(error.message);
    throw error;
  }
}
