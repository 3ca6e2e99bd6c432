import type { Page } from '@playwright/test';

/** What the keys are at: what it is called, where it is, and what of its ring isn't seen, '' where all of it is. An empty name where that is the page. */
type At = { readonly name: string; readonly place: string; readonly unseen: string };

/** Looks at what has the focus, and at its ring: whether there is one, and how far what stands around cuts it off. (WCAG 2.2, 2.4.7.) */
export const focused = (page: Page): Promise<At> =>
  page.evaluate(() => {
    const focused = document.activeElement;
    if (!(focused instanceof HTMLElement) || focused === document.body) return { name: '', place: '', unseen: '' };
    const labels = focused instanceof HTMLInputElement ? [...(focused.labels ?? [])].map((label) => label.textContent).join(' ') : '';
    const name = (focused.getAttribute('aria-label') ?? (labels || (focused.textContent ?? ''))).trim();
    // A link that fills a card leaves the ring to the card.
    const chain: Element[] = [];
    for (let element: Element | null = focused; element; element = element.parentElement) chain.push(element);
    const ringed = chain.slice(0, 2).find((element) => getComputedStyle(element).outlineStyle !== 'none');
    const { left, top, right, bottom } = (ringed ?? focused).getBoundingClientRect();
    const place = `${Math.round(left)}, ${Math.round(top)}`;
    // What another element shows in its stead, as a switch does, is a pixel large; a window that has the focus itself is what is seen.
    if (right - left < 2 || focused.role === 'dialog') return { name, place, unseen: '' };
    if (!ringed) return { name, place, unseen: 'it has no ring' };
    const { outlineWidth, outlineOffset } = getComputedStyle(ringed);
    const around = Number.parseFloat(outlineWidth) + Number.parseFloat(outlineOffset);
    for (const element of chain.slice(chain.indexOf(ringed) + 1)) {
      const { overflowX, overflowY, position, borderLeftWidth, borderTopWidth, borderRightWidth, borderBottomWidth } =
        getComputedStyle(element);
      if (element === document.documentElement || element === document.body) break;
      const box = element.getBoundingClientRect();
      const cut = (isCut: boolean, px: number) => (isCut ? Math.max(0, px) : 0);
      const most = Math.max(
        cut(overflowX !== 'visible', box.left + Number.parseFloat(borderLeftWidth) - (left - around)),
        cut(overflowX !== 'visible', right + around - (box.right - Number.parseFloat(borderRightWidth))),
        cut(overflowY !== 'visible', box.top + Number.parseFloat(borderTopWidth) - (top - around)),
        cut(overflowY !== 'visible', bottom + around - (box.bottom - Number.parseFloat(borderBottomWidth))),
      );
      // Less than a pixel is how places are rounded.
      if (most > 0.6) return { name, place, unseen: `its ring is cut off by ${most.toFixed(1)} px` };
      if (position === 'fixed') break;
    }
    return { name, place, unseen: '' };
  });
