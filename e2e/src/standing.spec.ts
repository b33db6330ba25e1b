import { expect, Sheet, test } from './sheet';

/** What stands: tilted, grouped whatever it is, copied with members of its own, put back, pasted and found in one list. */
test('a mixed corner is tilted, grouped, copied, and its copies keep what is their own', async ({ page, rammer, faults }) => {
  const sheet = new Sheet(page);
  const bench = page.locator('aside[aria-label=bench]');
  const view = page.getByTestId('view').locator('canvas');
  const pieces = sheet.rows('pieces');
  const row = (name: RegExp) => page.getByRole('grid', { name: 'pieces' }).getByRole('row', { name });
  const members = page.getByRole('list', { name: 'members of corner copy 1' });

  await sheet.newLevel(rammer.base, 'Standing yard');
  await sheet.flatYard();
  await sheet.plan(80, 80, 40, { stage: 'block', draw: 'fixed' });

  await test.step('a box leans by typed degrees; the section and the snags go by how it lies', async () => {
    await view.focus();
    await page.keyboard.press('r');
    await sheet.click([76, 0, 84]);
    await page.keyboard.press('m');
    await sheet.rows('blocks').first().click();
    await sheet.type('length', '4');
    await sheet.type('tilt z', '30');
    expect(await sheet.number('tilt z')).toBeCloseTo(30, 1);
    await sheet.type('turn', '90');
    expect(await sheet.number('tilt z')).toBeCloseTo(30, 1);
    await page.keyboard.press('Control+z');
    expect(await sheet.number('turn')).toBe(0);
  });

  await test.step('a ring about its own length tilts it by hand, 15 degrees a step', async () => {
    await sheet.look({ view: 'orbit', target: [76, 1, 84], yaw: 20, pitch: -25, distance: 14 });
    await sheet.rows('blocks').first().click();
    await view.focus();
    await page.keyboard.press('t');
    const ring = page.locator('[data-handle="tilt X"]');
    await expect(ring).toBeVisible();
    const grip = (await ring.locator('circle').boundingBox())!;
    await page.mouse.move(grip.x + grip.width / 2, grip.y + grip.height / 2);
    await page.mouse.down();
    await page.mouse.move(grip.x + grip.width / 2 + 6, grip.y - 60, { steps: 5 });
    await page.mouse.up();
    const tilted = await sheet.number('tilt x');
    expect(Math.abs(tilted)).toBeGreaterThan(5);
    await page.keyboard.press('Control+z');
    expect(await sheet.number('tilt x')).toBeCloseTo(0, 1);
    await sheet.plan(80, 80, 40, { stage: 'build' });
  });

  await test.step('two pieces and the box become one group, whatever they are, in one list of all kinds', async () => {
    const library = page.getByRole('listbox', { name: 'pieces' });
    await library.getByRole('option', { name: /^wall/ }).click();
    await sheet.click([81.3, 0, 76.2]);
    await sheet.click([83.2, 0, 75.9]);
    await sheet.tool('select');
    await page.getByRole('button', { name: 'all kinds' }).click();
    await expect(pieces).toHaveCount(3);
    await row(/wall 1/).click();
    await row(/wall 2/).click({ modifiers: ['Control'] });
    await row(/box 1/).click({ modifiers: ['Control'] });
    await expect(bench.getByText('3 selected, 2 kinds')).toBeVisible();
    await bench.getByLabel('group', { exact: true }).fill('corner');
    await page.keyboard.press('Enter');
    await expect(row(/corner/).first()).toContainText('3');
  });

  await test.step('a copy of it has its members; one is moved and tilted there alone, and follows its master else', async () => {
    await page.getByRole('button', { name: 'place a copy of corner' }).click();
    await expect(members.getByRole('listitem')).toHaveCount(3);
    await sheet.type('x', '60');
    await sheet.type('z', '70');
    await members.getByRole('button', { name: 'wall 1', exact: true }).click();
    await expect(bench.getByText('wall 1, in corner copy 1')).toBeVisible();
    const before = await sheet.number('x');
    await sheet.type('tilt x', '45');
    await sheet.type('base', '1.5');
    await row(/corner copy 1/).click();
    await expect(members.getByRole('listitem').filter({ hasText: 'wall 1' })).toContainText('move, tilt');
    // The master goes two metres east: so does the member, tilted and raised as it is.
    await row(/wall 1/).click();
    await sheet.type('x', String((await sheet.number('x')) + 2));
    await row(/corner copy 1/).click();
    await members.getByRole('button', { name: 'wall 1', exact: true }).click();
    expect(await sheet.number('x')).toBeCloseTo(before + 2, 2);
    expect(await sheet.number('tilt x')).toBeCloseTo(45, 1);
    expect(await sheet.number('base')).toBeCloseTo(1.5, 2);
  });

  await test.step('one is taken out there, dropped members stand on the ground, all is as the master again', async () => {
    await row(/corner copy 1/).click();
    await members.getByRole('button', { name: 'wall 2', exact: true }).click();
    await bench.getByRole('button', { name: 'take out', exact: true }).click();
    await row(/corner copy 1/).click();
    await expect(members.getByRole('listitem').filter({ hasText: 'wall 2' })).toContainText('out');
    await page.getByRole('button', { name: 'drop members' }).click();
    await members.getByRole('button', { name: 'wall 1', exact: true }).click();
    expect(await sheet.number('base')).toBeLessThan(1.4);
    await row(/corner copy 1/).click();
    await bench.getByRole('button', { name: 'as master', exact: true }).click();
    await expect(members.getByText('move')).toHaveCount(0);
    await page.keyboard.press('Control+z');
    await expect(members.getByText(/move/).first()).toBeVisible();
  });

  await test.step('it is kept, pasted elsewhere, and there again after a reload', async () => {
    await row(/corner copy 1/).click();
    await view.focus();
    await page.keyboard.press('Control+c');
    await sheet.point([90, 0, 92]);
    await page.keyboard.press('Control+v');
    await expect(row(/corner copy 2/)).toHaveCount(1);
    expect(await sheet.number('x')).toBeCloseTo(90, 0);
    await sheet.saved();
    await page.reload();
    await sheet.ready();
    await expect(row(/corner copy 2/)).toHaveCount(1);
    await row(/corner copy 2/).click();
    await expect(page.getByRole('list', { name: 'members of corner copy 2' })).toContainText('move');
    await bench.getByRole('button', { name: 'detach', exact: true }).click();
    await expect(row(/corner copy 2$/)).toHaveCount(0);
    expect(faults).toEqual([]);
  });
});
