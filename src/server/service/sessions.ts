import { createHash, randomBytes, scrypt, timingSafeEqual } from 'node:crypto';
import { promisify } from 'node:util';
import { log } from '@/server/log';
import { currentAccess } from '@/server/service/access';

/*
 * Who has said the passphrase has a session: a number nobody can guess, in a cookie that only this server reads. What is kept of
 * it here is its digest, in memory: after a restart everybody says the passphrase again.
 */

export const SESSION_COOKIE = '__Host-lime-tick';
const HOUR_MILLISECONDS = 60 * 60 * 1000;
/** How long a session lasts since it was used last. */
const IDLE_MILLISECONDS = 12 * HOUR_MILLISECONDS;
/** Wrong tries that are heard within a minute: from one address, and from all together. */
const TRIES_A_MINUTE = { one: 5, all: 30 };
const MINUTE_MILLISECONDS = 60 * 1000;
const KEY_BYTES = 32;

const derive = promisify(scrypt) as (secret: string, salt: Buffer, bytes: number) => Promise<Buffer>;

type Kept = {
  readonly salt: Buffer;
  readonly sessions: Map<string, number>;
  readonly tries: { readonly from: string; readonly at: number }[];
  key: Promise<Buffer> | null;
};
const shared = globalThis as typeof globalThis & { limeTickSessions?: Kept };
const kept = (): Kept => {
  shared.limeTickSessions ??= { salt: randomBytes(16), sessions: new Map(), tries: [], key: null };
  return shared.limeTickSessions;
};

const digestOf = (token: string): string => createHash('sha256').update(token).digest('hex');

/** The session named in a `Cookie` header; null when there is none. */
export function sessionIn(cookies: string | null): string | null {
  for (const part of (cookies ?? '').split(';')) {
    const [name, value] = part.trim().split('=');
    if (name === SESSION_COOKIE && value) return value;
  }
  return null;
}

/** Whether a session is one of these, which keeps it for another while. */
export function isSession(token: string | null, now: number): boolean {
  if (token === null) return false;
  const { sessions } = kept();
  const digest = digestOf(token);
  const until = sessions.get(digest);
  if (until === undefined || until < now) {
    sessions.delete(digest);
    return false;
  }
  sessions.set(digest, now + IDLE_MILLISECONDS);
  return true;
}

/** Ends a session. */
export const endSession = (token: string | null): void => {
  if (token !== null) kept().sessions.delete(digestOf(token));
};

/** What comes of saying a passphrase: a session, or a sentence and for how many seconds nothing more is heard. */
export type SignedIn =
  | { readonly kind: 'session'; readonly token: string }
  | { readonly kind: 'wrong'; readonly words: string }
  | { readonly kind: 'wait'; readonly words: string; readonly seconds: number };

/** Tries a passphrase that was said from an address. */
export async function signIn(said: string, from: string, now: number): Promise<SignedIn> {
  const access = currentAccess();
  if (access.kind === 'this-machine')
    return { kind: 'wrong', words: 'This Lime Tick is reached from its own machine alone and has no passphrase.' };
  const own = kept();
  own.tries.splice(0, own.tries.length, ...own.tries.filter(({ at }) => now - at < MINUTE_MILLISECONDS));
  const mine = own.tries.filter((each) => each.from === from);
  const tooMany = mine.length >= TRIES_A_MINUTE.one ? mine[0] : own.tries.length >= TRIES_A_MINUTE.all ? own.tries[0] : undefined;
  if (tooMany) {
    const seconds = Math.max(1, Math.ceil((tooMany.at + MINUTE_MILLISECONDS - now) / 1000));
    log.warn({ from }, 'too many passphrases were tried');
    return { kind: 'wait', seconds, words: `Too many wrong passphrases: try again in ${seconds} s.` };
  }
  const attempt = { from, at: now };
  // Counted before it is tried, so that many at once are not heard all.
  own.tries.push(attempt);
  own.key ??= derive(access.passphrase.normalize('NFC'), own.salt, KEY_BYTES);
  const isRight = timingSafeEqual(await own.key, await derive(said.normalize('NFC'), own.salt, KEY_BYTES));
  if (!isRight) {
    log.warn({ from }, 'a wrong passphrase was said');
    return { kind: 'wrong', words: 'That is not the passphrase.' };
  }
  own.tries.splice(0, own.tries.length, ...own.tries.filter((each) => each !== attempt));
  for (const [digest, until] of own.sessions) if (until < now) own.sessions.delete(digest);
  const token = randomBytes(KEY_BYTES).toString('base64url');
  own.sessions.set(digestOf(token), now + IDLE_MILLISECONDS);
  log.info({ from }, 'signed in');
  return { kind: 'session', token };
}

/** The cookie of a session as it is set: how long that lasts is counted here alone, from its last use. With no session it takes the cookie away. */
export const sessionCookie = (token: string | null): string =>
  `${SESSION_COOKIE}=${token ?? ''}; Path=/; HttpOnly; Secure; SameSite=Strict${token === null ? '; Max-Age=0' : ''}`;
