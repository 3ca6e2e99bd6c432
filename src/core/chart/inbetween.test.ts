import { describe, expect, it } from 'vitest';
import { insertChartedInbetween } from '@/core/chart/inbetween';
import type { Level } from '@/core/document/model';
import type { ChartTick, TimingChart } from '@/core/document/timingChart';
import { applyStep } from '@/core/edit/table';
import { mustBeDone } from '@/core/outcome';
import { columnIn, contextOn, levelOf, projectOf, shotOf } from '@/core/testing/sheets';
import { fraction, fractionText } from '@/core/time/fraction';

function sockWith(ticks: readonly ChartTick[]): Level {
  const chart: TimingChart = { id: 'c', fromDrawing: 'Sock-1', toDrawing: 'Sock-5', shape: 'even', ticks, path: [] };
  return { ...levelOf('Sock', '1*4 3*4 5*4'), charts: [chart] };
}
const half: ChartTick = { place: fraction(1, 2), drawing: 'Sock-3' };

/** The column and the chart's places after an in-between is put in at a frame, and what is said. */
function putIn(sock: Level, frame: number) {
  const shot = shotOf([sock]);
  const edit = mustBeDone(insertChartedInbetween(contextOn(shot), sock, frame));
  const project = mustBeDone(applyStep(projectOf(shot), edit.step));
  const level = project.shots[0]?.levels[0];
  const number = (id: string | null) => level?.drawings.find((drawing) => drawing.id === id)?.number ?? '-';
  const places = level?.charts[0]?.ticks.map((tick) => `${number(tick.drawing)}@${fractionText(tick.place)}`).join(' ');
  return { column: columnIn(project, 'Sock'), places, says: edit.says };
}

describe('an in-between on a chart (worked by hand)', () => {
  it('lies in the middle between its neighbours', () => {
    expect(putIn(sockWith([half]), 0)).toEqual({
      column: '1*2 1a*2 3*4 5*4',
      places: '1a@1/4 3@1/2',
      says: 'New in-between 1a on frames 3–4, 1/4 of the way by the chart',
    });
    expect(putIn(sockWith([half]), 5).places).toBe('3@1/2 3a@3/4');
  });

  it('takes the chart’s next place that waits for a drawing', () => {
    expect(putIn(sockWith([{ place: fraction(1, 3), drawing: null }, half]), 0).places).toBe('1a@1/3 3@1/2');
    expect(putIn(sockWith([half, { place: fraction(7, 8), drawing: null }]), 5).places).toBe('3@1/2 3a@7/8');
  });

  it('is a plain one after the last key, or without a chart', () => {
    expect(putIn(sockWith([half]), 9)).toMatchObject({ column: '1*4 3*4 5*2 5a*2', places: '3@1/2' });
    expect(putIn(levelOf('Sock', '1*4 3*4'), 0)).toMatchObject({ column: '1*2 1a*2 3*4', says: 'New in-between 1a on frames 3–4' });
  });
});
