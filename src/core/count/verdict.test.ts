import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { type FileTimes, rateOfTimes } from '@/core/count/fileTimes';
import { framesShown, type HandoverCount, type HandoverRequest, judge } from '@/core/count/verdict';
import { record } from '@/core/testing/record';
import { frameRangeWords } from '@/core/time/frameWords';
import { KNOWN_RATES, type Rate } from '@/core/time/rate';

const asked: HandoverRequest = { frames: 96, rate: { num: 24, den: 1 }, width: 1280, height: 720, firstNumber: 1, sound: null, loop: null };
const good: HandoverCount = {
  frames: 96,
  hasTimes: true,
  rate: { num: 24, den: 1 },
  otherRates: [],
  durationMicroseconds: 4_000_000,
  timeToleranceMicroseconds: 1,
  width: 1280,
  height: 720,
  repeatFrames: [],
  wrongFrames: [],
  clipRepeatFrames: [],
  missingFrames: [],
  mistimedFrames: [],
  untellableChanges: 0,
  colours: null,
  loop: null,
  keyFrames: [0],
  sound: null,
  comparison: { kind: 'within', toleranceLevels: 3, whileWriting: false, largestLevels: 0.4 },
};

describe('judge', () => {
  it('agrees when every line does, and says so', () => {
    const verdict = judge(asked, good);
    expect(verdict.agrees).toBe(true);
    expect(verdict.sentences[0]).toBe('Agrees: 96 frames, each there once, each the picture the sheet says.');
    expect(verdict.lines.map((line) => line.what)).toEqual([
      'frames',
      'rate',
      'length',
      'frames on time',
      'size',
      'right pictures',
      'repeats*',
    ]);
  });

  it.each([
    [{ frames: 95, wrongFrames: [] }, 'frames', '1 frame asked for is not in the file.'],
    [{ frames: 120 }, 'frames', 'The file holds 24 frames too many.'],
    [{ rate: { num: 30, den: 1 } }, 'rate', 'Asked for 24/1 frames a second, the file says 30/1.'],
    [{ durationMicroseconds: 3_200_000 }, 'length', ''],
    [{ rate: null }, 'rate', 'The times of its frames fit no rate.'],
    [{ durationMicroseconds: null }, 'length', 'doesn’t say how long its last frame lasts'],
    [{ width: 640 }, 'size', ''],
    [{ frames: 95, missingFrames: [40] }, 'right pictures', 'Not in the file: frame 41.'],
    [{ repeatFrames: [41] }, 'repeats*', 'The picture before is repeated, with no hold on the sheet, on frame 42.'],
    [{ wrongFrames: [2, 3, 4, 8] }, 'right pictures', 'Wrong picture on frames 3–5, 9.'],
    [{ mistimedFrames: [0] }, 'frames on time', 'Not on time: frame 1.'],
  ] as const)('disagrees with %o at “%s”', (part, what, sentence) => {
    const verdict = judge(asked, { ...good, ...part });
    expect(verdict.agrees).toBe(false);
    expect(verdict.lines.find((line) => line.what === what)?.agrees).toBe(false);
    expect(verdict.sentences.join(' ')).toContain(sentence);
    expect(verdict.sentences.join(' ')).not.toContain('Agrees');
  });

  it('counts a file missing from a sequence once, and doesn’t call it a wrong picture', () => {
    const pictures: HandoverCount = { ...good, hasTimes: false, rate: null, durationMicroseconds: null, comparison: { kind: 'exact' } };
    const verdict = judge({ ...asked, frames: 10 }, { ...pictures, frames: 9, missingFrames: [3] });
    expect(verdict.lines.find((line) => line.what === 'right pictures')?.counted).toBe('9');
    expect(verdict.sentences.join(' ')).toContain('Not in the file: frame 4.');
    expect(verdict.sentences.join(' ')).not.toContain('Not the picture meant');
  });

  it('says which rates a short film can’t tell apart, and agrees with each of them alone', () => {
    const short: HandoverCount = {
      ...good,
      frames: 20,
      durationMicroseconds: 834_000,
      timeToleranceMicroseconds: 1000,
      otherRates: [{ num: 24000, den: 1001 }],
    };
    const verdict = judge({ ...asked, frames: 20 }, short);
    expect(verdict.agrees).toBe(true);
    expect(verdict.lines.find((line) => line.what === 'rate')?.counted).toBe('24/1 or 24000/1001');
    expect(verdict.sentences).toContain('20 frames are too few to tell 24/1 from 24000/1001: the file’s times fit both.');
    expect(judge({ ...asked, frames: 20, rate: { num: 25, den: 1 } }, short).agrees).toBe(false);
  });

  it('never agrees with a line missing or a sentence against it', () => {
    const frames = fc.array(fc.nat(95), { maxLength: 2 });
    const counted = record({
      frames: fc.constantFrom(96, 95, 97),
      hasTimes: fc.boolean(),
      rate: fc.constantFrom(null, { num: 24, den: 1 }, { num: 25, den: 1 }),
      durationMicroseconds: fc.constantFrom(null, 4_000_000, 3_000_000),
      repeatFrames: frames,
      wrongFrames: frames,
      missingFrames: frames,
      mistimedFrames: frames,
    });
    fc.assert(
      fc.property(counted, (part) => {
        const verdict = judge(asked, { ...good, ...part });
        const against = verdict.sentences.filter(
          (sentence) => !sentence.startsWith('Agrees') && !sentence.startsWith('Every frame was decoded'),
        );
        expect(verdict.agrees).toBe(against.length === 0 && verdict.lines.every((line) => line.agrees));
        expect(verdict.lines.map((line) => line.what)).toEqual(
          part.hasTimes
            ? ['frames', 'rate', 'length', 'frames on time', 'size', 'right pictures', 'repeats*']
            : ['frames', 'size', 'right pictures', 'repeats*'],
        );
        const said = verdict.sentences.join(' ');
        if (part.hasTimes && part.mistimedFrames.length > 0) expect(said).toContain('Not on time');
      }),
    );
  });

  it('takes a length within what the container can count', () => {
    const webm = { ...good, durationMicroseconds: 4_000_900, timeToleranceMicroseconds: 1000 };
    expect(judge(asked, webm).agrees).toBe(true);
    expect(judge(asked, { ...webm, durationMicroseconds: 4_001_100 }).agrees).toBe(false);
  });

  it('has no rate or length for picture files, and says that they were compared exactly', () => {
    const verdict = judge(asked, { ...good, hasTimes: false, rate: null, durationMicroseconds: null, comparison: { kind: 'exact' } });
    expect(verdict.agrees).toBe(true);
    expect(verdict.lines.map((line) => line.what)).toEqual(['frames', 'size', 'right pictures', 'repeats*']);
    expect(verdict.sentences.at(-1)).toContain('pixel for pixel');
  });

  it('agrees, and says so, where a clip repeats a picture by itself', () => {
    const verdict = judge(asked, { ...good, clipRepeatFrames: [2] });
    expect(verdict.agrees).toBe(true);
    expect(verdict.sentences.join(' ')).toContain(`as its own file does, on frame ${asked.firstNumber + 2}`);
  });

  it('says when changes are too small to be told apart', () => {
    expect(judge(asked, { ...good, untellableChanges: 2 }).sentences.at(-1)).toContain(
      '2 changes from one drawing to the next are too small',
    );
  });

  it('names frames by their numbers', () => {
    const verdict = judge({ ...asked, firstNumber: 1001 }, { ...good, wrongFrames: [0] });
    expect(verdict.sentences.join(' ')).toContain('frame 1001');
  });
});

describe('frameRangeWords', () => {
  it.each([
    [[5], 'frame 5'],
    [[3, 4, 5, 9], 'frames 3–5, 9'],
    [[1, 3, 5, 7, 9, 11, 13, 15], 'frames 1, 3, 5, 7, 9, 11 and 2 more places'],
    [[1, 3, 5, 7, 9, 11, 13], 'frames 1, 3, 5, 7, 9, 11 and 1 more place'],
  ])('%j', (frames, words) => expect(frameRangeWords(frames)).toBe(words));
});

describe('the rate a file’s times give', () => {
  const times = (rate: Rate, frames: number, tickMicroseconds: number, stated: number | null = null): FileTimes => {
    const ticks = (index: number) => Math.round((index * rate.den * 1e6) / rate.num / tickMicroseconds) * tickMicroseconds;
    return {
      startMicroseconds: Array.from({ length: frames }, (_, index) => ticks(index)),
      lastDurationMicroseconds: ticks(frames) - ticks(frames - 1),
      statedDurationMicroseconds: stated,
      tickMicroseconds,
    };
  };
  const told = (film: FileTimes) => rateOfTimes(film).rates;
  const [R24, R23976, R30] = [
    { num: 24, den: 1 },
    { num: 24000, den: 1001 },
    { num: 30, den: 1 },
  ];

  it.each(KNOWN_RATES.map(({ rate, name }) => [name, rate] as const))(
    'is %s alone in microseconds and, from long films, in thousandths',
    (_name, rate) => {
      for (const tick of [1, 1000]) expect(rateOfTimes(times(rate, 4000, tick))).toEqual({ rates: [rate], mistimedFrames: [] });
    },
  );

  it('is not told apart by a short film that counts in thousandths: both are named, the nearer first', () => {
    const film = times(R23976, 20, 1000);
    expect(told(film)).toHaveLength(2);
    expect(told(film)).toEqual(expect.arrayContaining([R24, R23976]));
    expect(told(times(R23976, 600, 1000))[0]).toEqual(R23976);
    expect(told(times(R23976, 20, 1))).toEqual([R23976]);
  });

  it('is told by a frame length that is stated more finely', () => {
    expect(told(times(R23976, 20, 1000, 41_708.333))).toEqual([R23976]);
    expect(told(times(R24, 20, 1000, 41_666.666))).toEqual([R24]);
    expect(told(times(R24, 1, 1000, 41_666.666))).toEqual([R24]);
  });

  it('is that of the nearest, whatever stands first in a list', () => {
    fc.assert(
      fc.property(
        fc.constantFrom(...KNOWN_RATES),
        fc.integer({ min: 2, max: 3000 }),
        fc.constantFrom(1, 11, 1000),
        ({ rate }, frames, tick) => {
          const film = times(rate, frames, tick);
          expect(told(film)).toContainEqual(rate);
          const apart = told(film).map((other) =>
            Math.abs(((frames - 1) * other.den * 1e6) / other.num - (film.startMicroseconds.at(-1) as number)),
          );
          expect(apart).toEqual(apart.toSorted((a, b) => a - b));
        },
      ),
    );
  });

  it('is an unnamed one by its value, and none for an empty film', () => {
    expect(told(times({ num: 175, den: 10 }, 1000, 1))).toEqual([{ num: 35, den: 2 }]);
    expect(told({ startMicroseconds: [], lastDurationMicroseconds: 0, statedDurationMicroseconds: null, tickMicroseconds: 1 })).toEqual([]);
  });

  it('of one frame is read by that frame’s length, and is none where the file doesn’t say it', () => {
    expect(told(times(R24, 1, 1))).toEqual([R24]);
    expect(told({ ...times(R24, 1, 1), lastDurationMicroseconds: null })).toEqual([]);
  });

  it('is none for frames that all stand at 0', () => {
    const film = { ...times(R24, 12, 1), startMicroseconds: Array.from({ length: 12 }, () => 0) };
    expect(rateOfTimes(film)).toMatchObject({ rates: [], mistimedFrames: [1, 2, 3, 4, 5, 6, 7, 8, 9, 10, 11] });
  });

  it('finds frames off their time, by the rate most of them have', () => {
    const film = times(R24, 10, 1);
    const starts = film.startMicroseconds.with(4, (film.startMicroseconds[4] ?? 0) + 20_000);
    expect(rateOfTimes({ ...film, startMicroseconds: starts })).toEqual({ rates: [R24], mistimedFrames: [4] });
    const late = times(R30, 3, 1);
    expect(rateOfTimes({ ...late, startMicroseconds: late.startMicroseconds.map((start) => start + 41_667) }).mistimedFrames).toEqual([
      0, 1, 2,
    ]);
  });
});

describe('a film with sound', () => {
  const sound = { codec: 'aac', sampleRate: 48_000, channels: 2, samples: 192_000 };
  const counted = { ...sound, startSample: 0, peak: 0.5, wrongFrames: [], undecoded: null };
  it('agrees when it is as long as its picture, and says how loud it is', () => {
    const verdict = judge({ ...asked, sound }, { ...good, sound: counted });
    expect([verdict.agrees, verdict.isWhole]).toEqual([true, true]);
    expect(verdict.sentences).toContain('The sound is as long as the picture, to the sample; its loudest sample is −6.0 dBFS.');
  });
  it.each([
    [{ samples: 192_000 + 1024 }, true, '1,024 samples longer than the picture, within what aac is coded in at a time'],
    [{ samples: 192_000 + 1025 }, false, ''],
    [{ startSample: 960 }, false, ''],
    [{ codec: 'opus' }, false, ''],
    [{ channels: 1 }, false, ''],
    [{ sampleRate: 44_100 }, false, ''],
    [{ wrongFrames: [4, 5, 9] }, false, 'Another sound than was mixed is heard on frames 5–6, 10.'],
    [
      { peak: null, wrongFrames: null, undecoded: 'no decoder' },
      false,
      'The sound was not compared: this browser could not decode it (no decoder).',
    ],
  ])('%o agrees: %s', (part, agrees, sentence) => {
    const verdict = judge({ ...asked, sound }, { ...good, sound: { ...counted, ...part } });
    expect(verdict.agrees).toBe(agrees);
    expect(verdict.sentences.join(' ')).toContain(sentence);
  });
  it('keeps every sample in FLAC: one more or less is told', () => {
    const flac = { ...sound, codec: 'flac' };
    expect(judge({ ...asked, sound: flac }, { ...good, sound: { ...counted, codec: 'flac', samples: 192_001 } }).agrees).toBe(false);
  });
  it('is missing where it was asked for, and too much where it wasn’t', () => {
    expect(judge({ ...asked, sound }, good).agrees).toBe(false);
    expect(judge(asked, { ...good, sound: counted }).agrees).toBe(false);
  });
});

describe('a loop', () => {
  const times = [80_000, 90_000, 80_000];
  const loopAsked: HandoverRequest = {
    ...asked,
    frames: 3,
    loop: { microseconds: times, trueMicroseconds: 250_000, toleranceMicroseconds: 5000, plays: 0 },
  };
  const loopGood: HandoverCount = {
    ...{ ...good, frames: 3, hasTimes: false, rate: null, durationMicroseconds: null, comparison: { kind: 'exact' } },
    loop: { microseconds: times, plays: 0, colours: 64 },
  };

  it('agrees where every picture is held as long as asked, and is as long as it can be', () => {
    const verdict = judge(loopAsked, loopGood);
    expect(verdict.agrees).toBe(true);
    expect(verdict.lines.map(({ what, asked: was, counted }) => [what, was, counted])).toEqual([
      ['pictures', '3', '3'],
      ['length', '0.250 s', '0.250 s'],
      ['pictures on time', '3', '3'],
      ['played', 'on a loop', 'on a loop'],
      ['size', '1280 × 720', '1280 × 720'],
      ['right pictures', '3', '3'],
      ['repeats*', '0', '0'],
    ]);
    expect(verdict.sentences[1]).toContain('what the chosen colours make of the drawing');
  });

  it('shows as many frames as its times come to, and its frames where it is none', () => {
    // 0.25 s at 24 a second is 6 frames; at 60000/1001 it is 14.985, shown as 15.
    expect(framesShown(loopAsked, loopGood)).toBe(6);
    expect(framesShown({ ...loopAsked, rate: { num: 60000, den: 1001 } }, loopGood)).toBe(15);
    // A hundredth of a second too long is within what a GIF can tell: it is what was asked for. Half a second is not.
    const counted = (last: number) => ({ ...loopGood, loop: { microseconds: [80_000, 90_000, last], plays: 0, colours: 64 } });
    expect(framesShown({ ...loopAsked, rate: { num: 120, den: 1 } }, counted(84_000))).toBe(30);
    expect(framesShown(loopAsked, counted(580_000))).toBe(18);
    expect(framesShown(asked, good)).toBe(good.frames);
  });

  it.each([
    ['a picture held too long', { microseconds: [80_000, 100_000, 70_000] }, 'Not held as long as asked: pictures 2–3.'],
    ['a picture missing', { microseconds: [80_000, 90_000] }, 'Not held as long as asked: picture 3.'],
    ['played once', { plays: 1 }, ''],
  ])('disagrees with %s', (_, change, sentence) => {
    const loop = { ...{ microseconds: times, plays: 0, colours: 64 }, ...change };
    const verdict = judge(loopAsked, { ...loopGood, loop });
    expect(verdict.agrees).toBe(false);
    expect(verdict.sentences.join(' ')).toContain(sentence);
  });

  it('longer or shorter than half a unit disagrees, and so does a file that is none', () => {
    const slow = { ...loopAsked, loop: { microseconds: times, trueMicroseconds: 256_000, toleranceMicroseconds: 5000, plays: 0 } };
    expect(judge(slow, loopGood).agrees).toBe(false);
    expect(judge(loopAsked, { ...loopGood, loop: null }).agrees).toBe(false);
    expect(judge({ ...loopAsked, loop: null }, loopGood).agrees).toBe(false);
  });
});
