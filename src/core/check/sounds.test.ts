import { describe, expect, it } from 'vitest';
import { missingSound } from '@/core/check/missingSound';
import { soundPlace } from '@/core/check/soundPlace';
import { soundRate } from '@/core/check/soundRate';
import { trimPast } from '@/core/check/trimPast';
import type { Project, SheetNote } from '@/core/document/model';
import type { Sound } from '@/core/document/sound';
import { framesOfReel } from '@/core/reel/reel';
import { afterFixes } from '@/core/testing/checking';
import { levelOf, projectOf, shotOf, soundOf } from '@/core/testing/sheets';

/** A film at 24 of a shot of 48 frames with these sounds and one of 24 after it: 2,000 samples a frame, 3 s in all. */
const filmWith = (sounds: readonly Sound[], notes: readonly SheetNote[] = []): Project =>
  projectOf({ ...shotOf([levelOf('Sock', '1*48')], 48), sounds, notes }, shotOf([levelOf('Snail', '1*24')], 24, '020'));

const accent = (frame: number, words: string): SheetNote => ({ frame, kind: 'accent', words });

type Case = readonly [words: string, sounds: readonly Sound[], notes: readonly SheetNote[], found: readonly string[]];

describe('sounds whose place doesn’t agree with the picture', () => {
  it.each<Case>([
    ['a sound within its shot', [soundOf('Plop', 8, 24_000)], [], []],
    ['one that just fills a frame', [soundOf('Tick', 8, 2_000)], [], []],
    ['one a sample shorter than a frame', [soundOf('Tick', 8, 1_999)], [], ['sound-short Tick']],
    ['one that goes on over the next shot to the film’s end', [soundOf('Wind', 0, 144_000)], [], []],
    ['one that ends less than a frame after the film', [soundOf('Wind', 0, 145_999)], [], []],
    ['one that ends a frame after the film', [soundOf('Wind', 0, 146_000)], [], ['sound-end Wind']],
    ['one that starts on its shot’s last frame', [soundOf('Plop', 47, 2_000)], [], []],
    ['one that starts after it, in the next shot', [soundOf('Plop', 48, 2_000)], [], ['sound-start Plop']],
    ['one that starts after the film', [soundOf('Plop', 72, 2_000)], [], ['sound-start Plop']],
    ['beside its accent', [soundOf('Plop', 8, 24_000)], [accent(9, 'plop')], ['sound-accent Plop']],
    ['on its accent, whatever the letters', [soundOf('Plop', 8, 24_000)], [accent(8, ' PLOP ')], []],
    ['with an accent of another name', [soundOf('Wind', 0, 24_000)], [accent(9, 'gust')], []],
    ['with two accents of its name: any may be meant', [soundOf('Plop', 8, 24_000)], [accent(9, 'plop'), accent(20, 'plop')], []],
    ['a word or a note of its name is no accent', [soundOf('Plop', 8, 24_000)], [{ frame: 9, kind: 'word', words: 'plop' }], []],
  ])('%s', (_words, sounds, notes, found) => {
    expect(soundPlace(filmWith(sounds, notes)).map((finding) => finding.id)).toEqual(found);
  });

  it('are told with both numbers', () => {
    const said = (...sounds: Sound[]) => soundPlace(filmWith(sounds, [accent(9, 'plop')])).map((finding) => finding.sentence);
    expect(said(soundOf('Tick', 8, 300))).toEqual([
      'Sound Tick on frame 9 of 010 lasts 0.006 s (300 samples), less than a frame: that is 0.042 s (2,000).',
    ]);
    expect(said(soundOf('Wind', 12, 144_000))).toEqual([
      'Sound Wind ends 12 frames after the film: it lasts 3.000 s from frame 13 of the reel on, which has 2.500 s left (72 frames in all).',
    ]);
    expect(said(soundOf('Late', 50, 2_000))).toEqual([
      'Sound Late starts on frame 51 of shot 010, which ends with frame 48: it is heard in shot 020, from frame 3.',
    ]);
    expect(said(soundOf('Plop', 6, 24_000))).toEqual([
      'The accent “plop” of shot 010 is written on frame 10, its sound starts on frame 7: 3 frames early.',
    ]);
  });

  it.each<Case>([
    ['too short', [soundOf('Tick', 8, 300)], [], []],
    ['past its shot', [soundOf('Late', 50, 2_000)], [], []],
    ['past the film', [soundOf('Wind', 12, 144_000)], [], []],
    ['beside its accent', [soundOf('Plop', 6, 24_000)], [accent(9, 'plop'), accent(6, 'thud')], []],
  ])('are fixed by each of their fixes: %s', (_words, sounds, notes) => {
    const film = filmWith(sounds, notes);
    const [finding] = soundPlace(film);
    const after = afterFixes(film, finding);
    expect(after.length).toBeGreaterThan(0);
    for (const fixed of after) expect(soundPlace(fixed)).toEqual([]);
  });

  it('break the path between what is checked and what is assembled, each of them', () => {
    for (const sound of [soundOf('Tick', 8, 300), soundOf('Late', 50, 2_000), soundOf('Wind', 12, 144_000), soundOf('Plop', 6, 24_000)])
      for (const finding of soundPlace(filmWith([sound], [accent(9, 'plop')]))) expect(finding.breaks).toBe('check-assemble');
  });

  it('given to the shot they are heard in, are heard when they were', () => {
    const film = filmWith([soundOf('Late', 50, 2_000)]);
    const [rehomed] = afterFixes(film, soundPlace(film)[0]);
    expect(rehomed?.shots.map((shot) => shot.sounds.map((sound) => sound.startFrame))).toEqual([[], [2]]);
  });
});

describe('a sound made for another rate (72 frames are 3 s at 24, 2.88 s at 25, 3.003 s at 23.976)', () => {
  const found = (...sounds: Sound[]) => soundRate(filmWith(sounds)).map((finding) => finding.sentence.replace(/; at .*/, ''));
  it.each<[string, number, number, readonly string[]]>([
    ['as long as the film', 0, 144_000, []],
    ['a frame off, and no known rate', 0, 140_000, []],
    ['as long as it at 25', 0, 138_240, ['Sound Track lasts 2.880 s, as long as the 72 frames of the film would at 25']],
    ['as long as it at 30', 0, 115_200, ['Sound Track lasts 2.400 s, as long as the 72 frames of the film would at 30']],
    ['as long as its shot at 25', 0, 92_160, ['Sound Track lasts 1.920 s, as long as the 48 frames of shot 010 would at 25']],
    ['at 23.976 it is too little to tell', 0, 144_144, []],
    ['not from the first frame on', 1, 138_240, []],
  ])('%s', (_words, startFrame, samples, sentences) => expect(found(soundOf('Track', startFrame, samples))).toEqual(sentences));

  it('at 23.976 is told once a film is long enough', () => {
    const long = projectOf({ ...shotOf([levelOf('Sock', '1*2400')], 2400), sounds: [soundOf('Track', 0, 2_400 * 2_002)] });
    expect(soundRate(long).map((finding) => finding.sentence)).toEqual([
      'Sound Track lasts 100.100 s, as long as the 2,400 frames of the film would at 23.976; at 24 they last 100.000 s: it was made for another rate.',
    ]);
  });
});

describe('missing recordings', () => {
  const film = filmWith([soundOf('Plop', 8, 24_000)]);
  const original = film.shots[0]?.sounds[0]?.recording.original ?? '';
  it.each([
    ['is there', { samples: 24_000, sampleRate: 48_000 }, []],
    ['is not in the store', 'missing', [/not in the store/]],
    ['can’t be read', 'broken', [/can’t be read any more/]],
    [
      'is read as another length',
      { samples: 23_000, sampleRate: 48_000 },
      [/held 24,000 samples at 48,000 a second .* read as 23,000 at 48,000/],
    ],
  ] as const)('%s', (_words, fact, sentences) => {
    const findings = missingSound(film, new Map([[original, fact]]));
    expect(findings).toHaveLength(sentences.length);
    for (const [index, sentence] of sentences.entries()) expect(findings[index]?.sentence).toMatch(sentence);
    for (const after of afterFixes(film, findings[0])) expect(missingSound(after, new Map([[original, fact]]))).toEqual([]);
  });

  it('nobody has listened to is not told', () => expect(missingSound(film, new Map())).toEqual([]));
});

describe('sounds of a shot the reel shows a part of (worked by hand: frames 9 to 88 of 96)', () => {
  const film = (...sounds: Sound[]): Project => {
    const project = projectOf(shotOf([levelOf('A', '1*72')], 72), { ...shotOf([levelOf('B', '1*96')], 96, '020'), sounds });
    const item = { id: 'b', kind: 'shot' as const, finished: true, shotId: 'shot-020', trim: { fromFrame: 8, frames: 80 } };
    return { ...project, reel: { ...project.reel, items: [...project.reel.items.slice(0, 1), item] } };
  };
  it.each([
    [
      soundOf('Step', 3, 40_000),
      'sound-cut',
      'Sound Step starts on frame 4 of shot 020, which the reel shows from its frame 9 on: its first 5 frames (10,000 samples) are cut, and it is heard for 15 frames from frame 73 of the reel.',
    ],
    [
      soundOf('Late', 90, 4_000),
      'sound-unheard',
      'Sound Late starts on frame 91 of shot 020, of which the reel shows frames 9 to 88: it is not heard.',
    ],
    [
      soundOf('Early', 2, 8_000),
      'sound-unheard',
      'Sound Early starts on frame 3 of shot 020, of which the reel shows frames 9 to 88: it is not heard.',
    ],
  ])('are told', (sound, kind, sentence) => {
    const found = soundPlace(film(sound));
    expect(found.map((finding) => [finding.kind, finding.sentence])).toEqual([[kind, sentence]]);
    for (const after of afterFixes(film(sound), found[0])) expect(soundPlace(after)).toEqual([]);
  });
  it.each([8, 87])('that start on frame %i of it are whole', (frame) =>
    expect(soundPlace(film(soundOf('Plop', frame, 2_000)))).toEqual([]),
  );
  it('and of the reel after its end', () => {
    const project = film();
    const after = { ...project, reel: { ...project.reel, sounds: [soundOf('Coda', 152, 2_000)] } };
    const found = soundPlace(after);
    expect(found.map(({ sentence }) => sentence)).toEqual([
      'Sound Coda starts on frame 153 of the reel, which ends with frame 152: it is never heard.',
    ]);
    for (const fixed of afterFixes(after, found[0])) expect(soundPlace(fixed)).toEqual([]);
  });
});

describe('a trim past the end of its shot (worked by hand: frames 9 to 88 of 80)', () => {
  const project = projectOf(shotOf([levelOf('B', '1*80')], 80, '020'));
  const item = { id: 'b', kind: 'shot' as const, finished: true, shotId: 'shot-020', trim: { fromFrame: 8, frames: 80 } };
  const film = { ...project, reel: { ...project.reel, items: [item] } };
  it('is told with both numbers, and fixed by a shorter trim or by the whole shot', () => {
    const [finding] = trimPast(film);
    expect(finding?.sentence).toBe(
      'The reel shows frames 9 to 88 of shot 020, which ends with frame 80: on the last 8 frames, up to frame 80 of the reel, there is paper.',
    );
    expect(finding?.fixes.map(({ words }) => words)).toEqual(['Trim it to the 72 frames there are', 'Show shot 020 whole, following it']);
    const fixed = afterFixes(film, finding);
    expect(fixed.map(framesOfReel)).toEqual([72, 80]);
    for (const after of fixed) expect(trimPast(after)).toEqual([]);
  });
  it('is none within the shot', () => expect(trimPast(project)).toEqual([]));
});
