import { readFileSync } from 'node:fs';
import { decode } from 'fast-png';
import { Sheet, expect, test } from './sheet';

/** A sky as Radiance HDR: dim and blue, with a sun in one texel, whose middle is 32.5 / 128 round, 91.4 degrees, and 90 - 18.5 / 64 x 180 = 38 high. */
function skyHdr(): Buffer {
  const [w, h] = [128, 64];
  const bytes = Buffer.alloc(w * h * 4);
  // Rows from the top; columns from north over east.
  const [sunX, sunY] = [32, 18];
  for (let y = 0; y < h; y++) for (let x = 0; x < w; x++) bytes.set(x === sunX && y === sunY ? [255, 240, 200, 138] : [80, 120, 200, 127], (y * w + x) * 4);
  return Buffer.concat([Buffer.from('#?RADIANCE\nFORMAT=32-bit_rle_rgbe\n\n-Y 64 +X 128\n'), bytes]);
}

test('the full picture: chosen, refined at rest and gone at the first input, kept as a still, under a sky of one’s own', async ({ page, rammer }) => {
  await page.setViewportSize({ width: 1100, height: 520 });
  const sheet = new Sheet(page);
  // On bare ground: the demo's 30,000 plants are minutes of full pictures in software, and `npm run shots` draws it.
  await sheet.newLevel(rammer.base, 'Moor');
  const picture = page.getByTestId('picture');
  const drawn = page.getByTestId('drawn');
  const frames = () => drawn.evaluate((e) => Number((e as HTMLElement).dataset.frames));
  await expect(picture).toHaveText(/picture\s*plain/);

  // Somebody chooses the full picture for a machine without a GPU.
  const before = await frames();
  await picture.click();
  await page.getByRole('radio', { name: /^full/ }).check();
  await expect(picture).toHaveAttribute('data-tier', 'full');
  await expect.poll(frames, { timeout: 60_000 }).toBeGreaterThan(before + 1);
  await page.keyboard.press('Escape');
  await expect(page.getByRole('dialog', { name: 'how the level is drawn' })).toHaveCount(0);

  // At rest it refines; a move of the view ends it at once.
  await picture.click();
  await page.getByRole('checkbox', { name: /refine at rest/ }).check();
  await page.keyboard.press('Escape');
  await expect(picture).toHaveAttribute('data-refined', /^\d+$/, { timeout: 60_000 });
  await expect(picture).toHaveText(/refining \d+\/32/);
  const box = (await page.getByTestId('view').boundingBox())!;
  await page.mouse.move(box.x + 300, box.y + 200);
  await page.mouse.wheel(0, 240);
  await expect(picture).not.toHaveAttribute('data-refined', /\d/);
  await picture.click();
  await page.getByRole('checkbox', { name: /refine at rest/ }).uncheck();
  await page.keyboard.press('Escape');

  // What is measured over the ground is drawn plain, and the full picture comes back after it.
  await page.getByLabel('overlay').selectOption('slope');
  await page.waitForTimeout(1500);
  await page.getByLabel('overlay').selectOption('none');

  // A sky of one's own: its sun is the level's.
  await sheet.stage('Light');
  await page.getByText('air: sky, clouds, wind').click();
  await page.getByLabel('panorama of the sky').setInputFiles({ name: 'moor.hdr', mimeType: 'application/octet-stream', buffer: skyHdr() });
  await expect(page.getByTestId('message')).toContainText('its sun stands at 91.4°, 38° high', { timeout: 30_000 });
  await expect(page.getByLabel('sky by')).toHaveValue('panorama');
  await page
    .getByLabel('panorama of the sky')
    .setInputFiles({ name: 'bad.hdr', mimeType: 'application/octet-stream', buffer: Buffer.from('#?RADIANCE\n\n-Y 90000 +X 90000\n') });
  await expect(page.getByTestId('message')).toContainText('bad.hdr: it is 90000 x 90000; at most 8192 x 4096 are read');

  // A still of it, small; one that is ended saves nothing.
  await page.getByLabel('still', { exact: true }).fill('96');
  await page.getByLabel('still', { exact: true }).press('Enter');
  await page.getByLabel('x', { exact: true }).fill('64');
  await page.getByLabel('x', { exact: true }).press('Enter');
  await page.getByRole('button', { name: 'save PNG' }).click();
  await page.getByTestId('end-still').click();
  await expect(page.getByTestId('message')).toContainText('still ended, nothing saved', { timeout: 60_000 });
  const [download] = await Promise.all([page.waitForEvent('download', { timeout: 240_000 }), page.getByRole('button', { name: 'save PNG' }).click()]);
  await expect(page.getByTestId('message')).toContainText('still saved, 96 x 64, 128 frames');
  const still = decode(readFileSync(await download.path()));
  expect([still.width, still.height]).toEqual([96, 64]);
  // The sky stands over the ground: the panorama's dim blue, three times as blue as red.
  const at = (x: number, y: number) => [...still.data.subarray((y * 96 + x) * still.channels, (y * 96 + x) * still.channels + 3)];
  const [r, , b] = at(48, 1);
  expect(b - r, String(at(48, 1))).toBeGreaterThan(30);
  expect(new Set(Array.from({ length: 96 }, (_, x) => at(x, 56).join())).size).toBeGreaterThan(30);
});
