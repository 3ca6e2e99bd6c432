/*
 * The past as people remember it: sittings, which a long pause parts, and within a sitting moments, in each of which one window
 * did one kind of thing. Times are those of the server that took a change, in milliseconds since 1970, and only ever compared.
 */

/** A pause that parts two sittings. */
export const SITTING_PAUSE_MINUTES = 45;

/** A sitting: its changes by revision, both ends inclusive, and when the first and the last of them were taken. */
export type Sitting = {
  readonly fromRevision: number;
  readonly toRevision: number;
  readonly startedAt: number;
  readonly endedAt: number;
  readonly changes: number;
};

/** A change as the past lists it: who made it, what it says, and the shot it is on. */
export type PastChange = {
  readonly revision: number;
  readonly at: number;
  readonly windowId: string | null;
  readonly who: string;
  readonly words: string;
  readonly shotId: string | null;
};

/** Changes in a row by one window on one shot: opened by the last of them. */
export type PastMoment = {
  readonly revision: number;
  readonly fromRevision: number;
  readonly at: number;
  readonly who: string;
  readonly shotId: string | null;
  readonly words: string;
  readonly changes: readonly PastChange[];
};

/** A pause within which changes of one window on one shot are one moment. */
const MOMENT_MILLISECONDS = 3 * 60 * 1000;
const MOST_CHANGES = 40;
const MOST_WORDS = 3;

/** What changes came to, without saying a thing twice: the last ones' words, and how many more there are. */
function wordsOf(changes: readonly PastChange[]): string {
  const said = [...new Set(changes.map(({ words }) => words))];
  const last = said.slice(-MOST_WORDS).join(', ');
  const more = said.length - MOST_WORDS;
  return more > 0 ? `${last} and ${more} more` : last;
}

/** Changes, oldest first, as moments, oldest first. Each change is in exactly one. */
export function momentsOf(changes: readonly PastChange[]): readonly PastMoment[] {
  const groups: PastChange[][] = [];
  for (const change of changes) {
    const group = groups.at(-1);
    const before = group?.at(-1);
    const goesOn =
      group !== undefined &&
      before !== undefined &&
      group.length < MOST_CHANGES &&
      before.windowId === change.windowId &&
      before.shotId === change.shotId &&
      change.at - before.at <= MOMENT_MILLISECONDS;
    if (goesOn) group.push(change);
    else groups.push([change]);
  }
  return groups.flatMap((group) => {
    const [first, last] = [group[0], group.at(-1)];
    if (!first || !last) return [];
    const { revision, at, who, shotId } = last;
    return [{ revision, fromRevision: first.revision, at, who, shotId, words: wordsOf(group), changes: group }];
  });
}
