import type { Vec3 } from '@rammer/core/num/vec';
import { expect, Sheet, test } from './sheet';

/**
 * Build from end to end, by hand on the canvas: an engine shed of two storeys is laid on a pad on a slope, dressed, walked into
 * and up; crates are thrown beside it; a siding becomes an assembly of which copies stand; every snag is cleared or accepted.
 */
test('an engine shed is laid on a slope, dressed, walked into and cleared of snags', async ({ page, rammer, faults }) => {
  page.setDefaultTimeout(60_000);
  const sheet = new Sheet(page);
  const bench = page.locator('aside[aria-label=bench]');
  const count = bench.getByTestId('laid-count');
  const pieces = page.getByRole('grid', { name: 'pieces' });
  let actions = 0;
  /** height of the pad, metres */
  let base = 0;
  /** one thing done by hand: a click, a key, a number typed */
  const act = async (work: Promise<unknown>) => {
    actions++;
    await work;
  };
  const type = (name: string, value: string) => act(sheet.type(name, value));
  const click = (...p: Parameters<Sheet['click']>) => act(sheet.click(...p));
  const press = (name: string) => act(bench.getByRole('button', { name, exact: true }).click());
  const tool = (name: string) => act(sheet.tool(name));
  const stage = (name: string) => act(sheet.stage(name));
  const key = (k: string) => act(page.keyboard.press(k));
  const pick = (name: RegExp) => act(page.getByRole('listbox', { name: 'pieces' }).getByRole('option', { name }).first().click());
  const row = (name: RegExp) => pieces.getByRole('row', { name });

  await sheet.newLevel(rammer.base, 'Works');

  await test.step('a pad on a slope', async () => {
    await stage('Earth');
    await act(sheet.lift('rough ground'));
    await type('height', '4');
    await sheet.plan(78, 80, 50, { stage: 'earth', draw: 'fixed' });
    await act(bench.getByRole('button', { name: 'pad', exact: true }).first().click());
    for (const p of [
      [66, 0, 70],
      [92, 0, 70],
      [92, 0, 90],
      [66, 0, 90],
    ] as Vec3[])
      await click(p);
    await key('Enter');
    await stage('Build');
  });

  await test.step('the shed: an outline of four corners, two storeys, floors, stairs and a roof', async () => {
    await tool('lay');
    await act(page.getByLabel('make a kit of').selectOption('shed'));
    await type('storeys', '2');
    for (const name of ['floors', 'stairs', 'roof']) await press(name);
    for (const p of [
      [72, 0, 84],
      [84, 0, 84],
      [84, 0, 76],
      [72, 0, 76],
      [72, 0, 84],
    ] as Vec3[])
      await click(p);
    await tool('select');
    await expect(count).toHaveText(/^\d+ pieces$/);
    expect(Number((await count.textContent())!.split(' ')[0])).toBeGreaterThan(80);
  });

  await test.step('a corner is moved and the outline squared: the roof is whole again', async () => {
    await sheet.pose();
    const handle = (await page.locator('[data-handle="corner 2"]').boundingBox())!;
    const [[x0, y0], [x1, y1]] = await sheet.pixels([84, 0, 84], [86, 0, 84]);
    await act(sheet.dragPixels(handle.x + 7, handle.y + 7, handle.x + 7 + (x1 - x0), handle.y + 7 + (y1 - y0)));
    await press('square');
    await expect(bench.getByText(/roof/).filter({ hasText: 'right angles' })).toHaveCount(0);
  });

  await test.step('a door and three windows; one of them is swapped by hand', async () => {
    base = await sheet.heightAt([76, 0, 88]);
    await sheet.look({ view: 'orbit', target: [78, base + 2, 84], yaw: 0, pitch: -12, distance: 22 }, { stage: 'build' });
    await tool('opening');
    const wall = (x: number, storey: number): Vec3 => [x, base + 1.2 + storey * 3, 84.15];
    await click(wall(75, 0));
    await press('window');
    for (const [x, storey] of [
      [79, 0],
      [75, 1],
      [79, 1],
    ])
      await click(wall(x, storey));
    await tool('select');
    await page.keyboard.down('Alt');
    await click([79.2, base + 5.6, 84.15]);
    await page.keyboard.up('Alt');
    await expect(bench.getByLabel('laid as', { exact: true })).toHaveValue('window');
    await act(bench.getByLabel('laid as', { exact: true }).selectOption('wall'));
    await expect(bench.getByLabel('laid as', { exact: true })).toHaveValue('wall');
    await key('Control+z');
    await expect(bench.getByLabel('laid as', { exact: true })).toHaveValue('window');
  });

  await test.step('its foot is dressed by a seam line, and twelve crates are thrown beside it', async () => {
    await tool('round');
    await act(bench.getByRole('button', { name: 'sack', exact: true }).click());
    await type('apart', '2');
    await sheet.plan(78, 80, 50, { stage: 'build', draw: 'fixed' });
    await tool('round');
    await click([78, 0, 80]);
    await tool('select');
    await expect(count).toHaveText(/^\d+ along it$/);
    await tool('throw');
    await pick(/^crate/);
    await type('radius', '1');
    await click([89, 0, 80]);
    const stop = bench.getByRole('button', { name: 'stop', exact: true });
    await expect(stop).toBeVisible();
    await expect(stop).toHaveCount(0, { timeout: 90_000 });
    await expect(row(/crate/).first()).toBeVisible();
  });

  await test.step('a siding is one assembly; four copies stand along the tramway, one with a wagon of its own', async () => {
    await sheet.plan(70, 96, 40, { stage: 'build', draw: 'fixed' });
    await pick(/^rail track/);
    await click([56, 0, 96]);
    await click([58, 0, 96]);
    await pick(/^wagon/);
    await click([57, 0, 96]);
    await tool('select');
    await act(bench.getByLabel('search pieces').fill('rail'));
    await act(row(/rail track 1/).click());
    await act(row(/rail track 2/).click({ modifiers: ['Control'] }));
    await act(bench.getByLabel('search pieces').fill('wagon'));
    await act(row(/wagon 1/).click({ modifiers: ['Control'] }));
    await type('group', 'siding');
    await act(bench.getByLabel('search pieces').fill('siding'));
    for (const [i, x] of [62, 68, 74, 80].entries()) {
      await act(page.getByRole('button', { name: 'place a copy of siding' }).click());
      await expect(page.getByRole('list', { name: `members of siding copy ${i + 1}` })).toBeVisible();
      await type('x', String(x));
      await type('z', '96');
      await act(page.getByRole('button', { name: 'drop members' }).click());
    }
    const members = page.getByRole('list', { name: 'members of siding copy 4' });
    await act(members.getByRole('button', { name: 'wagon 1', exact: true }).click());
    await type('turn', '180');
    await act(bench.getByLabel('search pieces').fill('wagon'));
    await act(
      row(/wagon 1/)
        .first()
        .click(),
    );
    await type('turn', '15');
    await act(bench.getByLabel('search pieces').fill('siding copy'));
    await act(row(/siding copy 3/).click());
    await act(page.getByRole('list', { name: 'members of siding copy 3' }).getByRole('button', { name: 'wagon 1', exact: true }).click());
    expect(await sheet.number('turn')).toBeCloseTo(15, 1);
    await act(row(/siding copy 4/).click());
    await act(members.getByRole('button', { name: 'wagon 1', exact: true }).click());
    // Its own half turn is laid on what the master has.
    expect(await sheet.number('turn')).toBeCloseTo(-165, 1);
  });

  await test.step('the objective upstairs is reached: through the door and up the stair', async () => {
    await stage('Play');
    await tool('entry');
    await click([75, 0, 88]);
    await tool('objective');
    await click([81, 0, 82]);
    await stage('Build');
    await press('all kinds');
    await act(bench.getByLabel('search pieces').fill('objective'));
    await act(row(/objective/).click());
    await type('base', String(base + 3.2));
    await stage('Play');
    await act(page.getByTestId('bake').click());
    await expect(bench).toContainText('can be reached', { timeout: 90_000 });
  });

  await test.step('every snag is cleared or accepted with a reason', async () => {
    await act(page.getByTestId('snags').click());
    const open = page.getByRole('button', { name: /^accept, because: / });
    const told = await open.evaluateAll((list) => list.map((b) => b.getAttribute('aria-label')));
    // What is wrong is in the meshes and in the wagons that stand through their rails; the house itself is well.
    for (const name of told) expect(name).not.toMatch(/flicker|where they join|floats|doorway|nobody gets|cannot be|no collider/);
    for (let left = told.length; left > 0; left = await open.count()) {
      await act(open.first().click());
      await act(page.getByLabel('accept, because', { exact: true }).fill('as the meshes are'));
      await act(page.getByRole('button', { name: 'accept', exact: true }).click());
      // One reason holds for both open sides of the same mesh.
      await expect.poll(() => open.count()).toBeLessThan(left);
    }
    await expect(sheet.rows('snags').first()).toBeVisible();
  });
  await test.step('in through the door on foot', async () => {
    await sheet.look({ view: 'orbit', target: [75, base, 88], yaw: 0, pitch: -30, distance: 14 }, { stage: 'play' });
    await sheet.point([75, base, 87]);
    await key('Enter');
    await expect(page.getByTestId('view')).toHaveAttribute('data-mode', 'walk', { timeout: 60_000 });
    await page.mouse.move(20, 400);
    const z = async () => Number(/z\s*(-?[\d.]+)/.exec(await page.getByTestId('feet').innerText())![1]);
    actions++;
    await page.keyboard.down('w');
    await expect.poll(z, { timeout: 40_000 }).toBeLessThan(82);
    await page.keyboard.up('w');
    await key('Escape');
  });

  console.log(`works: ${actions} actions`);
  expect(actions).toBeLessThan(120);
  await sheet.saved();
  expect(faults).toEqual([]);
});
