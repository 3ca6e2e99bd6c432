import { describe, expect, it } from 'vitest';
import { keepChart, placeWords, putOnSheet, readOffSheet, removeChart, splitAtBreakdown } from '@/core/chart/chartEdits';
import { emptyChart, reshaped } from '@/core/chart/chartTicks';
import { chartTrouble } from '@/core/chart/fit';
import { chartOfPair, type KeyPair, pairAt, pairOfChart, spanOf } from '@/core/chart/pair';
import { carriedPath, pointOnPath, thinnedPath } from '@/core/chart/path';
import { inbetweensThatFit, mostInbetweens, timeSpan } from '@/core/chart/span';
import type { Level, Shot } from '@/core/document/model';
import { MOST_INBETWEENS, type TimingChart } from '@/core/document/timingChart';
import { setLengths } from '@/core/edit/blockEdits';
import { applyStep, invertStep } from '@/core/edit/table';
import { mustBeDone } from '@/core/outcome';
import { blockOf, columnAfter, contextOn, ids, levelOf, projectOf, shotOf } from '@/core/testing/sheets';
import { fractionText } from '@/core/time/fraction';

/** A sheet whose drawings `keys` are keys. */
function keyed(notation: string, ...keys: readonly string[]): Shot {
  const level = levelOf('Sock', notation);
  const drawings = level.drawings.map((drawing) => (keys.includes(drawing.number) ? { ...drawing, role: 'key' as const } : drawing));
  return shotOf([{ ...level, drawings }], 48);
}
const levelIn = (shot: Shot) => shot.levels[0] as Level;
const pairIn = (shot: Shot, frame = 0) => pairAt(levelIn(shot), frame) as KeyPair;
const chartIn = (shot: Shot, shape: Parameters<typeof reshaped>[1], count: number): TimingChart => {
  const pair = pairIn(shot);
  return reshaped(emptyChart('chart', pair.from.drawing.id, pair.to.drawing.id), shape, count);
};
const shotAfter = (shot: Shot, edit: ReturnType<typeof keepChart>) =>
  mustBeDone(applyStep(projectOf(shot), mustBeDone(edit).step)).shots[0] as Shot;

describe('a span on a step (worked by hand)', () => {
  it.each([
    [12, 2, 5],
    [11, 2, 4],
    [3, 2, 0],
    [12, 1, 11],
    [12, 3, 3],
    [1, 1, 0],
  ])('of %i frames on %is takes %i in-betweens in full', (span, step, count) => expect(inbetweensThatFit(span, step)).toBe(count));

  it.each([
    [12, 2, 5, [2, 2, 2, 2, 2, 2], false],
    [11, 2, 4, [3, 2, 2, 2, 2], false],
    [3, 2, 0, [3], false],
    [3, 2, 1, [2, 1], true],
    [12, 2, 3, [6, 2, 2, 2], false],
  ] as const)('of %i on %is with %i in-betweens is %o', (span, step, count, frames, endsShort) =>
    expect(timeSpan(span, step, count)).toEqual({ ok: true, value: { frames, endsShort } }),
  );

  it('says how many fit when more are asked for', () => {
    const asked = timeSpan(12, 2, 9);
    expect(asked.ok ? '' : asked.reason).toBe("9 in-betweens on 2s don't fit: the keys are 12 frames apart; 5 fit on 2s, 11 on ones.");
    expect(mostInbetweens(12, 2)).toBe(5);
    expect(mostInbetweens(3, 2)).toBe(1);
  });
});

describe('two keys', () => {
  const shot = keyed('1*4 2*2 3*2 5*4 6*2 9*4', '1', '5', '9');

  it.each([
    [0, '1', '5', 8],
    [6, '1', '5', 8],
    [8, '5', '9', 6],
    [16, '5', '9', 6],
  ])('at frame %i are %s and %s', (frame, from, to, span) => {
    const pair = pairIn(shot, frame);
    expect([pair.from.drawing.number, pair.to.drawing.number, spanOf(pair)]).toEqual([from, to, span]);
  });

  it('are two different ones, or there is no pair', () => {
    expect(pairAt(levelIn(keyed('1*4 2*2', '1')), 0)).toBeNull();
    expect(pairAt(levelIn(keyed('1*4 2*2 1*4', '1')), 0)).toBeNull();
  });
});

describe('a chart put on the sheet (worked by hand)', () => {
  it.each([
    ['1*12 7*2', 2, 5, '1*2 2*2 3*2 4*2 5*2 6*2 7*2', '5 in-betweens on twos: 2, 3, 4, 5, 6'],
    ['1*11 9*2', 2, 4, '1*3 2*2 3*2 4*2 5*2 9*2', '4 in-betweens on twos: 2, 3, 4, 5; 1 is held for 3 frames'],
    ['1*3 2*2', 2, 1, '1*2 1a 2*2', '1 in-between on twos: 1a; the last one ends on a one'],
    ['1*12 2*2', 2, 2, '1*8 1a*2 1b*2 2*2', '2 in-betweens on twos: 1a, 1b; 1 is held for 8 frames'],
  ])('%s on %is with %i in-betweens: %s', (before, step, count, after, says) => {
    const keys = before.split(' ').map((part) => part.split('*')[0] ?? '');
    const shot = keyed(before, ...keys);
    const edit = putOnSheet(contextOn(shot), levelIn(shot), chartIn(shot, 'even', count), pairIn(shot), step);
    expect(columnAfter(shot, edit)).toBe(after);
    expect(mustBeDone(edit).says).toBe(says);
    const level = levelIn(shotAfter(shot, edit));
    expect(level.charts[0]?.ticks.every((tick) => tick.drawing !== null)).toBe(true);
    expect(chartTrouble(level, level.charts[0] as TimingChart)).toBeNull();
    const project = projectOf(shot);
    expect(
      mustBeDone(applyStep(mustBeDone(applyStep(project, mustBeDone(edit).step)), invertStep(project, mustBeDone(edit).step))),
    ).toEqual(project);
  });

  it('uses the drawings that stand between, and says which have no place', () => {
    const shot = keyed('1*2 2*2 3*2 4*2 9*2', '1', '9');
    const edit = putOnSheet(contextOn(shot), levelIn(shot), chartIn(shot, 'even', 2), pairIn(shot), 2);
    expect(columnAfter(shot, edit)).toBe('1*4 2*2 3*2 9*2');
    expect(mustBeDone(edit).says).toContain('4 no longer exposed there');
  });

  it('refuses more than fit, and changes nothing', () => {
    const shot = keyed('1*12 9*2', '1', '9');
    expect(columnAfter(shot, putOnSheet(contextOn(shot), levelIn(shot), chartIn(shot, 'even', 9), pairIn(shot), 2))).toContain(
      '5 fit on 2s',
    );
  });
});

describe('a chart read off the sheet', () => {
  it('places each drawing where in the span it begins', () => {
    const shot = keyed('1*4 2*2 3*4 9*2', '1', '9');
    const chart = mustBeDone(readOffSheet(levelIn(shot), pairIn(shot), ids()));
    expect(chart.ticks.map((tick) => [fractionText(tick.place), tick.drawing])).toEqual([
      ['2/5', 'Sock-2'],
      ['3/5', 'Sock-3'],
    ]);
  });

  it('of an even chart put on the sheet is that chart, and putting it back changes nothing', () => {
    const shot = keyed('1*12 7*2', '1', '7');
    const once = shotAfter(shot, putOnSheet(contextOn(shot), levelIn(shot), chartIn(shot, 'even', 5), pairIn(shot), 2));
    const read = mustBeDone(readOffSheet(levelIn(once), pairIn(once), ids()));
    expect(read.ticks).toEqual(levelIn(once).charts[0]?.ticks);
    expect(columnAfter(once, putOnSheet(contextOn(once), levelIn(once), read, pairIn(once), 2))).toBe('1*2 2*2 3*2 4*2 5*2 6*2 7*2');
  });

  it('needs in-betweens, and no more than a chart holds', () => {
    const none = keyed('1*4 9*2', '1', '9');
    expect(readOffSheet(levelIn(none), pairIn(none), ids())).toMatchObject({ ok: false });
    const many = keyed(`k ${Array.from({ length: MOST_INBETWEENS + 1 }, (_, index) => index + 1).join(' ')} z`, 'k', 'z');
    const read = readOffSheet(levelIn(many), pairIn(many), ids());
    expect(read.ok ? '' : read.reason).toContain('at most 30');
  });
});

describe('a chart and its keys', () => {
  const made = () => {
    const shot = keyed('1*12 7*2', '1', '7');
    return shotAfter(shot, putOnSheet(contextOn(shot), levelIn(shot), chartIn(shot, 'slowBoth', 5), pairIn(shot), 2));
  };
  const trouble = (shot: Shot) => chartTrouble(levelIn(shot), levelIn(shot).charts[0] as TimingChart);

  it('go together when the keys move, without a word', () => {
    const shot = made();
    const moved = shotAfter(shot, {
      ok: true,
      value: {
        says: '',
        step: {
          type: 'replaceRuns',
          shotId: shot.id,
          levelId: 'Sock',
          startFrame: 0,
          removedFrames: 0,
          runs: [{ drawing: null, frames: 6 }],
        },
      },
    });
    expect(levelIn(moved).charts).toEqual(levelIn(shot).charts);
    expect(pairOfChart(levelIn(moved), levelIn(moved).charts[0] as TimingChart)?.from.run.startFrame).toBe(6);
    expect(trouble(moved)).toBeNull();
  });

  it('stay as they are when only lengths change: the chart says where, the sheet when', () => {
    const shot = made();
    const slower = shotAfter(shot, setLengths(contextOn(shot), blockOf(0, 3), 4));
    expect(levelIn(slower).charts).toEqual(levelIn(shot).charts);
    expect(trouble(slower)).toBeNull();
  });

  it('tell when they no longer fit', () => {
    const shot = made();
    const short = shotAfter(shot, {
      ok: true,
      value: { says: '', step: { type: 'replaceRuns', shotId: shot.id, levelId: 'Sock', startFrame: 2, removedFrames: 8, runs: [] } },
    });
    expect(trouble(short)).toBe(
      'Chart 1 → 7 no longer fits: it holds 5 in-betweens, and its keys are 4 frames apart, where 3 fit on ones.',
    );
    const fewer = shotAfter(shot, {
      ok: true,
      value: {
        says: '',
        step: {
          type: 'replaceRuns',
          shotId: shot.id,
          levelId: 'Sock',
          startFrame: 2,
          removedFrames: 2,
          runs: [{ drawing: 'Sock-1', frames: 2 }],
        },
      },
    });
    expect(trouble(fewer)).toContain('holds 5 in-betweens, the sheet shows 4');
    const gone = { ...shot, levels: [{ ...levelIn(shot), exposures: [{ drawing: 'Sock-1', frames: 12 }] }] };
    expect(trouble(gone)).toContain('not exposed one after the other');
  });

  it('tell when another drawing stands in a place', () => {
    const shot = made();
    const chart = levelIn(shot).charts[0] as TimingChart;
    const swapped = {
      ...chart,
      ticks: chart.ticks.map((tick, index) => ({ ...tick, drawing: chart.ticks[[1, 0, 2, 3, 4][index] as number]?.drawing ?? null })),
    };
    expect(chartTrouble(levelIn(shot), swapped)).toBe('Chart 1 → 7 has 3 in place 1, the sheet shows 2 there.');
  });

  it('split in two at a breakdown, every drawing lying where it lay', () => {
    const shot = made();
    const chart = levelIn(shot).charts[0] as TimingChart;
    const edit = splitAtBreakdown(contextOn(shot), levelIn(shot), chart, 2);
    expect(mustBeDone(edit).says).toBe('4 becomes a breakdown at 1/2: charts 1 → 4 and 4 → 7');
    const level = levelIn(shotAfter(shot, edit));
    expect(level.drawings.find((drawing) => drawing.number === '4')?.role).toBe('breakdown');
    // 3t² − 2t³ at 1/6 and 1/3 is 2/27 and 7/27: 4/27 and 14/27 of the first half.
    expect(level.charts.map((each) => each.ticks.map((tick) => fractionText(tick.place)))).toEqual([
      ['4/27', '14/27'],
      ['13/27', '23/27'],
    ]);
    expect(chartOfPair(level, pairAt(level, 0) as KeyPair)?.id).toBe('chart');
    expect(columnAfter(shot, splitAtBreakdown(contextOn(shot), levelIn(shot), chartIn(shot, 'even', 3), 1))).toContain(
      'Put the chart on the sheet first',
    );
  });

  it('are kept and taken away as one step each', () => {
    const shot = made();
    const chart = levelIn(shot).charts[0] as TimingChart;
    expect(levelIn(shotAfter(shot, removeChart(contextOn(shot), levelIn(shot), chart))).charts).toEqual([]);
    expect(mustBeDone(keepChart(contextOn(shot), levelIn(shot), { ...chart, shape: 'hand' })).says).toBe('Chart 1 → 7');
  });

  it('say where a drawing lies', () => {
    const level = levelIn(made());
    const chart = level.charts[0] as TimingChart;
    const said = ['1', '2', '4', '6'].map((number) =>
      placeWords(level, chart, level.drawings.find((drawing) => drawing.number === number)?.id ?? ''),
    );
    expect(said).toEqual([null, '2/27 of the way, nearer 1', '1/2 of the way, midway', '25/27 of the way, nearer 7']);
  });
});

describe('a path', () => {
  const corner = [
    { x: 0, y: 0 },
    { x: 30, y: 0 },
    { x: 30, y: 10 },
  ];

  it.each([
    [0, { x: 0, y: 0 }],
    [0.5, { x: 20, y: 0 }],
    [0.75, { x: 30, y: 0 }],
    [1, { x: 30, y: 10 }],
    [-3, { x: 0, y: 0 }],
  ])('at %f is %o, measured on the way itself', (part, point) => expect(pointOnPath(corner, part)).toEqual(point));

  it('without points has no place, and of one point that', () => {
    expect(pointOnPath([], 0.5)).toBeUndefined();
    expect(pointOnPath([{ x: 4, y: 5 }], 0.5)).toEqual({ x: 4, y: 5 });
  });

  it('is carried along when its picture is laid elsewhere', () => {
    const placed = { x: 0, y: 236, width: 1080, height: 608 };
    expect(
      carriedPath(
        [
          { x: 0, y: 0 },
          { x: 640, y: 360 },
          { x: 1280, y: 720 },
        ],
        { width: 1280, height: 720 },
        placed,
      ),
    ).toEqual([
      { x: 0, y: 236 },
      { x: 540, y: 540 },
      { x: 1080, y: 844 },
    ]);
  });

  it('drawn by hand keeps its ends and at most 200 points', () => {
    const drawn = Array.from({ length: 5000 }, (_, index) => ({ x: index * 0.9, y: 100 * Math.sin(index / 40) }));
    const kept = thinnedPath(drawn);
    expect(kept.length).toBeLessThanOrEqual(200);
    expect(kept[0]).toEqual({ x: 0, y: 0 });
    expect(kept.at(-1)?.x).toBe(Math.round(4999 * 0.9));
    expect(thinnedPath([])).toEqual([]);
  });
});
