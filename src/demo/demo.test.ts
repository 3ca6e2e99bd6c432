import { ALL_FORMATS, BufferSource, EncodedPacketSink, Input } from 'mediabunny';
import { describe, expect, it } from 'vitest';
import { checkProject } from '@/core/check/check';
import type { Project } from '@/core/document/model';
import { mustBeDone } from '@/core/outcome';
import { framesOfReel, placedItems } from '@/core/reel/reel';
import { soundsOfReel } from '@/core/reel/sounds';
import { parseNotation } from '@/core/sheet/notation';
import { levelTiming } from '@/core/sheet/reading';
import { framesOfRuns, placedRuns } from '@/core/sheet/runs';
import { workOfShot } from '@/core/sheet/work';
import { AGAINST_NOTHING } from '@/core/testing/checking';
import { ids } from '@/core/testing/sheets';
import { DUSK_FRAMES } from '@/demo/dusk';
import { DUSK_CLIP } from '@/demo/duskClip';
import { type FilmPlan, KETTLE, WASHDAY } from '@/demo/film';
import { makeFilm } from '@/demo/makeFilm';
import { randomFrom, smooth } from '@/demo/pen';

const small = (plan: FilmPlan, code: string): FilmPlan => ({
  title: plan.title,
  framesPerSecond: plan.framesPerSecond,
  shots: plan.shots.filter((shot) => shot.code === code),
});
const levelNamed = (project: Project, name: string) => project.shots[0]?.levels.find((level) => level.name === name);

describe('Washday', () => {
  it('has the shots and lengths it should', () => {
    expect(WASHDAY.shots.map((shot) => [shot.code, shot.frames])).toEqual([
      ['010', 72],
      ['020', 96],
      ['030', 96],
    ]);
    for (const shot of [...WASHDAY.shots, ...KETTLE.shots]) {
      for (const level of shot.levels) {
        if (level.kind === 'still') continue;
        const frames = mustBeDone(parseNotation(level.exposures)).reduce((sum, written) => sum + written.frames, 0);
        expect([shot.code, level.name, frames]).toEqual([shot.code, level.name, shot.frames]);
      }
    }
  });

  it('has three faults in shot 020 and three drawings left undrawn, and nothing else wrong', async () => {
    const film = await makeFilm(small(WASHDAY, '020'), 'p', ids());
    const findings = checkProject(film.project, AGAINST_NOTHING);
    expect(findings.map((finding) => finding.id.split(' ')[0])).toEqual(['same-picture', 'gap', 'stray', 'planned-empty', 'planned-empty']);
    expect(findings.map((finding) => finding.sentence).join(' ')).toMatch(
      /Sock 20 and 21 are one picture.*Pegs is blank on frame 37.*Sock 24 is held for one frame/,
    );
    const shot = film.project.shots[0];
    expect(shot && workOfShot(shot)).toEqual({ drawings: 46, drawn: 43 });
  });

  it('has a six-drawing cycle on twos in 010, and pictures that are the same each time it is made', async () => {
    const [first, second] = [await makeFilm(small(WASHDAY, '010'), 'p', ids()), await makeFilm(small(WASHDAY, '010'), 'p', ids())];
    expect(first.project).toEqual(second.project);
    const line = levelNamed(first.project, 'Line');
    expect(line && levelTiming(line)).toBe('cycle 6');
    expect(line && placedRuns(line.exposures).every((run) => run.endFrame - run.startFrame === 2)).toBe(true);
    expect(first.pictures).toHaveLength(7);
    expect(framesOfReel(first.project)).toBe(72);
  });

  it('comes with a piece at 12 a second that has nothing wrong', async () => {
    const film = await makeFilm(KETTLE, 'k', ids());
    expect(film.project.rate).toEqual({ num: 12, den: 1 });
    expect(checkProject(film.project, AGAINST_NOTHING)).toEqual([]);
    const kettle = levelNamed(film.project, 'Kettle');
    expect(kettle && framesOfRuns(kettle.exposures)).toBe(36);
  });
});

describe('the reel of Washday', () => {
  it('has a trimmed shot, whole ones, a gap and a clip at another rate, and nothing wrong with it', async () => {
    const film = await makeFilm({ ...WASHDAY, shots: WASHDAY.shots.map((shot) => ({ ...shot, levels: [] })) }, 'p', ids());
    expect(placedItems(film.project).map(({ source, startFrame, endFrame }) => [source?.name ?? 'gap', startFrame, endFrame])).toEqual([
      ['010', 0, 60],
      ['020', 60, 156],
      ['gap', 156, 168],
      ['030', 168, 264],
      ['evening', 264, 312],
    ]);
    expect(checkProject(film.project, AGAINST_NOTHING).filter(({ group }) => group === 'counts')).toEqual([]);
  });
});

describe('the clip of Washday', () => {
  it('holds the frames it is said to, at its rate', async () => {
    const input = new Input({ source: new BufferSource(Uint8Array.from(Buffer.from(DUSK_CLIP, 'base64'))), formats: ALL_FORMATS });
    const track = await input.getPrimaryVideoTrack();
    if (!track) throw new Error('There is a picture in it.');
    const times: number[] = [];
    for await (const { timestamp } of new EncodedPacketSink(track).packets()) times.push(timestamp);
    expect(times.map((seconds) => Math.round(seconds * 1000))).toEqual(Array.from({ length: DUSK_FRAMES }, (_, frame) => frame * 40));
    expect([await track.getDisplayWidth(), await track.getDisplayHeight()]).toEqual([960, 540]);
  });
});

describe('the sounds of Washday', () => {
  it('start on their accents, end with the film, and are the same each time they are made', async () => {
    const undrawn: FilmPlan = { ...WASHDAY, shots: WASHDAY.shots.map((shot) => ({ ...shot, levels: [] })) };
    const [first, second] = [await makeFilm(undrawn, 'p', ids()), await makeFilm(undrawn, 'p', ids())];
    expect(first.originals.map(({ digest }) => digest)).toEqual(second.originals.map(({ digest }) => digest));
    const sounds = soundsOfReel(first.project);
    expect(sounds.map(({ sound, startFrame, endFrame }) => [sound.name, startFrame, endFrame])).toEqual([
      ['Wind', 0, 168],
      ['Plop', 95, 107],
      ['Bell', 156, 204],
      ['Hum', 168, 264],
    ]);
    for (const { sound, shot } of sounds.filter((heard) => heard.shot))
      expect(shot?.notes).toContainEqual({ frame: sound.startFrame, kind: 'accent', words: sound.name.toLowerCase() });
    const recordings = first.originals.filter(({ file }) => Buffer.from(file.subarray(0, 4)).toString('latin1') === 'RIFF');
    expect(recordings).toHaveLength(4);
    for (const { file } of recordings) {
      // 16-bit samples after a head of 44 bytes: heard, and nowhere too loud.
      const samples = new Int16Array(file.slice(44).buffer);
      const loudest = samples.reduce((most, sample) => Math.max(most, Math.abs(sample)), 0);
      expect(loudest).toBeGreaterThan(3000);
      expect(loudest).toBeLessThan(32767);
    }
  });
});

describe('the pen', () => {
  it('is unsteady the same way each time', () => {
    const [first, second] = [randomFrom(7), randomFrom(7)];
    const numbers = Array.from({ length: 50 }, () => first());
    expect(Array.from({ length: 50 }, () => second())).toEqual(numbers);
    expect(numbers.every((number) => number >= 0 && number < 1)).toBe(true);
    expect(new Set(numbers).size).toBeGreaterThan(45);
  });

  it('goes through the points it is given', () => {
    const curve = smooth(
      [
        [0, 0],
        [100, 0],
        [100, 100],
      ],
      false,
    );
    expect(curve[0]).toEqual([0, 0]);
    expect(curve.at(-1)).toEqual([100, 100]);
    expect(curve).toContainEqual([100, 0]);
  });
});
