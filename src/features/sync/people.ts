import { create } from 'zustand';
import {
  type Hand,
  type HandChange,
  handsSchema,
  keptPersonReader,
  type Person,
  type Presence,
  type Present,
  peopleSchema,
  type Where,
} from '@/contracts/people';
import { ask, refusalOf } from '@/features/sync/api';
import { signAs, WINDOW_ID } from '@/features/sync/windows';

/* Who is there. A person says once who they are; each window says where it is, as it changes and every little while. */

type PeopleState = {
  readonly me: Person | null;
  /** Whether others may come from other machines. */
  readonly isShared: boolean;
  readonly people: readonly Present[];
  readonly hands: readonly Hand[];
};

export const usePeople = create<PeopleState>(() => ({ me: null, isShared: false, people: [], hands: [] }));
// What is made from now on is theirs.
usePeople.subscribe(({ me }) => signAs(me?.name ?? null));

const KEY = 'lime-tick-person';

/** Who this browser says its person is. */
export function recallPerson(): void {
  try {
    const kept = localStorage.getItem(KEY);
    const read = kept === null ? null : keptPersonReader.read(JSON.parse(kept));
    if (read?.ok) usePeople.setState({ me: { id: read.value.id, name: read.value.name, colour: read.value.colour } });
  } catch {
    // Where nothing is kept, they are asked when it matters.
  }
}

/** Settles who this browser's person is. */
export function settlePerson(person: Person): void {
  usePeople.setState({ me: person });
  try {
    localStorage.setItem(KEY, JSON.stringify({ version: keptPersonReader.version, ...person }));
  } catch {
    // It holds for this visit then.
  }
}

const isPresent = (presence: Presence): presence is Present => presence.where !== null;

/** Takes what the server tells of who is there, or of shots in hand. */
export function hearPeople(kind: 'people' | 'hands', data: unknown): void {
  if (kind === 'hands') {
    const hands = handsSchema.safeParse(data);
    if (hands.success) usePeople.setState(hands.data);
    return;
  }
  const told = peopleSchema.safeParse(data);
  if (told.success) usePeople.setState({ isShared: told.data.isShared, people: told.data.people.filter(isPresent) });
}

const asJson = (method: 'POST' | 'PUT', body: unknown): RequestInit => ({
  method,
  headers: { 'Content-Type': 'application/json' },
  body: JSON.stringify(body),
});

/** Says where this window is, or that it leaves (null). What can't be said now is said by the next time. */
export function sayWhere(projectId: string, where: Where | null): void {
  const { me } = usePeople.getState();
  if (!me) return;
  const presence: Presence = { windowId: WINDOW_ID, person: me, where };
  void ask(`/api/projects/${projectId}/people`, { ...asJson('POST', presence), keepalive: true }).catch(() => undefined);
}

/** Takes a shot in hand, or gives it back. Rejects with a sentence when another has it. */
export async function changeHand(projectId: string, change: HandChange): Promise<void> {
  const response = await ask(`/api/projects/${projectId}/hands`, asJson('PUT', change));
  if (!response.ok) throw await refusalOf(response);
}
