import { describe, expect, it } from 'vitest';
import { firstPage, found } from '@/features/help/HelpDialog';
import { HELP_PAGES } from '@/features/help/helpPages';
import { projectCommands } from '@/features/help/projectCommands';
import { TOUR } from '@/features/help/tourCards';
import { PLACES } from '@/features/path/places';
import { STAGES } from '@/features/path/stages';

const ids = new Set([...projectCommands, ...PLACES].map(({ id }) => id));

describe('the help', () => {
  it('has a page for every stage, and names commands that there are', () => {
    expect(new Set(HELP_PAGES.flatMap(({ stage }) => stage ?? []))).toEqual(new Set(STAGES));
    const texts = [...HELP_PAGES.flatMap(({ says }) => says), ...TOUR.map(({ says }) => says)];
    const named = texts.flatMap((text) => [...text.matchAll(/\[([a-z-]+)\]/g)].map(([, id]) => id));
    expect(named.length).toBeGreaterThan(20);
    expect(named.filter((id) => !ids.has(id ?? ''))).toEqual([]);
  });

  it.each([
    ['plan', 'sheet'],
    ['hand-over', 'hand-over'],
    ['past', 'past'],
    ['counting', 'counting'],
    ['store', 'store'],
    ['nowhere', 'begin'],
  ])('opened on %s shows its page %s', (place, page) => {
    expect(firstPage(place)).toBe(page);
  });

  it('is searched by all words, in titles and in what pages say', () => {
    expect(found(HELP_PAGES, '').length).toBe(HELP_PAGES.length);
    expect(found(HELP_PAGES, 'onion skin').map(({ id }) => id)).toEqual(['draw']);
    expect(found(HELP_PAGES, 'RECEIPT agrees').flatMap(({ says }) => says)).toEqual([expect.stringContaining('The receipt holds')]);
    expect(found(HELP_PAGES, 'zeppelin')).toEqual([]);
  });

  it('has a tour that goes along the path', () => {
    const order = TOUR.map(({ stage }) => STAGES.indexOf(stage));
    expect(order).toEqual(order.toSorted((a, b) => a - b));
    expect(new Set(order).size).toBe(STAGES.length);
  });
});
