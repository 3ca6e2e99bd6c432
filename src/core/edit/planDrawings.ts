import type { Drawing, DrawingRole, Exposure, Level } from '@/core/document/model';
import { addDrawings, putRuns } from '@/core/edit/blockEdits';
import { checkNumber } from '@/core/edit/drawingNumber';
import { type Edit, type EditContext, MOST_STEPS } from '@/core/edit/edit';
import type { Step } from '@/core/edit/step';
import { tellingEdit } from '@/core/edit/telling';
import { done, type Outcome, refused } from '@/core/outcome';
import type { WrittenExposure } from '@/core/sheet/notation';
import { framesOfRuns, tidyRuns } from '@/core/sheet/runs';
import { checkLength, countText, plural } from '@/core/time/counts';

/* Many drawings planned in one go: so many, each held so long, or a line of the sheet's notation; some of them keys or breakdowns. */

/** Roles of drawings by their numbers; all others are in-betweens. */
export type PlannedRoles = { readonly keys: readonly string[]; readonly breakdowns: readonly string[] };

/** A row of drawings: `count` of them, numbered on from `firstNumber`, each held `frames` frames. */
export function rowOfDrawings(count: number, frames: number, firstNumber: number): Outcome<readonly WrittenExposure[]> {
  if (!Number.isInteger(count) || count < 1) return refused('Write how many drawings: 1, 2, 3 …');
  if (count > MOST_STEPS - 2)
    return refused(`${countText(count)} drawings are too many at once; at most ${countText(MOST_STEPS - 2)} are planned.`);
  if (!Number.isInteger(firstNumber) || firstNumber < 1) return refused('Write the number of the first drawing: 1, 2, 3 …');
  const length = checkLength(frames);
  if (!length.ok) return length;
  return done(Array.from({ length: count }, (_, index) => ({ number: String(firstNumber + index), frames })));
}

/** Numbers that stand in a text, parted by commas or spaces: `1, 9 and 24`. */
export const numbersIn = (text: string): readonly string[] => text.split(/[\s,;]+|\band\b/u).filter(Boolean);

/** The first number that is free on a level and past all of its own. */
export const nextNumber = ({ drawings }: Level): number =>
  Math.max(0, ...drawings.map(({ number }) => Number.parseInt(number, 10) || 0)) + 1;

/**
 * Plans the drawings that exposures name, and exposes them from a frame on; those that the level has already are shown again. The
 * shot gets as long as they need when `grows`. Refused where a role is given to a drawing that isn't among them.
 */
export function planDrawings(
  context: EditContext,
  level: Level,
  startFrame: number,
  written: readonly WrittenExposure[],
  roles: PlannedRoles,
  grows: boolean,
): Outcome<Edit> {
  if (written.length === 0) return refused('Write at least one drawing.');
  if (level.kind === 'still')
    return refused(`${level.name} is a still level: it shows one drawing for the whole shot. Plan on an animated one.`);
  const named = new Set(written.flatMap(({ number }) => number ?? []));
  const roleOf = new Map<string, DrawingRole>();
  for (const [role, numbers] of [
    ['key', roles.keys],
    ['breakdown', roles.breakdowns],
  ] as const)
    for (const number of numbers) {
      if (!named.has(number)) return refused(`${number} is to be a ${role}, and is not among the drawings.`);
      if (roleOf.has(number) && roleOf.get(number) !== role) return refused(`${number} can’t be a key and a breakdown.`);
      roleOf.set(number, role);
    }
  const known = new Map(level.drawings.map((drawing) => [drawing.number, drawing]));
  const added: Drawing[] = [];
  for (const number of named) {
    const possible = checkNumber(number);
    if (!possible.ok) return possible;
    if (!known.has(number)) added.push({ id: context.newId(), number, role: roleOf.get(number) ?? 'inbetween', picture: null });
  }
  const byNumber = new Map([...known, ...added.map((drawing) => [drawing.number, drawing] as const)]);
  const at = { shotId: context.shot.id, levelId: level.id };
  const described = [...roleOf].flatMap(([number, role]): readonly Step[] => {
    const drawing = known.get(number);
    return drawing && drawing.role !== role ? [{ type: 'describeDrawing', ...at, drawingId: drawing.id, role }] : [];
  });
  const runs: readonly Exposure[] = tidyRuns(
    written.map(({ number, frames }) => ({ drawing: number === null ? null : (byNumber.get(number)?.id ?? null), frames })),
  );
  const exposed = putRuns(context, level, startFrame, 0, runs);
  const endFrame = startFrame + framesOfRuns(runs);
  const { frames } = context.shot;
  const longer: readonly Step[] = grows && endFrame > frames ? [{ type: 'setShotLength', shotId: context.shot.id, frames: endFrame }] : [];
  if (longer.length > 0) {
    const length = checkLength(endFrame);
    if (!length.ok) return length;
  }
  const { firstNumber } = context;
  const again = named.size - added.length;
  const says = [
    `Plan ${plural(added.length, 'drawing')} on ${level.name}, frames ${startFrame + firstNumber}–${endFrame - 1 + firstNumber}`,
    ...(again > 0 ? [`${again === 1 ? 'one that is there is' : `${countText(again)} that are there are`} shown again`] : []),
    ...(longer.length > 0 ? [`the shot goes from ${frames} to ${plural(endFrame, 'frame')}`] : []),
  ].join('; ');
  return tellingEdit(
    context,
    [...longer, ...addDrawings(context, level, added), ...described, ...(exposed ? [exposed] : [])],
    `Plan ${plural(added.length, 'drawing')}`,
    says,
  );
}
