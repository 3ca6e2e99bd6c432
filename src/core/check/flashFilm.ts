import { countInField, type FlashField, fieldOn } from '@/core/check/flashField';
import { type Flashes, type FlashKind, FlashWatch, SATURATED_RED } from '@/core/check/flashRule';
import {
  type CellLayer,
  cellGrid,
  cellsApart,
  cellsOfPicture,
  everyCell,
  isPlain,
  layCells,
  layLuminance,
  type PictureCells,
  paperLight,
} from '@/core/raster/light';
import type { BlockMeans } from '@/core/raster/measure';
import type { FrameRun, PictureStack, StackLayer } from '@/core/reel/stacks';
import type { Digest, Size } from '@/core/sheet/document';
import type { Rate } from '@/core/time/rate';

const FLASH_KINDS: readonly FlashKind[] = ['general', 'red'];

/**
 * Where two pictures that take each other's place differ: the cells, how many of them lie in the 10° rectangle at each
 * of its places, the most of these, and the most among every PLACES_TOGETHER places.
 */
type Apart = {
  readonly cells: Uint16Array;
  readonly inField: Uint16Array;
  readonly fullestPlace: number;
  readonly mostTogether: Uint16Array;
};

const PLACES_TOGETHER = 16;

/** A picture of the film with where others differ from it; null stands for none. */
type Shown = { readonly cells: PictureCells; readonly apart: Map<Shown | null, Apart> };

/** A layer of a stack; equal ones are one and the same, so that they are compared at once. */
type Laid = CellLayer & { readonly shown: Shown };

/** More than three flashes within a second take so many transitions. */
const LEAST_TRANSITIONS = 8;

/** Runs from (inclusive) and to (exclusive) that are to be walked. */
type Walk = { readonly fromRun: number; readonly toRun: number };

/**
 * Looks over a film for flashes. A cell changes only on a frame on which a picture that differs there takes the
 * place of another, so where pictures that change at once differ in no more than a quarter of the 10° rectangle,
 * wherever it lies, there is no transition; and without eight frames that may be one within a second there are no
 * more than three flashes. Only what is left is walked, with a second before it, and from one stack of pictures to
 * the next only cells are laid anew in which they differ. What a picture covers and where two differ is remembered.
 */
export class FlashFilm {
  private readonly shown = new Map<Digest, Shown>();
  private readonly laid = new Map<Digest, Laid[]>();
  private readonly field: FlashField;
  private readonly marks: Uint8Array;
  private readonly gathered: Uint16Array;

  constructor(
    private readonly size: Size,
    private readonly blocksOf: (digest: Digest) => BlockMeans | null,
  ) {
    const grid = cellGrid(size);
    this.field = fieldOn(size, grid);
    this.marks = new Uint8Array(grid.columns * grid.rows);
    this.gathered = new Uint16Array(grid.columns * grid.rows);
  }

  private shownOf(digest: Digest): Shown {
    let shown = this.shown.get(digest);
    if (!shown) {
      shown = { cells: cellsOfPicture(this.size, this.blocksOf(digest)), apart: new Map() };
      this.shown.set(digest, shown);
    }
    return shown;
  }

  private laidOf({ picture, opacityPercent, blend }: StackLayer): Laid {
    let ways = this.laid.get(picture);
    if (!ways) {
      ways = [];
      this.laid.set(picture, ways);
    }
    let laid = ways.find((way) => way.opacityPercent === opacityPercent && way.blend === blend);
    if (!laid) {
      const shown = this.shownOf(picture);
      laid = { shown, cells: shown.cells, opacityPercent, blend };
      ways.push(laid);
    }
    return laid;
  }

  private apartOf(first: Shown, second: Shown | null): Apart {
    let apart = first.apart.get(second);
    if (!apart) {
      const cells = cellsApart(first.cells, second?.cells ?? null);
      for (const cell of cells) this.marks[cell] = 1;
      const inField = countInField(this.marks, 1, this.field);
      let fullestPlace = 0;
      const mostTogether = new Uint16Array(Math.ceil(inField.length / PLACES_TOGETHER));
      for (let place = 0; place < inField.length; place++) {
        const inPlace = inField[place] as number;
        if (inPlace > (inField[fullestPlace] as number)) fullestPlace = place;
        const together = Math.floor(place / PLACES_TOGETHER);
        mostTogether[together] = Math.max(mostTogether[together] as number, inPlace);
      }
      apart = { cells, inField, fullestPlace, mostTogether };
      this.marks.fill(0);
      first.apart.set(second, apart);
    }
    return apart;
  }

  /** Where pictures that take each other's place between two stacks differ: level by level where both have as many, else each that goes or comes. */
  private apartBetween(before: readonly Laid[], now: readonly Laid[]): readonly Apart[] {
    const lists: Apart[] = [];
    if (before.length !== now.length) {
      for (const layer of before) if (!now.includes(layer)) lists.push(this.apartOf(layer.shown, null));
      for (const layer of now) if (!before.includes(layer)) lists.push(this.apartOf(layer.shown, null));
      return lists;
    }
    for (let index = 0; index < before.length; index++) {
      const [layer, other] = [before[index] as Laid, now[index] as Laid];
      if (layer === other) continue;
      if (layer.opacityPercent === other.opacityPercent && layer.blend === other.blend) lists.push(this.apartOf(layer.shown, other.shown));
      else lists.push(this.apartOf(layer.shown, null), this.apartOf(other.shown, null));
    }
    return lists;
  }

  /** Whether pictures that differ so may make a transition. */
  private mayBeTransition(lists: readonly Apart[]): boolean {
    const { quarterCells, places } = this.field;
    let [all, fullest] = [0, 0];
    for (const { cells, inField, fullestPlace } of lists) {
      all += cells.length;
      fullest += inField[fullestPlace] as number;
    }
    if (all <= quarterCells || fullest <= quarterCells) return false;
    // Most often it is full where one of them is fullest, if anywhere.
    for (const { fullestPlace } of lists) {
      let cells = 0;
      for (const { inField } of lists) cells += inField[fullestPlace] as number;
      if (cells > quarterCells) return true;
    }
    if (lists.length === 1) return false;
    const groups = Math.ceil(places / PLACES_TOGETHER);
    for (let group = 0; group < groups; group++) {
      let most = 0;
      for (const { mostTogether } of lists) most += mostTogether[group] as number;
      if (most <= quarterCells) continue;
      const end = Math.min(places, (group + 1) * PLACES_TOGETHER);
      for (let place = group * PLACES_TOGETHER; place < end; place++) {
        let cells = 0;
        for (const { inField } of lists) cells += inField[place] as number;
        if (cells > quarterCells) return true;
      }
    }
    return false;
  }

  /** What of a film has to be walked. */
  private walks(runs: readonly FrameRun[], changes: readonly (readonly Apart[])[], framesPerSecond: number): readonly Walk[] {
    const changing = changes.flatMap((lists, run) => (lists.length > 0 && this.mayBeTransition(lists) ? [run] : []));
    const frameOf = (run: number) => (runs[run] as FrameRun).startFrame;
    const walks: Walk[] = [];
    for (let first = 0; first + LEAST_TRANSITIONS <= changing.length; first++) {
      const [start, end] = [changing[first] as number, changing[first + LEAST_TRANSITIONS - 1] as number];
      if (frameOf(end) - frameOf(start) > framesPerSecond) continue;
      let fromRun = start;
      while (fromRun > 0 && frameOf(start) - frameOf(fromRun) < framesPerSecond) fromRun--;
      const last = walks.at(-1);
      if (last && fromRun <= last.toRun) walks[walks.length - 1] = { fromRun: last.fromRun, toRun: end + 1 };
      else walks.push({ fromRun, toRun: end + 1 });
    }
    return walks;
  }

  /** Forgets pictures that are no longer looked at. */
  keepOnly(pictures: ReadonlySet<Digest>): void {
    const gone = new Set([...this.shown].flatMap(([digest, shown]) => (pictures.has(digest) ? [] : [shown])));
    if (gone.size === 0) return;
    for (const digest of this.shown.keys()) if (!pictures.has(digest)) this.shown.delete(digest);
    for (const digest of this.laid.keys()) if (!pictures.has(digest)) this.laid.delete(digest);
    for (const { apart } of this.shown.values()) for (const other of apart.keys()) if (other && gone.has(other)) apart.delete(other);
  }

  /** The worst second of each kind of flash, where there can be more than three in one. */
  worst(stacks: readonly PictureStack[], runs: readonly FrameRun[], rate: Rate): readonly Flashes[] {
    const laid = stacks.map(({ layers }) => layers.map((layer) => this.laidOf(layer)));
    const ofRuns = runs.map((run) => laid[run.stack] ?? []);
    const changes = ofRuns.map((now, run) => (run === 0 ? [] : this.apartBetween(ofRuns[run - 1] as readonly Laid[], now)));
    const found = this.walks(runs, changes, rate.num / rate.den).flatMap((walk) => this.walk(walk, runs, ofRuns, changes, rate));
    return FLASH_KINDS.flatMap((kind) => {
      const ofKind = found.filter((flashes) => flashes.kind === kind);
      return ofKind.length === 0 ? [] : [ofKind.reduce((worst, flashes) => (flashes.flashes > worst.flashes ? flashes : worst))];
    });
  }

  private walk(
    { fromRun, toRun }: Walk,
    runs: readonly FrameRun[],
    ofRuns: readonly (readonly Laid[])[],
    changes: readonly (readonly Apart[])[],
    rate: Rate,
  ): readonly Flashes[] {
    const light = paperLight(cellGrid(this.size));
    layCells(light, ofRuns[fromRun] as readonly Laid[], everyCell(light));
    // A mixture of lights is no redder than the reddest of them; without blending, no frame is redder than its pictures.
    const shown = [...new Set(ofRuns.slice(fromRun, toRun).flat())];
    const isPlainFilm = shown.every(isPlain);
    const mayBeRed = !isPlainFilm || shown.some(({ cells }) => cells.mostRed >= SATURATED_RED);
    const watches = FLASH_KINDS.filter((kind) => kind === 'general' || mayBeRed).map(
      (kind) => new FlashWatch(this.size, rate, kind, light),
    );
    for (let run = fromRun + 1; run < toRun; run++) {
      const lists = changes[run] as readonly Apart[];
      if (lists.length === 0) continue;
      const cells = this.together(lists);
      const layers = ofRuns[run] as readonly Laid[];
      if (isPlainFilm && !mayBeRed) layLuminance(light, layers, cells);
      else layCells(light, layers, cells);
      for (const watch of watches) watch.change((runs[run] as FrameRun).startFrame, cells, light);
    }
    return watches.flatMap((watch) => watch.worst() ?? []);
  }

  /** Cells of several lists, each once; what is given is overwritten by the next call. */
  private together(lists: readonly Apart[]): Uint16Array {
    if (lists.length === 1 && lists[0]) return lists[0].cells;
    let count = 0;
    for (const { cells } of lists)
      for (let index = 0; index < cells.length; index++) {
        const cell = cells[index] as number;
        if (this.marks[cell] === 1) continue;
        this.marks[cell] = 1;
        this.gathered[count++] = cell;
      }
    for (let index = 0; index < count; index++) this.marks[this.gathered[index] as number] = 0;
    return this.gathered.subarray(0, count);
  }
}
