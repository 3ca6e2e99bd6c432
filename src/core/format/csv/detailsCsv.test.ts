import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import type { Shot } from '@/core/document/model';
import type { TimingChart } from '@/core/document/timingChart';
import { detailsDifferences, takeDetails } from '@/core/edit/detailsEdits';
import { applyStep } from '@/core/edit/table';
import { isDetailsCsv, readDetailsCsv, writeDetailsCsv } from '@/core/format/csv/detailsCsv';
import { mustBeDone } from '@/core/outcome';
import { record } from '@/core/testing/record';
import { contextOn, levelOf, projectOf, shotOf, soundOf } from '@/core/testing/sheets';
import { fraction } from '@/core/time/fraction';

const sock = levelOf('Sock', '1*4 2*2 3a*2', { extra: ['9'] });
const chart = (part: Partial<TimingChart> = {}): TimingChart => ({
  ...{ id: 'chart', fromDrawing: 'Sock-1', toDrawing: 'Sock-3a', shape: 'halvesFirst' },
  ...{
    ticks: [
      { place: fraction(1, 4), drawing: 'Sock-2' },
      { place: fraction(1, 2), drawing: null },
    ],
    path: [
      { x: -12, y: 80 },
      { x: 5, y: 6 },
    ],
  },
  ...part,
});
const shotWith = (charts: readonly TimingChart[]): Shot => ({
  ...shotOf([{ ...sock, charts }], 8),
  sounds: [{ ...soundOf('=Wind', 3, 20_000), fadeInFrames: 4, gainDecibels: -6 }],
});

describe('charts and sounds as CSV', () => {
  it('are a row each (worked by hand)', () => {
    const [heads, charted, heard] = writeDetailsCsv(shotWith([chart()]), 1).split('\r\n');
    expect(heads).toBe('kind,level,from,to,shape,places,path,name,file,start frame,from sample,samples,dB,fade in,fade out,muted');
    expect(charted).toBe("chart,Sock,1,3a,halvesFirst,1/4 2; 1/2,'-12 80; 5 6,,,,,,,,,");
    expect(heard).toMatch(/^sound,,,,,,,'=Wind,[^,]+,4,0,20000,-6,4,0,no$/);
    expect(isDetailsCsv(`${heads}\r\n`)).toBe(true);
    expect(isDetailsCsv('frame,Sock')).toBe(false);
  });

  it('come back as they were, onto a shot that has others', () => {
    const places = fc.uniqueArray(fc.integer({ min: 1, max: 119 }), { maxLength: 10 }).map((all) => all.toSorted((a, b) => a - b));
    const charts = record({
      places,
      shape: fc.constantFrom('even' as const, 'hand' as const, 'slowIn' as const),
      path: fc.array(record({ x: fc.integer({ min: -500, max: 500 }), y: fc.integer({ min: -500, max: 500 }) }), { maxLength: 5 }),
      drawing: fc.constantFrom(null, 'Sock-2', 'Sock-9'),
    });
    fc.assert(
      fc.property(charts, fc.nat(100), ({ places: at, shape, path, drawing }, first) => {
        const ticks = at.map((part, index) => ({ place: fraction(part, 120), drawing: index === 0 ? drawing : null }));
        const shot = shotWith([chart({ shape, ticks, path })]);
        const table = mustBeDone(readDetailsCsv(writeDetailsCsv(shot, first), first));
        expect(takeDetails(contextOn(shot), table)).toEqual({ ok: false, reason: 'The charts and sounds are just so already.' });
        const other: Shot = {
          ...shot,
          levels: [{ ...sock, charts: [] }],
          sounds: shot.sounds.map((sound) => ({ ...sound, startFrame: 0, muted: true })),
        };
        const edit = mustBeDone(takeDetails(contextOn(other), table));
        const after = mustBeDone(applyStep(projectOf(other), edit.step)).shots[0];
        expect(after?.sounds).toEqual(shot.sounds);
        expect(after?.levels[0]?.charts).toEqual([{ ...chart({ shape, ticks, path }), id: after?.levels[0]?.charts[0]?.id }]);
      }),
    );
  });

  it('changed elsewhere are told level by level and sound by sound, and taken one by one', () => {
    const shot = shotWith([chart(), chart({ id: 'second', fromDrawing: 'Sock-3a', toDrawing: 'Sock-9', ticks: [] })]);
    const theirs: Shot = {
      ...shot,
      levels: [
        { ...sock, charts: [chart(), chart({ id: 'second', fromDrawing: 'Sock-3a', toDrawing: 'Sock-9', shape: 'even', ticks: [] })] },
      ],
      sounds: shot.sounds.map((sound) => ({ ...sound, startFrame: 5, gainDecibels: 0 })),
    };
    const table = mustBeDone(readDetailsCsv(writeDetailsCsv(theirs, 1), 1));
    const differences = mustBeDone(detailsDifferences(contextOn(shot), table));
    expect(differences.map(({ words }) => words)).toEqual([
      'Charts of Sock: 2 in the file, 2 here, 1 of them the same',
      '=Wind starts on frame 6 instead of 4 and is heard otherwise',
    ]);
    const edit = mustBeDone(takeDetails(contextOn(shot), table, (id) => id.startsWith('sound')));
    expect(edit.says).toBe('Taken from the table: 1 sound');
    const after = mustBeDone(applyStep(projectOf(shot), edit.step)).shots[0];
    expect([after?.levels[0]?.charts, after?.sounds[0]?.startFrame]).toEqual([shot.levels[0]?.charts, 5]);
    expect(takeDetails(contextOn(shot), table, () => false).ok).toBe(false);
  });

  const row = (cells: string) => `${writeDetailsCsv(shotWith([]), 1).split('\r\n')[0]}\r\n${cells}\r\n`;
  it.each([
    ['no heads', 'a,b\r\n', 'begins with a row of heads'],
    ['a column that is missing', 'kind,level\r\n', 'There is no column “from”'],
    ['a kind of its own', row('chord,,,,,,,,,,,,,,,'), 'Row 2 (kind): “chord” is not chart or sound.'],
    ['a shape that is none', row('chart,Sock,1,3a,wavy,1/2,,,,,,,,,,'), 'Row 2 (shape)'],
    ['a place that is none', row('chart,Sock,1,3a,even,5/4,,,,,,,,,,'), 'is not a place between the two drawings'],
    ['places out of order', row('chart,Sock,1,3a,even,1/2; 1/4,,,,,,,,,,'), 'in the order of the way'],
    ['a sound without a number', row('sound,,,,,,,Wind,w.wav,soon,0,1,0,0,0,no'), 'Row 2 (start frame): “soon” is not a whole number.'],
  ])('with %s are refused, and where', (_, text, reason) => {
    const read = readDetailsCsv(text, 1);
    expect((read.ok ? 'read' : read.reason).toLowerCase()).toContain(reason.toLowerCase());
  });

  it.each([
    ['a level', row('chart,Shoe,1,2,even,1/2,,,,,,,,,,'), 'Row 2: the shot has no level Shoe.'],
    ['a drawing', row('chart,Sock,1,77,even,1/2,,,,,,,,,,'), 'Row 2: Sock has no drawing 77.'],
    ['a sound', row('sound,,,,,,,Bang,b.wav,1,0,1,0,0,0,no'), 'the shot has no sound Bang of b.wav'],
  ])('that name %s the shot does not have are refused', (_, text, reason) => {
    const edit = takeDetails(contextOn(shotWith([])), mustBeDone(readDetailsCsv(text, 1)));
    expect(edit.ok ? 'taken' : edit.reason).toContain(reason);
  });
});
