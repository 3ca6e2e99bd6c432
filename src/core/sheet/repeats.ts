/*
 * Which frames of a row repeat the one before says how the row was made: a film at 24 pictures a second
 * stepped evenly to 30 shows every fourth picture twice, one on twos each of them. A pattern that is cut off
 * at both ends is a pattern all the same.
 */

const MOST_NAMED = 12;

/** The pattern of repeats, as it goes on after `5 of 60 repeat the one before`: `: every 5th`. `repeats` says of each frame whether it repeats the one before. */
export function repeatPattern(repeats: readonly boolean[]): string {
  const places = repeats.flatMap((repeat, index) => (repeat ? [index] : []));
  if (places.length === 0) return '';
  const held = heldLengths(repeats);
  // What is cut off at both ends says nothing about the pattern.
  const inner = held.length > 2 ? held.slice(1, -1) : held;
  const [a, b] = inner;
  if (a !== undefined && inner.every((length) => length === a)) return `: each picture is held for ${a} frames`;
  const isInTurn =
    a !== undefined &&
    b !== undefined &&
    inner.length > 2 &&
    a !== b &&
    inner.every((length, index) => length === (index % 2 === 0 ? a : b));
  if (isInTurn) return `: pictures stand ${a} and ${b} frames in turn`;
  const steps = places.slice(1).map((place, index) => place - (places[index] as number));
  if (steps.length > 0 && steps.every((step) => step === steps[0])) return `: every ${ordinal(steps[0] as number)}`;
  const [shortest] = steps.toSorted((one, other) => one - other);
  const missing = shortest ? missingOf(places, shortest) : null;
  if (shortest && missing) return `: every ${ordinal(shortest)}, but for frame ${missing.map((place) => place + 1).join(', ')}`;
  const named = places.slice(0, MOST_NAMED).map((place) => place + 1);
  return `, in no regular pattern: frames ${named.join(', ')}${places.length > MOST_NAMED ? ' …' : ''}`;
}

/** One repeat in so many may be missing from a pattern: coding a film can change a held picture enough to hide it. */
const MOST_MISSING_PART = 6;

/** The places a pattern of one step leaves out between its first and last; null when it is no such pattern, or leaves out too many. */
function missingOf(places: readonly number[], step: number): readonly number[] | null {
  const [first, last] = [places[0] as number, places.at(-1) as number];
  const there = new Set(places);
  const expected = Array.from({ length: (last - first) / step + 1 }, (_, index) => first + index * step);
  if (expected.at(-1) !== last || places.some((place) => (place - first) % step !== 0)) return null;
  const missing = expected.filter((place) => !there.has(place));
  return missing.length * MOST_MISSING_PART <= expected.length ? missing : null;
}

/** How many frames each picture is held for. */
function heldLengths(repeats: readonly boolean[]): readonly number[] {
  const lengths: number[] = [];
  for (const repeat of repeats) {
    if (repeat && lengths.length > 0) lengths[lengths.length - 1] = (lengths.at(-1) as number) + 1;
    else lengths.push(1);
  }
  return lengths;
}

const ordinal = (number: number) => {
  const last = number % 10;
  const teen = number % 100 > 10 && number % 100 < 14;
  return `${number}${teen ? 'th' : last === 1 ? 'st' : last === 2 ? 'nd' : last === 3 ? 'rd' : 'th'}`;
};
