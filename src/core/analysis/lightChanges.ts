import type { FlashKind } from '@/core/analysis/flashRule';
import type { LitFrame } from '@/core/analysis/lightHistory';

/** Less than this much light at once is no change, but rounding. */
const LEAST_LIGHT = 1e-6;

/** How much light each cell changes by within a second, and how often: luminance, or each of red, green and blue; worked out once a cell, when it is asked for. */
export class LightChanges {
  private states: readonly LitFrame[] = [];
  private readonly isKnown: Uint8Array;
  private readonly light: Float64Array;
  private readonly times: Uint16Array;

  constructor(
    private readonly kind: FlashKind,
    cells: number,
  ) {
    this.isKnown = new Uint8Array(cells);
    this.light = new Float64Array(cells);
    this.times = new Uint16Array(cells);
  }

  /** Has it tell of the lights of another second, oldest first. */
  of(states: readonly LitFrame[]): void {
    this.states = states;
    this.isKnown.fill(0);
  }

  /** The sum of the light a cell changes by. */
  lightOf(cell: number): number {
    if (this.isKnown[cell] === 0) this.learn(cell);
    return this.light[cell] as number;
  }

  /** On how many frames a cell changes. */
  timesOf(cell: number): number {
    if (this.isKnown[cell] === 0) this.learn(cell);
    return this.times[cell] as number;
  }

  private learn(cell: number): void {
    let light = 0;
    let times = 0;
    for (let state = 1; state < this.states.length; state++) {
      const by = this.changeAt(state, cell);
      if (by > LEAST_LIGHT) times++;
      light += by;
    }
    this.isKnown[cell] = 1;
    this.light[cell] = light;
    this.times[cell] = times;
  }

  private changeAt(state: number, cell: number): number {
    const { light: was } = this.states[state - 1] as LitFrame;
    const { light: is } = this.states[state] as LitFrame;
    if (this.kind === 'general') return apart(was.luminance, is.luminance, cell);
    return apart(was.red, is.red, cell) + apart(was.green, is.green, cell) + apart(was.blue, is.blue, cell);
  }
}

const apart = (was: Float32Array, is: Float32Array, cell: number): number => Math.abs((is[cell] as number) - (was[cell] as number));
