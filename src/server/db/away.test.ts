import { DrizzleQueryError } from 'drizzle-orm';
import { describe, expect, it } from 'vitest';
import { isAway } from '@/server/db/away';

const coded = (code: string) => Object.assign(new Error('It failed.'), { code });

describe('a database that is away', () => {
  // Messages of the driver `pg`, 8: as its client says them.
  it.each([
    new Error('Connection terminated unexpectedly'),
    new Error('timeout exceeded when trying to connect'),
    new Error('Client has encountered a connection error and is not queryable'),
    new Error('Client was closed and is not queryable'),
    coded('ECONNREFUSED'),
    coded('57P01'),
    coded('08006'),
    new AggregateError([coded('ECONNREFUSED'), coded('ECONNREFUSED')], 'both addresses'),
  ])('is told by $message, also within the question that failed', (error) => {
    expect(isAway(error)).toBe(true);
    expect(isAway(new DrizzleQueryError('rollback', [], error))).toBe(true);
  });

  it.each([coded('23505'), coded('42P01'), new Error('A step is not whole.')])('is not told by anything else', (error) => {
    expect(isAway(error)).toBe(false);
    expect(isAway('a text')).toBe(false);
  });
});
