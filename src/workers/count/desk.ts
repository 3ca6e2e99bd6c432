import type { Flashes } from '@/core/analysis/flashRule';
import { numberedName } from '@/core/bring/fileOrder';
import type { Destination } from '@/core/check/destinations';
import { refusalsOf } from '@/core/outside/acceptance';
import { premultipliedOnPaper } from '@/core/outside/blocks';
import { type CountedOutside, countOutside } from '@/core/outside/countOutside';
import { countSentences } from '@/core/outside/countWords';
import { type BenchResult, type BenchSettings, benchCount, benchOf, lateSeconds } from '@/core/outside/editingBench';
import { flashesIn } from '@/core/outside/flashesIn';
import { type Held, holdAgainst, type Plan, planOfFile } from '@/core/outside/holdAgainst';
import { loopPictureOf } from '@/core/outside/loopFrames';
import { heldAgainstReceipt } from '@/core/outside/receiptAgainst';
import type { FileGroup } from '@/core/outside/sequence';
import type { Rate } from '@/core/time/rate';
import { inBrowser } from '@/workers/count/browserDecoders';
import type {
  DeskAcceptance,
  DeskBench,
  DeskBenchFilm,
  DeskCount,
  DeskHeld,
  DroppedFile,
  HoldOrder,
  PlanOrder,
} from '@/workers/count/deskProtocol';
import { type FramePictures, framePictures } from '@/workers/count/framePictures';
import { type AsItLeft, LookedAtPlans } from '@/workers/count/lookedAtPlans';
import { NotOpened } from '@/workers/count/openFilm';
import { type CountFile, groupsOf, openGroup } from '@/workers/count/openGroup';
import { BENCH_WIDTH_PX, writeBenchFilm } from '@/workers/count/writeBenchFilm';

/** Something on the desk: what it is, and once it was counted, what it holds. */
type OnDesk = {
  readonly group: FileGroup<CountFile>;
  readonly stop: AbortController;
  counted: CountedOutside | null;
  pictures: Promise<FramePictures> | null;
  stampSeconds: readonly number[] | null;
  flashes: Promise<readonly Flashes[]> | null;
  /** The rate at which a loop is seen as frames, since it was held against something. */
  loopRate: Rate | null;
  /** What the editing bench is at with it. */
  benchStop: AbortController;
  /** Its pictures counted with their colours taken as premultiplied, and whether some are brighter than such can be. */
  premultiplied: Promise<{ readonly counted: CountedOutside; readonly isBrighter: boolean }> | null;
};

type OnFrame = (frames: number, all: number) => void;

/** Something on the editing bench: as it was counted for it, what comes out, and how its pictures are laid on paper. */
type OnBench = {
  readonly counted: CountedOutside;
  readonly result: BenchResult;
  readonly lay: ((rgba: Uint8Array) => void) | undefined;
};

const countFile = ({ path, file }: DroppedFile): CountFile => ({
  name: path,
  sizeBytes: file.size,
  read: async () => new Uint8Array(await file.arrayBuffer()),
  blob: async () => file,
});

function heldOf({ agreement, beside, frames }: Held, plan: Plan, isDrawingsAlone: boolean): DeskHeld {
  return {
    agreement,
    faults: beside?.faults ?? [],
    planFrames: plan.plan.frames,
    fileFrames: frames,
    fileOf: beside?.alignment?.fileOf ?? null,
    isSame: beside?.alignment?.isSame ?? null,
    isDrawingsAlone,
  };
}

/** All that lies on the counting desk, with what was counted of it; kept here, since looks of long films are large. */
export class Desk {
  private readonly things = new Map<string, OnDesk>();
  private readonly plans = new LookedAtPlans();

  /** Lays files on the desk; what belongs together is one thing. */
  async put(dropped: readonly DroppedFile[], nextId: () => string): Promise<readonly { readonly id: string; readonly name: string }[]> {
    return (await groupsOf(dropped.map(countFile))).map((group) => {
      const id = nextId();
      this.things.set(id, {
        group,
        stop: new AbortController(),
        counted: null,
        pictures: null,
        stampSeconds: null,
        flashes: null,
        loopRate: null,
        benchStop: new AbortController(),
        premultiplied: null,
      });
      return { id, name: group.name };
    });
  }

  private thing(id: string): OnDesk {
    const thing = this.things.get(id);
    if (!thing) throw new Error(`Nothing on the desk is called ${id}.`);
    return thing;
  }

  async count(id: string, onFrame: (frames: number, all: number | null) => void): Promise<DeskCount> {
    const thing = this.thing(id);
    const { signal } = thing.stop;
    try {
      const opened = await openGroup(thing.group, inBrowser(signal));
      const { listedFrames } = opened;
      thing.stampSeconds = opened.stampSeconds;
      thing.counted = await countOutside(opened, (frames) => {
        signal.throwIfAborted();
        onFrame(frames, listedFrames);
      });
      const { count, seen } = thing.counted;
      return { kind: 'counted', count, sentences: countSentences(count, seen), repeats: seen?.repeats ?? null };
    } catch (error) {
      if (signal.aborted) return { kind: 'stopped' };
      if (error instanceof NotOpened) return { kind: 'refused', reason: error.message };
      return { kind: 'refused', reason: `It could not be counted: ${error instanceof Error ? error.message : String(error)}` };
    }
  }

  stop(id: string): void {
    this.things.get(id)?.stop.abort();
  }

  remove(id: string): void {
    const thing = this.things.get(id);
    thing?.stop.abort();
    thing?.benchStop.abort();
    void thing?.pictures?.then(({ close }) => close());
    this.things.delete(id);
  }

  /** Looks at every frame of a plan, so that files can be held against it. */
  plan(key: string, order: PlanOrder, onFrame: (frames: number) => void, stop: AbortSignal): Promise<void> {
    return this.plans.look(key, order, onFrame, stop);
  }

  /** What destinations say to something that was counted; null where it isn't there. */
  async accept(id: string, destinations: readonly Destination[]): Promise<DeskAcceptance | null> {
    const thing = this.things.get(id);
    const counted = thing?.counted;
    if (!thing || !counted) return null;
    const { rate } = counted.count;
    thing.flashes ??=
      counted.seen && rate
        ? flashesIn(counted.seen, rate, () => thing.stop.signal.aborted).then((found) => found ?? [])
        : Promise.resolve([]);
    const flashes = await thing.flashes;
    return destinations.map((destination) => ({ destinationId: destination.id, refusals: refusalsOf(destination, counted, flashes) }));
  }

  /** Has the editing bench stop what it is at with something; it can be asked again. */
  stopBench(id: string): void {
    const thing = this.things.get(id);
    if (!thing) return;
    thing.benchStop.abort();
    thing.benchStop = new AbortController();
  }

  /** Counts pictures once more as if their colours were premultiplied; remembered, since that may take long. */
  private premultiplied(thing: OnDesk, onFrame: OnFrame) {
    thing.premultiplied ??= (async () => {
      const { signal } = thing.benchStop;
      let isBrighter = false;
      const lay = (rgba: Uint8Array) => {
        isBrighter = premultipliedOnPaper(rgba) || isBrighter;
      };
      const opened = await openGroup(thing.group, inBrowser(signal, lay));
      const counted = await countOutside(opened, (frames) => {
        signal.throwIfAborted();
        onFrame(frames, opened.listedFrames ?? frames);
      });
      return { counted, isBrighter };
    })();
    thing.premultiplied.catch(() => {
      thing.premultiplied = null;
    });
    return thing.premultiplied;
  }

  private async onBench(id: string, settings: BenchSettings, planRate: Rate | null, onFrame: OnFrame): Promise<OnBench | null> {
    const thing = this.things.get(id);
    if (!thing?.counted) return null;
    const names = thing.group.kind === 'sequence' ? thing.group.files.map(({ name }) => name) : [];
    const numbers = names.map((name) => numberedName(name.slice(name.lastIndexOf('/') + 1)).number ?? 0);
    const isOther = settings.transparency === 'premultiplied' && thing.counted.count.kind === 'pictures';
    const other = isOther ? await this.premultiplied(thing, onFrame) : null;
    const counted = other?.counted ?? thing.counted;
    const result = benchOf(counted, names, numbers, settings, planRate, other?.isBrighter);
    return { counted, result, lay: isOther ? premultipliedOnPaper : undefined };
  }

  /** What comes out of the editing bench, held against a plan where one is given; null where the thing isn't there, or the bench was stopped. */
  async bench(id: string, settings: BenchSettings, against: HoldOrder | null, onFrame: OnFrame): Promise<DeskBench | null> {
    const planRate = against && against.kind !== 'receipt' ? (this.planFor(against)?.plan.rate ?? null) : null;
    const signal = this.things.get(id)?.benchStop.signal;
    const on = await this.onBench(id, settings, planRate, onFrame).catch((error: unknown) => {
      if (signal?.aborted) return null;
      throw error;
    });
    if (!on) return null;
    const { counted, result } = on;
    const out = benchCount(counted, result, settings);
    const beside = signal && against && against.kind !== 'receipt' ? await this.heldBeside(against, out, () => undefined, signal) : null;
    const held = beside && heldOf(beside.held, beside.plan, beside.isDrawingsAlone);
    return { sourceOf: Int32Array.from(result.sourceOf, (frame) => frame ?? -1), rate: result.rate, fixes: result.fixes, held };
  }

  async benchFilm(id: string, settings: BenchSettings, onFrame: OnFrame): Promise<DeskBenchFilm> {
    const thing = this.thing(id);
    const { signal } = thing.benchStop;
    const on = await this.onBench(id, settings, null, onFrame);
    if (!on) throw new Error('It was not counted yet.');
    const { counted, result, lay } = on;
    const own = lay && (await framePictures(thing.group, thing.stampSeconds, inBrowser(signal), lay));
    const { count } = counted;
    const file = count.kind === 'film' && count.sound && thing.group.kind === 'one' ? await thing.group.file.blob() : null;
    const sound = file && { file, lateSeconds: lateSeconds(settings, result) };
    const report = (frames: number) => {
      signal.throwIfAborted();
      onFrame(frames, result.sourceOf.length);
    };
    try {
      const picture = (frame: number) => (own ? own.picture(frame, BENCH_WIDTH_PX) : this.picture(id, frame, BENCH_WIDTH_PX));
      return await writeBenchFilm(result, counted.count, picture, sound, report);
    } finally {
      own?.close();
    }
  }

  private planFor(order: Exclude<HoldOrder, { kind: 'receipt' }>): Plan | null {
    if (order.kind === 'plan') return this.plans.of(order.key);
    const other = this.things.get(order.id)?.counted;
    return other ? planOfFile(other) : null;
  }

  /** Holds something counted against a plan, or another thing on the desk; null where that isn't there. */
  private async heldBeside(
    order: Exclude<HoldOrder, { kind: 'receipt' }>,
    counted: CountedOutside,
    onFrame: (frames: number) => void,
    stop: AbortSignal,
  ): Promise<AsItLeft | null> {
    if (order.kind === 'plan') return this.plans.hold(order.key, counted, onFrame, stop);
    const plan = this.planFor(order);
    return plan && { held: holdAgainst(plan, counted), plan, isDrawingsAlone: false };
  }

  /**
   * Holds something that was counted against a plan, another thing on the desk, or a receipt; null where one of them isn't there.
   * `onFrame` is told of the plan's frames where its drawings have to be looked at without the background.
   */
  async hold(id: string, order: HoldOrder, onFrame: (frames: number) => void, stop: AbortSignal): Promise<DeskHeld | null> {
    const thing = this.things.get(id);
    const counted = thing?.counted;
    if (!thing || !counted) return null;
    if (order.kind === 'receipt')
      return {
        agreement: heldAgainstReceipt(order.receipt, counted),
        faults: [],
        planFrames: 0,
        fileFrames: counted.count.frames,
        fileOf: null,
        isSame: null,
        isDrawingsAlone: false,
      };
    const beside = await this.heldBeside(order, counted, onFrame, stop);
    if (!beside) return null;
    thing.loopRate = beside.held.rate;
    return heldOf(beside.held, beside.plan, beside.isDrawingsAlone);
  }

  /** A frame of something on the desk; null where it can't be decoded. A loop's frames are those it shows at its rate. */
  async picture(id: string, frame: number, mostWidthPx: number): Promise<ImageBitmap | null> {
    const thing = this.thing(id);
    thing.pictures ??= framePictures(thing.group, thing.stampSeconds, inBrowser(thing.stop.signal));
    const loop = thing.counted?.count.loop;
    const picture = loop && thing.loopRate ? loopPictureOf(loop.microseconds, thing.loopRate)[frame] : frame;
    return picture === undefined ? null : (await thing.pictures).picture(picture, mostWidthPx);
  }

  pictureOfPlan(key: string, isDrawingsAlone: boolean, frame: number, mostWidthPx: number): Promise<ImageBitmap | null> {
    return this.plans.picture(key, isDrawingsAlone, frame, mostWidthPx);
  }
}
