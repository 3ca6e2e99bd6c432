import { randomUUID } from 'node:crypto';
import pino, { type DestinationStream } from 'pino';

/*
 * One line of JSON for everything worth telling of the server: what was asked with an id, how it was answered and how long that
 * took. Nothing of a drawing or a document is in it: an error of the database names the values it was given, so those are cut off.
 */

/** A trouble of this process, as the health page shows it. */
export type Trouble = { readonly id: string; readonly at: string; readonly words: string; readonly reason: string | null };

const MOST_TROUBLES = 50;
const MOST_LETTERS = 400;
const WARN = 40;

const shared = globalThis as typeof globalThis & { limeTickTroubles?: Trouble[] };

/** The last troubles of this process, newest first. */
export const lastTroubles = (): readonly Trouble[] => shared.limeTickTroubles ?? [];

/** An error in words, without the values a statement was given. */
const wordsOf = (error: Error): string => error.message.replace(/\s*params:[\s\S]*$/, '').slice(0, MOST_LETTERS);

type ToldError = { type: string; message: string; code?: string; at: readonly string[]; cause?: ToldError };

function toldError(error: unknown): ToldError {
  if (!(error instanceof Error)) return { type: typeof error, message: String(error).slice(0, MOST_LETTERS), at: [] };
  const { code } = error as NodeJS.ErrnoException;
  return {
    type: error.name,
    message: wordsOf(error),
    ...(typeof code === 'string' ? { code } : {}),
    at: (error.stack ?? '').split('\n').flatMap((line) => (/^\s+at /.test(line) ? [line.trim()] : [])),
    ...(error.cause === undefined ? {} : { cause: toldError(error.cause) }),
  };
}

type Line = { readonly level: number; readonly time: string; readonly msg?: string; readonly err?: { readonly message: string } };

/** Writes lines where the server was started, and keeps the last troubles among them. */
const destination: DestinationStream = {
  write(text) {
    process.stdout.write(text);
    const line = JSON.parse(text) as Line;
    if (line.level < WARN) return;
    shared.limeTickTroubles = [
      { id: randomUUID(), at: line.time, words: line.msg ?? '', reason: line.err?.message ?? null },
      ...lastTroubles(),
    ].slice(0, MOST_TROUBLES);
  },
};

/** The server's log; `LIME_TICK_LOG` says from which level on: debug, info, warn (as it is), error or silent. */
export const log = pino(
  {
    level: process.env.LIME_TICK_LOG ?? 'warn',
    base: undefined,
    timestamp: pino.stdTimeFunctions.isoTime,
    serializers: { err: toldError },
  },
  destination,
);
