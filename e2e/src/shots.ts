import { mkdirSync } from 'node:fs';
import { fileURLToPath } from 'node:url';
import { chromium } from '@playwright/test';
import { birchGlb, crateFiles, wallFiles } from '@rammer/core/testing/othersMeshes';
import config from '../playwright.config';
import { Rammer } from './rammer';
import { Sheet } from './sheet';

/** One picture of each main view, from the demo, at 1280 x 800; with names, those alone: `npm run shots -- light night`. */
const only = process.argv.slice(2);
const folder = fileURLToPath(new URL('../../docs/screenshots/', import.meta.url));
mkdirSync(folder, { recursive: true });
const rammer = await Rammer.start();
const browser = await chromium.launch(config.use!.launchOptions);
try {
  const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
  await page.addInitScript(() => localStorage.setItem('rammer-picture', '{"choice":"full","refine":true}'));
  // Without a GPU a frame of the full picture takes seconds, and a click waits for two of them.
  page.setDefaultTimeout(240_000);
  const sheet = new Sheet(page);
  /** Whether one of some pictures is asked for: what leads to others alone is left out. */
  const wants = (...names: string[]) => only.length === 0 || names.some((n) => only.includes(n));
  /** @param refined once the picture at rest is all there */
  const shot = async (name: string, refined = true) => {
    if (!wants(name)) return;
    await page.waitForTimeout(3000);
    // Refined, as a person sees it who leaves the view at rest; what is drawn over the ground is plain.
    const picture = page.getByTestId('picture');
    if (refined && (await picture.count()) > 0 && (await picture.getAttribute('data-tier')) === 'full')
      await page.waitForFunction(() => Number(document.querySelector<HTMLElement>('[data-testid=picture]')?.dataset.refined) >= 32, undefined, {
        timeout: 900_000,
      });
    // The better picture at rest, where there is a view.
    const drawn = page.getByTestId('drawn');
    for (let i = 0; i < 20 && (await drawn.count()) > 0 && Number(await drawn.getAttribute('data-ratio')) < 1; i++) await page.waitForTimeout(300);
    await page.screenshot({ path: `${folder}${name}.png` });
    console.log(`docs/screenshots/${name}.png`);
  };
  await page.goto(rammer.base);
  await page.getByText(/reached, \d+ m/).waitFor({ timeout: 60_000 });
  await shot('levels');
  await page.goto(rammer.base);
  await page.getByRole('button', { name: 'Harrow Ledge', exact: true }).click();
  await sheet.ready();
  if (wants('brief')) {
    await sheet.stage('Brief');
    await shot('brief');
  }
  if (wants('block')) {
    await sheet.look({ view: 'orbit', target: [96, 2, 114], yaw: 34, pitch: -16, distance: 27 }, { stage: 'block' });
    await page.getByLabel('search blocks').fill('loading dock');
    await sheet.rows('blocks').first().click();
    await shot('block');
  }
  if (wants('earth')) {
    await sheet.look({ view: 'orbit', target: [70, 4, 92], yaw: 352, pitch: -24, distance: 52 }, { stage: 'earth' });
    await sheet.brush('raise');
    await sheet.point([72, 4, 84]);
    await shot('earth');
  }
  if (wants('surface')) {
    await sheet.look({ view: 'orbit', target: [96, 1, 118], yaw: 330, pitch: -26, distance: 42 }, { stage: 'surface', overlay: 'none' });
    await page.getByRole('group', { name: 'what the table lists' }).getByRole('button', { name: /rules/ }).click();
    await page.getByRole('grid', { name: 'rules of the ground' }).getByText('wet edge of the pit').click();
    await sheet.point([92, 1, 128]);
    await shot('surface');
  }
  if (wants('build')) {
    // A house of the kit, laid along an outline of six corners; gone again for the pictures after it.
    await sheet.look({ view: 'orbit', target: [104, 6, 76], yaw: 28, pitch: -26, distance: 36 }, { stage: 'build' });
    await page.waitForTimeout(3000);
    await sheet.tool('lay');
    await sheet.field('kit').selectOption({ label: 'shed' });
    for (const name of ['floors', 'stairs', 'roof']) await page.getByRole('button', { name, exact: true }).click();
    await sheet.type('storeys', '2');
    await sheet.type('window each', '2');
    const under: [number, number][] = [
      [97, 80],
      [111, 80],
      [111, 68],
      [105, 68],
      [105, 74],
      [97, 74],
      [97, 80],
    ];
    for (const [x, z] of under) {
      await sheet.click([x, await sheet.heightAt([x, 4.4, z]), z]);
      await page.waitForTimeout(300);
    }
    await sheet.tool('select');
    await page.getByRole('button', { name: 'square', exact: true }).click();
    await shot('build');
    const undone = page.getByTestId('undo');
    for (let i = 0; i < 4 && (await undone.isEnabled()); i++) {
      await undone.click();
      await page.waitForTimeout(500);
    }
  }
  if (wants('dress')) {
    // What lies before the engine shed, by the brush.
    await sheet.look({ view: 'orbit', target: [101, 1, 116], yaw: 342, pitch: -14, distance: 15 }, { stage: 'build' });
    await sheet.tool('brush');
    for (const mesh of ['crate', 'barrel', 'sack'])
      await page
        .getByRole('listbox', { name: 'pieces' })
        .getByRole('option', { name: new RegExp(`^${mesh}`) })
        .first()
        .click();
    await sheet.type('radius', '2');
    await sheet.type('spacing', '1.1');
    await sheet.drag([97.5, await sheet.heightAt([97.5, 1, 117.5]), 117.5], [104, await sheet.heightAt([104, 1, 118.5]), 118.5], 12);
    await page.waitForTimeout(1500);
    await shot('dress');
    await page.getByTestId('undo').click();
  }
  if (wants('library')) {
    const files = Object.entries({ ...(await crateFiles()), ...wallFiles(), 'birch.glb': await birchGlb() });
    await page.getByLabel('mesh files').setInputFiles(files.map(([name, bytes]) => ({ name, mimeType: '', buffer: Buffer.from(bytes) })));
    const card = page.getByRole('region', { name: 'meshes coming in' });
    await card.getByRole('option', { name: /birch/ }).click();
    await card.getByRole('button', { name: 'make 3' }).click();
    await card.getByRole('button', { name: /^LOD 3/ }).waitFor({ timeout: 30_000 });
    await card.getByRole('button', { name: /^keep all/ }).click();
    await card.waitFor({ state: 'detached', timeout: 60_000 });
    await page.getByRole('button', { name: 'wide', exact: true }).click();
    await page
      .getByRole('listbox', { name: 'assets' })
      .getByRole('option', { name: /birch.*6 mat/ })
      .click();
    await page.waitForTimeout(3000);
    await shot('library');
    await page.getByRole('region', { name: 'library in wide' }).getByRole('button', { name: 'close' }).click();
  }
  if (wants('grow')) {
    await sheet.look({ view: 'stand', target: [97, 0.2, 147], yaw: 338, pitch: -7, distance: 10 }, { stage: 'grow' });
    await sheet.rows('species').filter({ hasText: 'tussock' }).click();
    await sheet.tool('why here');
    await page.mouse.click(700, 520);
    await shot('grow');
  }
  if (wants('density')) {
    await sheet.look({ view: 'orbit', target: [96, 4, 60], yaw: 345, pitch: -38, distance: 78 }, { stage: 'grow', overlay: 'plant density' });
    await sheet.type('all species, at most', '12');
    await page.getByTestId('growing').waitFor({ state: 'detached', timeout: 120_000 });
    await page
      .getByTestId('overlay')
      .getByText(/at the densest/)
      .waitFor({ timeout: 120_000 });
    await page.waitForTimeout(3000);
    await shot('density');
    await page.keyboard.press('Control+z');
    await page.getByLabel('overlay', { exact: true }).selectOption('none');
  }
  if (wants('habitat')) {
    await sheet.look({ view: 'orbit', target: [62, 0, 118], yaw: 20, pitch: -34, distance: 74 }, { stage: 'grow', overlay: 'growth rule' });
    await page.getByRole('group', { name: 'what the table lists' }).getByRole('button', { name: 'habitats' }).click();
    await sheet.rows('habitats').filter({ hasText: 'wet edge' }).click();
    await sheet.tool('outline');
    await page
      .getByTestId('overlay')
      .getByText(/wet edge in full/)
      .waitFor({ timeout: 120_000 });
    await shot('habitat');
    await page.getByLabel('overlay', { exact: true }).selectOption('none');
  }
  if (wants('play', 'walk')) {
    await sheet.look({ view: 'plan', target: [80, 0, 80], yaw: 0, pitch: -90, distance: 168 }, { stage: 'play', overlay: 'walk area' });
    // What is baked before the plants stand is stale when they do.
    await page.waitForTimeout(900);
    await page.getByTestId('growing').waitFor({ state: 'detached', timeout: 180_000 });
    await page.getByTestId('bake').click();
    await page.getByText(/objective reached/).waitFor({ timeout: 90_000 });
    await shot('play');
    await page.getByLabel('overlay').selectOption('none');
    await page.getByRole('button', { name: 'walk from entry' }).click();
    await page.getByTestId('feet').waitFor({ timeout: 60_000 });
    await page.keyboard.down('w');
    await page.waitForTimeout(4000);
    await page.keyboard.up('w');
    await shot('walk', false);
    await page.keyboard.press('Escape');
  }
  // One place in two lightings.
  if (wants('light', 'night')) {
    const lighting = (name: string) => page.getByRole('grid', { name: 'lighting' }).getByText(name, { exact: true }).click();
    await sheet.look({ view: 'stand', target: [132, -0.047, 140], yaw: 332, pitch: 6, distance: 10 }, { stage: 'light', overlay: 'none' });
    await lighting('low evening');
    await shot('light');
    await lighting('moonlit night');
    await page.keyboard.press('Shift+L');
    await shot('night');
    await page.keyboard.press('Shift+L');
    await lighting('clear day');
  }
  // Two places as one sees them who walks there: the first page of the README.
  for (const [name, target, yaw, pitch] of [
    ['place-gate', [128, 0, 147], 346, 3],
    ['place-sheds', [93, 0, 121.5], 348, 6],
  ] as const) {
    if (!wants(name)) continue;
    await sheet.look({ view: 'stand', target: [...target], yaw, pitch, distance: 10 }, { stage: 'light', overlay: 'none' });
    await page.getByRole('button', { name: 'fold the bench' }).click();
    await shot(name);
    await page.getByRole('button', { name: 'open the bench' }).click();
  }
  await sheet.look({ view: 'orbit', target: [82, 5, 80], yaw: 352, pitch: -19, distance: 86 }, { stage: 'cost', overlay: 'none' });
  await sheet.stage('Cost');
  await shot('cost');
  await sheet.stage('Hand over');
  await shot('hand-over');
} finally {
  await browser.close();
  await rammer.stop();
}
