import { afterEach, beforeEach, expect, it, vi } from 'vitest';
import { awaitHandover, awaitNoHandover, startHandover } from '@/workers/handover';
import type { HandoverOrder } from '@/workers/protocol';

/** A worker that takes every message; of the calls it is sent, it answers those it was told to. */
class QuietWorker extends EventTarget {
  static readonly all: QuietWorker[] = [];
  static answers: Readonly<Record<string, unknown>> = {};
  isTerminated = false;
  readonly asked: string[] = [];

  constructor(readonly url: URL) {
    super();
    QuietWorker.all.push(this);
  }

  /** Those that hand over, and those that pack pictures for them. */
  static of(part: 'output' | 'picture'): QuietWorker[] {
    return QuietWorker.all.filter(({ url }) => url.pathname.endsWith(`/${part}.worker.ts`));
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
const order = (formatId: string) => ({ formatId }) as HandoverOrder;
const start = (folder: FileSystemDirectoryHandle | null = null, formatId = 'mp4') =>
  startHandover(order(formatId), folder, () => undefined, null, null);

beforeEach(() => {
  vi.useFakeTimers();
  vi.stubGlobal('Worker', QuietWorker);
  vi.stubGlobal('navigator', { hardwareConcurrency: 3 });
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

it('begins in the workers that were loaded for it beforehand, so that no server is asked at the press; then the next are loaded', async () => {
  QuietWorker.answers = { run: { kind: 'stopped' } };
  awaitHandover('png');
  expect(QuietWorker.of('output').map(({ asked }) => asked)).toEqual([['addHelper', 'addHelper', 'addHelper', 'load']]);
  expect(QuietWorker.of('picture').map(({ asked }) => asked)).toEqual([['serve'], ['serve'], ['serve']]);
  const before = [...QuietWorker.all];
  await start(null, 'png').end;
  expect(before[0]?.asked.at(-1)).toBe('run');
  expect(before.map(({ isTerminated }) => isTerminated)).toEqual([true, true, true, true]);
  expect(QuietWorker.all.slice(before.length).map(({ asked }) => asked[0])).toEqual(['addHelper', 'serve', 'serve', 'serve']);
  awaitNoHandover();
  expect(QuietWorker.all.every(({ isTerminated }) => isTerminated)).toBe(true);
});

it('needs no helpers for a film, and gets them once pictures are asked for', () => {
  awaitHandover('mp4');
  expect(QuietWorker.all).toHaveLength(1);
  awaitHandover('tiff');
  expect([QuietWorker.of('output').length, QuietWorker.of('picture').length]).toEqual([1, 3]);
  awaitNoHandover();
});

it('begins a worker of its own where the one that was loaded could not be', async () => {
  QuietWorker.answers = { run: { kind: 'stopped' } };
  awaitHandover('mp4');
  QuietWorker.all[0]?.dispatchEvent(new Event('error', { cancelable: true }));
  awaitNoHandover();
  expect(await start().end).toEqual({ kind: 'stopped' });
  expect(QuietWorker.all.map(({ asked }) => asked)).toEqual([['load'], ['run']]);
});

it('goes on without a helper that can’t be loaded, and fails with one that breaks in its work', async () => {
  const without = start(null, 'png');
  const [first] = QuietWorker.of('picture');
  const gone = new Event('error', { cancelable: true });
  first?.dispatchEvent(gone);
  expect(gone.defaultPrevented).toBe(true);
  QuietWorker.answers = { serve: null };
  const broken = start(null, 'png');
  await vi.advanceTimersByTimeAsync(0);
  QuietWorker.of('picture')
    .at(-1)
    ?.dispatchEvent(Object.assign(new Event('error'), { message: 'no memory' }));
  await expect(broken.end).rejects.toThrow('no memory');
  without.stop();
  await vi.advanceTimersByTimeAsync(15_000);
  expect((await without.end).kind).toBe('refused');
});
