import { afterEach, beforeEach, expect, it, vi } from 'vitest';
import { keyWasPressed, tellLater } from '@/features/project/tellLater';

beforeEach(() => {
  vi.useFakeTimers({ toFake: ['setTimeout', 'clearTimeout', 'performance'] });
});
afterEach(() => {
  vi.runAllTimers();
  vi.useRealTimers();
});

it('tells each when it is due, and what is due a moment later with it', () => {
  const told: string[] = [];
  tellLater(() => told.push('late'), 300);
  tellLater(() => told.push('first'), 120);
  tellLater(() => told.push('with it'), 128);
  vi.advanceTimersByTime(119);
  expect(told).toEqual([]);
  vi.advanceTimersByTime(1);
  expect(told).toEqual(['first', 'with it']);
  vi.advanceTimersByTime(179);
  expect(told).toEqual(['first', 'with it']);
  vi.advanceTimersByTime(1);
  expect(told).toEqual(['first', 'with it', 'late']);
});

it('tells nothing that was taken back, and puts off what is asked for again', () => {
  const told: number[] = [];
  let takeBack = tellLater(() => told.push(0), 120);
  for (let press = 1; press <= 10; press++) {
    vi.advanceTimersByTime(40);
    takeBack();
    takeBack = tellLater(() => told.push(press), 120);
  }
  expect(told).toEqual([]);
  vi.advanceTimersByTime(120);
  expect(told).toEqual([10]);
});

it('tells what is asked for while something is told after that', () => {
  const told: string[] = [];
  tellLater(() => {
    told.push('one');
    tellLater(() => told.push('two'), 0);
  }, 50);
  vi.advanceTimersByTime(50);
  expect(told).toEqual(['one']);
  vi.advanceTimersByTime(1);
  expect(told).toEqual(['one', 'two']);
});

it('waits for keys to rest, and no longer than it may', () => {
  const told: string[] = [];
  tellLater(() => told.push('whole film'), 120);
  tellLater(() => told.push('follows the frame'), 120, 600);
  for (let milliseconds = 0; milliseconds < 560; milliseconds += 40) {
    keyWasPressed();
    vi.advanceTimersByTime(40);
  }
  expect(told).toEqual([]);
  keyWasPressed();
  vi.advanceTimersByTime(40);
  expect(told).toEqual(['follows the frame']);
  keyWasPressed();
  vi.advanceTimersByTime(119);
  expect(told).toEqual(['follows the frame']);
  vi.advanceTimersByTime(1);
  expect(told).toEqual(['follows the frame', 'whole film']);
});

it('comes in the end though keys never rest', () => {
  const told: string[] = [];
  tellLater(() => told.push('whole film'), 120);
  for (let milliseconds = 0; milliseconds < 1640; milliseconds += 40) {
    expect(told).toEqual([]);
    keyWasPressed();
    vi.advanceTimersByTime(40);
  }
  expect(told).toEqual(['whole film']);
});
