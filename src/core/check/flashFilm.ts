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

const sameLayer = (a: StackLayer, b: StackLayer) => a.picture === b.picture && a.opacityPercent === b.opacityPercent && a.blend === b.blend;

/** Pictures that take each other's place between two stacks: level by level where both have as many, else each that goes or comes. */
function exchanged(before: PictureStack, now: PictureStack): readonly (readonly [Digest, Digest | null])[] {
  if (before.layers.length === now.layers.length)
    return before.layers.flatMap((layer, index): (readonly [Digest, Digest | null])[] => {
      const other = now.layers[index] as StackLayer;
      if (sameLayer(layer, other)) return [];
      const asOne = layer.opacityPercent === other.opacityPercent && layer.blend === other.blend;
      return asOne
        ? [[layer.picture, other.picture]]
        : [
            [layer.picture, null],
            [other.picture, null],
          ];
    });
  const goes = before.layers.filter((layer) => !now.layers.some((other) => sameLayer(layer, other)));
  const comes = now.layers.filter((layer) => !before.layers.some((other) => sameLayer(layer, other)));
  return [...goes, ...comes].map((layer) => [layer.picture, null]);
}

/** Where two pictures that take each other's place differ: the cells, and how many of them lie in the 10° rectangle at each of its places. */
type Apart = { readonly cells: Uint16Array; readonly inField: Uint16Array; readonly fullestPlace: number };

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
  private readonly cells = new Map<Digest, PictureCells>();
  private readonly apart = new Map<string, Apart>();
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

  private cellsOf(digest: Digest): PictureCells {
    let cells = this.cells.get(digest);
    if (!cells) {
      cells = cellsOfPicture(this.size, this.blocksOf(digest));
      this.cells.set(digest, cells);
    }
    return cells;
  }

  private apartOf(first: Digest, second: Digest | null): Apart {
    const key = `${first} ${second ?? ''}`;
    let apart = this.apart.get(key);
    if (!apart) {
      const cells = cellsApart(this.cellsOf(first), second === null ? null : this.cellsOf(second));
      for (const cell of cells) this.marks[cell] = 1;
      const inField = countInField(this.marks, 1, this.field);
      let fullestPlace = 0;
      for (let place = 1; place < inField.length; place++)
        if ((inField[place] as number) > (inField[fullestPlace] as number)) fullestPlace = place;
      apart = { cells, inField, fullestPlace };
      this.marks.fill(0);
      this.apart.set(key, apart);
    }
    return apart;
  }

  private layersOf = ({ layers }: PictureStack): readonly CellLayer[] =>
    layers.map(({ picture, opacityPercent, blend }) => ({ cells: this.cellsOf(picture), opacityPercent, blend }));

  private apartBetween = (before: PictureStack, now: PictureStack): readonly Apart[] =>
    exchanged(before, now).map(([first, second]) => this.apartOf(first, second));

  /** Whether going from one stack to the next may be a transition. */
  private mayBeTransition(before: PictureStack, now: PictureStack): boolean {
    const { quarterCells, places } = this.field;
    const lists = this.apartBetween(before, now);
    if (lists.reduce((sum, { cells }) => sum + cells.length, 0) <= quarterCells) return false;
    const isFull = (place: number) => {
      let cells = 0;
      for (const { inField } of lists) cells += inField[place] as number;
      return cells > quarterCells;
    };
    // Most often it is full where one of them is fullest, if anywhere.
    if (lists.some(({ fullestPlace }) => isFull(fullestPlace))) return true;
    if (lists.reduce((sum, { inField, fullestPlace }) => sum + (inField[fullestPlace] as number), 0) <= quarterCells) return false;
    for (let place = 0; place < places; place++) if (isFull(place)) return true;
    return false;
  }

  /** What of a film has to be walked. */
  private walks(stacks: readonly PictureStack[], runs: readonly FrameRun[], framesPerSecond: number): readonly Walk[] {
    const changes: number[] = [];
    for (let index = 1; index < runs.length; index++) {
      const [before, now] = [stacks[(runs[index - 1] as FrameRun).stack], stacks[(runs[index] as FrameRun).stack]];
      if (before && now && before !== now && this.mayBeTransition(before, now)) changes.push(index);
    }
    const frameOf = (run: number) => (runs[run] as FrameRun).startFrame;
    const walks: Walk[] = [];
    for (let first = 0; first + LEAST_TRANSITIONS <= changes.length; first++) {
      const [start, end] = [changes[first] as number, changes[first + LEAST_TRANSITIONS - 1] as number];
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
    for (const digest of this.cells.keys()) if (!pictures.has(digest)) this.cells.delete(digest);
    for (const key of this.apart.keys())
      if (!key.split(' ').every((digest) => digest === '' || pictures.has(digest))) this.apart.delete(key);
  }

  /** The worst second of each kind of flash, where there can be more than three in one. */
  worst(stacks: readonly PictureStack[], runs: readonly FrameRun[], rate: Rate): readonly Flashes[] {
    const found = this.walks(stacks, runs, rate.num / rate.den).flatMap(({ fromRun, toRun }) =>
      this.walk(stacks, runs.slice(fromRun, toRun), rate),
    );
    return FLASH_KINDS.flatMap((kind) => {
      const ofKind = found.filter((flashes) => flashes.kind === kind);
      return ofKind.length === 0 ? [] : [ofKind.reduce((worst, flashes) => (flashes.flashes > worst.flashes ? flashes : worst))];
    });
  }

  private walk(stacks: readonly PictureStack[], runs: readonly FrameRun[], rate: Rate): readonly Flashes[] {
    const first = stacks[runs[0]?.stack ?? -1];
    if (!first) return [];
    const light = paperLight(cellGrid(this.size));
    layCells(light, this.layersOf(first), everyCell(light));
    // A mixture of lights is no redder than the reddest of them; without blending, no frame is redder than its pictures.
    const shown = [...new Set(runs.map((run) => run.stack))].flatMap((stack) => this.layersOf(stacks[stack] as PictureStack));
    const isPlainFilm = shown.every(isPlain);
    const mayBeRed = !isPlainFilm || shown.some(({ cells }) => cells.mostRed >= SATURATED_RED);
    const watches = FLASH_KINDS.filter((kind) => kind === 'general' || mayBeRed).map(
      (kind) => new FlashWatch(this.size, rate, kind, light),
    );
    let before = first;
    for (const run of runs) {
      const now = stacks[run.stack];
      if (!now || now === before) continue;
      const cells = this.together(this.apartBetween(before, now));
      if (isPlainFilm && !mayBeRed) layLuminance(light, this.layersOf(now), cells);
      else layCells(light, this.layersOf(now), cells);
      for (const watch of watches) watch.change(run.startFrame, cells, light);
      before = now;
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
