import { readFileSync } from 'node:fs';
import type { Page } from '@playwright/test';
import { randomStream } from '@rammer/core/num/hash';
import { applyEdit, commitChanges, type Edit } from '@rammer/core/level/edits/index';
import { makeLevel } from '@rammer/core/level/level';
import type { LevelObject } from '@rammer/core/level/objects';
import { expect, Sheet, test } from './sheet';

test.use({ quiet: false });

const KILLS = 30;

/** The edit log of a level, from the server. */
async function log(page: Page, base: string, id: string): Promise<{ version: number; edit: Edit }[]> {
  return (await (await page.request.get(`${base}/api/levels/${id}/edits?after=0`)).json()).edits;
}

/**
 * Random edits while server and database are killed and started again and the tab is reloaded. What the
 * page has acknowledged (its undo count and its numbers) must be there in the end, once; the level must
 * be the one that its edit log makes; and nothing may be left waiting.
 */
test(`edits survive ${KILLS} kills of server, database and tab`, async ({ page, rammer }) => {
  test.setTimeout(900_000);
  const random = randomStream(20261125);
  const sheet = new Sheet(page);
  await sheet.newLevel(rammer.base, 'Durable yard');
  await sheet.plan(80, 80, 60, { stage: 'block' });
  for (const x of [70, 80, 90]) {
    await page.keyboard.press('r');
    await sheet.click([x, 0, 80]);
    await expect(sheet.rows('blocks')).toHaveCount((x - 60) / 10);
  }
  await sheet.saved();
  const id = /levels\/([0-9a-f-]+)/.exec(page.url())![1];
  const start = (await (await page.request.get(`${rammer.base}/api/levels/${id}`)).json()) as { version: number };
  const before: LevelObject[] = (await (await page.request.get(`${rammer.base}/api/levels/${id}`)).json()).objects;

  let made = 0;
  let kills = 0;
  const counts = { server: 0, database: 0, tab: 0, 'server and database': 0 };
  /** A few edits by the keyboard: nudges, a new block, a hide. Each raises the undo count by one. */
  const work = async (n: number) => {
    for (let i = 0; i < n; i++) {
      const r = random();
      const edits = await sheet.undoCount();
      if (r < 0.8) {
        await sheet
          .rows('blocks')
          .nth(Math.floor(random() * 3))
          .click();
        await page.getByTestId('view').locator('canvas').focus();
        await page.keyboard.press(['ArrowLeft', 'ArrowRight', 'ArrowUp', 'ArrowDown'][Math.floor(random() * 4)]);
      } else if (r < 0.9) {
        await sheet.rows('blocks').nth(0).click();
        await page.getByTestId('view').locator('canvas').focus();
        await page.keyboard.press('c');
      } else {
        await sheet.rows('blocks').nth(1).click();
        await page.getByTestId('view').locator('canvas').focus();
        await page.keyboard.press('h');
      }
      await expect.poll(() => sheet.undoCount()).toBe(edits + 1);
      await sheet.kept();
      made++;
    }
  };

  while (kills < KILLS) {
    const r = random();
    if (r < 0.4) {
      const working = work(1 + Math.floor(random() * 3));
      await rammer.killServer();
      await working;
      await work(1);
      await rammer.serve();
      counts.server++;
    } else if (r < 0.7) {
      const working = work(1 + Math.floor(random() * 3));
      if (!rammer.killDatabase()) {
        await working;
        continue;
      }
      await working;
      await work(1);
      counts.database++;
    } else if (r < 0.85) {
      await work(1);
      await rammer.killServer();
      rammer.killDatabase();
      await work(1);
      await rammer.serve();
      counts['server and database']++;
    } else {
      await work(2);
      // The page is left in the middle of sending; what was acknowledged is on its disk.
      const edits = await sheet.undoCount();
      await page.reload();
      await sheet.ready();
      await expect.poll(() => sheet.undoCount()).toBe(edits);
      counts.tab++;
    }
    kills++;
  }
  await sheet.saved();
  // One more reload: what is shown now comes from the server alone.
  await page.reload();
  await sheet.ready();
  await sheet.saved();
  console.log(`${made} edits over ${kills} kills: ${JSON.stringify(counts)}`);

  const entries = await log(page, rammer.base, id);
  expect(new Set(entries.map((e) => e.edit.id)).size).toBe(entries.length);
  expect(entries.map((e) => e.version)).toEqual(entries.map((_, i) => i + 1));
  expect(entries.length - start.version).toBe(made);
  // The level is what its log makes of it, object by object.
  const level = makeLevel(before);
  for (const { version, edit } of entries) {
    if (version <= start.version) continue;
    const applied = applyEdit(level, edit);
    expect(applied.ok).toBe(true);
    if (applied.ok) commitChanges(level, applied.changes);
  }
  const after: LevelObject[] = (await (await page.request.get(`${rammer.base}/api/levels/${id}`)).json()).objects;
  const sorted = (list: Iterable<LevelObject>) => [...list].sort((a, b) => (a.id < b.id ? -1 : 1));
  expect(sorted(after)).toEqual(sorted(level.objects.values()));
  // The rows of a long table are made as they come into sight: its header has the count.
  await expect(page.getByText(`${after.filter((o) => o.kind === 'block').length} blocks`, { exact: true })).toBeVisible();
});

test('a lost answer: committed, then the connection is cut', async ({ page, rammer }) => {
  const sheet = new Sheet(page);
  await sheet.newLevel(rammer.base, 'Lost answers');
  await sheet.plan(80, 80, 60, { stage: 'block' });
  const id = /levels\/([0-9a-f-]+)/.exec(page.url())![1];
  // The server gets each request and answers, but the first three answers never arrive.
  let lost = 0;
  await page.route('**/edits', async (route) => {
    if (route.request().method() !== 'POST' || lost >= 3) return route.continue();
    lost++;
    const answer = await route.fetch();
    expect(answer.status()).toBe(200);
    await route.abort('connectionreset');
  });
  await page.keyboard.press('r');
  await sheet.click([80, 0, 80]);
  await expect(sheet.rows('blocks')).toHaveCount(1);
  await expect(page.getByTestId('save')).toHaveAttribute('data-state', 'offline');
  await sheet.type('turn', '30');
  await expect.poll(() => sheet.undoCount()).toBe(2);
  await sheet.kept();
  // A reload in the middle: what waits may be on the server already; it is neither lost nor doubled.
  await page.reload();
  await sheet.ready();
  await sheet.saved();
  expect(lost).toBe(3);
  await expect(sheet.rows('blocks')).toHaveCount(1);
  await sheet.rows('blocks').first().click();
  await expect.poll(() => sheet.number('turn')).toBe(30);
  const entries = await log(page, rammer.base, id);
  expect(entries.map((e) => e.edit.kind)).toEqual(['add', 'set']);
});

test('what the browser cannot keep stops editing and is said plainly', async ({ page, rammer }) => {
  const sheet = new Sheet(page);
  await sheet.newLevel(rammer.base, 'Full disk');
  await sheet.plan(80, 80, 60, { stage: 'block' });
  // The browser refuses every further write, as it does when its disk is full.
  await page.evaluate(() => {
    IDBObjectStore.prototype.add = () => {
      throw new DOMException('no room', 'QuotaExceededError');
    };
  });
  await page.keyboard.press('r');
  await sheet.click([80, 0, 80]);
  await expect(page.getByTestId('save')).toHaveAttribute('data-state', 'storage-full');
  await expect(page.getByTestId('message')).toContainText('QuotaExceededError');
  await page.getByTestId('view').locator('canvas').focus();
  await page.keyboard.press('Delete');
  await expect(sheet.rows('blocks')).toHaveCount(1);
});

test('opened while the server is away it tries again, and writes as before', async ({ page, rammer }) => {
  const sheet = new Sheet(page);
  await sheet.newLevel(rammer.base, 'Late server');
  await sheet.plan(80, 80, 60, { stage: 'block' });
  await rammer.killServer();
  await page.keyboard.press('r');
  await sheet.click([80, 0, 80]);
  await sheet.kept();
  // The app itself is there, as from a cache; its server is not.
  await rammer.serve();
  let away = true;
  await page.route('**/api/levels/**', (route) => (away ? route.abort('connectionrefused') : route.continue()));
  await page.reload();
  await expect(page.getByText('Rammer tries again by itself')).toBeVisible();
  away = false;
  await sheet.ready();
  await sheet.saved();
  await expect(sheet.rows('blocks')).toHaveCount(1);
  await sheet.rows('blocks').first().click();
  await sheet.type('turn', '30');
  await sheet.saved();
});

test('an edit the server stumbles over is set aside, shown, kept as a file, and sent again', async ({ page, rammer }) => {
  const sheet = new Sheet(page);
  await sheet.newLevel(rammer.base, 'Stumbling');
  await sheet.plan(80, 80, 60, { stage: 'block' });
  // The server answers 500 wherever a box is among the edits; all else it takes.
  await page.route('**/edits', async (route) => {
    const sick = route.request().method() === 'POST' && /"label":"[^"]*box/.test(route.request().postData() ?? '');
    await (sick
      ? route.fulfill({
          status: 500,
          contentType: 'application/problem+json',
          body: JSON.stringify({ code: 'internal', title: 'something broke', status: 500 }),
        })
      : route.continue());
  });
  await page.keyboard.press('r');
  await sheet.click([80, 0, 80]);
  await sheet.stage('Brief');
  await page.locator('aside[aria-label=bench]').getByLabel('level', { exact: true }).fill('Stumbling on');
  await page.keyboard.press('Enter');
  const aside = page.getByRole('button', { name: '1 set aside' });
  await expect(aside).toBeVisible({ timeout: 20_000 });
  await expect(page.getByTestId('message')).toContainText('set aside, not saved');
  // What is disjoint went on; the box is no part of the level, nor of the undo list.
  await sheet.saved();
  await expect(page.getByText('Stumbling on').first()).toBeVisible();
  await sheet.stage('Block');
  await expect(page.getByText('0 blocks', { exact: true })).toBeVisible();
  await aside.click();
  const dialog = page.getByRole('dialog', { name: 'edits set aside' });
  await expect(dialog.getByRole('listitem')).toContainText(['set box 1the server failed at it again and again']);
  const [file] = await Promise.all([page.waitForEvent('download'), dialog.getByRole('button', { name: 'Save to a file' }).click()]);
  expect(JSON.parse(readFileSync((await file.path())!, 'utf8'))).toMatchObject([
    { why: expect.stringContaining('the server failed at it'), edit: { kind: 'add' } },
  ]);
  await page.unroute('**/edits');
  await dialog.getByRole('button', { name: 'Send again' }).click();
  await expect(dialog).toBeHidden();
  await expect(page.getByText('1 block', { exact: true })).toBeVisible();
  await sheet.saved();
  await page.reload();
  await sheet.ready();
  await expect(page.getByText('1 block', { exact: true })).toBeVisible();
});
