import AxeBuilder from '@axe-core/playwright';
import { build } from 'vite';
import { fileURLToPath } from 'node:url';
import { bits } from './bits';
import { expect, Sheet, test } from './sheet';

test('every view is clean for axe and can be used by keyboard', async ({ page, rammer }) => {
  const sheet = new Sheet(page);
  const clean = async (where: string) => {
    const { violations } = await new AxeBuilder({ page }).analyze();
    expect
      .soft([
        where,
        violations.map(
          (v) =>
            `${v.id}: ${v.nodes
              .slice(0, 3)
              .map((n) => n.html.slice(0, 160))
              .join(' | ')}`,
        ),
      ])
      .toEqual([where, []]);
  };
  await page.goto(rammer.base);
  await expect(page.getByRole('button', { name: 'Harrow Ledge', exact: true })).toBeVisible();
  await clean('Levels');
  await page.goto(`${rammer.base}/new`);
  await expect(page.getByRole('heading', { name: 'New level' })).toBeVisible();
  await clean('New level');
  await page.goto(rammer.base);
  await page.getByRole('button', { name: 'Harrow Ledge', exact: true }).click();
  await sheet.ready();
  for (const [key, name] of [
    ['1', 'Brief'],
    ['2', 'Block'],
    ['3', 'Earth'],
    ['4', 'Surface'],
    ['5', 'Build'],
    ['6', 'Grow'],
    ['7', 'Play'],
    ['8', 'Light'],
    ['9', 'Cost'],
    ['0', 'Hand over'],
  ]) {
    await page.keyboard.press(key);
    await expect(page.getByRole('heading', { name, level: 1 })).toBeVisible();
    await clean(name);
  }
  await page.keyboard.press('2');
  await page.keyboard.press('Control+a');
  await expect(page.locator('aside[aria-label=bench]')).toContainText(/(\d+) of \1 selected/);
  await clean('Block, all selected');
  await page.getByRole('button', { name: 'arrange' }).click();
  await clean('Block, arrange');
  await page.keyboard.press('Shift+Slash');
  await expect(page.getByRole('dialog')).toContainText('walk from the pointer');
  await clean('keys');
  await page.keyboard.press('Escape');
  await expect(page.getByRole('dialog')).toHaveCount(0);
  await page.keyboard.press('Control+k');
  await page.keyboard.type('work li');
  await page.waitForTimeout(400);
  await clean('finder');
  await page.keyboard.press('Enter');
  await expect(page.getByRole('banner').getByRole('button', { name: 'work light' })).toHaveAttribute('aria-pressed', 'true');
  // The Night sheet: the same pages, the same rules, and it is still there after a reload.
  await page.keyboard.press('Shift+L');
  for (const key of ['2', '3', '4', '5', '6', '7', '9']) {
    await page.keyboard.press(key);
    await clean(`Night, stage ${key}`);
  }
  await page.goto(rammer.base);
  await expect(page.locator('html')).toHaveAttribute('data-theme', 'night');
  await clean('Night, Levels');
});

test('an address that is nothing and a level that is gone say so', async ({ page, rammer, faults }) => {
  await page.goto(`${rammer.base}/nowhere/at/all`);
  await expect(page.getByText('There is nothing at this address')).toBeVisible();
  await page.goto(`${rammer.base}/levels/00000000-0000-4000-8000-000000000000`);
  await expect(page.getByRole('alert')).toContainText('there is no such level');
  expect(faults.splice(0).every((f) => f.includes('status of 404'))).toBe(true);
});

test('Node and the browser compute the same bits', async ({ browser }) => {
  const bundle = await build({
    configFile: false,
    logLevel: 'silent',
    root: fileURLToPath(new URL('.', import.meta.url)),
    build: { write: false, minify: false, lib: { entry: fileURLToPath(new URL('./bits.ts', import.meta.url)), formats: ['iife'], name: 'bits' } },
  });
  const [output] = Array.isArray(bundle) ? bundle : [bundle];
  const code = 'output' in output ? output.output[0].code : '';
  const page = await browser.newPage();
  await page.addScriptTag({ content: code });
  const there = await page.evaluate('bits.bits()');
  await page.close();
  const here = await bits();
  expect(there).toEqual(here);
  // What was kept up through edits is what comes of nothing.
  expect(here.stands[0]).toBe(here.stands[1]);
  expect(here.nodes[0]).toBe(here.nodes[1]);
});
