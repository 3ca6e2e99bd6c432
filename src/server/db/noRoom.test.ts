import { describe, expect, it } from 'vitest';
import { hasNoRoom } from '@/server/db/noRoom';

const withCode = (code: string, message = 'it failed') => Object.assign(new Error(message), { code });

describe('a full disk', () => {
  // PostgreSQL 17, appendix A: 53100 is disk_full, 53200 out_of_memory; errno(3): ENOSPC, EDQUOT.
  it.each([
    ['53100', withCode('53100'), true],
    ['no room for a file', withCode('ENOSPC'), true],
    ['no share left', withCode('EDQUOT'), true],
    [
      'what a cause says',
      new Error('Failed query', { cause: new Error('could not extend file "base/5/1": No space left on device') }),
      true,
    ],
    ['no memory', withCode('53200'), false],
    ['nobody who answers', withCode('ECONNREFUSED'), false],
    ['no error', 'ENOSPC', false],
  ])('is told by %s: %o', (_what, error, isFull) => {
    expect(hasNoRoom(error)).toBe(isFull);
  });
});
