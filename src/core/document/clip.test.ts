import { execFileSync } from 'node:child_process';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import {
  type Clip,
  type ClipSpan,
  checkClip,
  clipFrameAt,
  conversionOf,
  framesOfClip,
  microsecondsOfClip,
  microsecondsOfFrame,
} from '@/core/document/clip';
import { record } from '@/core/testing/record';
import { clipOf } from '@/core/testing/sheets';
import type { Rate } from '@/core/time/rate';

const rate = (num: number, den = 1): Rate => ({ num, den });
const shown = (clip: Clip, film: Rate) =>
  Array.from({ length: framesOfClip(clip, 'converted', film) }, (_, frame) => clipFrameAt(clip, 'converted', film, frame));
const variable = (spans: readonly ClipSpan[]): Clip => ({
  ...clipOf(spans.reduce((sum, { frames }) => sum + frames, 0)),
  timing: { kind: 'variable', spans },
});

describe('a clip in a film', () => {
  // Worked examples: a clip of 100 frames at 25 on a reel at 24.
  it('read as the film’s has each of its frames once', () => {
    const clip = clipOf(100);
    expect(framesOfClip(clip, 'readAs', rate(24))).toBe(100);
    expect([0, 12, 99].map((frame) => clipFrameAt(clip, 'readAs', rate(24), frame))).toEqual([0, 12, 99]);
  });

  it('converted from 25 to 24 passes over every 25th, the first at 12', () => {
    const clip = clipOf(100);
    expect(framesOfClip(clip, 'converted', rate(24))).toBe(96);
    expect(shown(clip, rate(24)).slice(10, 14)).toEqual([10, 11, 13, 14]);
    expect(conversionOf(clip, rate(24))).toEqual({ repeated: [], passedOver: [12, 37, 62, 87] });
  });

  it.each([
    [48, rate(12), rate(24), 96],
    [30, rate(30), rate(24), 24],
    [1, rate(25), rate(24), 1],
    [1, rate(240), rate(1), 1],
    [997, rate(24000, 1001), rate(24), 998],
    [540_000, rate(25), rate(24), 518_400],
    [1_296_000, rate(60_000, 1001), rate(24), 518_918],
  ])('of %i frames at %o covers in a film at %o %i frames', (frames, own, film, covered) =>
    expect(framesOfClip(clipOf(frames, own), 'converted', film)).toBe(covered),
  );

  it('shows what is on at the middle of every frame, by brute force in whole numbers of any size', () => {
    const rates = fc.constantFrom(rate(12), rate(24), rate(25), rate(30), rate(24000, 1001), rate(30000, 1001), rate(60), rate(1));
    fc.assert(
      fc.property(fc.integer({ min: 1, max: 3000 }), rates, rates, fc.nat(5000), (frames, own, film, frame) => {
        const clip = clipOf(frames, own);
        if (frame >= framesOfClip(clip, 'converted', film)) return;
        // Frame i is on from i·d/n on: the last one that is not after (k + ½)·den/num.
        const middle = BigInt(2 * frame + 1) * BigInt(film.den) * BigInt(own.num);
        const unit = 2n * BigInt(film.num) * BigInt(own.den);
        const exact = Number(middle / unit);
        expect(clipFrameAt(clip, 'converted', film, frame)).toBe(Math.min(exact, frames - 1));
      }),
    );
  });

  it.each([
    [rate(25), rate(24)],
    [rate(30), rate(24)],
    [rate(24), rate(25)],
    [rate(12), rate(24)],
    [rate(30), rate(25)],
    [rate(24000, 1001), rate(25)],
  ])('from %o to %o shows the frames that ffmpeg chooses of numbered pictures', (own, film) => {
    const frames = 150;
    const pictures = Buffer.concat(Array.from({ length: frames }, (_, index) => Buffer.alloc(4, index)));
    const out = execFileSync(
      'ffmpeg',
      // prettier-ignore
      [
        '-v',
        'error',
        '-f',
        'rawvideo',
        '-pix_fmt',
        'gray',
        '-s',
        '2x2',
        '-framerate',
        `${own.num}/${own.den}`,
        '-i',
        '-',
        '-vf',
        `fps=${film.num}/${film.den}`,
        '-f',
        'rawvideo',
        '-pix_fmt',
        'gray',
        '-',
      ],
      { input: pictures },
    );
    const theirs = Array.from({ length: out.length / 4 }, (_, frame) => out[frame * 4] as number);
    const ours = shown(clipOf(frames, own), film);
    // How long the very last frame stands is another question: what both show is held together.
    const both = Math.min(theirs.length, ours.length);
    expect(both).toBeGreaterThan(Math.min(frames, ours.length) - 3);
    for (let frame = 0; frame < both; frame++) {
      // Where a frame of the clip comes on at the very middle of one of the film's, ffmpeg begins it a frame later.
      const isTie = ((2 * frame + 1) * own.num * film.den) % (2 * own.den * film.num) === 0;
      expect([frame, (ours[frame] as number) - (isTie && ours[frame] !== theirs[frame] ? 1 : 0)]).toEqual([frame, theirs[frame]]);
    }
  });

  it('of frames that are not equally long is read by its times, by brute force', () => {
    const spans = fc.array(record({ frames: fc.integer({ min: 1, max: 5 }), microseconds: fc.integer({ min: 1000, max: 200_000 }) }), {
      minLength: 1,
      maxLength: 8,
    });
    fc.assert(
      fc.property(spans, fc.constantFrom(rate(24), rate(25), rate(24000, 1001)), (list, film) => {
        const clip = variable(list);
        const ends: number[] = [];
        for (const { frames, microseconds } of list)
          for (let frame = 0; frame < frames; frame++) ends.push((ends.at(-1) ?? 0) + microseconds);
        expect(microsecondsOfClip(clip)).toBe(ends.at(-1));
        shown(clip, film).forEach((frame, at) => {
          const moment = ((at + 0.5) * 1e6 * film.den) / film.num;
          const found = ends.findIndex((end) => moment < end);
          expect(frame).toBe(found < 0 ? ends.length - 1 : found);
        });
        ends.forEach((end, frame) => {
          const asked = microsecondsOfFrame(clip, frame);
          expect(asked).toBeGreaterThanOrEqual(ends[frame - 1] ?? 0);
          expect(asked).toBeLessThan(end);
        });
      }),
    );
  });

  it('asks a decoder for the middle of a frame, from where its file begins', () => {
    expect([0, 1, 99].map((frame) => microsecondsOfFrame({ ...clipOf(100), startMicroseconds: 80_000 }, frame))).toEqual([
      100_000, 140_000, 4_060_000,
    ]);
  });

  it.each<readonly [string, Clip, string]>([
    ['no frames', clipOf(0), '1 to 2,000,000 frames'],
    ['too many', clipOf(2_000_001), '1 to 2,000,000 frames'],
    ['11 hours', clipOf(11 * 3600 * 25), 'longer than 10 hours'],
    ['times of other frames', { ...variable([{ frames: 3, microseconds: 40_000 }]), frames: 4 }, 'not those of its 4 frames'],
    [
      'too many paces',
      variable(Array.from({ length: 20_001 }, (_, index) => ({ frames: 1, microseconds: 40_000 + (index % 2) }))),
      'change their length too often',
    ],
  ])('can’t have %s', (_what, clip, reason) => {
    const checked = checkClip(clip);
    expect(!checked.ok && checked.reason).toContain(reason);
  });
  it('can have 6 hours, and one frame', () => expect([checkClip(clipOf(6 * 3600 * 25)).ok, checkClip(clipOf(1)).ok]).toEqual([true, true]));
});
