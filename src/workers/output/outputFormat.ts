import type { ReadBack } from '@/core/count/readBack';
import type { Outcome } from '@/core/outcome';
import type { Format, FormatOptions } from '@/core/output/format';
import type { RenderPlan } from '@/core/render/renderPlan';
import type { MeantNotes } from '@/workers/output/meantPictures';
import type { Ground } from '@/workers/render/compositor';
import type { RenderedPicture } from '@/workers/render/renderedPicture';
import type { StackPictures } from '@/workers/render/stackPictures';
import type { StoredPng } from '@/workers/render/storedPng';

/** The mix of frames of a plan, from one to another (both inclusive, from 0): two channels, as many samples as the frames are long. */
export type Mixing = (fromFrame: number, toFrame: number) => Promise<readonly Float32Array[]>;

/** What a writer is given besides the plan: names, and pictures rendered from the plan's stacks, each once however long it shows. */
export type OutputJob = {
  /** The name of the file, or of the ZIP that holds the files, without its extension. */
  readonly baseName: string;
  /** The names of picture files with their folders, one a frame of the plan; none for one file. */
  readonly names: readonly string[];
  /** Texts that go beside picture files. */
  readonly lists: readonly { readonly name: string; readonly text: string }[];
  readonly ground: Ground;
  readonly options: FormatOptions;
  /** What each stack was rendered as, for whoever keeps finished pictures. */
  readonly notes: MeantNotes;
  /** Gives the file of a loop that was made of the very same before, and takes over what it is held against; null where none was. */
  readonly tried: (() => Blob) | null;
  /** The job in its queue, and whether it was being made before, by a page that was left. */
  readonly jobId: string;
  readonly wasBegun: boolean;
  /** Null where nothing is heard. */
  readonly mix: Mixing | null;
  /** Tells how loud each frame is that was written. */
  readonly onSound: (levels: Float32Array) => void;
  readonly stop: AbortSignal;
  /**
   * Something made from each distinct stack of the plan, asked for run by run; `bytesOf` bounds what is held. What each was rendered
   * as is noted here, unless whoever makes it does so. Where a stored picture is all of a stack, `makeOfStored` makes it of that
   * picture, and notes it.
   */
  readonly pictures: <Made>(
    make: (picture: RenderedPicture) => Promise<Made>,
    bytesOf: (made: Made) => number,
    notedBy?: 'here' | 'maker',
    makeOfStored?: (png: StoredPng, stack: number) => Made | Promise<Made>,
  ) => StackPictures<Made>;
  /** Tells of how many frames the pictures have been handed to who writes them, where that is another program. */
  readonly onSent: (framesDone: number) => void;
  /** Tells of how many frames the colours have been looked at, where all of them are before the first is written. */
  readonly onLookedAt: (framesDone: number) => void;
  /** Takes each frame, in the order they are shown, as it was decoded while it was written; null where it is not to be decoded then. */
  readonly onDecoded: ((signature: Uint8Array) => void) | null;
  /** Tells how many frames are written. */
  readonly onWritten: (framesDone: number) => void;
};

/** Where a handover is written: files of the browser's own folder, or a folder the person chose. */
export type Sink = { readonly owner: string; readonly folder: FileSystemDirectoryHandle | null };

/**
 * What lies where a handover was written: one file, or picture files by their names. Whoever reads it back is told this and
 * nothing else. `copyAt` is an address of Lime Tick's server where a copy of the file lies that can be decoded there.
 */
export type Source =
  | { readonly kind: 'file'; readonly file: Blob; readonly copyAt: string | null }
  | { readonly kind: 'files'; readonly names: readonly string[]; readonly read: (name: string) => Promise<Uint8Array> };

/** What was written. `storedAs` is the file in the browser's own folder, null for a folder of the person's; `file` is the one file, if it is one. */
export type WrittenOutput = {
  readonly storedAs: string | null;
  readonly file: Blob | null;
  readonly fileBytes: number;
  readonly source: Source;
  /** The packets whose frames were decoded while they were written, in the order they are shown, and how their decoder was set up; null where none were. */
  readonly decoded: { readonly packetDigests: readonly string[]; readonly decoderDigest: string } | null;
  /** Lets go of what reading needed. */
  readonly close: () => Promise<void>;
  /** Removes everything that was written. */
  readonly discard: () => Promise<void>;
};

/** A format: what is known of it, and how it is written and read. A new one is a file in `formats/` and its line in `formats/list`. */
export type OutputFormat = Format & {
  /** Refuses a plan this format can't hold, before anything is written. */
  readonly refuse: (plan: RenderPlan) => Outcome<null>;
  /** Loads what writing and counting need, so that they start at once. */
  readonly load: () => Promise<void>;
  /** Writes the plan. Removes what it began when it fails or is stopped. Throws `OutputRefused` for what a person can do something about. */
  readonly write: (plan: RenderPlan, sink: Sink, job: OutputJob) => Promise<WrittenOutput>;
  /** Opens what lies in the source. Is never told what was asked for or written. */
  readonly readBack: (source: Source, stop: AbortSignal) => Promise<ReadBack>;
};

/** A handover can't be written here; the message says why, and what would work. */
export class OutputRefused extends Error {
  override readonly name = 'OutputRefused';
}

/** The one file of a source. Throws when it is not one. */
export function fileOf(source: Source): Blob {
  if (source.kind !== 'file') throw new Error('This format is one file.');
  return source.file;
}
