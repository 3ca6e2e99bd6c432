import { type FlashField, fieldOn, fullestPlace, WHOLE_CELL } from '@/core/analysis/flashField';
import { type Flashes, type FlashKind, isRise, isSaturatedRed, luminanceTurns, redTurns, type Turns } from '@/core/analysis/flashRule';
import type { CellBox, CellGrid } from '@/core/analysis/light';
import { LightChanges } from '@/core/analysis/lightChanges';
import type { LightHistory, LitFrame } from '@/core/analysis/lightHistory';
import type { Size } from '@/core/document/model';
import type { Rate } from '@/core/time/rate';

/** Less than this much light over a second is a cell that stands still. */
const STILL = 1e-3;
/** A cell has so many around it, but at the frame's border. */
const NEIGHBOURS = 8;

/**
 * Watches a film's light for flashes of one kind, change by change, as `flashRule` has it.
 *
 * Looking at every period of every cell afresh costs too much, so each cell is first followed without ever starting
 * afresh. For luminance such a following makes, in any period, at most one turn fewer than one that starts with the
 * period: it waits for each turn from extremes at least as far out, so it turns no later, and only the first turn of
 * the period can be hidden from it by a turn in the same direction before. For red, every turn is one between
 * saturated red and another colour, so that no period holds more turns than changes between the two. Only cells that
 * may have enough turns by that are looked at afresh, and only where there are enough of them.
 */
export class FlashWatch {
  private readonly field: FlashField;
  private readonly cells: number;
  private readonly columns: number;
  private readonly low: Float32Array;
  private readonly high: Float32Array;
  private readonly direction: Int8Array;
  /** Turns of each cell within the last second, of the following that never starts afresh. */
  private readonly recent: Uint16Array;
  private readonly turned: { readonly frame: number; readonly cells: Uint32Array }[] = [];
  private readonly weights: Uint8Array;
  // Millions of cells are followed for each look at a film: what is found meanwhile has its room here, so that none of it is garbage.
  /** The cells that turn on the frame that is taken in. */
  private readonly turning: Uint32Array;
  private turningCells = 0;
  private readonly isFlashing: Uint8Array;
  private readonly changes: LightChanges;
  private readonly around = new Int32Array(NEIGHBOURS);
  private readonly aroundOther = new Int32Array(NEIGHBOURS);
  private readonly framesPerSecond: number;
  /** How many cells have turns enough for more flashes than the worst so far. */
  private enough = 0;
  private found: Flashes | null = null;

  /** Fewer flashes than `least` are not told. */
  constructor(
    size: Size,
    rate: Rate,
    private readonly kind: FlashKind,
    grid: CellGrid,
    private readonly least = 1,
  ) {
    this.columns = grid.columns;
    this.cells = grid.columns * grid.rows;
    this.field = fieldOn(size, grid);
    this.low = new Float32Array(this.cells);
    this.high = new Float32Array(this.cells);
    this.direction = new Int8Array(this.cells);
    this.recent = new Uint16Array(this.cells);
    this.weights = new Uint8Array(this.cells);
    this.turning = new Uint32Array(this.cells);
    this.isFlashing = new Uint8Array(this.cells);
    this.changes = new LightChanges(kind, this.cells);
    this.framesPerSecond = rate.num / rate.den;
  }

  /** Forgets all it has seen, to watch another part of the film in the same room. */
  clear(): void {
    for (const cells of [this.low, this.high, this.direction, this.recent, this.weights]) cells.fill(0);
    this.turned.length = 0;
    this.enough = 0;
    this.found = null;
  }

  /** The worst second so far; null when there was none. */
  get worst(): Flashes | null {
    return this.found;
  }

  private get wantedFlashes(): number {
    return Math.max(this.least, (this.found?.flashes ?? 0) + 1);
  }

  private get turnsNeeded(): number {
    return this.kind === 'general' ? this.wantedFlashes * 2 - 1 : this.wantedFlashes * 2;
  }

  /** Takes in the newest light of a film's history, which differs from the one before it in no cell outside `box`. */
  change(history: LightHistory, box: CellBox): void {
    const { states } = history;
    const now = states.at(-1) as LitFrame;
    const before = states.at(-2);
    if (!before) {
      this.low.set(now.light.luminance);
      this.high.set(now.light.luminance);
      return;
    }
    this.forgetBefore(now.frame - this.framesPerSecond);
    this.turningCells = 0;
    for (let row = box.top; row < box.bottom; row++) {
      const [from, to] = [row * this.columns + box.left, row * this.columns + box.right];
      if (this.kind === 'general') this.followLuminance(before, now, from, to);
      else this.followRed(before, now, from, to);
    }
    const need = this.turnsNeeded;
    for (let index = 0; index < this.turningCells; index++) {
      const cell = this.turning[index] as number;
      const turns = (this.recent[cell] as number) + 1;
      this.recent[cell] = turns;
      if (turns === need) this.enough++;
    }
    if (this.turningCells > 0) this.turned.push({ frame: now.frame, cells: this.turning.slice(0, this.turningCells) });
    while (this.mayBeWorse() && this.lookAfresh(states)) this.countEnough();
  }

  /** Cells that flash weigh at most as much as they and their eight neighbours. */
  private mayBeWorse(): boolean {
    return this.enough * 9 * WHOLE_CELL > this.field.quarterWeight;
  }

  private forgetBefore(frame: number): void {
    const need = this.turnsNeeded;
    while (this.turned.length > 0 && (this.turned[0] as (typeof this.turned)[number]).frame < frame) {
      for (const cell of (this.turned.shift() as (typeof this.turned)[number]).cells) {
        if (this.recent[cell] === need) this.enough--;
        this.recent[cell] = (this.recent[cell] as number) - 1;
      }
    }
  }

  private countEnough(): void {
    const need = this.turnsNeeded;
    this.enough = 0;
    for (let cell = 0; cell < this.cells; cell++) if ((this.recent[cell] as number) >= need) this.enough++;
  }

  private followLuminance(before: LitFrame, { light }: LitFrame, from: number, to: number): void {
    const { low, high, direction, turning } = this;
    const was = before.light.luminance;
    const is = light.luminance;
    for (let cell = from; cell < to; cell++) {
      const now = is[cell] as number;
      if (now === was[cell]) continue;
      const lowest = low[cell] as number;
      const highest = high[cell] as number;
      if (direction[cell] !== 1 && isRise(lowest, now)) direction[cell] = 1;
      else if (direction[cell] !== -1 && isRise(now, highest)) direction[cell] = -1;
      else {
        if (now < lowest) low[cell] = now;
        if (now > highest) high[cell] = now;
        continue;
      }
      low[cell] = high[cell] = now;
      turning[this.turningCells++] = cell;
    }
  }

  private followRed(before: LitFrame, now: LitFrame, from: number, to: number): void {
    const { red: redWas, green: greenWas, blue: blueWas } = before.light;
    const { red: redIs, green: greenIs, blue: blueIs } = now.light;
    const { turning } = this;
    for (let cell = from; cell < to; cell++) {
      const r = redIs[cell] as number;
      const g = greenIs[cell] as number;
      const wasR = redWas[cell] as number;
      const wasG = greenWas[cell] as number;
      // No red that is not the most of its light is saturated: most cells are told by that alone.
      if (r <= g && wasR <= wasG) continue;
      const b = blueIs[cell] as number;
      const wasB = blueWas[cell] as number;
      if (r === wasR && g === wasG && b === wasB) continue;
      if (isSaturatedRed(r, g, b) !== isSaturatedRed(wasR, wasG, wasB)) turning[this.turningCells++] = cell;
    }
  }

  /** Looks at the second that ends now afresh; tells whether it is worse than the worst so far. */
  private lookAfresh(states: readonly LitFrame[]): boolean {
    const { weights, field, columns } = this;
    // No cell turns more often than the light changes.
    if (states.length - 1 < this.wantedFlashes * 2) return false;
    const need = this.turnsNeeded;
    const flashing: number[] = [];
    let [firstState, lastState] = [states.length, -1];
    const turnsOf = new Map<number, Turns>();
    const room = this.roomFor(states.length);
    for (let cell = 0; cell < this.cells; cell++) {
      if ((this.recent[cell] as number) < need) continue;
      const turns = this.turnsOf(cell, states, room);
      if (turns.turns < this.wantedFlashes * 2) continue;
      turnsOf.set(cell, turns);
      flashing.push(cell);
    }
    if (flashing.length * 9 * WHOLE_CELL <= field.quarterWeight) return false;
    this.weigh(flashing, states);
    const place = fullestPlace(weights, field);
    const isWorse = place.weight > field.quarterWeight;
    if (isWorse) {
      for (const [cell, { first, last }] of turnsOf) {
        const [column, row] = [cell % columns, Math.floor(cell / columns)];
        const isInPlace = column >= place.left && column < place.left + field.columns && row >= place.top && row < place.top + field.rows;
        if (!isInPlace) continue;
        firstState = Math.min(firstState, first);
        lastState = Math.max(lastState, last);
      }
      this.found = {
        kind: this.kind,
        flashes: this.wantedFlashes,
        fromFrame: (states[firstState] as LitFrame).frame,
        toFrame: (states[lastState] as LitFrame).frame,
        fieldPercent: Math.min(100, Math.round((place.weight / field.fieldWeight) * 1000) / 10),
      };
    }
    weights.fill(0);
    return isWorse;
  }

  private roomFor(states: number): readonly Float32Array[] {
    return Array.from({ length: this.kind === 'general' ? 1 : 3 }, () => new Float32Array(states));
  }

  private turnsOf(cell: number, states: readonly LitFrame[], room: readonly Float32Array[]): Turns {
    const [first, second, third] = room;
    const most = this.wantedFlashes * 2;
    for (let state = 0; state < states.length; state++) {
      const { light } = states[state] as LitFrame;
      (first as Float32Array)[state] = (this.kind === 'general' ? light.luminance[cell] : light.red[cell]) as number;
      if (!second || !third) continue;
      second[state] = light.green[cell] as number;
      third[state] = light.blue[cell] as number;
    }
    if (!second || !third) return luminanceTurns(first as Float32Array, states.length, most);
    return redTurns(first as Float32Array, second, third, states.length, most);
  }

  /*
   * An edge that runs through a cell cuts off a part p of it, whose light changes by p times what it changes beside,
   * where the cell is whole: over the second, p = d / d_beside with d the light changed. So a cell next to one that
   * flashes, which itself changes as often but too little to flash, weighs d / d_beside; and one that flashes next to
   * one that stands still, or at the frame's border, has the edge in it and weighs as much too. Soft edges weigh a little more than they should.
   */
  private weigh(flashing: readonly number[], states: readonly LitFrame[]): void {
    const { weights, isFlashing, around, aroundOther, changes } = this;
    changes.of(states);
    for (const cell of flashing) isFlashing[cell] = 1;
    for (const cell of flashing) {
      const beside = this.beside(cell, around);
      let hasEdge = beside < NEIGHBOURS;
      for (let index = 0; index < beside && !hasEdge; index++) {
        const other = around[index] as number;
        hasEdge = isFlashing[other] === 0 && changes.lightOf(other) < STILL;
      }
      weights[cell] = hasEdge ? Math.round(this.partOf(cell, around, beside) * WHOLE_CELL) : WHOLE_CELL;
      for (let index = 0; index < beside; index++) {
        const other = around[index] as number;
        if (isFlashing[other] === 1 || weights[other] !== 0 || changes.timesOf(other) < this.wantedFlashes * 2) continue;
        weights[other] = Math.round(this.partOf(other, aroundOther, this.beside(other, aroundOther)) * WHOLE_CELL);
      }
    }
    for (const cell of flashing) isFlashing[cell] = 0;
  }

  /** How much of a cell changes, by the most that a flashing one changes of `around`, of which the first `beside` are beside it. */
  private partOf(cell: number, around: Int32Array, beside: number): number {
    let most = 0;
    for (let index = 0; index < beside; index++) {
      const other = around[index] as number;
      if (this.isFlashing[other] === 1) most = Math.max(most, this.changes.lightOf(other));
    }
    return most === 0 ? 1 : Math.min(1, this.changes.lightOf(cell) / most);
  }

  /** Writes the cells around one; gives how many they are. */
  private beside(cell: number, into: Int32Array): number {
    const { columns, cells } = this;
    const column = cell % columns;
    let beside = 0;
    for (let row = -1; row <= 1; row++) {
      for (let across = -1; across <= 1; across++) {
        const other = cell + row * columns + across;
        const isInside = column + across >= 0 && column + across < columns && other >= 0 && other < cells;
        if (isInside && other !== cell) into[beside++] = other;
      }
    }
    return beside;
  }
}
