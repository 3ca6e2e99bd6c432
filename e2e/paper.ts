import type { Page } from '@playwright/test';

/** The drawing's pixel at a place (parts of the picture): red, green, blue, alpha. */
export const pixelAt = (page: Page, x: number, y: number) =>
  page
    .getByTestId('paper')
    .locator('canvas')
    .nth(2)
    .evaluate(
      (canvas, [atX, atY]) => {
        if (!(canvas instanceof HTMLCanvasElement)) return [];
        return [
          ...(canvas.getContext('2d')?.getImageData(Math.floor(atX * canvas.width), Math.floor(atY * canvas.height), 1, 1).data ?? []),
        ];
      },
      [x, y] as const,
    );

/** The box around everything drawn, in pixels: left, top, right, bottom. */
export const drawnBox = (page: Page) =>
  page
    .getByTestId('paper')
    .locator('canvas')
    .nth(2)
    .evaluate((canvas) => {
      if (!(canvas instanceof HTMLCanvasElement)) return [];
      const { data } = canvas.getContext('2d')?.getImageData(0, 0, canvas.width, canvas.height) ?? { data: [] };
      const box = [canvas.width, canvas.height, 0, 0];
      for (let index = 3; index < data.length; index += 4) {
        if ((data[index] ?? 0) < 128) continue;
        const [x, y] = [((index - 3) / 4) % canvas.width, Math.floor((index - 3) / 4 / canvas.width)];
        box.splice(0, 4, Math.min(box[0] ?? 0, x), Math.min(box[1] ?? 0, y), Math.max(box[2] ?? 0, x + 1), Math.max(box[3] ?? 0, y + 1));
      }
      return box;
    });

/** The drawing's pixels within a box. */
export const boxPixels = (page: Page, [left = 0, top = 0, right = 0, bottom = 0]: readonly number[]) =>
  page
    .getByTestId('paper')
    .locator('canvas')
    .nth(2)
    .evaluate(
      (canvas, box) => {
        if (!(canvas instanceof HTMLCanvasElement)) return [];
        return [...(canvas.getContext('2d')?.getImageData(box.left, box.top, box.width, box.height).data ?? [])];
      },
      { left, top, width: right - left, height: bottom - top },
    );

export async function pressPaper(page: Page, x: number, y: number): Promise<void> {
  const box = await page.getByTestId('paper').boundingBox();
  if (!box) throw new Error('There is no paper.');
  await page.mouse.click(box.x + x * box.width, box.y + y * box.height);
}

/** Has the brush draw in a colour that is none of the palette's. */
export async function takeColour(page: Page, colour: string): Promise<void> {
  await page.getByLabel('Another colour').fill(colour);
  await page.keyboard.press('Escape');
}
