import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { isOver, type JobEvent, nextState, PLANNED, partDone } from '@/core/output/jobState';

const progress = (framesDone: number) => ({ framesDone, frames: 24, composited: 3 });
const EVENTS: readonly JobEvent[] = [
  { kind: 'writing', progress: progress(12) },
  { kind: 'counting', progress: progress(12) },
  { kind: 'done' },
  { kind: 'stopped' },
  { kind: 'failed', reason: 'There is no room.' },
];

describe('a job', () => {
  it('is written, counted and done', () => {
    const states = [PLANNED];
    for (const event of EVENTS.slice(0, 3)) states.push(nextState(states.at(-1) ?? PLANNED, event));
    expect(states.map((state) => state.kind)).toEqual(['planned', 'writing', 'counting', 'done']);
    expect(states.map(partDone)).toEqual([0, 0.3, 0.8, 1]);
  });

  it.each(['sending', 'looking'] as const)(
    'is %s first where pictures go through that before they are written, and its part only grows',
    (before) => {
      const events: readonly JobEvent[] = [
        { kind: before, progress: progress(12) },
        { kind: before, progress: progress(24) },
        { kind: 'writing', progress: { ...progress(12), before } },
        { kind: 'counting', progress: progress(12) },
      ];
      const states = [PLANNED];
      for (const event of events) states.push(nextState(states.at(-1) ?? PLANNED, event));
      expect(states.map((state) => state.kind)).toEqual(['planned', before, before, 'writing', 'counting']);
      for (const [index, part] of [0, 0.15, 0.3, 0.45, 0.8].entries()) expect(partDone(states[index] ?? PLANNED)).toBeCloseTo(part);
    },
  );

  it('is not done before it was counted, nor written again once it is counted', () => {
    expect(nextState(PLANNED, { kind: 'done' })).toBe(PLANNED);
    const counting = nextState(PLANNED, { kind: 'counting', progress: progress(1) });
    expect(nextState(counting, { kind: 'writing', progress: progress(2) })).toBe(counting);
  });

  it('stays over once it is, whatever news comes late', () => {
    fc.assert(
      fc.property(fc.array(fc.constantFrom(...EVENTS), { maxLength: 20 }), (events) => {
        let state = PLANNED;
        for (const event of events) {
          const next = nextState(state, event);
          if (isOver(state)) expect(next).toBe(state);
          state = next;
        }
      }),
    );
  });
});
