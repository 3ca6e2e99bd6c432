import type { z } from 'zod';
import { type Hand, type Presence, type Tiding, tidingSchema } from '@/contracts/people';
import { log } from '@/server/log';
import { type DatabaseOrTransaction, getDatabase, getOpenDatabase, isOnServer } from '@/server/store/database';
import { revisionOf } from '@/server/store/journal';
import { loadHands, notify } from '@/server/store/people';

/*
 * Who looks at a project hears at once of its new revisions, of who else is there, and of shots that are taken in hand; whichever
 * process on the same database did it. It is told through the database and heard from it: nobody asks again and again.
 */

/** The revision a project has now, and which window made it so, when that is known. */
export type RevisionNotice = { readonly revision: number; readonly windowId: string | null };

/** What a page hears. */
export type Notice =
  | ({ readonly kind: 'revision' } & RevisionNotice)
  | { readonly kind: 'people'; readonly isShared: boolean; readonly people: readonly Presence[] }
  | { readonly kind: 'hands'; readonly hands: readonly Hand[] };
type Listener = (notice: Notice) => void;

/** How long somebody counts as there without saying so again. */
const THERE_MILLISECONDS = 50_000;

type Heard = { readonly presence: Presence; readonly at: number };
type Own = {
  readonly listeners: Map<string, Set<Listener>>;
  readonly people: Map<string, Map<string, Heard>>;
  /** What windows of this process said last, so that it can be said again to who comes later. */
  readonly said: Map<string, Map<string, Heard>>;
  listening: Promise<unknown> | null;
};
const shared = globalThis as typeof globalThis & { limeTickNotices?: Own };
const own = (): Own => {
  shared.limeTickNotices ??= { listeners: new Map(), people: new Map(), said: new Map(), listening: null };
  return shared.limeTickNotices;
};

const tellListeners = (projectId: string, notice: Notice): void => {
  for (const listener of own().listeners.get(projectId) ?? []) listener(notice);
};

/** Tells every process something of a project; in a transaction it is told when that is committed. */
export const tell = (tx: DatabaseOrTransaction, tiding: DistributiveOmit<Tiding, 'version'>): Promise<unknown> =>
  notify(tx, JSON.stringify({ version: 1, ...tiding } satisfies z.input<typeof tidingSchema>));
type DistributiveOmit<T, K extends PropertyKey> = T extends unknown ? Omit<T, K> : never;

/** Who is there in a project; whoever has not said so for long is gone. */
export function peopleIn(projectId: string, now: number): readonly Presence[] {
  const here = own().people.get(projectId);
  for (const [windowId, { at }] of here ?? []) if (now - at > THERE_MILLISECONDS) here?.delete(windowId);
  return [...(here?.values() ?? [])].map(({ presence }) => presence);
}

const peopleNotice = (projectId: string): Notice => ({ kind: 'people', isShared: isOnServer(), people: peopleIn(projectId, Date.now()) });

function hearOf(into: Map<string, Map<string, Heard>>, projectId: string, presence: Presence): void {
  const here = into.get(projectId) ?? new Map<string, Heard>();
  // A window that died never said that it left.
  for (const [windowId, { at }] of here) if (Date.now() - at > THERE_MILLISECONDS) here.delete(windowId);
  if (presence.where === null) here.delete(presence.windowId);
  else into.set(projectId, here.set(presence.windowId, { presence, at: Date.now() }));
}

async function handsNotice(projectId: string): Promise<Notice> {
  const rows = await loadHands(await getDatabase(), projectId);
  return {
    kind: 'hands',
    hands: rows.map(({ shotId, personId, name, colour, takenAt }) => ({
      shotId,
      person: { id: personId, name, colour },
      takenAt: takenAt.toISOString(),
    })),
  };
}

/** A failure to look something up is told; whoever listens hears of the next. */
const quietly = (work: Promise<unknown>): void =>
  void work.catch((error: unknown) => log.warn({ err: error }, 'what was heard of a project could not be looked up'));

async function sayAgain(projectId: string): Promise<void> {
  const database = await getDatabase();
  for (const { presence, at } of own().said.get(projectId)?.values() ?? [])
    if (Date.now() - at <= THERE_MILLISECONDS) await tell(database, { kind: 'here', projectId, presence });
}

function heard(payload: string): void {
  let tiding: Tiding;
  try {
    tiding = tidingSchema.parse(JSON.parse(payload));
  } catch {
    // Told by a version that knows more: what it is about can be asked for.
    return;
  }
  const { projectId } = tiding;
  if (tiding.kind === 'revision') tellListeners(projectId, { kind: 'revision', revision: tiding.revision, windowId: tiding.windowId });
  else if (tiding.kind === 'who') quietly(sayAgain(projectId));
  else if (tiding.kind === 'here') {
    hearOf(own().people, projectId, tiding.presence);
    tellListeners(projectId, peopleNotice(projectId));
  } else if (own().listeners.has(projectId)) quietly(handsNotice(projectId).then((notice) => tellListeners(projectId, notice)));
}

/** Asks for a project's revision, and tells of it. */
async function askRevision(projectId: string): Promise<void> {
  const revision = await revisionOf(await getDatabase(), projectId);
  if (revision !== null) tellListeners(projectId, { kind: 'revision', revision, windowId: null });
}

/** Listens to the database, from the first time somebody looks at a project. */
function listenOnce(): Promise<unknown> {
  const state = own();
  state.listening ??= getOpenDatabase()
    .then(({ listen }) =>
      listen({
        heard,
        mayHaveMissed: () => {
          for (const projectId of state.listeners.keys()) quietly(askRevision(projectId));
        },
      }),
    )
    .catch((error: unknown) => {
      state.listening = null;
      throw error;
    });
  return state.listening;
}

/** Notes that somebody is in a project, or has left it, and tells everybody. */
export async function sayHere(projectId: string, presence: Presence): Promise<void> {
  hearOf(own().said, projectId, presence);
  await tell(await getDatabase(), { kind: 'here', projectId, presence });
}

/** How many windows look at a project through this process. */
export const watchersOf = (projectId: string): number => own().listeners.get(projectId)?.size ?? 0;

/** Calls `listener` with what happens in a project as it happens, what it is now first. Returns a function that ends that. */
export function listenToProject(projectId: string, listener: Listener): () => void {
  const { listeners } = own();
  const here = listeners.get(projectId) ?? new Set();
  listeners.set(projectId, here.add(listener));
  const begin = async () => {
    await listenOnce();
    // What came while nobody listened is heard of at once.
    await askRevision(projectId);
    listener(peopleNotice(projectId));
    listener(await handsNotice(projectId));
    await tell(await getDatabase(), { kind: 'who', projectId });
  };
  quietly(begin());
  return () => {
    here.delete(listener);
    if (here.size === 0) listeners.delete(projectId);
  };
}
