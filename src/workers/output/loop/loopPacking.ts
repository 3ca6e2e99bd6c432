import { ApngMaker } from '@/workers/output/loop/apngMaker';
import { GifMaker } from '@/workers/output/loop/gifMaker';
import type { LoopMaker, LoopWork } from '@/workers/output/loop/loopMaker';

export const newLoopMaker = (work: LoopWork): LoopMaker => (work.kind === 'apng' ? new ApngMaker(work) : new GifMaker(work));

/** Who makes what a loop stores of its pictures, several at once where others help. */
export type LoopPacking = {
  /** Gives, each time it is asked, whose turn it is. */
  readonly makersFor: (work: LoopWork) => () => LoopMaker;
  /** How many may be at work at once. */
  readonly makersAtOnce: number;
};

/** Makes it where it is asked for. */
export const PACKED_HERE: LoopPacking = {
  makersFor: (work) => {
    const maker = newLoopMaker(work);
    return () => maker;
  },
  makersAtOnce: 1,
};
