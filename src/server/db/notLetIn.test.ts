import { execFileSync } from 'node:child_process';
import { mkdtempSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import pg from 'pg';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { openServer } from '@/server/db/client';
import { notLetIn } from '@/server/db/notLetIn';
import { postgresPrograms, startPostgres } from '@/testing/postgres';

const withCode = (code: string, message = 'it failed') => Object.assign(new Error(message), { code });

describe('what is no refusal', () => {
  it.each([
    ['nobody answers', withCode('ECONNREFUSED')],
    ['a full disk', withCode('53100')],
    ['no error', '28P01'],
  ])('%s: %o', (_what, error) => expect(notLetIn(error)).toBeNull());
});

/** A certificate for `localhost` with its key, signed by an authority that was made for it, and another authority. */
function makeCertificates() {
  const folder = mkdtempSync(path.join(tmpdir(), 'lime-tick-tls-'));
  const at = (name: string) => path.join(folder, name);
  const openssl = (...args: readonly string[]) => execFileSync('openssl', args, { cwd: folder, stdio: 'ignore' });
  for (const name of ['ca', 'other'])
    openssl('req', '-x509', '-newkey', 'rsa:2048', '-nodes', '-keyout', `${name}.key`, '-out', `${name}.crt`, '-subj', `/CN=${name}`);
  openssl('req', '-newkey', 'rsa:2048', '-nodes', '-keyout', 'server.key', '-out', 'server.csr', '-subj', '/CN=localhost');
  writeFileSync(at('names'), 'subjectAltName=DNS:localhost\n');
  const signed = ['-CA', 'ca.crt', '-CAkey', 'ca.key', '-CAcreateserial', '-extfile', 'names'];
  openssl('x509', '-req', '-in', 'server.csr', '-out', 'server.crt', ...signed);
  // Good for no day: over when it is made.
  openssl('x509', '-req', '-in', 'server.csr', '-out', 'expired.crt', '-days', '0', ...signed);
  return {
    certificate: at('server.crt'),
    key: at('server.key'),
    expired: at('expired.crt'),
    authority: at('ca.crt'),
    other: at('other.crt'),
  };
}

const programs = postgresPrograms();

/* A server as docs/team.md has it set up for a network: everybody with a password and TLS, but for its keeper, who is to make roles here. */
describe.skipIf(programs === null)('a server that asks for TLS and a password', () => {
  let stop: () => void = () => undefined;
  let files: ReturnType<typeof makeCertificates>;
  let port = '';
  const address = (user: string, search: string, { host = 'localhost', name = 'postgres' } = {}) =>
    `postgresql://${user}@${host}:${port}/${name}?${search}`;
  const verified = () => `sslmode=verify-full&sslrootcert=${files.authority}`;

  beforeAll(async () => {
    files = makeCertificates();
    const access = 'hostssl all ada all scram-sha-256\nhost all postgres 127.0.0.1/32 trust\n';
    const server = await startPostgres(programs as string, { ...files, access });
    stop = server.stop;
    port = new URL(server.url).port;
    const keeper = new pg.Client({ connectionString: server.url });
    await keeper.connect();
    await keeper.query("create role ada login superuser password 'right'");
    await keeper.end();
  });
  afterAll(() => stop());

  it('is opened by its name, with its authority and the right password', async () => {
    const { database, close } = await openServer(address('ada:right', verified()));
    const { rows } = (await database.execute('select ssl from pg_stat_ssl where pid = pg_backend_pid()')) as { rows: unknown };
    expect(rows).toEqual([{ ssl: true }]);
    await close();
  });

  it.each([
    ['a wrong password', () => address('ada:wrong', verified()), /doesn’t take this password/],
    ['no TLS', () => address('ada:right', ''), /lets nobody in without TLS/],
    ['a name nobody is let in by', () => address('eve:x', verified()), /lets nobody of this name in/],
    ['another name of the machine', () => address('ada:right', verified(), { host: '127.0.0.1' }), /for another machine/],
    ['a database that isn’t there', () => address('ada:right', verified(), { name: 'nothere' }), /no database of that name/],
    ['an authority that isn’t its own', () => address('ada:right', `sslmode=verify-full&sslrootcert=${files.other}`), /from nobody/],
    ['no authority', () => address('ada:right', 'sslmode=verify-full'), /from nobody this machine knows/],
  ])('says what to do where it is asked with %s', async (_what, url, words) => {
    await expect(openServer(url())).rejects.toThrow(words);
  });

  it('says so where its certificate has expired', async () => {
    const access = 'hostssl all all all trust\nhost all postgres 127.0.0.1/32 trust\n';
    const late = await startPostgres(programs as string, { ...files, certificate: files.expired, access });
    try {
      const url = `postgresql://postgres@localhost:${new URL(late.url).port}/postgres?${verified()}`;
      await expect(openServer(url)).rejects.toThrow(/certificate has expired/);
    } finally {
      late.stop();
    }
  });

  it('says so where TLS is asked for and there is none', async () => {
    const plain = await startPostgres(programs as string);
    try {
      await expect(openServer(`${plain.url}?${verified()}`)).rejects.toThrow(/the database has none/);
    } finally {
      plain.stop();
    }
  });
});
