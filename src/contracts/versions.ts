import type { z } from 'zod';
import { sentenceOf } from '@/contracts/sentence';
import { done, type Outcome, refused } from '@/core/outcome';

/*
 * Whatever is stored says in which form it is written: a number, 1 when there is none, since the first form
 * had none. What is read is brought from its form to the next until it is today's, and only then held
 * against today's contract. So what any earlier version wrote can be read; samples of each are kept in
 * `samples/` and tried by the tests. What can't be read is for whoever reads it to set aside and name.
 */

/** What brings a value of a form to the next one. */
export type Upgrade = (old: Readonly<Record<string, unknown>>) => Record<string, unknown>;

/** Reads stored values of one kind; `upgrades[0]` brings form 1 to form 2. */
export type Reader<T> = { readonly version: number; readonly read: (stored: unknown) => Outcome<T> };

/** A reader of a kind of value, called `what` in its refusals. */
export function readerOf<T>(what: string, schema: z.ZodType<T>, upgrades: readonly Upgrade[] = []): Reader<T> {
  const version = upgrades.length + 1;
  return {
    version,
    read(stored) {
      if (typeof stored !== 'object' || stored === null) return refused(`${what} could not be read: it holds nothing.`);
      let value = stored as Readonly<Record<string, unknown>>;
      const written = value.version ?? 1;
      if (typeof written !== 'number' || !Number.isInteger(written) || written < 1)
        return refused(`${what} could not be read: it doesn’t say in which form it is written.`);
      if (written > version)
        return refused(
          `${what} was written by a newer Lime Tick (form ${written}; this one reads up to ${version}): start the newer one to read it.`,
        );
      try {
        for (const upgrade of upgrades.slice(written - 1)) value = upgrade(value);
      } catch (error) {
        return refused(
          `${what} could not be read: it is not of form ${written}, as it says (${error instanceof Error ? error.message : String(error)}).`,
        );
      }
      const parsed = schema.safeParse({ ...value, version });
      return parsed.success ? done(parsed.data) : refused(`${what} could not be read: ${sentenceOf(parsed.error)}`);
    },
  };
}
