import { describe, expect, it } from 'vitest';
import { type WaitingStep, waitingReader } from '@/contracts/local';
import { firstBatch, MOST_BATCH_STEPS, MOST_BYTES } from '@/features/sync/batches';

const waiting = (...sizes: number[]): WaitingStep[] =>
  sizes.map((sizeBytes, order) => ({
    version: waitingReader.version,
    order,
    projectId: 'p',
    windowId: 'w',
    id: String(order),
    step: { type: 'renameProject', title: 'x' },
    pictures: [],
    sizeBytes,
    sending: null,
  }));
const MEBIBYTE = 1024 * 1024;

describe('firstBatch', () => {
  it.each([
    ['none', [], MOST_BATCH_STEPS, 0],
    ['few small ones, together', [10, 20, 30], MOST_BATCH_STEPS, 3],
    ['at most so many steps', Array(80).fill(10), MOST_BATCH_STEPS, 50],
    ['fewer when half was refused', Array(80).fill(10), 12, 12],
    ['at most so many bytes', Array(21).fill(4 * MEBIBYTE), MOST_BATCH_STEPS, 4],
    ['one that is larger alone, by itself', [60 * MEBIBYTE, 10], MOST_BATCH_STEPS, 1],
    ['none behind one that is too much', [10, MOST_BYTES, 10], MOST_BATCH_STEPS, 1],
  ])('takes %s', (_what, sizes, most, count) => expect(firstBatch(waiting(...sizes), most)).toHaveLength(count));
});
