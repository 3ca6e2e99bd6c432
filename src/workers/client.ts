import { proxy, type Remote, transfer, wrap } from 'comlink';
import type { PictureFacts } from '@/core/analysis/facts';
import { buffersOf, type FilmLookedAt, packFilm } from '@/core/analysis/packedFilm';
import type { CheckedAgainst } from '@/core/check/check';
import type { Destination } from '@/core/check/destinations';
import type { Finding } from '@/core/check/finding';
import { type Delta, deltaOf, withDelta } from '@/core/delta';
import type { Digest, Project, Size } from '@/core/document/model';
import type { Outcome } from '@/core/outcome';
import type { VideoCodec } from '@/core/output/film';
import type { BenchSettings } from '@/core/outside/editingBench';
import type { Box } from '@/core/raster/bounds';
import type { FillOptions } from '@/core/raster/fill';
import type { Anchor, PlacementMode } from '@/core/raster/placing';
import type { PictureName, PictureStack } from '@/core/render/stacks';
import type {
  CountWorker,
  DeskAcceptance,
  DeskBench,
  DeskBenchFilm,
  DeskCount,
  DeskHeld,
  DroppedFile,
  HoldOrder,
  PlanOrder,
} from '@/workers/count/deskProtocol';
import { hearing } from '@/workers/hearing';
import type { LayerPng } from '@/workers/output/pictures/oraFile';
import type {
  CheckWorker,
  ClipCount,
  ClipEnd,
  ClipFacts,
  ClipWorker,
  DecodedSound,
  FixAnswer,
  FixQuestion,
  FixWorker,
  HandoverOrder,
  InspectWorker,
  KeptPart,
  KeptPicture,
  PictureWorker,
  PreviewOptions,
  PreviewWorker,
  PrintOrder,
  PrintWorker,
  ReadClipFrame,
  SoundWorker,
  TrialEnd,
  TrialProgress,
  TrialWorker,
  TriedPicture,
} from '@/workers/protocol';
import type { Ground } from '@/workers/render/compositor';
import type { Look } from '@/workers/render/looks';

export type { DeskAcceptance, DeskBench, DeskCount, DeskHeld, DroppedFile, HoldOrder, PlanOrder } from '@/workers/count/deskProtocol';
export { awaitHandover, awaitNoHandover, startHandover } from '@/workers/handover';
export { linesOf } from '@/workers/lines';
export {
  heldPicture,
  holdPicture,
  type LocalStore,
  letGoOfPicture,
  localStore,
  STORE_BLOCKED,
  type StoredEntry,
} from '@/workers/localStore';
export { FORMATS } from '@/workers/output/formats/list';
export type { TriedLoop } from '@/workers/output/loop/loopMaker';
export type { Mixing } from '@/workers/output/outputFormat';
export type { LayerPng } from '@/workers/output/pictures/oraFile';
export type {
  ClipFacts,
  FixAnswer,
  HandoverOrder,
  HandoverResult,
  KeptPart,
  KeptPicture,
  ReadClipFrame,
  TrialEnd,
  TriedPicture,
} from '@/workers/protocol';
export { drawLayers } from '@/workers/render/drawLayers';
export { type Look, lookOf } from '@/workers/render/looks';
export { decodedPicture, PictureCache } from '@/workers/render/pictureCache';
export { fetchAtOnce, loadPicturePng, PictureMissing } from '@/workers/render/pictureSource';

/** A worker failed, most often since its program could not be loaded: the next question starts it again. */
export class WorkerFailed extends Error {
  override readonly name = 'WorkerFailed';
}

/** A worker that is started once and again after it failed; `ask` rejects when it fails meanwhile. */
class Helper<Api> {
  private started: { remote: Remote<Api>; failed: Promise<never> } | undefined;

  constructor(private readonly make: () => Worker) {}

  private start(): { remote: Remote<Api>; failed: Promise<never> } {
    const worker = this.make();
    const failed = new Promise<never>((_resolve, reject) => {
      worker.addEventListener('error', (event) => {
        this.started = undefined;
        worker.terminate();
        // Told here, so it is no error of the page's.
        event.preventDefault();
        reject(new WorkerFailed(event.message || 'a part of the program could not be loaded, since the server does not answer'));
      });
    });
    failed.catch(() => undefined);
    return { remote: wrap<Api>(worker), failed };
  }

  /** Loads it before it is needed: a server that stops later can't keep work from being done then. */
  warm(): void {
    this.started ??= this.start();
  }

  /** Tells it something, if it is there to hear it. */
  tell(what: (remote: Remote<Api>) => Promise<void>): void {
    if (this.started) void what(this.started.remote);
  }

  ask<T>(question: (remote: Remote<Api>) => Promise<T>): Promise<T> {
    this.started ??= this.start();
    const { remote, failed } = this.started;
    return Promise.race([question(remote), failed]);
  }
}

const previewHelper = new Helper<PreviewWorker>(
  () => new Worker(new URL('./render/preview.worker.ts', import.meta.url), { type: 'module' }),
);
const inspectHelper = new Helper<InspectWorker>(
  () => new Worker(new URL('./inspect/inspect.worker.ts', import.meta.url), { type: 'module' }),
);
const checkHelper = new Helper<CheckWorker>(() => new Worker(new URL('./inspect/check.worker.ts', import.meta.url), { type: 'module' }));
const fixHelper = new Helper<FixWorker>(() => new Worker(new URL('./inspect/fixAll.worker.ts', import.meta.url), { type: 'module' }));
const pictureHelper = new Helper<PictureWorker>(
  () => new Worker(new URL('./ingest/picture.worker.ts', import.meta.url), { type: 'module' }),
);

/** Loads the worker that shows pictures, before a stage is there to show any. */
export const warmPreview = (): void => previewHelper.warm();

/** Loads the other workers that drawing and looking need, before they are needed. */
export function warmWorkers(): void {
  pictureHelper.warm();
  inspectHelper.warm();
  checkHelper.warm();
}

/** How long looking at clips waits once a picture was wanted, now or while playing: whoever goes over a film wants the next soon after. */
const HELD_MILLISECONDS = 2000;

/** A stack composited in the preview worker; looking at clips waits meanwhile. */
export function compositePreview(size: Size, stack: PictureStack, ground: Ground, laid: PreviewOptions): Promise<ImageBitmap> {
  inspectHelper.tell((remote) => remote.hold(HELD_MILLISECONDS));
  return previewHelper.ask((remote) => remote.composite(size, stack, ground, laid) as Promise<ImageBitmap>);
}

/** A frame of a clip by its name, decoded off the page's thread, no wider than told. */
export const clipFrame = (name: PictureName, mostWidthPx: number): Promise<ImageBitmap> =>
  previewHelper.ask((remote) => remote.clipFrame(name, mostWidthPx) as Promise<ImageBitmap>);

/** A picture as it is shown, made off the page's thread. */
export const shownPicture = (look: Look): Promise<ImageBitmap> => previewHelper.ask((remote) => remote.look(look) as Promise<ImageBitmap>);

/**
 * Looks at the pictures of a film off the page's thread; null when `stopInspecting` came first. Where it has clips, `onDrawings` is
 * given what its drawings tell before.
 */
export const inspectFilm = (
  film: FilmLookedAt,
  onProgress: (done: number, all: number) => void,
  onDrawings: (facts: PictureFacts) => void,
): Promise<PictureFacts | null> => {
  const packed = packFilm(film);
  const sent = transfer(packed, [...buffersOf(packed)]);
  return hearing((heard) =>
    inspectHelper.ask((remote) => remote.inspect(sent, heard(onProgress), heard(onDrawings)) as Promise<PictureFacts | null>),
  );
};

/** What the checking worker holds, and what it found then. */
let checked: {
  readonly of: { readonly project: Project; readonly against: CheckedAgainst } | null;
  readonly findings: readonly Finding[];
} = {
  of: null,
  findings: [],
};

/** A long film is told in parts of so many shots: in one message it would hold the page up, and take its memory several times over. */
const SHOTS_AT_ONCE = 50;

/** Has the checking worker hold all shots of a film but the last few, where it holds another film or many less of this one. */
async function tellShots(project: Project, against: CheckedAgainst): Promise<void> {
  const held = checked.of?.project.id === project.id ? checked.of.project.shots.length : 0;
  for (let shots = held + SHOTS_AT_ONCE; shots < project.shots.length; shots += SHOTS_AT_ONCE) {
    const of = { project: { ...project, shots: project.shots.slice(0, shots) }, against };
    await checkHelper.ask((remote) => remote.take(deltaOf(checked.of, of)));
    checked = { of, findings: checked.findings };
  }
}

/** Checks a film off the page's thread, one after another: what has changed since the last time is all that goes there and back. */
export async function checkFilm(project: Project, against: CheckedAgainst): Promise<readonly Finding[]> {
  const of = { project, against };
  try {
    await tellShots(project, against);
    const changed = await checkHelper.ask((remote) => remote.check(deltaOf(checked.of, of)) as Promise<Delta>);
    checked = { of, findings: withDelta(checked.findings, changed) as readonly Finding[] };
    return checked.findings;
  } catch (error) {
    // One that is started again holds nothing.
    checked = { of: null, findings: [] };
    throw error;
  }
}

/** Stops whatever of a film is being looked at; what was seen is remembered. */
export const stopInspecting = (): Promise<void> => inspectHelper.ask((remote) => remote.stop());

/** Has the preview worker give back the memory of its pictures. */
export const letGoOfCompositing = (): Promise<void> => previewHelper.ask((remote) => remote.letGo());

/** What a drawing's pixels are kept as, worked out off the page's thread; null for an empty page. They are held there with `holds`, for parts that come. */
export const keepPixels = (width: number, height: number, rgba: Uint8ClampedArray, holds: boolean): Promise<KeptPicture | null> =>
  pictureHelper.ask((remote) => remote.keep(width, height, transfer(rgba, [rgba.buffer]), holds) as Promise<KeptPicture | null>);

/** The same of the picture `base`, null for an empty page, with other pixels in a box of it; they are taken over. */
export const keepPart = (base: Digest | null, size: Size, box: Box, rgba: Uint8ClampedArray): Promise<KeptPart> =>
  pictureHelper.ask((remote) => remote.keepPart(base, size, box, transfer(rgba, [rgba.buffer])) as Promise<KeptPart>);

/** The pixels an area fill reaches, found off the page's thread; the picture's pixels are taken over. */
export const fillArea = (size: Size, rgba: Uint8ClampedArray, x: number, y: number, options: FillOptions): Promise<Uint8Array> =>
  pictureHelper.ask((remote) => remote.fillArea(size, transfer(rgba, [rgba.buffer]), x, y, options) as Promise<Uint8Array>);

/** A stored picture laid on another size, worked out off the page's thread; null when nothing is left on it. */
export const layPictureAnew = (digest: Digest, size: Size, laying: PlacementMode, anchor: Anchor): Promise<KeptPicture | null> =>
  pictureHelper.ask((remote) => remote.layAnew(digest, size, laying, anchor) as Promise<KeptPicture | null>);

/** A recording that could be decoded. */
export type DecodedRecording = Extract<DecodedSound, { kind: 'decoded' }>;

/** A clip that is being read: how it ends, and how to stop it. */
export type RunningClip = { readonly end: Promise<ClipEnd>; readonly stop: () => void };

/** Reads a clip's frames in a worker of its own, which ends with it. */
export function readClip(
  file: File,
  size: Size,
  onFacts: (facts: ClipFacts) => void,
  onFrames: (frames: readonly ReadClipFrame[]) => Promise<void>,
): RunningClip {
  const worker = new Worker(new URL('./ingest/clip.worker.ts', import.meta.url), { type: 'module' });
  const remote = wrap<ClipWorker>(worker);
  const failed = new Promise<ClipEnd>((_resolve, reject) => {
    worker.addEventListener('error', (event) => reject(new Error(event.message || 'The clip could not be read.')));
  });
  const end = Promise.race([remote.read(file, size, proxy(onFacts), proxy(onFrames)), failed]).finally(() => worker.terminate());
  return {
    end,
    stop: () => {
      void remote.stop();
    },
  };
}

/** Counts a clip in a worker of its own, which ends with it. */
export function countClip(file: File, onProgress: (part: number) => void, stop: AbortSignal): Promise<ClipCount> {
  const worker = new Worker(new URL('./ingest/clip.worker.ts', import.meta.url), { type: 'module' });
  const remote = wrap<ClipWorker>(worker);
  const ended = new Promise<never>((_resolve, reject) => {
    worker.addEventListener('error', (event) => reject(new Error(event.message || 'The clip could not be read.')));
    stop.addEventListener('abort', () => reject(new DOMException('Stopped.', 'AbortError')));
  });
  return hearing((heard) => Promise.race([remote.count(file, heard(onProgress)) as Promise<ClipCount>, ended])).finally(() =>
    worker.terminate(),
  );
}

/** Decodes a recording in a worker of its own, which ends with it; rejects when it is stopped. */
export function decodeRecording(file: Blob, onProgress: (part: number) => void, stop: AbortSignal): Promise<DecodedSound> {
  const worker = new Worker(new URL('./ingest/sound.worker.ts', import.meta.url), { type: 'module' });
  const remote = wrap<SoundWorker>(worker);
  const ended = new Promise<never>((_resolve, reject) => {
    worker.addEventListener('error', (event) => reject(new Error(event.message || 'The recording could not be read.')));
    stop.addEventListener('abort', () => reject(new DOMException('Stopped.', 'AbortError')));
  });
  return hearing((heard) => Promise.race([remote.decode(file, heard(onProgress)) as Promise<DecodedSound>, ended])).finally(() =>
    worker.terminate(),
  );
}

/** Prints a sheet or drawings in a worker of its own, which ends with it; rejects when it is stopped, or when the server doesn't answer. */
export function print(order: PrintOrder, onProgress: (part: number) => void, stop: AbortSignal): Promise<Blob> {
  const worker = new Worker(new URL('./output/print/print.worker.ts', import.meta.url), { type: 'module' });
  const remote = wrap<PrintWorker>(worker);
  const ended = new Promise<never>((_resolve, reject) => {
    worker.addEventListener('error', (event) => {
      event.preventDefault();
      reject(new WorkerFailed(event.message || 'a part of the program could not be loaded, since the server does not answer'));
    });
    stop.addEventListener('abort', () => reject(new DOMException('Stopped.', 'AbortError')));
  });
  return hearing((heard) => Promise.race([remote.print(order, heard(onProgress)) as Promise<Blob>, ended])).finally(() =>
    worker.terminate(),
  );
}

/** The codecs this browser can write films of a size in. */
export async function writableCodecs(size: Size): Promise<ReadonlySet<VideoCodec>> {
  const { writableAt } = await import('@/workers/output/film/filmCodec');
  return writableAt(size);
}

/** Works out what fixing all findings of a kind comes to, apart from the page. */
export const fixFindings = (question: FixQuestion): Promise<Outcome<FixAnswer>> =>
  fixHelper.ask((remote) => remote.fix(question) as Promise<Outcome<FixAnswer>>);

/** A loop that is tried in a worker of its own, which ends when it is closed. */
export type RunningTrial = {
  readonly end: Promise<TrialEnd>;
  readonly picture: (place: number) => Promise<TriedPicture>;
  readonly close: () => void;
};

/** Makes a loop to see how large it is and what it looks like; nothing is saved. */
export function tryLoop(order: HandoverOrder, onProgress: TrialProgress): RunningTrial {
  const worker = new Worker(new URL('./output/loop/trial.worker.ts', import.meta.url), { type: 'module' });
  const remote = wrap<TrialWorker>(worker);
  const failed = new Promise<never>((_resolve, reject) => {
    worker.addEventListener('error', (event) => reject(new Error(event.message || 'The loop could not be tried.')));
  });
  failed.catch(() => undefined);
  return {
    end: hearing((heard) => Promise.race([remote.make(order, heard(onProgress)) as Promise<TrialEnd>, failed])),
    picture: (place) => Promise.race([remote.picture(place) as Promise<TriedPicture>, failed]),
    close: () => worker.terminate(),
  };
}

/** A layered picture as OpenRaster; see `oraFile`. */
export async function layeredFile(size: Size, layers: readonly LayerPng[], merged: Uint8Array, thumbnail: Uint8Array): Promise<Blob> {
  const { oraFile } = await import('@/workers/output/pictures/oraFile');
  return oraFile(size, layers, merged, thumbnail);
}

const deskHelper = new Helper<CountWorker>(() => new Worker(new URL('./count/count.worker.ts', import.meta.url), { type: 'module' }));

/** The counting desk, off the page's thread: what is laid on it, counted and held against each other. */
export const countingDesk = {
  put: (dropped: readonly DroppedFile[]) =>
    deskHelper.ask((remote) => remote.put(dropped) as Promise<readonly { readonly id: string; readonly name: string }[]>),
  count: (id: string, onFrame: (frames: number, all: number | null) => void) =>
    hearing((heard) => deskHelper.ask((remote) => remote.count(id, heard(onFrame)) as Promise<DeskCount>)),
  stop: (id: string) => deskHelper.ask((remote) => remote.stop(id)),
  remove: (id: string) => deskHelper.ask((remote) => remote.remove(id)),
  plan: (key: string, order: PlanOrder, onFrame: (frames: number) => void) =>
    hearing((heard) => deskHelper.ask((remote) => remote.plan(key, order, heard(onFrame)))),
  stopPlan: () => deskHelper.ask((remote) => remote.stopPlan()),
  hold: (id: string, order: HoldOrder, onFrame: (frames: number) => void) =>
    hearing((heard) => deskHelper.ask((remote) => remote.hold(id, order, heard(onFrame)) as Promise<DeskHeld | null>)),
  accept: (id: string, destinations: readonly Destination[]) =>
    deskHelper.ask((remote) => remote.accept(id, destinations) as Promise<DeskAcceptance | null>),
  bench: (id: string, settings: BenchSettings, against: HoldOrder | null, onFrame: (frames: number, all: number) => void) =>
    hearing((heard) => deskHelper.ask((remote) => remote.bench(id, settings, against, heard(onFrame)) as Promise<DeskBench | null>)),
  benchFilm: (id: string, settings: BenchSettings, onFrame: (frames: number, all: number) => void) =>
    hearing((heard) => deskHelper.ask((remote) => remote.benchFilm(id, settings, heard(onFrame)) as Promise<DeskBenchFilm>)),
  stopBench: (id: string) => deskHelper.ask((remote) => remote.stopBench(id)),
  picture: (id: string, frame: number, mostWidthPx: number) =>
    deskHelper.ask((remote) => remote.picture(id, frame, mostWidthPx) as Promise<ImageBitmap | null>),
  pictureOfPlan: (key: string, isDrawingsAlone: boolean, frame: number, mostWidthPx: number) =>
    deskHelper.ask((remote) => remote.pictureOfPlan(key, isDrawingsAlone, frame, mostWidthPx) as Promise<ImageBitmap | null>),
};
