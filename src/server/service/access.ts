import { readFileSync } from 'node:fs';
import type { Outcome } from '@/core/outcome';
import { done, refused } from '@/core/outcome';

/*
 * Who may ask this server. By itself it answers to this machine alone, and needs no key. Where it is to be reached from others,
 * a passphrase must be set and the address by which pages come to it named, which is one of https: either a proxy in front of
 * it speaks TLS, or nothing is answered.
 */

/** How this server may be reached from other machines. */
export type Access = { readonly kind: 'this-machine' } | { readonly kind: 'others'; readonly origin: URL; readonly passphrase: string };

const LOOPBACK = new Set(['127.0.0.1', 'localhost', '::1', '[::1]']);
const SHORTEST_PASSPHRASE = 12;

/** Whether a name or number is this machine's own and no other's. */
export const isLoopback = (host: string): boolean => LOOPBACK.has(host) || /^127\.\d+\.\d+\.\d+$/.test(host);

type Environment = Readonly<Record<string, string | undefined>>;

function originOf(said: string): Outcome<URL> {
  let origin: URL;
  try {
    origin = new URL(said);
  } catch {
    return refused(`LIME_TICK_ORIGIN is “${said}”, which is no address: write one as https://film.example.`);
  }
  if (origin.protocol !== 'https:')
    return refused(
      `LIME_TICK_ORIGIN is “${said}”: from other machines Lime Tick is reached by https alone, through a proxy that speaks TLS.`,
    );
  return done(origin);
}

function passphraseOf({ LIME_TICK_PASSPHRASE: said, LIME_TICK_PASSPHRASE_FILE: file }: Environment): Outcome<string> {
  if (said !== undefined && said !== '') return done(said);
  if (file === undefined || file === '') return done('');
  try {
    return done(readFileSync(/* turbopackIgnore: true */ file, 'utf8').trim());
  } catch (error) {
    return refused(`LIME_TICK_PASSPHRASE_FILE could not be read: ${error instanceof Error ? error.message : String(error)}.`);
  }
}

/** How a server that listens on `host` may be reached, or a sentence that says why it may not run so. */
export function readAccess(environment: Environment, host: string): Outcome<Access> {
  const { LIME_TICK_ORIGIN: said } = environment;
  const passphrase = passphraseOf(environment);
  if (!passphrase.ok) return passphrase;
  if ((said === undefined || said === '') && passphrase.value === '') {
    if (isLoopback(host)) return done({ kind: 'this-machine' });
    return refused(
      `Lime Tick was told to listen on ${host}, where other machines reach it. It does so only with a passphrase (LIME_TICK_PASSPHRASE, or a file of it by LIME_TICK_PASSPHRASE_FILE) and the https address of the proxy in front of it (LIME_TICK_ORIGIN). A team does better with a PostgreSQL server, each on their own machine: see docs/team.md.`,
    );
  }
  if (said === undefined || said === '')
    return refused('A passphrase is set and LIME_TICK_ORIGIN is not: name the https address of the proxy in front of Lime Tick.');
  const origin = originOf(said);
  if (!origin.ok) return origin;
  if (passphrase.value === '')
    return refused('LIME_TICK_ORIGIN is set and no passphrase: set LIME_TICK_PASSPHRASE, or LIME_TICK_PASSPHRASE_FILE.');
  if (passphrase.value.length < SHORTEST_PASSPHRASE)
    return refused(`The passphrase has ${passphrase.value.length} letters: ${SHORTEST_PASSPHRASE} are the least, a few words are better.`);
  return done({ kind: 'others', origin: origin.value, passphrase: passphrase.value });
}

/** Where a server listens, by the words it was started with: `-H` or `--hostname`; everywhere when none is said. */
export function listeningHost(words: readonly string[]): string {
  const at = words.findIndex((word) => word === '-H' || word === '--hostname');
  const joined = words.find((word) => word.startsWith('--hostname='));
  return (at >= 0 ? words[at + 1] : joined?.slice('--hostname='.length)) ?? '0.0.0.0';
}

const shared = globalThis as typeof globalThis & { limeTickAccess?: Access };

/** Settles for this process how it may be reached. */
export const settleAccess = (access: Access): void => {
  shared.limeTickAccess = access;
};

/** How this process may be reached: by this machine alone until something else is settled. */
export const currentAccess = (): Access => shared.limeTickAccess ?? { kind: 'this-machine' };
