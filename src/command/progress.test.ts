import { afterEach, beforeEach, expect, it, vi } from 'vitest';
import { progressOf } from '@/command/progress';

beforeEach(() => void vi.useFakeTimers());
afterEach(() => void vi.useRealTimers());

const watched = () => {
  const told: (string | null)[] = [];
  const output = { print: () => undefined, complain: () => undefined, tell: (words: string | null) => void told.push(words) };
  return { told, progress: progressOf('reel.mp4', output) };
};

it('tells nothing of what is over within a second', () => {
  const { told, progress } = watched();
  progress.opened(24);
  progress.onFrame(24);
  vi.advanceTimersByTime(999);
  progress.end();
  vi.advanceTimersByTime(5000);
  expect(told).toEqual([null]);
});

it('tells that the list is read, then how many frames of it were seen, four times a second', () => {
  const { told, progress } = watched();
  vi.advanceTimersByTime(1000);
  progress.opened(864_000);
  vi.advanceTimersByTime(250);
  progress.onFrame(1200);
  vi.advanceTimersByTime(500);
  progress.end();
  vi.advanceTimersByTime(5000);
  expect(told).toEqual([
    'reel.mp4: its list is read …',
    'reel.mp4: 0 of 864,000 frames …',
    'reel.mp4: 1,200 of 864,000 frames …',
    'reel.mp4: 1,200 of 864,000 frames …',
    null,
  ]);
});

it('says no number that it does not know', () => {
  const { told, progress } = watched();
  progress.opened(null);
  vi.advanceTimersByTime(1000);
  progress.onFrame(7);
  vi.advanceTimersByTime(250);
  expect(told).toEqual(['reel.mp4: it is counted …', 'reel.mp4: 7 frames …']);
});
