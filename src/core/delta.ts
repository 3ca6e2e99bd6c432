/*
 * What has changed from one value to the next, told by identity: parts that are the very same object are not looked into. Documents
 * are never changed in place and keep every part an edit leaves alone, so that what an edit changed is found without walking the
 * rest, and fits into a small message to a worker that holds the value as it was. There, too, whatever is left alone stays the very
 * same object, and what was remembered of it stays true.
 */

type Fields = Readonly<Record<string, unknown>>;

/** A change from a value the other side holds to the next one. */
export type Delta =
  | { readonly kind: 'same' }
  | { readonly kind: 'set'; readonly value: unknown }
  | { readonly kind: 'fields'; readonly fields: readonly (readonly [string, Delta])[]; readonly gone: readonly string[] }
  | { readonly kind: 'items'; readonly items: readonly (readonly [number, Delta])[] }
  /** `removed` items from `from` on give way to the inserted ones. */
  | { readonly kind: 'splice'; readonly from: number; readonly removed: number; readonly inserted: readonly unknown[] };

const SAME: Delta = { kind: 'same' };

const isFields = (value: unknown): value is Fields =>
  typeof value === 'object' && value !== null && Object.getPrototypeOf(value) === Object.prototype;

function listDelta(before: readonly unknown[], after: readonly unknown[]): Delta {
  let from = 0;
  while (from < before.length && from < after.length && Object.is(before[from], after[from])) from++;
  let behind = 0;
  while (
    behind < before.length - from &&
    behind < after.length - from &&
    Object.is(before[before.length - 1 - behind], after[after.length - 1 - behind])
  )
    behind++;
  const removed = before.length - from - behind;
  const inserted = after.slice(from, after.length - behind);
  if (removed !== inserted.length) return { kind: 'splice', from, removed, inserted };
  const items = inserted.flatMap((item, place) => {
    const delta = deltaOf(before[from + place], item);
    return delta.kind === 'same' ? [] : [[from + place, delta] as const];
  });
  return { kind: 'items', items };
}

/** What changes `before` into `after`. Maps and other objects that are neither plain nor lists are told whole. */
export function deltaOf(before: unknown, after: unknown): Delta {
  if (Object.is(before, after)) return SAME;
  if (Array.isArray(before) && Array.isArray(after)) return listDelta(before, after);
  if (!isFields(before) || !isFields(after)) return { kind: 'set', value: after };
  const fields = Object.keys(after).flatMap((key) => {
    if (!Object.hasOwn(before, key)) return [[key, { kind: 'set', value: after[key] }] as const];
    const delta = deltaOf(before[key], after[key]);
    return delta.kind === 'same' ? [] : [[key, delta] as const];
  });
  return { kind: 'fields', fields, gone: Object.keys(before).filter((key) => !Object.hasOwn(after, key)) };
}

/** The value a delta makes of the one it was taken from. Throws where that is of another shape. */
export function withDelta(before: unknown, delta: Delta): unknown {
  if (delta.kind === 'same') return before;
  if (delta.kind === 'set') return delta.value;
  if (delta.kind === 'fields') {
    if (!isFields(before)) throw new TypeError('The fields that changed are of another value.');
    const gone = new Set(delta.gone);
    const kept = Object.entries(before).filter(([key]) => !gone.has(key));
    return { ...Object.fromEntries(kept), ...Object.fromEntries(delta.fields.map(([key, each]) => [key, withDelta(before[key], each)])) };
  }
  if (!Array.isArray(before)) throw new TypeError('The items that changed are of another value.');
  if (delta.kind === 'splice') return [...before.slice(0, delta.from), ...delta.inserted, ...before.slice(delta.from + delta.removed)];
  const items: unknown[] = [...before];
  for (const [place, each] of delta.items) items[place] = withDelta(items[place], each);
  return items;
}
