import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { checkProject, partKept } from '@/core/check/check';
import type { FindingKind } from '@/core/check/finding';
import { fixAll } from '@/core/check/fixAll';
import type { Project } from '@/core/document/model';
import { applyStep } from '@/core/edit/table';
import { mustBeDone } from '@/core/outcome';
import { AGAINST_NOTHING } from '@/core/testing/checking';
import { columnIn, levelOf, projectOf, shotOf } from '@/core/testing/sheets';

const look = (project: Project) => checkProject(project, AGAINST_NOTHING);

/** One after the other, each looked up anew in what the one before left: the plain way, from the last place to the first. */
function oneByOne(project: Project, kind: FindingKind, way: string): Project {
  const failed = new Set<string>();
  let after = project;
  for (let turn = 0; turn < 500; turn++) {
    const open = look(after).filter(
      (finding) => finding.kind === kind && !failed.has(finding.id) && finding.fixes.some((fix) => fix.way === way),
    );
    const next = open.toSorted((a, b) => (b.place?.fromFrame ?? 0) - (a.place?.fromFrame ?? 0))[0];
    const fix = next?.fixes.find((candidate) => candidate.way === way);
    if (!next || !fix) return after;
    const fixed = applyStep(after, fix.step);
    if (!fixed.ok || fixed.value === after) failed.add(next.id);
    else after = fixed.value;
  }
  throw new Error('It never ends.');
}

const column = fc
  .array(fc.tuple(fc.constantFrom('1', '2', '3', '4', '5', '.'), fc.constantFrom(1, 2, 2, 2, 8)), { minLength: 3, maxLength: 16 })
  .map((runs) => runs.map(([number, frames]) => `${number}*${frames}`).join(' '));

describe('fixing all of a kind', () => {
  it.each<[FindingKind, string]>([
    ['stray', 'push'],
    ['gap', 'hold'],
    ['gap', 'start'],
    ['same-picture', 'hold'],
    ['same-apart', 'share'],
    ['order', 'renumber'],
    ['past-end', 'trim'],
  ])('%s by “%s” leaves what fixing one after the other leaves', (kind, way) => {
    let fixed = 0;
    fc.assert(
      fc.property(column, column, fc.integer({ min: 4, max: 40 }), (first, second, frames) => {
        const project = projectOf(
          shotOf([levelOf('Sock', first, { pictures: 'aabbc' }), levelOf('Pegs', second, { pictures: 'abcab' })], frames),
        );
        const all = fixAll(project, kind, way, look);
        const plain = oneByOne(project, kind, way);
        if (!all.ok) {
          expect(plain).toBe(project);
          return;
        }
        fixed++;
        expect(mustBeDone(applyStep(project, all.value.step))).toEqual(all.value.after);
        for (const levelId of ['Sock', 'Pegs']) expect(columnIn(all.value.after, levelId)).toBe(columnIn(plain, levelId));
      }),
      { numRuns: 250 },
    );
    if (kind !== 'order') expect(fixed).toBeGreaterThan(5);
  });
});

describe('sentences and fixes', () => {
  it('name frames by their numbers, whatever the first one is called', () => {
    const shift = (text: string, by: number) =>
      text.replace(
        /\b(frames? )(\d+)(?:(–| to | and )(\d+))?/g,
        (_all, word, from, between, to) => `${word}${Number(from) + by}${between ? `${between}${Number(to) + by}` : ''}`,
      );
    fc.assert(
      fc.property(column, column, fc.integer({ min: 4, max: 40 }), (first, second, frames) => {
        const project = projectOf(
          shotOf([levelOf('Sock', first, { pictures: 'aabbc' }), levelOf('Pegs', second, { pictures: 'abcab' })], frames),
        );
        const said = (of: Project) => look(of).flatMap(({ sentence, fixes }) => [sentence, ...fixes.map((fix) => fix.words)]);
        expect(said({ ...project, firstFrameNumber: 1001 })).toEqual(said(project).map((text) => shift(text, 1000)));
      }),
    );
  });
});

describe('what is kept as intended', () => {
  const kept = (project: Project, finding: string): Project =>
    mustBeDone(applyStep(project, { type: 'keepFinding', finding, note: 'meant' }));
  const gaps = (project: Project) => look(project).filter(({ kind }) => kind === 'gap');

  it('keeps its note where another of its kind is fixed', () => {
    // Two gaps between the same two drawings: the second is kept, the first filled.
    const project = projectOf(shotOf([levelOf('Sock', '1*2 . 2*2 1*2 . 2*2', { pictures: 'ab' })]));
    const [first, second] = gaps(project);
    expect(new Set([first?.id, second?.id]).size).toBe(2);
    const noted = kept(project, second?.id ?? '');
    const step = first?.fixes[0]?.step;
    if (!step) throw new Error('It has a fix.');
    const after = mustBeDone(applyStep(noted, step));
    expect(partKept(after, gaps(after)).kept.map((finding) => finding.place?.fromFrame)).toEqual([7]);
    // And the other way round: the first kept, the second filled.
    const other = mustBeDone(applyStep(kept(project, first?.id ?? ''), second?.fixes[0]?.step ?? step));
    expect(partKept(other, gaps(other)).kept.map((finding) => finding.place?.fromFrame)).toEqual([2]);
  });

  it('never hands its note to another: with the kept one fixed, the other is open', () => {
    const project = projectOf(shotOf([levelOf('Sock', '1*2 . 2*2 1*2 . 2*2', { pictures: 'ab' })]));
    const [first] = gaps(project);
    const after = mustBeDone(applyStep(kept(project, first?.id ?? ''), first?.fixes[0]?.step as never));
    const parts = partKept(after, gaps(after));
    expect([parts.open.length, parts.kept.length]).toEqual([1, 0]);
  });

  it('of an earlier version is that of the only finding it can be about', () => {
    const project = projectOf(shotOf([levelOf('Sock', '1*2 . 2*2 1*2 3*2', { pictures: 'abc' })]));
    const noted = kept(project, 'gap Sock Sock-1 Sock-2');
    expect(partKept(noted, gaps(noted)).kept).toHaveLength(1);
  });
});

describe('a shot ended by a fix', () => {
  it('leaves nothing past its end, whatever ran there', () => {
    const shots = [
      shotOf([levelOf('Sock', '1*4 2*4', { pictures: 'ab' }), levelOf('Pegs', '5*12', { pictures: 'c' })], 8),
      shotOf([levelOf('S2', '2*4', { pictures: 'b', id: 'S2' }), levelOf('P2', '5*4', { pictures: 'c', id: 'P2' })], 4, '020'),
    ];
    const project = projectOf(...shots);
    const join = look(project).find(({ kind }) => kind === 'shot-join');
    const after = mustBeDone(applyStep(project, join?.fixes[0]?.step as never));
    expect(after.shots[0]?.frames).toBe(4);
    expect(look(after).filter(({ kind }) => kind === 'past-end' || kind === 'shot-join')).toEqual([]);
  });
});
