import { describe, expect, it } from 'vitest';
import { DESTINATIONS, destinationOf } from '@/core/check/destinations';
import { mustBeDone } from '@/core/outcome';
import { refusalsOf } from '@/core/outside/acceptance';
import { onPaper, premultipliedOnPaper } from '@/core/outside/blocks';
import { type CountedOutside, countOutside } from '@/core/outside/countOutside';
import { countSentences } from '@/core/outside/countWords';
import { BENCH_SETTINGS, type BenchSettings, benchCount, benchOf } from '@/core/outside/editingBench';
import { flashesIn } from '@/core/outside/flashesIn';
import { holdAgainst, holdAsItLeft, planOfFile } from '@/core/outside/holdAgainst';
import type { OutsideCount } from '@/core/outside/outsideCount';
import { heldAgainstReceipt } from '@/core/outside/receiptAgainst';
import { FrameWatch, type SeenFrames } from '@/core/outside/seenFrames';
import { parseRate } from '@/core/time/rate';

const rateOf = (text: string) => mustBeDone(parseRate(text));
const [COLUMNS, ROWS] = [320, 180];

/** A page of a grey with a bar at a place, limited range. */
function page(left: number, paper = 235) {
  const planes = new Uint8Array(COLUMNS * ROWS * 3).fill(128);
  planes.fill(paper, 0, COLUMNS * ROWS);
  for (let row = 40; row < 120; row++) planes.fill(40, row * COLUMNS + left, row * COLUMNS + left + 8);
  return { columns: COLUMNS, rows: ROWS, planes };
}

function seenOf(pages: readonly ReturnType<typeof page>[]): SeenFrames {
  const watch = new FrameWatch(pages.length);
  for (const [index, each] of pages.entries()) watch.take(each, 1280, `${index}`);
  return watch.seen;
}

const COUNT: OutsideCount = {
  kind: 'film',
  name: 'reel.mp4',
  fileBytes: 1_000_000,
  made: 'MP4, H.264',
  frames: 48,
  rate: rateOf('24'),
  otherRates: [],
  mistimedFrames: [],
  backwardFrames: [],
  startMicroseconds: 0,
  durationMicroseconds: 2_000_000,
  width: 1920,
  height: 1080,
  otherSizes: [],
  colours: null,
  keyFrames: 1,
  loop: null,
  sequence: null,
  sound: null,
  undecoded: null,
  unreadable: [],
  notes: [],
};

const moving = (frames: number) => seenOf(Array.from({ length: frames }, (_, frame) => page(4 * (frame + 1))));
const counted = (part: Partial<OutsideCount> = {}, seen: SeenFrames | null = moving(48)): CountedOutside => ({
  count: { ...COUNT, ...part },
  seen,
  loudness: null,
  digests: { file: null, frames: null },
});

describe('a destination', () => {
  const cinema = destinationOf('cinema-24');
  const loops = destinationOf('web-loop');
  const broadcast = destinationOf('broadcast-25');
  if (!cinema || !loops || !broadcast) throw new Error('There are these destinations.');
  const sound = { codec: 'pcm', sampleRate: 48_000, channels: 2, startSample: 0, samples: 96_000, peak: 0.5, undecoded: null };

  it('takes what is as it asks', () => {
    expect(refusalsOf(cinema, counted({ sound }), [])).toEqual([]);
    expect(DESTINATIONS.length).toBeGreaterThan(3);
  });

  it.each<[string, Partial<OutsideCount>, string]>([
    ['kind', { kind: 'loop', loop: { microseconds: [2_000_000], plays: 0 } }, 'Cinema, 24 takes films; this is a loop.'],
    ['size', { width: 1280, height: 720 }, 'this is 1280 × 720.'],
    ['rate', { rate: rateOf('30') }, 'Cinema, 24 takes 24 a second; this runs at 30.'],
    ['times', { mistimedFrames: [3, 4] }, '2 frames off their time.'],
    ['length', { durationMicroseconds: 500_000 }, 'takes 1 s or more; this lasts 0.500 s.'],
    ['sound', { sound: { ...sound, samples: 90_000 } }, 'Sound and picture are not of one length: 1.875 s and 2.000 s.'],
    ['name', { name: 'in/yard reel.mp4' }, '“yard reel.mp4” has other signs'],
  ])('refuses another %s, and says what would mend it', (what, part, words) => {
    const found = refusalsOf(cinema, counted(part), []);
    expect(found.map((each) => each.what)).toEqual([what]);
    expect(found[0]?.sentence).toContain(words);
    expect(found[0]?.fix).not.toBe('');
  });

  it('refuses too many bytes, too much length and colours out of range', () => {
    const loop = counted({
      kind: 'loop',
      width: 640,
      height: 360,
      fileBytes: 9 * 1024 ** 2,
      durationMicroseconds: 20_000_000,
      name: 'a.gif',
    });
    expect(refusalsOf(loops, loop, []).map(({ what }) => what)).toEqual(['length', 'bytes']);
    const film = counted({ rate: rateOf('25'), durationMicroseconds: 10_000_000 });
    expect(refusalsOf(broadcast, film, []).map(({ sentence }) => sentence)).toEqual([
      'Broadcast, 25 takes colours from 5 to 246; this has 28 to 255.',
    ]);
  });

  it('refuses flashes: six of the whole picture in a second, by WCAG 2.2, 2.3.1', async () => {
    const flashing = seenOf(Array.from({ length: 24 }, (_, frame) => page(20, Math.floor(frame / 2) % 2 === 0 ? 235 : 40)));
    const flashes = await flashesIn(flashing, rateOf('24'));
    expect(refusalsOf(cinema, counted({}, flashing), flashes ?? []).map(({ what }) => what)).toEqual(['flashes']);
    expect(await flashesIn(moving(24), rateOf('24'))).toEqual([]);
  });
});

describe('the editing bench', () => {
  const names = Array.from({ length: 12 }, (_, frame) => `a_${frame + 1}.png`);
  const numbers = names.map((_, frame) => frame + 1);
  const pictures = (part: Partial<OutsideCount> = {}, frames = 12) =>
    counted({ kind: 'pictures', frames, rate: null, durationMicroseconds: null, ...part }, moving(frames));
  const plan = planOfFile(counted({ frames: 12, durationMicroseconds: 500_000 }, moving(12)));
  const held = (file: CountedOutside, settings: Partial<BenchSettings>, own = names, ownNumbers = numbers) => {
    const all = { ...BENCH_SETTINGS, ...settings };
    const result = benchOf(file, own, ownNumbers, all, rateOf('24'));
    return { result, says: holdAgainst(plan, benchCount(file, result, all)).agreement.headline };
  };

  it('reads pictures at its own rate, and says to set it: 264 frames made for 24, read at 30, last 8.8 s (worked example)', () => {
    const result = benchOf(counted({ kind: 'pictures', frames: 264, rate: null }, null), [], [], BENCH_SETTINGS, rateOf('24'));
    expect(result.sourceOf.length / 30).toBe(8.8);
    expect(result.fixes).toEqual(['Set its rate for pictures to 24 before bringing them in.']);
    expect(held(pictures(), {}).says).toBe('24 a second read as 30: 0.500 s become 0.400 s.');
  });

  it('takes files by letters, where ten comes before two', () => {
    const { result, says } = held(pictures(), { order: 'letters', pictureRate: rateOf('24') });
    expect(result.sourceOf.slice(0, 5)).toEqual([0, 9, 10, 11, 1]);
    expect(result.fixes[0]).toContain('Hand over with as many digits in every number');
    expect(says).toContain('in another place than planned');
  });

  it.each([
    ['the picture before', 1, 'Frame 3 shows the picture of frame 2.'],
    ['black', null, 'Frame 3 is black.'],
    ['nothing', 3, 'From frame 3 on everything is one frame early: frame 3 is missing.'],
  ] as const)('puts %s where a number is missing', (missing, shown, sentence) => {
    const left = numbers.filter((number) => number !== 3);
    const seen = seenOf(left.map((number) => page(4 * number)));
    const sequence = { pattern: 'a_#.png', firstNumber: 1, lastNumber: 12, missing: [3], twice: [] };
    const file = { ...pictures({ sequence }, 11), seen };
    const { result, says } = held(
      file,
      { missing, pictureRate: rateOf('24') },
      left.map((number) => `a_${number}.png`),
      left,
    );
    expect(result.sourceOf[2]).toBe(missing === 'nothing' ? 2 : shown);
    expect(says).toBe(sentence);
    expect(result.fixes).toEqual(['Bring in the 1 missing picture first, or hand the sequence over again.']);
  });

  it.each([
    [12, 'later', 'The sound is 500 ms late (to 10 ms).'],
    [-2, 'earlier', 'The sound is 80 ms early (to 10 ms).'],
  ])('lays the sound of a film %i frames from its picture, and says so', (soundLateFrames, way, sentence) => {
    const curve = Float32Array.from({ length: 200 }, (_, step) => (step % 37 < 5 || step % 61 < 3 ? 0.6 : 0.05));
    const sound = { codec: 'pcm', sampleRate: 48_000, channels: 2, startSample: 0, samples: 96_000, peak: 0.6, undecoded: null };
    const film = { ...counted({ sound }), loudness: curve };
    const settings = { ...BENCH_SETTINGS, soundLateFrames };
    const result = benchOf(film, [], [], settings, rateOf('24'));
    const { headline, sentences } = holdAgainst(planOfFile(film), benchCount(film, result, settings)).agreement;
    expect([headline, ...sentences]).toContain(sentence);
    expect(result.fixes).toEqual([`Lay its sound where its picture begins: it is laid ${Math.abs(soundLateFrames)} frames ${way}.`]);
    const asItIs = benchOf(film, [], [], BENCH_SETTINGS, rateOf('24'));
    expect(holdAgainst(planOfFile(film), benchCount(film, asItIs, BENCH_SETTINGS)).agreement.agrees).toBe(true);
    expect(asItIs.fixes).toEqual([]);
  });

  it('takes transparency the other way: over white paper C + 255 − a for a C + 255 − a of 255 (Porter and Duff, source over)', () => {
    const pixels = () => Uint8Array.from([200, 0, 0, 128, 60, 60, 60, 64, 9, 9, 9, 255, 255, 255, 255, 2]);
    const [straight, premultiplied] = [pixels(), pixels()];
    onPaper(straight);
    // Red of 200 is more than 128 allows: it was straight. What is all but clear tells nothing.
    expect(premultipliedOnPaper(premultiplied)).toBe(true);
    expect([...straight]).toEqual([227, 127, 127, 255, 206, 206, 206, 255, 9, 9, 9, 255, 255, 255, 255, 255]);
    expect([...premultiplied]).toEqual([255, 127, 127, 255, 251, 251, 251, 255, 9, 9, 9, 255, 255, 255, 255, 255]);
    expect(premultipliedOnPaper(Uint8Array.from([100, 50, 0, 128, 0, 0, 0, 40]))).toBe(false);
    expect(
      benchOf(
        pictures(),
        names,
        numbers,
        { ...BENCH_SETTINGS, pictureRate: rateOf('24'), transparency: 'premultiplied' },
        rateOf('24'),
        true,
      ).fixes,
    ).toEqual(['Set transparency to straight: its colours are brighter than premultiplied ones can be.']);
  });

  it('rounds the rate of a film, and steps everything to its own', () => {
    const film = counted({ frames: 12, rate: rateOf('23.976'), durationMicroseconds: 500_500 }, moving(12));
    expect(held(film, { roundsRates: true }).result).toMatchObject({
      rate: { num: 24, den: 1 },
      fixes: ['Set the clip’s rate to 23.976 exactly; it was rounded to 24.'],
    });
    const stepped = held(counted({ frames: 12 }, moving(12)), { outRate: rateOf('30') });
    expect(stepped.result.sourceOf).toEqual([0, 0, 1, 2, 3, 4, 4, 5, 6, 7, 8, 8, 9, 10, 11]);
    expect(stepped.says).toBe('One frame in 5 repeats the one before (3 in all): 24 stepped evenly to 30.');
  });
});

describe('a loop on the desk', () => {
  /** Held for so many frames each, at 24 a second: 24 frames. */
  const HOLDS = [2, 4, 1, 3, 2, 6, 4, 2];
  const plan = (holds: readonly number[]) => {
    const film = counted({ frames: 24, durationMicroseconds: 1_000_000 }, heldPages(holds));
    return { ...planOfFile(film), plan: { ...planOfFile(film).plan, soundMicroseconds: 1_000_000 } };
  };
  const heldPages = (holds: readonly number[]) =>
    seenOf(holds.flatMap((frames, picture) => Array.from({ length: frames }, () => page(30 * (picture + 1)))));
  const loopOf = (made: string, microseconds: readonly number[]): CountedOutside => {
    const seen = seenOf(microseconds.map((_, picture) => page(30 * (picture + 1))));
    const durationMicroseconds = microseconds.reduce((sum, time) => sum + time, 0);
    // Its times come to a rate or to none; neither is one it has.
    return counted(
      {
        kind: 'loop',
        made,
        frames: microseconds.length,
        rate: rateOf('12'),
        mistimedFrames: [1, 2],
        durationMicroseconds,
        loop: { microseconds, plays: 0 },
      },
      seen,
    );
  };
  const exact = (holds: readonly number[]) => holds.map((frames) => Math.round((frames * 1_000_000) / 24));
  /** Times by cumulative rounding to hundredths. */
  const hundredths = (holds: readonly number[]) => {
    let frames = 0;
    return holds.map((held) => {
      const begins = Math.round((frames * 100) / 24);
      frames += held;
      return (Math.round((frames * 100) / 24) - begins) * 10_000;
    });
  };

  it.each([
    ['APNG, every drawing held as long as it is', 'APNG', HOLDS, exact(HOLDS)],
    ['APNG, all on threes', 'APNG', [3, 3, 3, 3, 3, 3, 3, 3], exact([3, 3, 3, 3, 3, 3, 3, 3])],
    ['GIF, in hundredths', 'GIF', HOLDS, hundredths(HOLDS)],
  ])('agrees with the film it was made from, whose sound it has no place for: %s', (_, made, holds, microseconds) => {
    const { agreement } = holdAgainst(plan(holds), loopOf(made, microseconds));
    expect(agreement.sentences).toEqual([]);
    expect(agreement.headline).toBe('Agrees: 24 frames, each there once, each in its place.');
  });

  it('is told where a picture begins off its frame by more than its times can help', () => {
    const late = exact(HOLDS).map((time, picture) => (picture === 1 ? time + 15_000 : picture === 2 ? time - 15_000 : time));
    expect(holdAgainst(plan(HOLDS), loopOf('APNG', late)).agreement.headline).toBe('Not on time: frame 7.');
    // A hundredth is what a GIF can't say.
    expect(holdAgainst(plan(HOLDS), loopOf('GIF', late)).agreement.headline).toBe('Not on time: frame 7.');
    const near = hundredths(HOLDS).map((time, picture) => (picture === 1 ? time + 1000 : time));
    expect(holdAgainst(plan(HOLDS), loopOf('GIF', near)).agreement.agrees).toBe(true);
  });

  it('that has one of every second frame of a film on ones is told so', () => {
    const ones = counted(
      { frames: 24, durationMicroseconds: 1_000_000 },
      seenOf(Array.from({ length: 24 }, (_, frame) => page(12 * (frame + 1)))),
    );
    const every = seenOf(Array.from({ length: 12 }, (_, picture) => page(12 * (2 * picture + 1))));
    const loop = counted(
      {
        kind: 'loop',
        made: 'APNG',
        frames: 12,
        rate: rateOf('12'),
        durationMicroseconds: 1_000_000,
        loop: { microseconds: exact(Array.from({ length: 12 }, () => 2)), plays: 0 },
      },
      every,
    );
    const { agreement, rate } = holdAgainst(planOfFile(ones), loop);
    expect(agreement.headline).toBe('Only one frame of the plan in 2 is there.');
    expect(rate).toEqual(rateOf('12'));
  });

  it('is counted as one whose pictures stand as they say, and not as one that is off a rate', async () => {
    const microseconds = exact(HOLDS);
    const starts = microseconds.map((_, picture) => microseconds.slice(0, picture).reduce((sum, time) => sum + time, 0));
    const opened = {
      ...{ kind: 'loop' as const, name: 'loop.png', fileBytes: 1000, made: 'APNG', listedFrames: HOLDS.length, stampSeconds: null },
      times: { startMicroseconds: starts, lastDurationMicroseconds: 83_333, statedDurationMicroseconds: null, tickMicroseconds: 1 },
      ...{ size: { width: 1280, height: 720 }, colours: null, keyFrames: null, loop: { microseconds, plays: 0 }, sequence: null },
      ...{ frames: null, sound: null, notes: () => [], digests: async () => ({ file: 'f', frames: null }) },
    };
    const file = await countOutside(opened);
    expect(file.count.mistimedFrames).toEqual([]);
    const request = {
      ...{ frames: 8, rate: rateOf('24'), firstNumber: 1, width: 1280, height: 720 },
      sound: null,
      loop: { trueMicroseconds: 1_000_000 },
    };
    const { agrees, lines } = heldAgainstReceipt({ fileName: 'loop.png', fileDigest: 'f', frameDigests: null, request }, file);
    expect(agrees).toBe(true);
    expect(lines.filter((line) => !line.agrees)).toEqual([]);
  });

  it('tells repeats and what stands still of its pictures, by their own times', () => {
    const seen = seenOf([page(30), page(60), page(60), page(90), page(90), page(120)]);
    const microseconds = [500_000, 600_000, 600_000, 300_000, 300_000, 500_000];
    const loop = counted({ kind: 'loop', made: 'GIF', frames: 6, rate: null, loop: { microseconds, plays: 0 } }, seen);
    expect(countSentences(loop.count, loop.seen)).toEqual([
      '2 of 6 pictures repeat the one before (nearly): pictures 3, 5.',
      'Stands still on pictures 2–3 (1.2 s).',
    ]);
  });
});

describe('a file without the background', () => {
  const frames = 12;
  /** A paper of a grey with a bar where each frame has it, as a film. */
  const filmOn = (paper: number, lefts = Array.from({ length: frames }, (_, frame) => 20 * (frame + 1))) =>
    counted(
      { frames: lefts.length, durationMicroseconds: (lefts.length * 1_000_000) / 24 },
      seenOf(lefts.map((left) => page(left, paper))),
    );
  const plan = planOfFile(filmOn(90));
  const drawings = filmOn(235).seen;

  it('is held against the drawings alone, and that is said', async () => {
    const { held, isDrawingsAlone } = await holdAsItLeft(plan, async () => drawings, filmOn(235));
    expect(isDrawingsAlone).toBe(true);
    expect(held.agreement.headline).toBe('Agrees without the background: 12 frames, each there once, each in its place.');
    const wrong = filmOn(235, [20, 40, 60, 80, 80, 100, 120, 140, 160, 180, 200, 220, 240]);
    expect((await holdAsItLeft(plan, async () => drawings, wrong)).held.agreement).toMatchObject({
      headline: 'From frame 5 on everything is one frame late: frame 4 is there twice.',
      sentences: ['It shows the drawings without the background.'],
    });
  });

  it('is not sought where the file shows the background, wrong as it may be otherwise', async () => {
    let asked = 0;
    const alone = async () => {
      asked++;
      return drawings;
    };
    for (const lefts of [undefined, [20, 40, 60, 80, 80, 100, 120, 140, 160, 180, 200, 220, 240]])
      expect((await holdAsItLeft(plan, alone, filmOn(90, lefts))).isDrawingsAlone).toBe(false);
    expect(asked).toBe(0);
  });

  it('that has nothing to do with the drawings either is held against the whole', async () => {
    const other = filmOn(160, [150, 151, 152, 153, 154, 155]);
    const { held, isDrawingsAlone } = await holdAsItLeft(plan, async () => drawings, other);
    expect(isDrawingsAlone).toBe(false);
    expect(held).toEqual(holdAgainst(plan, other));
    expect((await holdAsItLeft(plan, async () => null, other)).held).toEqual(held);
  });
});
