import { mkdtemp, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { afterEach, beforeEach, describe, expect, it } from 'vitest';
import { foreignRequest, needsSession } from '@/app/ownPages';
import { listeningHost, readAccess, settleAccess } from '@/server/service/access';
import { endSession, isSession, SESSION_COOKIE, sessionCookie, sessionIn, signIn } from '@/server/service/sessions';

const ORIGIN = 'https://film.example';
const PASSPHRASE = 'four leaning ticks';

describe('where a server may listen', () => {
  it.each([
    [['-H', '127.0.0.1', '-p', '4151'], '127.0.0.1'],
    [['start', '--hostname', '::1'], '::1'],
    [['start', '--hostname=192.168.1.7'], '192.168.1.7'],
    [['start', '-p', '4151'], '0.0.0.0'],
  ])('is read from %j', (words, host) => expect(listeningHost(words)).toBe(host));

  it.each([
    [{}, '127.0.0.1', null],
    [{}, 'localhost', null],
    [{}, '0.0.0.0', 'only with a passphrase'],
    [{}, '192.168.1.7', 'only with a passphrase'],
    [{ LIME_TICK_PASSPHRASE: PASSPHRASE }, '0.0.0.0', 'name the https address'],
    [{ LIME_TICK_ORIGIN: ORIGIN }, '0.0.0.0', 'and no passphrase'],
    [{ LIME_TICK_ORIGIN: 'http://film.example', LIME_TICK_PASSPHRASE: PASSPHRASE }, '0.0.0.0', 'by https alone'],
    [{ LIME_TICK_ORIGIN: 'film', LIME_TICK_PASSPHRASE: PASSPHRASE }, '0.0.0.0', 'which is no address'],
    [{ LIME_TICK_ORIGIN: ORIGIN, LIME_TICK_PASSPHRASE: 'short' }, '0.0.0.0', '12 are the least'],
    [{ LIME_TICK_ORIGIN: ORIGIN, LIME_TICK_PASSPHRASE_FILE: '/nowhere/at/all' }, '0.0.0.0', 'could not be read'],
    [{ LIME_TICK_ORIGIN: ORIGIN, LIME_TICK_PASSPHRASE: PASSPHRASE }, '0.0.0.0', null],
    // What is set holds behind a proxy on the same machine as well.
    [{ LIME_TICK_ORIGIN: ORIGIN, LIME_TICK_PASSPHRASE: PASSPHRASE }, '127.0.0.1', null],
  ])('with %j on %s: %s', (environment, host, reason) => {
    const access = readAccess(environment, host);
    if (reason === null) expect(access.ok).toBe(true);
    else expect(access.ok ? '' : access.reason).toContain(reason);
  });

  it('reads the passphrase from a file', async () => {
    const file = path.join(await mkdtemp(path.join(tmpdir(), 'lime-tick-test-')), 'passphrase');
    await writeFile(file, `${PASSPHRASE}\n`);
    expect(readAccess({ LIME_TICK_ORIGIN: ORIGIN, LIME_TICK_PASSPHRASE_FILE: file }, '0.0.0.0')).toMatchObject({
      ok: true,
      value: { passphrase: PASSPHRASE },
    });
  });
});

describe('a server that is reached from other machines', () => {
  beforeEach(() => settleAccess({ kind: 'others', origin: new URL(ORIGIN), passphrase: PASSPHRASE }));
  afterEach(() => settleAccess({ kind: 'this-machine' }));
  const headers = (more: Record<string, string> = {}) => new Headers({ host: 'film.example', ...more });

  it('answers to its named address and its pages alone', () => {
    expect(foreignRequest(headers())).toBeNull();
    expect(foreignRequest(headers({ origin: ORIGIN }))).toBeNull();
    expect(foreignRequest(headers({ origin: 'https://elsewhere.example' }))?.status).toBe(403);
    expect(foreignRequest(new Headers({ host: 'elsewhere.example' }))?.status).toBe(421);
  });

  it('asks for the passphrase, also who says to be this machine, before anything but what the asking needs', () => {
    for (const pathname of ['/', '/api/projects', '/projects/x/plan', '/api/pictures', '/api/originals/x', '/api/health/more'])
      for (const host of ['film.example', '127.0.0.1:4151'])
        expect(needsSession(new Headers({ host }), pathname), `${host}${pathname}`).toBe(true);
    for (const pathname of ['/sign-in', '/api/session', '/api/health', '/_next/static/chunks/a.js', '/look.js'])
      expect(needsSession(headers(), pathname), pathname).toBe(false);
  });

  it('gives a session for it, which lasts while it is used and ends when it is ended', async () => {
    const now = Date.UTC(2026, 0, 1);
    const signedIn = await signIn(PASSPHRASE, '10.0.0.1', now);
    if (signedIn.kind !== 'session') throw new Error(signedIn.words);
    const cookie = sessionCookie(signedIn.token);
    expect(cookie).toMatch(/^__Host-lime-tick=[\w-]{43}; Path=\/; HttpOnly; Secure; SameSite=Strict$/);
    expect(sessionIn(`other=1; ${SESSION_COOKIE}=${signedIn.token}`)).toBe(signedIn.token);
    const hours = (count: number) => now + count * 3_600_000;
    expect(isSession(signedIn.token, hours(11))).toBe(true);
    expect(isSession(signedIn.token, hours(22))).toBe(true);
    expect(isSession(signedIn.token, hours(35))).toBe(false);
    expect(isSession(signedIn.token, hours(22))).toBe(false);
    const again = await signIn(PASSPHRASE, '10.0.0.1', now);
    if (again.kind !== 'session') throw new Error(again.words);
    endSession(again.token);
    expect(isSession(again.token, now)).toBe(false);
    expect(isSession('made-up', now)).toBe(false);
  });

  it('hears five wrong tries a minute from one address, many at once too, and thirty from all', async () => {
    const now = Date.UTC(2026, 0, 2);
    const kinds = await Promise.all(Array.from({ length: 9 }, async () => (await signIn('a guess at it', '10.0.0.2', now)).kind));
    expect(kinds.filter((kind) => kind === 'wrong')).toHaveLength(5);
    expect(await signIn(PASSPHRASE, '10.0.0.2', now + 30_000)).toMatchObject({ kind: 'wait', seconds: 30 });
    expect(await signIn(PASSPHRASE, '10.0.0.3', now)).toMatchObject({ kind: 'session' });
    expect(await signIn(PASSPHRASE, '10.0.0.2', now + 60_000)).toMatchObject({ kind: 'session' });
    const many = await Promise.all(
      Array.from({ length: 40 }, async (_, at) => (await signIn('a guess at it', `10.0.1.${at}`, now + 120_000)).kind),
    );
    expect(many.filter((kind) => kind === 'wrong')).toHaveLength(30);
  });
});

describe('a server of this machine alone', () => {
  it('answers to its own names, and asks for nothing', () => {
    expect(foreignRequest(new Headers({ host: '127.0.0.1:4151' }))).toBeNull();
    expect(foreignRequest(new Headers({ host: 'film.example' }))?.status).toBe(421);
    expect(needsSession(new Headers({ host: '127.0.0.1:4151' }), '/api/projects')).toBe(false);
  });
});
