import type { Destination } from '@/core/check/destinations';
import type { ReceiptLine } from '@/core/count/verdict';
import type { Refusal } from '@/core/outside/acceptance';
import type { Agreement, HeldAgainst } from '@/core/outside/agreementWords';
import type { BenchSettings } from '@/core/outside/editingBench';
import type { Fault } from '@/core/outside/faults';
import type { OutsideCount } from '@/core/outside/outsideCount';
import type { ReceiptFacts } from '@/core/outside/receiptAgainst';
import type { RenderPlan } from '@/core/render/renderPlan';
import type { Rate } from '@/core/time/rate';

/** A file a person dropped, with the folder it lay in. */
export type DroppedFile = { readonly path: string; readonly file: Blob };

/** How counting something ended; `repeats` says of each frame whether it repeats the one before. */
export type DeskCount =
  | { readonly kind: 'counted'; readonly count: OutsideCount; readonly sentences: readonly string[]; readonly repeats: Uint8Array | null }
  | { readonly kind: 'refused'; readonly reason: string }
  | { readonly kind: 'stopped' };

/**
 * A plan to hold files against: its frames, what is known of it, and how loud it is. Its pictures are the open project's, or lie in the
 * file of a package (`packed`).
 */
export type PlanOrder = {
  readonly plan: RenderPlan;
  /** The same frames without the background; null where there is none. */
  readonly drawingsAlone: RenderPlan | null;
  readonly held: HeldAgainst;
  readonly loudness: Float32Array | null;
  readonly packed: Blob | null;
};

/** What something is held against: a plan that was looked at, another thing on the desk, a receipt. */
export type HoldOrder =
  | { readonly kind: 'plan'; readonly key: string }
  | { readonly kind: 'thing'; readonly id: string }
  | { readonly kind: 'receipt'; readonly receipt: ReceiptFacts };

/**
 * How something agrees with what it was held against; `fileOf` is the frame of the file for each of the plan's, −1 for none, and `isSame`
 * whether it shows its picture; null where frames were not laid beside each other.
 */
export type DeskHeld = {
  readonly agreement: Agreement & { readonly lines: readonly ReceiptLine[] };
  readonly faults: readonly Fault[];
  readonly planFrames: number;
  readonly fileFrames: number;
  readonly fileOf: Int32Array | null;
  readonly isSame: Uint8Array | null;
  /** Whether it was held against the drawings alone, as it shows them without their background. */
  readonly isDrawingsAlone: boolean;
};

/** What destinations say to something that was counted, each with the points on which it refuses it. */
export type DeskAcceptance = readonly { readonly destinationId: string; readonly refusals: readonly Refusal[] }[];

/** What comes out of the editing bench: the frame of the file each frame shows, −1 for black; null where the thing isn't there. */
export type DeskBench = {
  readonly sourceOf: Int32Array;
  readonly rate: Rate;
  readonly fixes: readonly string[];
  readonly held: DeskHeld | null;
};

/** The film that comes out of the bench, and why it has no sound where it should have one. */
export type DeskBenchFilm = { readonly film: Blob; readonly unheard: string | null };

export type CountWorker = {
  put(dropped: readonly DroppedFile[]): Promise<readonly { readonly id: string; readonly name: string }[]>;
  /** Counts something; `onFrame` is told how many frames are done, of how many where that is known. */
  count(id: string, onFrame: (frames: number, all: number | null) => void): Promise<DeskCount>;
  stop(id: string): void;
  remove(id: string): void;
  /** Looks at a plan's frames under a key; false where that was stopped by another plan. Rejects when the server does not answer. */
  plan(key: string, order: PlanOrder, onFrame: (frames: number) => void): Promise<boolean>;
  /** Stops looking at a plan, or at its drawings alone. */
  stopPlan(): void;
  /** Holds something against something; `onFrame` is told how many of a plan's frames were looked at once more for it. */
  hold(id: string, order: HoldOrder, onFrame: (frames: number) => void): Promise<DeskHeld | null>;
  accept(id: string, destinations: readonly Destination[]): Promise<DeskAcceptance | null>;
  /** What comes out of the bench; `onFrame` is told how far it is where pictures have to be looked at again. Null where that was stopped. */
  bench(
    id: string,
    settings: BenchSettings,
    against: HoldOrder | null,
    onFrame: (frames: number, all: number) => void,
  ): Promise<DeskBench | null>;
  /** Writes the film that comes out of the bench, half as wide at most as a screen. Rejects with a sentence where this browser can't. */
  benchFilm(id: string, settings: BenchSettings, onFrame: (frames: number, all: number) => void): Promise<DeskBenchFilm>;
  stopBench(id: string): void;
  picture(id: string, frame: number, mostWidthPx: number): Promise<ImageBitmap | null>;
  pictureOfPlan(key: string, isDrawingsAlone: boolean, frame: number, mostWidthPx: number): Promise<ImageBitmap | null>;
};
