import { z } from 'zod';
import type { PictureFacts } from '@/core/analysis/facts';
import type { PackedFilm } from '@/core/analysis/packedFilm';
import type { CheckedAgainst } from '@/core/check/check';
import { FINDING_KINDS, type FindingKind } from '@/core/check/finding';
import type { FrameDigests } from '@/core/count/frameDigests';
import type { HandoverCount } from '@/core/count/verdict';
import type { Delta } from '@/core/delta';
import { BLEND_MODES } from '@/core/document/blendModes';
import type { Clip } from '@/core/document/clip';
import type { Finish } from '@/core/document/finish';
import type { Digest, Project, Shot, Size } from '@/core/document/model';
import type { Step } from '@/core/edit/step';
import type { PrintedSounds } from '@/core/format/pdf/printedSounds';
import type { PrintChoices } from '@/core/format/pdf/sheetPdf';
import type { Outcome } from '@/core/outcome';
import type { FormatOptions } from '@/core/output/format';
import type { JobEvent } from '@/core/output/jobState';
import type { Box } from '@/core/raster/bounds';
import type { FillOptions } from '@/core/raster/fill';
import type { Anchor, PlacementMode } from '@/core/raster/placing';
import type { RenderPlan } from '@/core/render/renderPlan';
import type { PictureName, PictureStack, StackLayer } from '@/core/render/stacks';
import type { ChangedColumn } from '@/core/sheet/changes';
import type { LoopPart, LoopPicture, LoopWork, TriedLoop } from '@/workers/output/loop/loopMaker';
import type { Mixing } from '@/workers/output/outputFormat';
import type { OpenedPicture } from '@/workers/output/pictures/openPicture';
import type { PackedPicture, StoredOrder, TakenPicture } from '@/workers/output/pictures/packPicture';
import type { Ground } from '@/workers/render/compositor';
import type { Look } from '@/workers/render/looks';

/** Layers of a stack as they reach a worker. */
const stackLayersSchema: z.ZodType<readonly StackLayer[]> = z
  .array(
    z.object({
      picture: z.string().regex(/^([0-9a-f]{64}|clip:[0-9a-f]{64}:\d+:-?\d+)$/),
      opacityPercent: z.number().min(0).max(100),
      blend: z.enum(BLEND_MODES).optional(),
    }),
  )
  .readonly();

/** A stack as it reaches a worker. */
export const stackSchema: z.ZodType<PictureStack> = z.object({ key: z.string(), layers: stackLayersSchema, finished: z.boolean() });

/** A finish as it reaches a worker. It comes from the page's own document, which was checked when it was read. */
const finishSchema = z.custom<Finish>((value) => Array.isArray(value));

const rate = z.object({ num: z.number().int().positive(), den: z.number().int().positive() });
const sizeSchema = z.object({ width: z.number().int().positive(), height: z.number().int().positive() });
const runSchema = z.object({ stack: z.number().int(), startFrame: z.number().int(), frames: z.number().int().positive() });
const planSchema: z.ZodType<RenderPlan> = z.object({
  rate,
  size: sizeSchema,
  frames: z.number().int().positive(),
  firstNumber: z.number().int(),
  stacks: z.array(stackSchema),
  runs: z.array(runSchema),
  finish: finishSchema,
  composedSize: sizeSchema.optional(),
});

const placesSchema = z.instanceof(Uint32Array);

/** What is to be looked at as it reaches a worker. */
export const packedFilmSchema: z.ZodType<PackedFilm> = z.object({
  size: sizeSchema,
  names: z.array(z.string()),
  levels: placesSchema,
  levelEnds: placesSchema,
  plan: z
    .object({
      rate,
      layers: placesSchema,
      stacks: placesSchema,
      stackEnds: placesSchema,
      finished: z.instanceof(Uint8Array),
      runs: placesSchema,
    })
    .nullable(),
});

export type InspectWorker = {
  /**
   * Looks at the pictures of a film; null when it was stopped, which a later call does not undo. Where it has clips, `onDrawings` is
   * given what its drawings tell before frames are decoded, which takes long.
   */
  inspect(
    film: PackedFilm,
    onProgress: (done: number, all: number) => void,
    onDrawings: (facts: PictureFacts) => void,
  ): Promise<PictureFacts | null>;
  /** Has looking at frames of clips wait for some time, in milliseconds from now. */
  hold(milliseconds: number): void;
  /** Stops whatever is being looked at. */
  stop(): void;
};

/** What is to be fixed, how, in which document, held against what. It comes from the page's own document, which was checked when it was read. */
export const fixQuestionSchema = z.object({
  project: z.custom<Project>((value) => typeof value === 'object' && value !== null),
  kind: z.custom<FindingKind>((value) => typeof value === 'string' && Object.hasOwn(FINDING_KINDS, value)),
  way: z.string(),
  against: z.custom<CheckedAgainst>((value) => typeof value === 'object' && value !== null),
});
export type FixQuestion = z.infer<typeof fixQuestionSchema>;

/** What fixing comes to: the one step, what each fix says, how many can't be fixed, and columns before and after. */
export type FixAnswer = {
  readonly step: Step;
  readonly says: readonly string[];
  readonly left: number;
  readonly changes: readonly (ChangedColumn & { readonly code: string })[];
};

export type FixWorker = { fix(question: FixQuestion): Promise<Outcome<FixAnswer>> };

/** Checks a film, told what has changed since it was checked last, and tells what has changed among the findings; both of nothing at first. */
export type CheckWorker = {
  check(delta: Delta): Promise<Delta>;
  /** Takes a change that is part of a larger one; nothing is checked yet. */
  take(delta: Delta): Promise<void>;
};

/** A recording decoded: every channel's samples from -1 to 1, and how loud it is along its length (see `@/core/sound/peaks`); or why it can't be. */
export type DecodedSound =
  | {
      readonly kind: 'decoded';
      readonly sampleRate: number;
      readonly samples: number;
      readonly channels: readonly Float32Array<ArrayBuffer>[];
      readonly peaks: Uint8Array<ArrayBuffer>;
    }
  | { readonly kind: 'refused'; readonly reason: string };

const custom = <T>() => z.custom<T>((value) => typeof value === 'object' && value !== null);

/** What is printed of a shot. It comes from the page's own document, which was checked when it was read. */
export const printOrderSchema = z.object({
  project: custom<Project>(),
  shot: custom<Shot>(),
  what: z.discriminatedUnion('kind', [
    z.object({ kind: z.literal('sheet'), choices: custom<PrintChoices>(), heard: custom<PrintedSounds>() }),
    z.object({ kind: z.literal('contactPdf'), paper: z.enum(['a4', 'letter']) }),
    z.object({ kind: z.literal('contactPng') }),
  ]),
});
export type PrintOrder = z.infer<typeof printOrderSchema>;

export type PrintWorker = {
  /** Prints; `onProgress` is told how much is done, from 0 to 1. Rejects when the server doesn't answer. */
  print(order: PrintOrder, onProgress: (part: number) => void): Promise<Blob>;
};

export type SoundWorker = {
  /** Decodes a recording; `onProgress` is told how much is done, from 0 to 1. */
  decode(file: Blob, onProgress: (part: number) => void): Promise<DecodedSound>;
};

/** What is asked of a format. It comes from the page's own recipe, which was checked where it was read. */
const formatOptions = z.custom<FormatOptions>((value) => typeof value === 'object' && value !== null && 'kind' in value);

/** A handover as it reaches its worker: the plan, what to write and where. */
export const handoverOrderSchema = z.object({
  plan: planSchema,
  formatId: z.string().min(1),
  /** The name of the file, or of the ZIP that holds the files, without its extension. */
  baseName: z.string().min(1),
  names: z.array(z.string().min(1)),
  lists: z.array(z.object({ name: z.string().min(1), text: z.string() })),
  ground: z.enum(['paper', 'none']),
  options: formatOptions,
  /** The job in its queue: what is finished of it is kept under that name until it is over. */
  jobId: z.string().regex(/^[\w-]+$/),
  /** Whether it was being made before, by a page that was left. */
  wasBegun: z.boolean(),
  /** Whether a film is decoded while it is written, and not once it is: that is quicker where there is a core to spare. */
  decodeWhileWriting: z.boolean(),
  /** The window that hands over: its files in the browser's private folder bear its name. */
  owner: z.string().regex(/^[\w-]+$/),
});
export type HandoverOrder = z.infer<typeof handoverOrderSchema>;

/** What a handover wrote and what was counted in it. `storedAs` is the file in the browser's own folder; null for a folder of the person's. */
export type HandoverResult = {
  readonly fileName: string;
  readonly storedAs: string | null;
  readonly fileBytes: number;
  readonly fileDigest: string | null;
  readonly composited: number;
  readonly planDigest: string;
  readonly count: HandoverCount;
  readonly frameDigests: FrameDigests | null;
};

/** A handover's end: a result, a stop that left nothing behind, or a refusal in a sentence. */
export type HandoverEnd =
  | { readonly kind: 'written'; readonly result: HandoverResult }
  | { readonly kind: 'stopped' }
  | { readonly kind: 'refused'; readonly reason: string };

/**
 * How a preview is laid: its sides divided by `shrink`, with the effects of a finish over it. What is made ready `ahead` makes way for
 * what is waited for. Decoded pictures take no more than `picturesBytes` from then on, where that is told.
 */
export type PreviewOptions = { readonly shrink: number; readonly finish: Finish; readonly ahead: boolean; readonly picturesBytes?: number };

export type PreviewWorker = {
  /** The stack as a bitmap of the given size, as told. Rejects when a picture is missing. */
  composite(size: Size, stack: PictureStack, ground: Ground, laid: PreviewOptions): Promise<ImageBitmap>;
  /** A frame of a clip by its name, in its own shape and no wider than told. Rejects when it is missing. */
  clipFrame(name: PictureName, mostWidthPx: number): Promise<ImageBitmap>;
  /** A picture as it is shown. Rejects when it is missing. */
  look(look: Look): Promise<ImageBitmap>;
  /** Gives back the memory of pictures it holds, once it has done what it was asked before. */
  letGo(): Promise<void>;
};

/** What a drawing's pixels are kept as. */
export type KeptPicture = { readonly digest: Digest; readonly png: Uint8Array };

/** What became of a picture that a part was laid into: nothing where the worker doesn't hold its pixels. */
export type KeptPart = { readonly isHeld: false } | { readonly isHeld: true; readonly picture: KeptPicture | null };

export type PictureWorker = {
  /**
   * The digest and PNG of pixels (RGBA, straight alpha; taken over by the worker); null when nothing is on them. With `holds` they are
   * held for a while, for parts that come.
   */
  keep(width: number, height: number, rgba: Uint8ClampedArray, holds?: boolean): Promise<KeptPicture | null>;
  /** The same of the picture `base` (null for an empty page) with other pixels in a box of it; they are held as well. */
  keepPart(base: Digest | null, size: Size, box: Box, rgba: Uint8ClampedArray): Promise<KeptPart>;
  /** The pixels an area fill reaches: 1 where colour comes. */
  fillArea(size: Size, rgba: Uint8ClampedArray, x: number, y: number, options: FillOptions): Promise<Uint8Array>;
  /** A stored picture laid on another size; null when nothing is left on it. Rejects when it is missing. */
  layAnew(digest: Digest, size: Size, laying: PlacementMode, anchor: Anchor): Promise<KeptPicture | null>;
};

/** A frame of a clip as it was read: when it starts, and its picture when it is not the one before again. */
export type ReadClipFrame = {
  readonly startMicroseconds: number;
  readonly picture: KeptPicture | null;
};

/** What is known of a clip before its frames are read. */
export type ClipFacts = { readonly frames: number; readonly width: number; readonly height: number };

/** A clip's end: when its last frame ends, a stop, or a refusal in a sentence. */
export type ClipEnd =
  | { readonly kind: 'read'; readonly endMicroseconds: number }
  | { readonly kind: 'stopped' }
  | { readonly kind: 'refused'; readonly reason: string };

/** What was counted in a clip, or why it can't be brought in, in a sentence. */
export type ClipCount =
  | {
      readonly kind: 'counted';
      readonly clip: Omit<Clip, 'original' | 'fileName'>;
      /** How many frames the file says it has, where it stops decoding before. */
      readonly framesSaid: number;
      /** How long its sound lasts; null when it has none. */
      readonly soundMicroseconds: number | null;
    }
  | { readonly kind: 'stopped' }
  | { readonly kind: 'refused'; readonly reason: string };

export type ClipWorker = {
  /** Counts a clip's frames and times, and tries whether it decodes; `onProgress` is told how much is done, from 0 to 1. */
  count(file: File, onProgress: (part: number) => void): Promise<ClipCount>;
  /** Reads a clip's frames in order, each laid on a size to fit; `onFrames` is awaited, so that no more is read than is taken. */
  read(
    file: File,
    size: Size,
    onFacts: (facts: ClipFacts) => void,
    onFrames: (frames: readonly ReadClipFrame[]) => Promise<void>,
  ): Promise<ClipEnd>;
  stop(): void;
};

export type HandoverWorker = {
  /** Loads what a format needs, before it is asked for. */
  load(formatId: string): Promise<void>;
  /** Gives it the way to a `PictureFileWorker`, which answers there once it is loaded. */
  addHelper(port: MessagePort): void;
  /** Writes and counts. `mix` is asked for the sound, part by part, and is null where nothing is heard; `tried` is a loop that was made of the same before. */
  run(
    order: HandoverOrder,
    folder: FileSystemDirectoryHandle | null,
    onEvent: (event: JobEvent) => void,
    mix: Mixing | null,
    tried: TriedLoop | null,
  ): Promise<HandoverEnd>;
  stop(): void;
};

/** Packs pictures, and opens them again, beside the worker that renders and counts them. */
export type PictureFileWorker = {
  /** Also answers whoever is at the other end of a port. */
  readonly serve: (port: MessagePort) => void;
  /** Answers once it is loaded. */
  readonly isReady: () => boolean;
  /** A picture as a file, with the room its pixels were in, or why this browser can't write one. */
  readonly pack: (
    taken: TakenPicture,
  ) => Promise<
    | { readonly kind: 'packed'; readonly picture: PackedPicture; readonly room: Uint8Array }
    | { readonly kind: 'refused'; readonly reason: string }
  >;
  /** A stored picture alone as a file, or why this browser can't write one. */
  readonly packStored: (
    order: StoredOrder,
  ) => Promise<{ readonly kind: 'packed'; readonly picture: PackedPicture } | { readonly kind: 'refused'; readonly reason: string }>;
  /** Begins a loop, whose pictures it is to make. */
  readonly beginLoop: (work: LoopWork) => void;
  /** What the loop stores of a picture; they are made in the order they are given. Rejects where no loop is begun. */
  readonly makePart: (picture: LoopPicture) => Promise<LoopPart>;
  /** What lies in a picture file. Rejects where its bytes are none. */
  readonly open: (bytes: Uint8Array, extension: string) => Promise<OpenedPicture>;
};

/** A picture of a loop that is tried: as it was drawn, as it comes out, and where they differ; and by how many of 255 levels, on average and at most. */
export type TriedPicture = {
  readonly original: ImageBitmap;
  readonly result: ImageBitmap;
  readonly difference: ImageBitmap;
  readonly meanLevels: number;
  readonly mostLevels: number;
};

/** How trying a loop ended: the very file, and how long each of its pictures lasts in it. */
export type TrialEnd =
  | { readonly kind: 'tried'; readonly loop: TriedLoop; readonly microseconds: readonly number[] }
  | { readonly kind: 'refused'; readonly reason: string };

/** Told of how many frames a loop that is tried has been made, or the colours looked at before that. */
export type TrialProgress = (framesDone: number, isLooking: boolean) => void;

export type TrialWorker = {
  /** Makes a loop in memory, of any size. */
  readonly make: (order: HandoverOrder, onProgress: TrialProgress) => Promise<TrialEnd>;
  /** A picture of the loop that was made, by its place from 0. */
  readonly picture: (place: number) => Promise<TriedPicture>;
};
