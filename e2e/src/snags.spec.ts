import { expect, Sheet, test } from './sheet';

test('snags are found, gone to, accepted with a reason, and open again when the thing changes; notes stay', async ({ page, rammer }) => {
  const sheet = new Sheet(page);
  await sheet.newLevel(rammer.base, 'Snag yard');
  await sheet.flatYard();
  await sheet.plan(80, 80, 60, { stage: 'block' });
  await page.keyboard.press('r');
  await sheet.click([80, 0, 80]);
  await expect(sheet.rows('blocks')).toHaveCount(1);
  await sheet.type('base', '3');
  await sheet.stage('Play');
  await page.getByTestId('bake').click();
  const count = page.getByTestId('snags');
  await expect(count).toHaveText('2 snags', { timeout: 60_000 });
  await count.click();
  await expect(sheet.rows('snags').filter({ hasText: 'box 1 floats 3.00 m above the ground' })).toHaveCount(1);
  await expect(sheet.rows('snags').filter({ hasText: 'there is no entry marker' })).toHaveCount(1);

  await sheet.rows('snags').filter({ hasText: 'floats' }).click();
  await expect(page.getByTestId('selection')).toBeVisible();
  await page.getByRole('button', { name: /accept, because: box 1 floats/ }).click();
  await expect(page.getByRole('button', { name: 'accept', exact: true })).toBeDisabled();
  await page.getByLabel('accept, because', { exact: true }).fill('it hangs on the gantry');
  await page.getByRole('button', { name: 'accept', exact: true }).click();
  await expect(count).toHaveText('1 snag');
  await expect(sheet.rows('snags').filter({ hasText: 'floats' })).toHaveAttribute('title', 'accepted, because it hangs on the gantry');
  // The thing changes: the acceptance lapses. Undone, it holds again.
  await sheet.stage('Block');
  await sheet.type('turn', '15');
  await expect(count).toHaveText('2 snags');
  await page.keyboard.press('Control+z');

  await sheet.stage('Play');
  await page.getByRole('button', { name: /^notes/ }).click();
  await page.getByTestId('view').locator('canvas').focus();
  await sheet.point([76, 0, 84]);
  await page.keyboard.press('n');
  await page.getByRole('textbox', { name: 'note' }).fill('winch house door goes here');
  await page.keyboard.press('Enter');
  await expect(sheet.rows('notes')).toHaveCount(1);
  await page.getByTestId('view').locator('canvas').focus();
  await sheet.point([70, 0, 84]);
  await page.keyboard.press('Enter');
  await expect(page.getByTestId('view')).toHaveAttribute('data-mode', 'walk', { timeout: 30_000 });
  await page.keyboard.press('n');
  await page.getByRole('textbox', { name: 'note' }).fill('too open from here');
  await page.getByRole('button', { name: 'pin', exact: true }).click();
  await expect(sheet.rows('notes')).toHaveCount(2);
  await page.keyboard.press('Escape');
  await sheet.saved();
  await page.reload();
  await sheet.ready();
  await sheet.stage('Play');
  await page.getByRole('button', { name: /^notes/ }).click();
  await expect(sheet.rows('notes').first()).toContainText('winch house door goes here');
  await expect(sheet.rows('notes')).toHaveCount(2);
});
