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

function chartSteps({ shot, newId }: EditContext, charts: readonly WrittenChart[]): Outcome<readonly Step[]> {
  const steps: Step[] = [];
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
    if (!equal(made, level.charts)) steps.push({ type: 'setCharts', shotId: shot.id, levelId: level.id, charts: made });
  }
  return done(steps);
}

function soundSteps({ shot }: EditContext, sounds: readonly WrittenSound[]): Outcome<readonly Step[]> {
  const left: Sound[] = [...shot.sounds];
  const steps: Step[] = [];
  for (const { row, name, fileName, ...values } of sounds) {
    const index = left.findIndex((sound) => sound.name === name && sound.recording.fileName === fileName);
    const [sound] = index >= 0 ? left.splice(index, 1) : [];
    if (!sound) return refused(`Row ${countText(row)}: the shot has no sound ${name} of ${fileName}. Bring the recording in first.`);
    const change: SoundChange = values;
    if (Object.entries(values).some(([key, value]) => sound[key as keyof Sound] !== value))
      steps.push({ type: 'changeSound', shotId: shot.id, soundId: sound.id, change });
  }
  return done(steps);
}

/** The charts and sounds of a table as one edit; refused where the shot has not what it names, and where all is so already. */
export function takeDetails(context: EditContext, { charts, sounds }: WrittenDetails): Outcome<Edit> {
  const charted = chartSteps(context, charts);
  if (!charted.ok) return charted;
  const heard = soundSteps(context, sounds);
  if (!heard.ok) return heard;
  const steps = [...charted.value, ...heard.value];
  if (steps.length === 0) return refused('The charts and sounds are just so already.');
  const words = [
    ...(charted.value.length > 0 ? [`charts of ${plural(charted.value.length, 'level')}`] : []),
    ...(heard.value.length > 0 ? [plural(heard.value.length, 'sound')] : []),
  ].join(' and ');
  return editOf(steps, `Take ${words}`, `Taken from the table: ${words}`);
}
