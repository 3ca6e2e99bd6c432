'use client';
import { shotById } from '@/core/document/model';
import type { Edit } from '@/core/edit/edit';
import { setEachLength } from '@/core/edit/timesEdits';
import { type Outcome, refused } from '@/core/outcome';
import { heldInLoop, isLoopKind, type LoopOptions, microsecondsIn } from '@/core/output/loop';
import { chosenRange, type NamedLeaving } from '@/core/output/recipe';
import { plural } from '@/core/time/counts';
import { framesForTimes, type HandTime, readMilliseconds } from '@/core/time/heldTimes';
import { rateName } from '@/core/time/rate';
import { useHandoverStore } from '@/features/handover/handoverStore';
import { contextIn, take } from '@/features/project/editContext';
import { useProject } from '@/features/project/hooks';
import { Button } from '@/ui/Button';
import { CommitField } from '@/ui/Field';

const without = (times: readonly HandTime[], place: number): readonly HandTime[] => times.filter((each) => each.place !== place);

/** The edit that gives the exposures of one level the times of the loop, with how far they drift; refused where more than one level would have to change. */
function useOnSheet(leaving: NamedLeaving, options: LoopOptions): { readonly edit: Outcome<Edit>; readonly driftMicroseconds: number } {
  const project = useProject();
  const recipe = useHandoverStore((state) => state.recipe);
  const { frames, driftMicroseconds } = framesForTimes(heldInLoop(leaving.plan, options), project.rate);
  const shot = recipe.shotId === null ? undefined : shotById(project, recipe.shotId);
  if (!shot) return { edit: refused('Choose one shot to put these times on its sheet.'), driftMicroseconds };
  if (recipe.taking.everySecond || recipe.taking.rate !== null)
    return { edit: refused('Take every frame at the film’s rate to put these times on the sheet.'), driftMicroseconds };
  const levels = shot.levels.filter(({ id, kind, visible }) =>
    recipe.levelId === null ? kind === 'animated' && visible : id === recipe.levelId,
  );
  const [level] = levels;
  if (!level || levels.length > 1 || level.kind !== 'animated')
    return { edit: refused('Choose one animated level above to put these times on its sheet.'), driftMicroseconds };
  const { fromFrame, toFrame } = chosenRange(project, recipe);
  return { edit: setEachLength(contextIn(project, shot), level, fromFrame, toFrame, frames), driftMicroseconds };
}

/** The time of one picture, which can be given by hand; and how all of them are put on the sheet. */
export function LoopTimes({ leaving, options, place }: { leaving: NamedLeaving; options: LoopOptions; place: number }) {
  const project = useProject();
  const recipe = useHandoverStore((state) => state.recipe);
  const { edit, driftMicroseconds } = useOnSheet(leaving, options);
  if (!isLoopKind(recipe.formatId)) return null;
  const change = (times: readonly HandTime[]) => useHandoverStore.setState({ recipe: { ...recipe, options: { ...options, times } } });
  const byHand = options.times.find((each) => each.place === place);
  const microseconds = microsecondsIn(recipe.formatId, leaving.plan, options)[place] ?? 0;
  const beyond = options.times.filter((each) => each.place >= leaving.plan.runs.length).length;
  return (
    <div className="space-y-1.5 text-xs">
      <div className="flex flex-wrap items-end gap-3">
        <p className="numbers pb-1.5">lasts {(microseconds / 1_000_000).toFixed(3)} s in the file</p>
        <CommitField
          key={place}
          label="Time by hand, ms (or 12/100, 0.12 s)"
          placeholder="as on the sheet"
          className="w-56"
          value={byHand ? String(byHand.milliseconds) : ''}
          onCommit={(text) => {
            const milliseconds = readMilliseconds(text);
            if (text.trim() === '') change(without(options.times, place));
            else if (milliseconds !== null) change([...without(options.times, place), { place, milliseconds }]);
          }}
        />
        {options.times.length > 0 && (
          <Button onClick={() => change([])}>
            {options.times.length === 1 ? 'Take the time by hand away' : `Take all ${options.times.length} times by hand away`}
          </Button>
        )}
      </div>
      {beyond > 0 && (
        <p className="text-soft">
          {plural(beyond, 'time')} given by hand {beyond === 1 ? 'is' : 'are'} for pictures the loop no longer has.
        </p>
      )}
      {options.times.length > 0 && (
        <div className="flex flex-wrap items-center gap-2">
          <Button disabled={!edit.ok} onClick={() => take(edit, true) && change([])}>
            Put the times on the sheet
          </Button>
          <p className="text-soft">
            {edit.ok
              ? `${edit.value.says} at ${rateName(project.rate)}: no picture begins more than ${(driftMicroseconds / 1000).toFixed(1)} ms from its time.`
              : edit.reason}
          </p>
        </div>
      )}
    </div>
  );
}
