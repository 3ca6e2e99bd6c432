import AxeBuilder from '@axe-core/playwright';
import type { Page } from '@playwright/test';
import { expect } from './fixtures';

type Rules = {
  /** A part of the page instead of all of it. */
  readonly within?: string;
  /** Colours alone, which is what another theme changes; or all but them, as for another size. */
  readonly colours?: 'alone' | 'not';
};

/** Holds that axe finds nothing, with all it knows and that what is pressed is large enough: 24 px, or as far from the next (WCAG 2.2, 2.5.8). */
export async function expectReadable(page: Page, at: string, { within, colours }: Rules = {}): Promise<void> {
  const whole = new AxeBuilder({ page }).options({
    resultTypes: ['violations'],
    ...(colours === 'alone'
      ? { runOnly: ['color-contrast'] }
      : { rules: { 'target-size': { enabled: true }, 'color-contrast': { enabled: colours !== 'not' } } }),
  });
  const { violations } = await (within ? whole.include(within) : whole).analyze();
  expect(
    violations.map(({ id, nodes }) => `${id}: ${nodes.map((node) => node.target.join(' ')).join(', ')}`),
    at,
  ).toEqual([]);
}

/**
 * What is pressed or read that nobody could: beyond the page's side or cut off by what it stands in where that is not scrolled, or
 * beneath something else. (WCAG 2.2, 1.4.4 and 1.4.10: text at 200 %, and a page 320 px wide, without loss of content.)
 */
export const outOfReach = (page: Page): Promise<readonly string[]> =>
  page.evaluate(() => {
    const told: string[] = [];
    const SIDES_PX = 1;
    for (const element of document.querySelectorAll<HTMLElement>('button, a, input, select, textarea, [role=tab], h1, h2, h3, p, label')) {
      const box = element.getBoundingClientRect();
      // What only screen readers read is a pixel large; what is folded away has a place all the same.
      if (box.width < 2 || box.height < 2 || !element.checkVisibility({ visibilityProperty: true, contentVisibilityAuto: true })) continue;
      // Of the drawings beside the one at hand as many are in sight as there is room for; the others are gone to by keys.
      if (element.closest('[aria-hidden=true], [aria-label="Neighbouring drawings"]')) continue;
      const name = `${element.tagName.toLowerCase()} “${(element.getAttribute('aria-label') ?? element.textContent ?? '').trim().slice(0, 40)}”`;
      const [x, y] = [box.left + box.width / 2, box.top + box.height / 2];
      let [isScrolledX, isScrolledY, isCut, isOutOfSight] = [false, false, false, false];
      for (let around = element.parentElement; around && around !== document.body; around = around.parentElement) {
        const { overflowX, overflowY } = getComputedStyle(around);
        if (overflowX === 'visible' && overflowY === 'visible') continue;
        const room = around.getBoundingClientRect();
        isScrolledX ||= /auto|scroll/.test(overflowX);
        isScrolledY ||= /auto|scroll/.test(overflowY);
        isCut ||= !isScrolledX && (box.left < room.left - SIDES_PX || box.right > room.right + SIDES_PX);
        isCut ||= !isScrolledY && (box.top < room.top - 2 || box.bottom > room.bottom + 2);
        isOutOfSight ||= x < room.left || x > room.right || y < room.top || y > room.bottom;
      }
      if (isCut) told.push(`${name} is cut off`);
      if (!isScrolledX && (box.left < -SIDES_PX || box.right > window.innerWidth + SIDES_PX)) told.push(`${name} is beyond the side`);
      if (isOutOfSight || y < 0 || y > window.innerHeight || x < 0 || x > window.innerWidth) continue;
      const above = document.elementFromPoint(x, y);
      // A clock and a heading that stay in sight lie over what is scrolled beneath them.
      const stays = (there: Element | null): boolean =>
        there !== null && there !== document.body && (/sticky|fixed/.test(getComputedStyle(there).position) || stays(there.parentElement));
      if (above && !element.contains(above) && !above.contains(element) && !element.closest('label')?.contains(above) && !stays(above))
        told.push(`${name} lies beneath ${above.tagName.toLowerCase()} “${(above.textContent ?? '').slice(0, 40)}”`);
    }
    return told;
  });
