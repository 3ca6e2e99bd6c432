import equal from 'fast-deep-equal';
import type { Level } from '@/core/document/model';
import type { Sound, SoundChange } from '@/core/document/sound';
import type { TimingChart } from '@/core/document/timingChart';
import { type Edit, type EditContext, editOf } from '@/core/edit/edit';
import type { Step } from '@/core/edit/step';
import { done, type Outcome, refused } from '@/core/outcome';
import type { WrittenChart, WrittenDetails, WrittenSound } from '@/core/sheet/sheetDetails';
import { countText, plural } from '@/core/time/counts';

/* Charts and sounds of a table, put on a shot: the charts of a level that is in it are those of the table, sounds are found by name and file. */

/** A chart of a table on its level; one between the same drawings stays what it is. Refused where the level has no such drawing. */
function chartOn(level: Level, written: WrittenChart, newId: () => string): Outcome<TimingChart> {
  const idOf = (number: string): string | undefined => level.drawings.find((drawing) => drawing.number === number)?.id;
  const numbers = [written.from, written.to, ...written.ticks.flatMap(({ number }) => number ?? [])];
  const unknown = numbers.find((number) => idOf(number) === undefined);
  if (unknown !== undefined) return refused(`Row ${countText(written.row)}: ${level.name} has no drawing ${unknown}.`);
  const [fromDrawing, toDrawing] = [idOf(written.from) as string, idOf(written.to) as string];
  const known = level.charts.find((chart) => chart.fromDrawing === fromDrawing && chart.toDrawing === toDrawing);
  const ticks = written.ticks.map(({ place, number }) => ({ place, drawing: number === null ? null : (idOf(number) as string) }));
  return done({ id: known?.id ?? newId(), fromDrawing, toDrawing, shape: written.shape, ticks, path: written.path });
}

/** One thing in which a table of charts and sounds differs from the shot's own: in words, and the step that takes it. */
export type DetailsDifference = { readonly id: string; readonly words: string; readonly step: Step };

function chartDifferences({ shot, newId }: EditContext, charts: readonly WrittenChart[]): Outcome<readonly DetailsDifference[]> {
  const differences: DetailsDifference[] = [];
  for (const name of new Set(charts.map(({ level }) => level))) {
    const own = charts.filter(({ level }) => level === name);
    const level = shot.levels.find((each) => each.name === name);
    if (!level) return refused(`Row ${countText(own[0]?.row ?? 0)}: the shot has no level ${name}.`);
    const made: TimingChart[] = [];
    for (const written of own) {
      const chart = chartOn(level, written, newId);
      if (!chart.ok) return chart;
      made.push(chart.value);
    }
    if (equal(made, level.charts)) continue;
    const kept = made.filter((chart) => level.charts.some((other) => equal(other, chart))).length;
    const words = `Charts of ${name}: ${countText(made.length)} in the file, ${countText(level.charts.length)} here, ${countText(kept)} of them the same`;
    differences.push({ id: `charts ${level.id}`, words, step: { type: 'setCharts', shotId: shot.id, levelId: level.id, charts: made } });
  }
  return done(differences);
}

function soundDifferences({ shot, firstNumber }: EditContext, sounds: readonly WrittenSound[]): Outcome<readonly DetailsDifference[]> {
  const left: Sound[] = [...shot.sounds];
  const differences: DetailsDifference[] = [];
  for (const { row, name, fileName, ...values } of sounds) {
    const index = left.findIndex((sound) => sound.name === name && sound.recording.fileName === fileName);
    const [sound] = index >= 0 ? left.splice(index, 1) : [];
    if (!sound) return refused(`Row ${countText(row)}: the shot has no sound ${name} of ${fileName}. Bring the recording in first.`);
    const change: SoundChange = values;
    const changed = (Object.keys(values) as (keyof typeof values)[]).filter((key) => sound[key] !== values[key]);
    if (changed.length === 0) continue;
    const moves = sound.startFrame !== values.startFrame;
    const told = [
      ...(moves ? [`starts on frame ${values.startFrame + firstNumber} instead of ${sound.startFrame + firstNumber}`] : []),
      ...(changed.length > (moves ? 1 : 0) ? ['is heard otherwise'] : []),
    ].join(' and ');
    differences.push({
      id: `sound ${sound.id}`,
      words: `${name} ${told}`,
      step: { type: 'changeSound', shotId: shot.id, soundId: sound.id, change },
    });
  }
  return done(differences);
}

/** Everything in which a table of charts and sounds differs from the shot's own; refused where the shot has not what it names. */
export function detailsDifferences(context: EditContext, { charts, sounds }: WrittenDetails): Outcome<readonly DetailsDifference[]> {
  const charted = chartDifferences(context, charts);
  if (!charted.ok) return charted;
  const heard = soundDifferences(context, sounds);
  return heard.ok ? done([...charted.value, ...heard.value]) : heard;
}

/** The charts and sounds of a table, or those of its differences that are taken, as one edit; refused where all is so already. */
export function takeDetails(context: EditContext, table: WrittenDetails, isTaken: (id: string) => boolean = () => true): Outcome<Edit> {
  const differences = detailsDifferences(context, table);
  if (!differences.ok) return differences;
  if (differences.value.length === 0) return refused('The charts and sounds are just so already.');
  const steps = differences.value.filter(({ id }) => isTaken(id)).map(({ step }) => step);
  if (steps.length === 0) return refused('Nothing of it is taken.');
  const [levels, sounds] = [
    steps.filter(({ type }) => type === 'setCharts').length,
    steps.filter(({ type }) => type === 'changeSound').length,
  ];
  const words = [...(levels > 0 ? [`charts of ${plural(levels, 'level')}`] : []), ...(sounds > 0 ? [plural(sounds, 'sound')] : [])].join(
    ' and ',
  );
  return editOf(steps, `Take ${words}`, `Taken from the table: ${words}`);
}
