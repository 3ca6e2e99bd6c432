import { expect, openStage, test, untilKept } from './fixtures';

test('Washday’s faults are found, gone to, fixed, and the path turns lime', async ({ page, app }) => {
  await openStage(page, app.url, 'washday', 'check');
  const findings = page.getByRole('region', { name: 'Findings' });
  await expect(findings.getByRole('heading', { name: /^5 findings/ })).toBeVisible();
  await expect(page.getByRole('button', { name: 'Draw to Check: counts disagree. Show why' })).toBeVisible();

  const repeat = findings.getByRole('listitem').filter({ hasText: 'Sock 20 and 21 are one picture' });
  await repeat.getByRole('button', { name: 'Go there' }).click();
  await expect(page.getByTestId('frame-now')).toHaveText('44');
  await expect(page.getByRole('button', { name: /^Shot 020/ })).toBeVisible();
  await repeat.getByRole('button', { name: 'Hold 20 for 4 frames and delete 21' }).click();
  await expect(repeat).toHaveCount(0);
  await expect(page.getByRole('img', { name: 'Draw to Check: counts agree' })).toBeVisible();

  await page.keyboard.press('Control+z');
  await expect(repeat).toHaveCount(1);
  await expect(page.getByRole('button', { name: 'Draw to Check: counts disagree. Show why' })).toBeVisible();
  await page.keyboard.press('Control+Shift+z');
  await expect(repeat).toHaveCount(0);

  await findings.getByRole('button', { name: 'Hold 8 over it' }).click();
  await expect(findings.getByText('is blank on frame 37')).toHaveCount(0);
  await findings.getByRole('button', { name: 'Hold 24 for 2 frames, pushing what follows by 1' }).click();
  await expect(findings.getByText('among drawings on twos')).toHaveCount(0);
  const past = findings.getByRole('listitem').filter({ hasText: 'Sock runs for 97 frames, shot 020 has 96: 1 frame past the end' });
  await expect(past).toBeVisible();
  await past.getByRole('button', { name: 'Trim Sock to frame 96' }).click();
  await expect(findings.getByRole('heading', { name: /^2 findings/ })).toBeVisible();
  for (const link of ['Plan to Draw', 'Draw to Check', 'Check to Assemble'])
    await expect(page.getByRole('img', { name: `${link}: counts agree` })).toBeVisible();
  await untilKept(page);

  await page.reload();
  await expect(findings.getByRole('heading', { name: /^2 findings/ })).toBeVisible();
});
