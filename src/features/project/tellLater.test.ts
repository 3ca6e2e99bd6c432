import { afterEach, beforeEach, expect, it, vi } from 'vitest';
import { tellLater } from '@/features/project/tellLater';

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
