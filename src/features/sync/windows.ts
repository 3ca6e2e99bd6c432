import { z } from 'zod';
import { noticeSchema } from '@/contracts/project';
import type { MadeBy } from '@/core/edit/madeBy';

/*
 * The windows of one browser. Each holds a lock of its own for as long as it lives, by which the others see
 * that it does. One at a time sends for a project; one holds the connection on which the server tells of new
 * revisions, and tells the others. When a window is gone, another takes over what it left.
 */

/** This window: named anew by every page, so that what it left can be told from what it makes. */
export const WINDOW_ID = globalThis.crypto?.randomUUID?.() ?? `w${Date.now()}`;

const BROWSERS: readonly (readonly [RegExp, string])[] = [
  [/Firefox\//, 'Firefox'],
  [/Edg\//, 'Edge'],
  [/Chrom(e|ium)\//, 'Chromium'],
  [/Safari\//, 'Safari'],
];
const SYSTEMS: readonly (readonly [RegExp, string])[] = [
  [/Android/, 'Android'],
  [/iPhone|iPad/, 'iOS'],
  [/Mac OS X|Macintosh/, 'macOS'],
  [/Windows/, 'Windows'],
  [/Linux|X11/, 'Linux'],
];
const named = (text: string, names: readonly (readonly [RegExp, string])[], otherwise: string) =>
  names.find(([pattern]) => pattern.test(text))?.[1] ?? otherwise;

let personName: string | null = null;

/** Has what this window makes say who made it. */
export const signAs = (name: string | null): void => {
  personName = name;
};

/** How this window calls itself to others: who works in it, when they have said so, its browser and system. */
export const madeByThisWindow = (): MadeBy => {
  const agent = typeof navigator === 'undefined' ? '' : navigator.userAgent;
  const machine = `${named(agent, BROWSERS, 'a browser')} on ${named(agent, SYSTEMS, 'another system')}`;
  return { windowId: WINDOW_ID, words: personName === null ? machine : `${personName}, ${machine}` };
};

/** Who made something, when they had said who they are; null when not. */
export const personIn = ({ words }: MadeBy): string | null => (words.includes(', ') ? words.slice(0, words.lastIndexOf(', ')) : null);

const lockName = (windowId: string) => `lime-tick window ${windowId}`;
const hasLocks = () => typeof navigator !== 'undefined' && 'locks' in navigator;

let held = false;

/** Holds this window's lock until it is gone. */
export function holdOwnLock(): void {
  if (held || !hasLocks()) return;
  held = true;
  void navigator.locks.request(lockName(WINDOW_ID), () => new Promise(() => undefined));
}

/** The windows of this browser that live, this one among them. Where a browser has no locks, this one alone. */
export async function livingWindows(): Promise<ReadonlySet<string>> {
  if (!hasLocks()) return new Set([WINDOW_ID]);
  const { held: locks = [] } = await navigator.locks.query();
  const names = locks.flatMap(({ name }) => (name?.startsWith(lockName('')) ? [name.slice(lockName('').length)] : []));
  return new Set([...names, WINDOW_ID]);
}

/** Has work done while no other window of this browser does such work for the project. */
export async function aloneInBrowser<T>(projectId: string, work: () => Promise<T>): Promise<T> {
  if (!hasLocks()) return work();
  return navigator.locks.request(`lime-tick writer ${projectId}`, work) as Promise<T>;
}

const messageSchema = z.discriminatedUnion('kind', [
  /** A window has opened the project, or answers one that has. */
  z.object({ kind: z.literal('here'), projectId: z.string(), windowId: z.string(), answers: z.boolean() }),
  /** The project has a revision. */
  z.object({ kind: z.literal('revision'), projectId: z.string(), revision: z.number() }),
  /** Who is there, or which shots are in hand, as the server told the window that listens to it. */
  z.object({ kind: z.literal('told'), projectId: z.string(), of: z.enum(['people', 'hands']), data: z.unknown() }),
]);
type Message = z.infer<typeof messageSchema>;

export type WindowsListener = {
  /** The project has a revision by now. */
  readonly onRevision: (revision: number) => void;
  /** The server answers again. */
  readonly onServer: () => void;
  /** Another window of this browser is gone. */
  readonly onGone: () => void;
  /** The server told who is there, or which shots are in hand. */
  readonly onTold: (of: 'people' | 'hands', data: unknown) => void;
};

/** Listens to the other windows of this browser and to the server for a project, until it is left. */
export class Windows {
  private readonly channel = typeof BroadcastChannel === 'undefined' ? null : new BroadcastChannel('lime-tick');
  private readonly left = new AbortController();
  private readonly others = new Set<string>();
  /** What the server told this window last, for those that come later. */
  private readonly lastTold = new Map<'people' | 'hands', unknown>();

  constructor(
    private readonly projectId: string,
    private readonly listener: WindowsListener,
  ) {
    holdOwnLock();
    this.channel?.addEventListener('message', (event: MessageEvent<unknown>) => {
      const message = messageSchema.safeParse(event.data);
      if (message.success && message.data.projectId === projectId) this.take(message.data);
    });
    this.post({ kind: 'here', projectId, windowId: WINDOW_ID, answers: false });
    if (typeof EventSource !== 'undefined') void this.hold(`lime-tick stream ${projectId}`, () => this.listenToServer());
  }

  /** Whether a change came from a window of this browser. */
  isHere(windowId: string): boolean {
    return this.others.has(windowId);
  }

  /** Tells the other windows that the project has a revision. */
  tellRevision(revision: number): void {
    this.post({ kind: 'revision', projectId: this.projectId, revision });
  }

  leave(): void {
    this.left.abort();
    this.channel?.close();
  }

  private post(message: Message): void {
    if (!this.left.signal.aborted) this.channel?.postMessage(message);
  }

  private take(message: Message): void {
    if (message.kind === 'revision') {
      this.listener.onRevision(message.revision);
      return;
    }
    if (message.kind === 'told') {
      this.listener.onTold(message.of, message.data);
      return;
    }
    if (!message.answers) this.post({ kind: 'here', projectId: this.projectId, windowId: WINDOW_ID, answers: true });
    if (!message.answers) for (const [of, data] of this.lastTold) this.post({ kind: 'told', projectId: this.projectId, of, data });
    if (message.windowId === WINDOW_ID || this.others.has(message.windowId)) return;
    this.others.add(message.windowId);
    void this.hold(lockName(message.windowId), async () => {
      this.others.delete(message.windowId);
      this.listener.onGone();
    });
  }

  /** Has work done once a lock is free, unless the project is left before. */
  private async hold(name: string, work: () => Promise<unknown>): Promise<void> {
    if (!hasLocks()) {
      if (name.includes('stream')) await work();
      return;
    }
    try {
      await navigator.locks.request(name, { signal: this.left.signal }, work);
    } catch (error) {
      if (!this.left.signal.aborted) throw error;
    }
  }

  private listenToServer(): Promise<void> {
    return new Promise((resolve) => {
      const stream = new EventSource(`/api/projects/${encodeURIComponent(this.projectId)}/changes`);
      stream.addEventListener('open', this.listener.onServer);
      stream.addEventListener('message', (event: MessageEvent<string>) => {
        const notice = noticeSchema.safeParse(JSON.parse(event.data));
        if (!notice.success) return;
        this.listener.onRevision(notice.data.revision);
        this.tellRevision(notice.data.revision);
      });
      for (const what of ['people', 'hands'] as const)
        stream.addEventListener(what, (event: MessageEvent<string>) => {
          const data: unknown = JSON.parse(event.data);
          this.lastTold.set(what, data);
          this.listener.onTold(what, data);
          this.post({ kind: 'told', projectId: this.projectId, of: what, data });
        });
      this.left.signal.addEventListener('abort', () => {
        stream.close();
        resolve();
      });
    });
  }
}
