import { describe, expect, it } from 'vitest';
import { levelOf, projectOf, shotOf } from '@/core/testing/sheets';
import { searchOf, viewIn } from '@/features/workspace/address';

const project = { ...projectOf(shotOf([levelOf('A', '1*24')], 24), shotOf([levelOf('B', '1*48')], 48, '020 b&c')), firstFrameNumber: 101 };
const [first, second] = project.shots as [(typeof project.shots)[0], (typeof project.shots)[0]];

describe('an address', () => {
  it('says the shot by its code and the frame by the number it is shown with', () => {
    expect(searchOf(project, first, 11)).toBe('?shot=010&frame=112');
    expect(viewIn('?shot=010&frame=112', project)).toEqual({ shotId: first.id, frame: 11 });
  });

  it('comes back whatever the code', () =>
    expect(viewIn(searchOf(project, second, 47), project)).toEqual({ shotId: second.id, frame: 47 }));

  it('says a shot by its id where two have one code', () => {
    const twice = { ...project, shots: [first, { ...second, code: first.code }] };
    expect(viewIn(searchOf(twice, twice.shots[1] as typeof second, 3), twice)).toEqual({ shotId: second.id, frame: 3 });
  });

  it.each([
    ['', null],
    ['?frame=3', null],
    ['?shot=999&frame=3', null],
    ['?shot=010', 0],
    ['?shot=010&frame=9999', 23],
    ['?shot=010&frame=1', 0],
    ['?shot=010&frame=soon', 0],
  ])('%s means frame %s', (search, frame) => expect(viewIn(search, project)?.frame ?? null).toBe(frame));
});
