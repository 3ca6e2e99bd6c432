import { describe, expect, it } from 'vitest';
import { NO_FACTS, nearKey, type PictureFacts } from '@/core/analysis/facts';
import { checkProject } from '@/core/check/check';
import { DESTINATIONS, type Destination, destinationOf } from '@/core/check/destinations';
import { missingPicture } from '@/core/check/missingPicture';
import { nearPicture } from '@/core/check/nearPicture';
import { refusals } from '@/core/check/refusals';
import { type Level, newGap, type Project } from '@/core/document/model';
import { applyStep } from '@/core/edit/table';
import { holdColoursStep } from '@/core/finish/finishEdits';
import { mustBeDone } from '@/core/outcome';
import { AGAINST_NOTHING, afterFixes } from '@/core/testing/checking';
import { clipItem, clipOf, columnIn, levelOf, pictureOf, projectOf, shotOf } from '@/core/testing/sheets';

const bound = (project: Project, destination: string): Project => ({ ...project, checks: { ...project.checks, destination } });
const film = (frames: number, part: Partial<Project> = {}): Project => ({
  ...projectOf(shotOf([levelOf('Sock', `1*${frames}`, { pictures: 'a' })])),
  ...part,
});
const size = (width: number, height: number) => ({ size: { width, height } });
const handed = {
  fileName: 'a.mp4',
  frames: 48,
  rate: { num: 24, den: 1 },
  agrees: true,
  planDigest: 'p',
  fileBytes: 1000,
  hasGround: true,
};
const said = (project: Project, destination: string, handedOver: typeof handed | null = null, facts = NO_FACTS) =>
  refusals(bound(project, destination), handedOver, facts)
    .map((finding) => finding.sentence)
    .join(' | ');

describe('a destination', () => {
  it.each<[string, Project, string, string | null]>([
    ['takes what fits', film(48), 'web-film', null],
    ['odd sides', film(48, size(1281, 720)), 'web-film', 'takes even sides alone'],
    ['odd sides where they are taken', film(48, size(641, 361)), 'web-loop', null],
    ['too large', film(48, size(4096, 2160)), 'web-film', 'takes sides up to 3840 px; the film is 4096 × 2160'],
    ['a size that is not listed', film(48), 'cinema-24', 'takes 1920 × 1080 or'],
    ['a listed size', film(48, size(1998, 1080)), 'cinema-24', null],
    ['another rate', film(250, { ...size(1920, 1080) }), 'broadcast-25', 'takes 25 frames a second; the film runs at 24.'],
    [
      'too short',
      film(24, { ...size(1920, 1080), rate: { num: 25, den: 1 } }),
      'broadcast-25',
      'takes 5 s or more; the reel lasts 0.960 s, 24 frames',
    ],
    ['just long enough', film(24), 'web-film', null],
    ['too long', film(361), 'web-loop', 'takes 15 s at most; the reel lasts 15.042 s, 361 frames'],
    ['just short enough', film(360), 'web-loop', null],
  ])('%s', (_what, project, destination, sentence) => {
    const words = said(project, destination).replace(/\S[^|]*Outside are[^|]*/, '');
    if (sentence === null) expect(words).toBe('');
    else expect(words).toContain(sentence);
  });

  it('holds the last file against its limits', () => {
    expect(said(film(48), 'web-loop', { ...handed, fileBytes: 8 * 1024 ** 2 })).toBe('');
    expect(said(film(48), 'web-loop', { ...handed, fileBytes: 8 * 1024 ** 2 + 60_000 })).toContain(
      'up to 8.0 MiB; the last handover, a.mp4, has 8.1 MiB',
    );
    expect(said(film(48), 'web-loop', { ...handed, hasGround: false })).toBe('');
    expect(said(film(48), 'web-film', { ...handed, hasGround: false })).toContain('takes no transparency');
  });

  it('is unknown or none: then nothing is refused', () => {
    expect(destinationOf(null)).toBeNull();
    expect(destinationOf('nowhere')).toBeNull();
    expect(refusals(film(48, size(1281, 721)), null, NO_FACTS)).toEqual([]);
  });

  it('of one’s own refuses by its own rules, and nothing where it is not known', () => {
    const own = { ...(DESTINATIONS[0] as Destination), id: 'own-festival', name: 'The festival', rates: [{ num: 25, den: 1 }] };
    const project = bound(film(48), 'own-festival');
    expect(refusals(project, null, NO_FACTS, [own]).map(({ sentence }) => sentence)).toEqual([
      expect.stringContaining('The festival takes 25 frames a second; the film runs at 24.'),
    ]);
    expect(refusals(project, null, NO_FACTS)).toEqual([]);
    expect(
      checkProject(project, { ...AGAINST_NOTHING, destinations: [own] }).some(({ sentence }) => sentence.includes('The festival')),
    ).toBe(true);
  });

  it('has an id of its own each, and rates and limits that can be', () => {
    expect(new Set(DESTINATIONS.map(({ id }) => id)).size).toBe(DESTINATIONS.length);
    for (const { rates, shortestSeconds, longestSeconds } of DESTINATIONS) {
      expect(rates.length).toBeGreaterThan(0);
      expect(longestSeconds ?? Number.POSITIVE_INFINITY).toBeGreaterThan(shortestSeconds);
    }
  });
});

const measured = (lowest: number, highest: number): PictureFacts => ({
  ...NO_FACTS,
  measures: new Map([[pictureOf('a'), { inkPixels: 9, centre: { x: 1, y: 1 }, box: null, channels: { lowest, highest } }]]),
});

describe('colours outside what a destination takes', () => {
  const broadcast = bound(film(250, { ...size(1920, 1080), rate: { num: 25, den: 1 } }), 'broadcast-25');
  const range = (facts: PictureFacts, project = broadcast) =>
    refusals(project, null, facts).filter((finding) => finding.kind === 'colour-range');

  it('are told with the paper, and held in what leaves, not on the drawings', () => {
    const [finding] = range(measured(0, 200));
    expect(finding?.sentence).toContain('from 5 to 246. Outside are the white paper (255), Sock in 010 (1 drawing, 0 to 200).');
    const [after] = afterFixes(broadcast, finding);
    expect(after?.finish).toMatchObject([{ kind: 'holdColours', range: { from: 5, to: 246 }, inHandover: true }]);
    expect(after?.shots).toBe(broadcast.shots);
    expect(after && range(measured(0, 200), after)).toEqual([]);
  });

  it('are not told of drawings within it', () => {
    expect(range(measured(5, 246))[0]?.sentence).toContain('Outside are the white paper (255).');
    expect(range(measured(4, 246))[0]?.sentence).toContain('Sock');
  });
});

describe('flashes', () => {
  it('are told whatever the destination, with shot and frames', () => {
    const project = projectOf(shotOf([levelOf('A', '1*24')], 24), { ...shotOf([levelOf('B', '1*24')], 24, '020') });
    const facts: PictureFacts = { ...NO_FACTS, flashes: [{ kind: 'red', flashes: 4, fromFrame: 30, toFrame: 44, fieldPercent: 60 }] };
    expect(refusals(project, null, facts)[0]?.sentence).toContain(
      'Red flashes 4 times within a second, shot 020, frames 7 to 21, over up to 60 % of the field',
    );
    expect(
      refusals(project, null, { ...NO_FACTS, flashes: [{ kind: 'general', flashes: 3, fromFrame: 0, toFrame: 9, fieldPercent: 100 }] }),
    ).toEqual([]);
  });
});

describe('flashes of clips', () => {
  const flashes = (fromFrame: number, toFrame: number): PictureFacts => ({
    ...NO_FACTS,
    flashes: [{ kind: 'general', flashes: 5, fromFrame, toFrame, fieldPercent: 100 }],
  });
  const shot = shotOf([levelOf('A', '1*24')], 24);
  const alone = projectOf(shot);
  const project = { ...alone, reel: { ...alone.reel, items: [...alone.reel.items, newGap('gap', 6), clipItem('clip', clipOf(50))] } };

  it.each([
    [flashes(31, 50), 'It flashes 5 times within a second, the clip street, frames 32–51 of the reel,', null],
    [flashes(20, 40), 'It flashes 5 times within a second, from shot 010 to the clip street, frames 21–41 of the reel,', 20],
    [flashes(2, 20), 'It flashes 5 times within a second, shot 010, frames 3 to 21,', 2],
    [flashes(2, 26), 'It flashes 5 times within a second, shot 010, frames 3 to 24,', 2],
    [flashes(26, 40), 'It flashes 5 times within a second, the clip street, frames 27–41 of the reel,', null],
  ])('are told by frames of the reel', (facts, words, fromFrame) => {
    const [finding] = refusals(project, null, facts);
    expect(finding?.sentence).toContain(words);
    expect(finding?.place?.fromFrame ?? null).toBe(fromFrame);
  });
});

describe('missing pictures', () => {
  it('are findings, and can be made empty drawings', () => {
    const shot = shotOf([levelOf('Sock', '1*2 2*2', { pictures: 'ab' })]);
    const facts: PictureFacts = { ...NO_FACTS, troubles: new Map([[pictureOf('b'), 'missing']]) };
    const [finding, ...others] = missingPicture(shot, shot.levels[0] as Level, facts);
    expect(others).toEqual([]);
    expect(finding).toMatchObject({ breaks: 'draw-check', place: { fromFrame: 2, toFrame: 3 } });
    expect(finding?.sentence).toContain('The picture of Sock 2 is not in the store');
    expect(afterFixes(projectOf(shot), finding)[0]?.shots[0]?.levels[0]?.drawings[1]?.picture).toBeNull();
  });

  it('of a guide are told as the guide’s, and break nothing', () => {
    const shot = shotOf([levelOf('Wind', '1*2', { kind: 'guide', pictures: 'a' })]);
    const [finding] = missingPicture(shot, shot.levels[0] as Level, { ...NO_FACTS, troubles: new Map([[pictureOf('a'), 'broken']]) });
    expect(finding?.sentence).toContain('The picture of guide Wind 1 can’t be read any more');
    expect(finding?.breaks).toBeNull();
  });
});

describe('pictures that are nearly the same', () => {
  const near: PictureFacts = {
    ...NO_FACTS,
    near: new Map([[nearKey(pictureOf('b'), pictureOf('a')), { drawnBlocks: 1000, changedBlocks: 4, largestLevels: 30 }]]),
  };
  const find = (notation: string, perMille = 10, facts = near, pictures = 'abc') => {
    const shot = shotOf([levelOf('Sock', notation, { pictures })]);
    return { shot, findings: nearPicture(shot, shot.levels[0] as Level, facts, perMille, 1) };
  };

  it('are told with what differs, in a row or apart, and shared', () => {
    const { shot, findings } = find('1*2 2*2 3*2');
    expect(findings[0]?.sentence).toBe(
      'Sock 1 and 2 are nearly the same and follow each other, on frames 1 and 3. They differ in 0.4 % of what is drawn, by 30 levels of 255 at most.',
    );
    expect(findings[0]?.pair).toEqual([pictureOf('a'), pictureOf('b')]);
    const [after] = afterFixes(projectOf(shot), findings[0]);
    expect(after && columnIn(after, 'Sock')).toBe('1*4 3*2');
    expect(find('1*2 3*2 2*2', 10, near, 'acb').findings[0]?.sentence).toContain('Sock 1 and 2 are nearly the same, on frames 1 and 5.');
  });

  it('are none under the limit that is set, when a drawing is not shown, or exact', () => {
    expect(find('1*2 2*2', 3).findings).toEqual([]);
    expect(find('1*2 2*2', 0).findings).toEqual([]);
    expect(find('1*2 3*2', 10, near, 'acb').findings).toEqual([]);
    expect(find('1*2 2*2', 10, NO_FACTS).findings).toEqual([]);
  });

  it('are set by a step that can be taken back', () => {
    const project = film(48);
    expect(mustBeDone(applyStep(project, { type: 'setChecks', change: { nearPerMille: 30 } })).checks.nearPerMille).toBe(30);
    expect(applyStep(project, { type: 'setChecks', change: { nearPerMille: 201 } })).toMatchObject({ ok: false });
    expect(applyStep(project, holdColoursStep(project, { from: 20, to: 10 }))).toMatchObject({ ok: false });
    expect(applyStep(project, { type: 'setChecks', change: { stillFrames: 72 } })).toEqual({ ok: true, value: project });
  });
});
