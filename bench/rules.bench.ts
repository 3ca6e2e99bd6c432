import { checkProject } from '../src/core/check/check';
import { fixAll } from '../src/core/check/fixAll';
import { type Exposure, type Level, newLevel, type Project, type Shot } from '../src/core/document/model';
import { newProject } from '../src/core/document/newProject';
import { applyStep } from '../src/core/edit/table';
import { mustBeDone } from '../src/core/outcome';
import { AGAINST_NOTHING } from '../src/core/testing/checking';
import { print, quantile } from './figure';

/*
 * The rules of the sheet alone, without pictures: how their cost grows with the frames, with the findings that are
 * fixed at once, and what an edit costs on a long film. Ratios of medians of three, side by side in one run.
 */
/** A level with every drawing distinct, each `held` frames. */
function distinct(id: string, frames: number, held: (index: number) => number): Level {
  const drawings: Level['drawings'][number][] = [];
  const exposures: Exposure[] = [];
  for (let frame = 0, index = 0; frame < frames; index++) {
    const length = Math.min(held(index), frames - frame);
    drawings.push({ id: `${id}-${index}`, number: String(index + 1), role: 'inbetween', picture: null });
    exposures.push({ drawing: `${id}-${index}`, frames: length });
    frame += length;
  }
  return { ...newLevel(id, id), drawings, exposures };
}

const shotOf = (code: string, frames: number, levels: readonly Level[]): Shot => ({
  id: `shot-${code}`,
  code,
  name: '',
  note: '',
  frames,
  levels,
  notes: [],
  sounds: [],
});
const projectOf = (shots: readonly Shot[]): Project =>
  newProject({
    id: 'film',
    title: 'Film',
    rate: { num: 24, den: 1 },
    size: { width: 1280, height: 720 },
    firstFrameNumber: 1,
    shots,
  });

const film = (frames: number) =>
  projectOf([
    shotOf(
      '010',
      frames,
      Array.from({ length: 10 }, (_, level) => distinct(`L${level}`, frames, () => 1)),
    ),
  ]);

/** Milliseconds of the middle one of three runs, each on a document made anew. */
function median<T>(make: () => T, run: (made: T) => void): number {
  const times = Array.from({ length: 3 }, () => {
    const made = make();
    const started = performance.now();
    run(made);
    return performance.now() - started;
  });
  return quantile(times, 0.5);
}

const check = (project: Project) => void checkProject(project, AGAINST_NOTHING);
const short = median(() => film(2000), check);
const long = median(() => film(16_000), check);
print({ name: 'rules.growth', value: long / short, unit: 'times', against: 10 });
if (process.env.LIME_TICK_LONG) print({ name: 'rules.100000', value: median(() => film(100_000), check), unit: 'ms' });

/** A level with so many strays, far from each other. */
const strays = (count: number) => projectOf([shotOf('010', count * 16, [distinct('L', count * 16, (index) => (index % 8 === 4 ? 1 : 2))])]);
const fix = (project: Project) => void mustBeDone(fixAll(project, 'stray', 'push', (after) => checkProject(after, AGAINST_NOTHING)));
const few = median(() => strays(250), fix);
const many = median(() => strays(1000), fix);
print({ name: 'fix.growth', value: many / few, unit: 'times', against: 5 });
print({ name: 'fix.1000', value: many, unit: 'ms' });

const reel = () =>
  projectOf(
    Array.from({ length: 400 }, (_, shot) =>
      shotOf(
        String(shot),
        96,
        Array.from({ length: 5 }, (_unused, level) => distinct(`S${shot}L${level}`, 96, () => 2)),
      ),
    ),
  );
const cells = 400 * 5 * 96;
print({ name: 'rules.cells', value: (median(reel, check) / cells) * 100_000, unit: 'ms a 100,000 cells', against: 500 });
const edits: number[] = [];
let edited = reel();
check(edited);
for (let edit = 0; edit < 30; edit++) {
  edited = mustBeDone(
    applyStep(edited, {
      type: 'setLength',
      shotId: `shot-${edit * 13}`,
      levelId: `S${edit * 13}L${edit % 5}`,
      atFrame: edit,
      frames: 1 + (edit % 4),
      following: 'push',
    }),
  );
  const started = performance.now();
  check(edited);
  edits.push(performance.now() - started);
}
print({ name: 'rules.edit.p95', value: quantile(edits, 0.95), unit: 'ms', against: 50 });
