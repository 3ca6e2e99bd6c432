import type { StoredValue } from '@/core/document/upgrade/stored';

type Stored = { readonly [key: string]: unknown };
const listOf = (value: unknown): readonly Stored[] => (Array.isArray(value) ? (value as readonly Stored[]) : []);

/** The name of the effect that holds colours in documents of form 3, which kept the range with the checks. */
const HELD_COLOURS = 'held-colours';

const heldColours = (range: unknown): Stored => ({ id: HELD_COLOURS, kind: 'holdColours', range, inPreview: true, inHandover: true });
const itemFromV3 = (item: Stored): Stored => ({ ...item, finished: true });
const placedItemFromV3 = (each: Stored): Stored => ({ ...each, item: itemFromV3(each.item as Stored) });

/** Documents of form 3 had no finish but a range for colours, which was one of the checks; and no clips. */
export function documentFromV3(old: StoredValue): StoredValue {
  const { holdColours, ...checks } = old.checks as Stored;
  const reel = old.reel as Stored;
  return {
    ...old,
    checks,
    reel: { ...reel, items: listOf(reel.items).map(itemFromV3) },
    finish: holdColours ? [heldColours(holdColours)] : [],
  };
}

function stepsFromV3(old: StoredValue): readonly StoredValue[] {
  switch (old.type) {
    case 'addShot':
    case 'addItems':
      return [{ ...old, items: listOf(old.items).map(placedItemFromV3) }];
    case 'setChecks': {
      const { holdColours, ...change } = old.change as Stored;
      if (holdColours === undefined) return [old];
      const effect = holdColours === null ? null : heldColours(holdColours);
      const held = { type: 'setEffect', effectId: HELD_COLOURS, effect, index: 0 };
      return Object.keys(change).length === 0 ? [held] : [{ ...old, change }, held];
    }
    case 'together':
      return [{ ...old, steps: (old.steps as readonly StoredValue[]).flatMap(stepsFromV3) }];
    default:
      return [old];
  }
}

/** Steps of form 3 held colours as one of the checks, and spoke of items without a switch for the finish. */
export function stepFromV3(old: StoredValue): StoredValue {
  const [step = old, ...more] = stepsFromV3(old);
  return more.length === 0 ? step : { type: 'together', words: 'What is checked', steps: [step, ...more] };
}
