import { expect, test } from './fixtures';
import { focused } from './rings';

const MOST_STOPS = 120;

const PAGES = [
  ['plan', '/projects/washday/plan', 'Play'],
  ['draw', '/projects/washday/draw', 'Undo'],
  ['check', '/projects/washday/check', 'Save list'],
  ['assemble', '/projects/washday/assemble', 'Zoom out on the reel'],
  ['hand-over', '/projects/washday/hand-over', 'Hand over 312 frames'],
  ['the past', '/projects/washday/past', 'Go to frame 1'],
  ['the shelf', '', 'New project'],
  ['the store', '/store', 'Make one now'],
  ['the counting desk', '/counting-desk', 'Help'],
] as const;

async function expectWholeRings(page: Parameters<typeof focused>[0]): Promise<void> {
  const stops = new Map<string, string>();
  for (let stop = 0; stop < MOST_STOPS; stop++) {
    await page.keyboard.press('Tab');
    const { name, place, unseen } = await focused(page);
    const key = `${name.slice(0, 40)} at ${place}`;
    // Round the page once.
    if (name !== '' && stops.has(key)) break;
    stops.set(key, unseen);
  }
  expect([...stops].filter(([, unseen]) => unseen !== '')).toEqual([]);
  expect(stops.size).toBeGreaterThan(8);
}

for (const [name, path, ready] of PAGES)
  test(`what keys go to on ${name} is seen with its whole ring`, async ({ page, app }) => {
    await page.goto(`${app.url}${path}`);
    await expect(page.getByRole('button', { name: ready, exact: true })).toBeVisible();
    await expectWholeRings(page);
  });
