import { mkdirSync } from 'node:fs';
import { fileURLToPath } from 'node:url';
import { chromium } from '@playwright/test';
import config from '../playwright.config';
import { Rammer } from './rammer';
import { Sheet } from './sheet';

/** One picture of each main view, from the demo, at 1280 x 800. */
const folder = fileURLToPath(new URL('../../docs/screenshots/', import.meta.url));
mkdirSync(folder, { recursive: true });
const rammer = await Rammer.start();
const browser = await chromium.launch(config.use!.launchOptions);
try {
  const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
  const sheet = new Sheet(page);
  const shot = async (name: string) => {
    await page.waitForTimeout(1800);
    await page.screenshot({ path: `${folder}${name}.png` });
    console.log(`docs/screenshots/${name}.png`);
  };
  await page.goto(rammer.base);
  await page.getByText(/reached, \d+ m/).waitFor({ timeout: 60_000 });
  await shot('levels');
  await page.getByRole('link', { name: 'New level' }).click();
  await page.getByLabel('name', { exact: true }).fill('Upper dressing floor');
  await shot('new-level');
  await page.goto(rammer.base);
  await page.getByRole('button', { name: 'Harrow Ledge', exact: true }).click();
  await sheet.ready();
  await sheet.stage('Brief');
  await shot('brief');
  await sheet.look({ view: 'orbit', target: [96, 2, 114], yaw: 34, pitch: -16, distance: 27 }, { stage: 'block' });
  await sheet.rows('blocks').first().click();
  await shot('block');
  await sheet.look({ view: 'orbit', target: [70, 4, 92], yaw: 352, pitch: -24, distance: 52 }, { stage: 'earth' });
  await sheet.tool('raise');
  await sheet.point([72, 4, 84]);
  await shot('earth');
  await sheet.look({ view: 'plan', target: [80, 0, 80], yaw: 0, pitch: -90, distance: 168 }, { stage: 'play', reading: 'walk area' });
  await page.getByTestId('bake').click();
  await page.getByText(/objective reached/).waitFor({ timeout: 90_000 });
  await shot('play');
  await page.getByLabel('reading').selectOption('none');
  await page.getByRole('button', { name: 'walk from entry' }).click();
  await page.getByTestId('feet').waitFor({ timeout: 60_000 });
  await page.keyboard.down('w');
  await page.waitForTimeout(4000);
  await page.keyboard.up('w');
  await shot('walk');
  await page.keyboard.press('Escape');
  await sheet.look({ view: 'orbit', target: [82, 5, 80], yaw: 352, pitch: -19, distance: 86 }, { stage: 'light', reading: 'none' });
  await shot('light');
  await sheet.stage('Hand over');
  await shot('hand-over');
} finally {
  await browser.close();
  await rammer.stop();
}
