import { worstOfEachKind } from '@/core/analysis/flashParts';
import { FLASH_KINDS, type Flashes, TOO_MANY_FLASHES } from '@/core/analysis/flashRule';
import { FlashScreen, type LitPicture, NO_CHANGE, type ShownLayer, type StackChange, type Walk } from '@/core/analysis/flashScreen';
import { FlashWatch } from '@/core/analysis/flashWatch';
import { layLight, wholeGrid } from '@/core/analysis/layLight';
import { cellGrid, type PictureLight } from '@/core/analysis/light';
import { LightHistory } from '@/core/analysis/lightHistory';
import type { Digest, Size } from '@/core/document/model';
import { once } from '@/core/remembered';
import type { RenderRun } from '@/core/render/renderPlan';
import type { PictureStack, StackLayer } from '@/core/render/stacks';
import type { Rate } from '@/core/time/rate';

/** A film's runs, with what each shows and what changes with it, which is worked out when it is asked for: of all runs at once it would take much memory. */
type Film = {
  readonly runs: readonly RenderRun[];
  readonly ofRuns: readonly (readonly ShownLayer[])[];
  readonly changeOf: (run: number) => StackChange;
};

/** What walks are made in, one after another: a room of its own for each would leave megabytes of garbage. */
type WalkRoom = { readonly history: LightHistory; readonly watches: readonly FlashWatch[] };

/** After so many runs it may be stopped: a few milliseconds each. */
const RUNS_A_REST = 16;

/**
 * Looks over a film for flashes: what may hold too many by `FlashScreen` is walked, and from one stack of pictures to
 * the next only the box is laid anew in which they differ. What a picture's light is and where two differ is remembered.
 */
export class FlashFilm {
  private readonly screen: FlashScreen;
  private readonly shown = new Map<Digest, LitPicture>();
  private readonly laid = new Map<Digest, ShownLayer[]>();

  /** `lightOf` gives a picture's light; null for one that can't be looked at, which shows nothing. */
  constructor(
    private readonly size: Size,
    private readonly lightOf: (digest: Digest) => PictureLight | null,
  ) {
    this.screen = new FlashScreen(size);
  }

  private laidOf({ picture, opacityPercent, blend }: StackLayer): ShownLayer | null {
    const ways = this.laid.get(picture) ?? [];
    let laid = ways.find((way) => way.opacityPercent === opacityPercent && way.blend === blend);
    if (laid) return laid;
    let shown = this.shown.get(picture);
    if (!shown) {
      const light = this.lightOf(picture);
      if (!light) return null;
      shown = { light, apart: new Map() };
      this.shown.set(picture, shown);
    }
    laid = { shown, light: shown.light, opacityPercent, blend };
    this.laid.set(picture, [...ways, laid]);
    return laid;
  }

  /** Forgets pictures whose light is no longer to be had. */
  keepOnly(pictures: ReadonlySet<Digest>): void {
    const gone = new Set([...this.shown].flatMap(([digest, shown]) => (pictures.has(digest) ? [] : [shown])));
    if (gone.size === 0) return;
    for (const digest of this.shown.keys()) if (!pictures.has(digest)) this.shown.delete(digest);
    for (const digest of this.laid.keys()) if (!pictures.has(digest)) this.laid.delete(digest);
    for (const { apart } of this.shown.values()) for (const other of apart.keys()) if (other && gone.has(other)) apart.delete(other);
  }

  /**
   * The worst second of each kind of flash, where there are too many in one. `rest` is waited for now and then, since a
   * long film that changes all over takes seconds; when it says true, the walk was stopped and null is given.
   */
  async worst(
    stacks: readonly PictureStack[],
    runs: readonly RenderRun[],
    rate: Rate,
    rest: () => Promise<boolean> = async () => false,
  ): Promise<readonly Flashes[] | null> {
    const laid = stacks.map(({ layers }) => layers.flatMap((layer) => this.laidOf(layer) ?? []));
    const ofRuns = runs.map((run) => laid[run.stack] ?? []);
    const changeOf = (run: number) =>
      run === 0 ? NO_CHANGE : this.screen.changeBetween(ofRuns[run - 1] as readonly ShownLayer[], ofRuns[run] as readonly ShownLayer[]);
    const found: Flashes[] = [];
    const room = once(() => this.walkRoom(rate));
    for (const walk of this.screen.walks(runs, changeOf, rate.num / rate.den)) {
      const ofWalk = await this.walk(walk, { runs, ofRuns, changeOf }, room(), rest);
      if (!ofWalk) return null;
      found.push(...ofWalk);
    }
    return worstOfEachKind(found);
  }

  private walkRoom(rate: Rate): WalkRoom {
    const grid = cellGrid(this.size);
    return {
      history: new LightHistory(grid, rate.num / rate.den),
      watches: FLASH_KINDS.map((kind) => new FlashWatch(this.size, rate, kind, grid, TOO_MANY_FLASHES)),
    };
  }

  private async walk(
    { fromRun, toRun }: Walk,
    { runs, ofRuns, changeOf }: Film,
    { history, watches }: WalkRoom,
    rest: () => Promise<boolean>,
  ): Promise<readonly Flashes[] | null> {
    const grid = cellGrid(this.size);
    history.clear();
    for (const watch of watches) watch.clear();
    for (let run = fromRun; run < toRun; run++) {
      const box = run === fromRun ? wholeGrid(grid) : changeOf(run).box;
      if (!box) continue;
      if ((run - fromRun) % RUNS_A_REST === 0 && (await rest())) return null;
      layLight(history.next((runs[run] as RenderRun).startFrame), ofRuns[run] as readonly ShownLayer[], box);
      for (const watch of watches) watch.change(history, box);
    }
    return watches.flatMap((watch) => watch.worst ?? []);
  }
}
