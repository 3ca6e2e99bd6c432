import { expect, openStage, test } from './fixtures';
import { probe } from './probe';
import { makeProject } from './projects';

const FILMS = [
  { frames: 96, rate: { num: 24, den: 1 }, fraction: '24/1', seconds: 4 },
  { frames: 97, rate: { num: 24000, den: 1001 }, fraction: '24000/1001', seconds: (97 * 1001) / 24000 },
  { frames: 18, rate: { num: 12, den: 1 }, fraction: '12/1', seconds: 1.5 },
  { frames: 1530, rate: { num: 30, den: 1 }, fraction: '30/1', seconds: 51 },
] as const;

for (const { frames, rate, fraction, seconds } of FILMS) {
  test(`a film of ${frames} frames at ${fraction} is counted alike by its receipt and by ffprobe`, async ({ page, app }) => {
    const projectId = await makeProject(
      app.url,
      { title: 'Counted', rate, size: { width: 320, height: 180 }, frames },
      { drawings: Math.min(24, Math.ceil(frames / 2)), hold: 2 },
    );
    await openStage(page, app.url, projectId, 'hand-over');
    for (const kind of ['MP4, H.264', 'WebM, VP9']) {
      await page.getByRole('radio', { name: kind }).click();
      const download = page.waitForEvent('download');
      await page.getByRole('button', { name: /^Hand over \d/ }).click();
      const receipt = page.getByRole('article').first();
      const file = await download;
      await expect(receipt).toContainText(file.suggestedFilename());
      await expect(receipt.getByTestId('verdict')).toHaveText('agrees');
      await expect(receipt.getByRole('row', { name: `frames ${frames} ${frames}`, exact: true })).toBeVisible();
      await expect(receipt.getByRole('row', { name: `rate ${fraction} ${fraction}` })).toBeVisible();
      const probed = probe(await file.path());
      expect(probed.frames).toBe(frames);
      expect(probed.times).toHaveLength(frames);
      expect(probed.range).toBe('tv');
      const mp4 = kind.startsWith('MP4');
      if (mp4) expect(probed.rate).toBe(fraction);
      const tolerance = mp4 ? 0.000_002 : 0.001;
      expect(Math.abs(probed.seconds - seconds)).toBeLessThan(tolerance);
      for (const [index, time] of probed.times.entries()) expect(Math.abs(time - (index * rate.den) / rate.num)).toBeLessThan(tolerance);
    }
  });
}
