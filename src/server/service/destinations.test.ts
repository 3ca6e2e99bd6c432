import { describe, expect, it } from 'vitest';
import { destinationSchema, MOST_DESTINATIONS } from '@/contracts/destinations';
import { DESTINATIONS } from '@/core/check/destinations';
import { mustBeDone } from '@/core/outcome';
import { destinationText, readDestination } from '@/core/outside/destinationText';
import { changeDestination, ownDestinations } from '@/server/service/destinations';
import { getDatabase } from '@/server/store/database';
import { saveSetting } from '@/server/store/settings';

const own = (index: number) => destinationSchema.parse({ ...DESTINATIONS[0], id: `own-${index}`, name: `Festival ${index}` });

describe('destinations of one’s own', () => {
  it.each(DESTINATIONS)('are written and read as $name is', (destination) => {
    expect(mustBeDone(readDestination(destination.id, destinationText(destination)))).toEqual({
      ...destination,
      takesTransparency: destination.loops,
    });
    expect(destinationSchema.safeParse({ ...destination, id: 'own-1' }).success).toBe(true);
  });

  it.each([
    [{ name: ' ' }, 'Give it a name.'],
    [{ sizes: 'large' }, '“large” is not a size'],
    [{ sizes: '' }, 'Write which sizes it takes'],
    [{ rates: 'fast' }, '“fast” is not a rate'],
    [{ rates: '' }, 'Write which rates it takes'],
    [{ longest: '-3' }, '“-3” is not a length'],
    [{ shortest: '9', longest: '8' }, 'The longest must be more than the shortest.'],
    [{ mebibytes: 'many' }, '“many” is not a size of a file'],
    [{ colours: '235 to 16' }, '“235 to 16” is not a range of colours'],
  ])('with %j are refused', (part, words) => {
    const [first] = DESTINATIONS;
    if (!first) throw new Error('There are destinations.');
    const read = readDestination('own-1', { ...destinationText(first), ...part });
    expect(read.ok ? '' : read.reason).toContain(words);
  });

  it('are kept, changed and taken away; too many and those of a newer version are refused', async () => {
    expect(await changeDestination({ id: 'own-1', destination: own(1) })).toMatchObject({ ok: true });
    const changed = { ...own(1), name: 'Festival at the river' };
    expect(await changeDestination({ id: 'own-1', destination: changed })).toMatchObject({ ok: true });
    expect(await ownDestinations()).toMatchObject({ ok: true, value: { destinations: [changed] } });
    await changeDestination({ id: 'own-1', destination: null });
    expect(await ownDestinations()).toMatchObject({ ok: true, value: { destinations: [] } });
    const many = Array.from({ length: MOST_DESTINATIONS }, (_, index) => own(index));
    await saveSetting(await getDatabase(), 'destinations', 1, { destinations: many });
    expect(await changeDestination({ id: 'own-999', destination: own(999) })).toMatchObject({ ok: false, status: 422 });
    await saveSetting(await getDatabase(), 'destinations', 99, { destinations: 'of another kind' });
    expect(await ownDestinations()).toMatchObject({ ok: false, error: expect.stringContaining('newer Lime Tick') });
    await saveSetting(await getDatabase(), 'destinations', 1, { destinations: [] });
  });
});
