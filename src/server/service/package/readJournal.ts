import { journalLineSchema } from '@/contracts/package';
import { stepSchema } from '@/contracts/step';
import { STEP_VERSION, upgradeStep } from '@/core/document/upgrade/upgrade';
import type { Step } from '@/core/edit/step';
import { done, type Outcome, refused } from '@/core/outcome';
import { countText } from '@/core/time/counts';
import type { StoredChange } from '@/server/store/journal';

/* Reads the changes in a package, each brought to today's form and checked; they follow each other without a gap. */

/** A change of a package and all that wait with it have at most so many letters. */
const MOST_LINE_LETTERS = 64 * 1024 * 1024;

/** A step in today's form; null where it is none. */
function stepIn(stored: Readonly<Record<string, unknown>>, version: number): Step | null {
  const upgraded = version === STEP_VERSION ? stored : upgradeStep(stored as Parameters<typeof upgradeStep>[0], version);
  const parsed = stepSchema.safeParse(upgraded);
  return parsed.success ? (parsed.data as Step) : null;
}

function changeIn(line: string, row: number): Outcome<StoredChange> {
  const where = `Change ${countText(row)} in it`;
  let value: unknown;
  try {
    value = JSON.parse(line);
  } catch {
    return refused(`${where} is not JSON.`);
  }
  const parsed = journalLineSchema.safeParse(value);
  if (!parsed.success) return refused(`${where} could not be read.`);
  const { step, inverse, version, madeAt, ...rest } = parsed.data;
  if (version > STEP_VERSION) return refused(`${where} was made by a newer Lime Tick: bring it in there.`);
  try {
    const [made, undoes] = [stepIn(step, version), inverse && stepIn(inverse, version)];
    if (!made || (inverse && !undoes)) return refused(`${where} is not a step of form ${version}.`);
    return done({ ...rest, version: STEP_VERSION, step: made, inverse: undoes, madeAt: new Date(madeAt) });
  } catch {
    return refused(`${where} is not a step of form ${version}.`);
  }
}

async function* linesIn(bytes: AsyncIterable<Uint8Array>): AsyncGenerator<string> {
  const decoder = new TextDecoder();
  let rest = '';
  for await (const part of bytes) {
    const lines = `${rest}${decoder.decode(part, { stream: true })}`.split('\n');
    rest = lines.pop() ?? '';
    if (rest.length > MOST_LINE_LETTERS) throw new Error('A line is too long.');
    yield* lines;
  }
  if (rest !== '') yield rest;
}

/** The changes one after another, the last of them of `revision`; what is wrong is given as a refusal, and is the last. */
export async function* changesIn(
  bytes: AsyncIterable<Uint8Array>,
  entries: number,
  revision: number,
): AsyncGenerator<Outcome<StoredChange>> {
  let row = 0;
  try {
    for await (const line of linesIn(bytes)) {
      if (line.trim() === '') continue;
      const change = changeIn(line, ++row);
      if (change.ok && change.value.revision !== revision - entries + row)
        return yield refused(
          `Change ${countText(row)} in it is of revision ${change.value.revision}; ${revision - entries + row} comes there.`,
        );
      yield change;
      if (!change.ok) return;
    }
  } catch {
    return yield refused('Its changes are broken.');
  }
  if (row !== entries) yield refused(`It says that there are ${countText(entries)} changes in it, and there are ${countText(row)}.`);
}
