import { afterEach, beforeEach, expect, it, vi } from 'vitest';
import { awaitHandover, awaitNoHandover, startHandover } from '@/workers/handover';
import type { HandoverOrder } from '@/workers/protocol';

/** A worker that takes every message; of the calls it is sent, it answers those it was told to. */
class QuietWorker extends EventTarget {
  static readonly all: QuietWorker[] = [];
  static answers: Readonly<Record<string, unknown>> = {};
  isTerminated = false;
  readonly asked: string[] = [];

  constructor() {
    super();
    QuietWorker.all.push(this);
  }

  postMessage({ id, path = [] }: { readonly id: string; readonly path?: readonly string[] }): void {
    this.asked.push(path.join('.'));
    const value = QuietWorker.answers[path.join('.')];
    if (value === undefined) return;
    queueMicrotask(() => this.dispatchEvent(new MessageEvent('message', { data: { id, type: 'RAW', value } })));
  }

  terminate(): void {
    this.isTerminated = true;
  }
}

// The worker is told it, and here nobody looks at it.
const ORDER = {} as HandoverOrder;
const start = (folder: FileSystemDirectoryHandle | null = null) => startHandover(ORDER, folder, () => undefined, null);

beforeEach(() => {
  vi.useFakeTimers();
  vi.stubGlobal('Worker', QuietWorker);
  QuietWorker.all.length = 0;
  QuietWorker.answers = {};
});

afterEach(() => {
  vi.useRealTimers();
  vi.unstubAllGlobals();
});

it('ends a worker that does not heed a stop, fifteen seconds after it, and says what is left', async () => {
  const running = start();
  let reason = '';
  void running.end.then((end) => {
    if (end.kind === 'refused') reason = end.reason;
  });
  await vi.advanceTimersByTimeAsync(60_000);
  expect(QuietWorker.all[0]?.isTerminated).toBe(false);
  running.stop();
  running.stop();
  await vi.advanceTimersByTimeAsync(14_999);
  expect([QuietWorker.all[0]?.isTerminated, reason]).toEqual([false, '']);
  await vi.advanceTimersByTimeAsync(1);
  expect(QuietWorker.all[0]?.isTerminated).toBe(true);
  expect(reason).toMatch(/did not answer for 15 s.*Nothing was saved/);
});

it('names the folder that holds what such a worker had written', async () => {
  const running = start({ name: 'Washday out' } as FileSystemDirectoryHandle);
  running.stop();
  await vi.advanceTimersByTimeAsync(15_000);
  expect(await running.end).toEqual({ kind: 'refused', reason: expect.stringContaining('the folder Washday out') });
});

it('takes the word of a worker that heeds the stop', async () => {
  QuietWorker.answers = { run: { kind: 'stopped' }, stop: null };
  const running = start();
  running.stop();
  expect(await running.end).toEqual({ kind: 'stopped' });
  expect(QuietWorker.all[0]?.isTerminated).toBe(true);
  expect(vi.getTimerCount()).toBe(0);
});

it('begins in the worker that was loaded for it beforehand, so that no server is asked at the press; then the next is loaded', async () => {
  QuietWorker.answers = { run: { kind: 'stopped' } };
  awaitHandover('png');
  expect(QuietWorker.all.map(({ asked }) => asked)).toEqual([['load']]);
  await start().end;
  expect(QuietWorker.all.map(({ asked, isTerminated }) => [asked, isTerminated])).toEqual([
    [['load', 'run'], true],
    [['load'], false],
  ]);
  awaitNoHandover();
  expect(QuietWorker.all.map(({ isTerminated }) => isTerminated)).toEqual([true, true]);
});

it('begins a worker of its own where the one that was loaded could not be', async () => {
  QuietWorker.answers = { run: { kind: 'stopped' } };
  awaitHandover('png');
  QuietWorker.all[0]?.dispatchEvent(new Event('error', { cancelable: true }));
  awaitNoHandover();
  expect(await start().end).toEqual({ kind: 'stopped' });
  expect(QuietWorker.all.map(({ asked }) => asked)).toEqual([['load'], ['run']]);
});
