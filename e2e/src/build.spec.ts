import { expect, Sheet, test } from './sheet';

/** Build: a kit is made, a line drawn, its corner dragged, a wall opened, a piece changed by hand; a block becomes a laid house. */
test('a kit is laid along lines that stay what is edited', async ({ page, rammer, faults }) => {
  page.setDefaultTimeout(60_000);
  const sheet = new Sheet(page);
  const bench = page.locator('aside[aria-label=bench]');
  const view = page.getByTestId('view').locator('canvas');
  const count = bench.getByTestId('laid-count');
  /** how many the table lists, seen or not */
  const listed = async () =>
    Number(
      (await bench
        .getByText(/^\d+ pieces?$/)
        .last()
        .textContent())!.split(' ')[0],
    );
  const row = (name: RegExp) => page.getByRole('grid', { name: 'pieces' }).getByRole('row', { name });

  await sheet.newLevel(rammer.base, 'Kit yard');
  await sheet.flatYard();
  await sheet.plan(80, 80, 40, { stage: 'build', draw: 'fixed' });

  await test.step('a kit is made of meshes that share a tag; its joins are found and drawn', async () => {
    await sheet.tool('lay');
    await page.getByLabel('make a kit of').selectOption('shed');
    await expect(bench.getByLabel('kit', { exact: true })).toHaveValue(/./);
    await bench.getByRole('button', { name: 'parts', exact: true }).click();
    const kit = page.getByRole('region', { name: 'kit shed' });
    await expect(kit.getByLabel('wall is laid as', { exact: true })).toHaveValue('wall');
    await expect(kit.getByTestId('join-marks').locator('text')).toHaveText(['1 wall', '2 wall'], { timeout: 30_000 });
    await expect(kit.getByLabel('x', { exact: true }).first()).toHaveValue('-1');
    // A join dragged on the picture goes along; found anew it is where the box has it.
    const dot = (await kit.locator('[data-join="place 1"]').boundingBox())!;
    await sheet.dragPixels(dot.x + dot.width / 2, dot.y + dot.height / 2, dot.x + 50, dot.y + 10);
    await expect(kit.getByLabel('x', { exact: true }).first()).not.toHaveValue('-1');
    const tip = (await kit.locator('[data-join="way 1"]').boundingBox())!;
    const way = kit.getByLabel('to', { exact: true }).first();
    await sheet.dragPixels(tip.x + tip.width / 2, tip.y + tip.height / 2, tip.x + 40, tip.y + 60);
    await expect(way).not.toHaveValue('180');
    await kit.getByRole('button', { name: 'find', exact: true }).click();
    await expect(way).toHaveValue('180');
    await expect(kit.getByLabel('x', { exact: true }).first()).toHaveValue('-1');
    await page.keyboard.press('Escape');
    await expect(kit).toHaveCount(0);
  });

  await test.step('a line is drawn corner by corner, with a typed length; what is left over is told', async () => {
    await sheet.click([70, 0, 84]);
    await sheet.click([82, 0, 84]);
    await sheet.point([82, 0, 80]);
    await page.keyboard.type('4.6');
    await page.keyboard.press('Enter');
    await page.keyboard.press('Enter');
    // 6 walls, and 2 stretched to 2.3 m, with a quoin between.
    await sheet.tool('select');
    await expect(count).toHaveText('9 pieces');
    await bench.getByLabel('remainder', { exact: true }).selectOption('leave');
    await expect(count).toHaveText('9 pieces, 0.60 m left');
    await expect(page.getByTestId('laid-line').locator('text')).toHaveText('0.60 left');
    await bench.getByLabel('remainder', { exact: true }).selectOption('filler');
    await expect(count).toHaveText('10 pieces');
    // Bent to its curve each length is a mesh of its own; straight again it is what it was.
    const draws = async () => Number(await page.getByTestId('drawn').getAttribute('data-drawn-draws'));
    const straight = await draws();
    await bench.getByRole('button', { name: 'curved', exact: true }).click();
    await bench.getByRole('button', { name: 'bent', exact: true }).click();
    await expect.poll(draws).toBeGreaterThan(straight);
    await page.keyboard.press('Control+z');
    await page.keyboard.press('Control+z');
    await expect.poll(draws).toBe(straight);
    await expect(count).toHaveText('10 pieces');
  });

  await test.step('a corner is dragged and the line laid anew; one undo brings it back', async () => {
    await sheet.pose();
    const handle = page.locator('[data-handle="corner 1"]');
    const box = (await handle.boundingBox())!;
    const [[x0], [x1]] = await sheet.pixels([70, 0, 84], [66, 0, 84]);
    await sheet.dragPixels(box.x + 7, box.y + 7, box.x + 7 + (x1 - x0), box.y + 7);
    await expect(count).toHaveText('12 pieces');
    await page.keyboard.press('Control+z');
    await expect(count).toHaveText('10 pieces');
  });

  await test.step('a wall becomes a door with a click, and is selected by itself with Alt: what is set on it is its own', async () => {
    await sheet.look({ view: 'orbit', target: [76, 1, 84], yaw: 0, pitch: -25, distance: 22 });
    await sheet.tool('opening');
    await sheet.click([75, 1.5, 84.15]);
    await sheet.tool('select');
    await page.keyboard.down('Alt');
    await sheet.click([74.3, 1.5, 84.15]);
    await page.keyboard.up('Alt');
    await expect(bench.getByLabel('laid as', { exact: true })).toHaveValue('door');
    await sheet.type('turn', '10');
    await bench.getByRole('button', { name: 'the line', exact: true }).click();
    await expect(bench.getByRole('button', { name: '1 by hand: as laid' })).toBeVisible();
    // The line is moved: what is its own goes along.
    await bench.getByLabel('remainder', { exact: true }).selectOption('stretch');
    await expect(bench.getByRole('button', { name: '1 by hand: as laid' })).toBeVisible();
    await bench.getByRole('button', { name: '1 by hand: as laid' }).click();
    await expect(bench.getByRole('button', { name: 'as laid', exact: true })).toBeDisabled();
  });

  await test.step('a piece of the kit locks join to join with what stands, and says what it meets', async () => {
    await sheet.plan(80, 80, 40, { stage: 'build', draw: 'fixed' });
    await page.getByRole('listbox', { name: 'pieces' }).getByRole('option', { name: /^wall/ }).click();
    await sheet.point([68.7, 0, 84.3]);
    await expect(page.getByTestId('marks')).toContainText(/meets shed 1: \w+ 1.1/);
    await sheet.click([68.7, 0, 84.3]);
    await sheet.tool('select');
    await expect.poll(() => sheet.number('x')).toBeCloseTo(69, 3);
  });

  await test.step('a block is laid over: its outline becomes a house of its storeys and is taken out', async () => {
    await sheet.stage('Block');
    await view.focus();
    await page.keyboard.press('r');
    for (const [name, v] of [
      ['length', '8'],
      ['height', '6'],
      ['width', '4'],
    ])
      await sheet.type(name, v);
    await sheet.click([90, 0, 70]);
    await page.keyboard.press('m');
    await sheet.stage('Build');
    await sheet.tool('lay');
    await bench.getByRole('button', { name: 'roof', exact: true }).click();
    await bench.getByLabel('lay along').selectOption({ label: 'block box 1' });
    await expect(row(/shed 2/)).toHaveCount(1);
    await sheet.tool('select');
    await expect(count).toHaveText(/^\d+ pieces$/);
    // Two storeys of 12 walls and 4 quoins, 8 roofs, 4 ridges where the kit has them.
    expect(Number((await count.textContent())!.split(' ')[0])).toBeGreaterThanOrEqual(40);
  });

  await test.step('a brush sets pieces that keep their spacing, rolls them again, and takes them away with Shift', async () => {
    await sheet.plan(80, 80, 60, { stage: 'build', draw: 'fixed' });
    await sheet.tool('brush');
    await page
      .getByRole('listbox', { name: 'pieces' })
      .getByRole('option', { name: /^crate/ })
      .click();
    await expect(page.getByRole('list', { name: 'in the brush' }).getByRole('listitem')).toHaveCount(1);
    await sheet.type('spacing', '1.5');
    const before = await listed();
    await sheet.drag([56, 0, 96], [68, 0, 96], 10);
    await expect.poll(listed).toBeGreaterThan(before + 8);
    const edits = await sheet.undoCount();
    await page.keyboard.press('r');
    await expect.poll(() => sheet.undoCount()).toBe(edits + 1);
    await expect.poll(listed).toBeGreaterThan(before + 8);
    const first = await listed();
    // Over the same ground there is little room left.
    await sheet.drag([56, 0, 96], [68, 0, 96], 10);
    await expect.poll(listed).toBeLessThan(first + (first - before) * 0.9);
    await page.keyboard.press('Control+z');
    await expect.poll(listed).toBe(first);
    await page.keyboard.down('Shift');
    await sheet.drag([50, 0, 96], [74, 0, 96], 16);
    await page.keyboard.up('Shift');
    await expect.poll(listed).toBeLessThan(before + (first - before) * 0.4);
    await page.keyboard.press('Control+z');
    await expect.poll(listed).toBe(first);
    await page.getByLabel('overlay', { exact: true }).selectOption('collision');
    await expect(page.getByTestId('overlay')).toHaveText(/^\d+ shapes stop a body$/);
    await page.getByLabel('overlay', { exact: true }).selectOption('none');
  });

  await test.step('crates are thrown: they fall, settle and stay as one edit, and are thrown again', async () => {
    await sheet.tool('throw');
    await sheet.type('count', '6');
    await sheet.type('radius', '1');
    const [before, edits] = [await listed(), await sheet.undoCount()];
    const settled = () => expect(bench.getByRole('button', { name: 'stop', exact: true })).toHaveCount(0, { timeout: 60_000 });
    await sheet.click([92, 0, 96]);
    await expect(bench.getByRole('button', { name: 'stop', exact: true })).toBeVisible();
    await settled();
    await expect.poll(listed).toBe(before + 6);
    await page.keyboard.press('r');
    await expect.poll(() => sheet.undoCount(), { timeout: 60_000 }).toBe(edits + 2);
    await expect.poll(listed).toBe(before + 6);
    await page.keyboard.press('Control+z');
    await page.keyboard.press('Control+z');
    await expect.poll(listed).toBe(before);
    // One that is stopped leaves nothing.
    await sheet.click([92, 0, 96]);
    await bench.getByRole('button', { name: 'stop', exact: true }).click();
    await settled();
    expect([await listed(), await sheet.undoCount()]).toEqual([before, edits]);
  });

  await test.step('a seam line is drawn, dressed with what is offered, and picked at the foot of a laid line', async () => {
    await sheet.tool('seam');
    await bench.getByRole('button', { name: 'sack', exact: true }).click();
    await expect(page.getByRole('list', { name: 'along the line' }).getByRole('listitem')).toHaveCount(1);
    await sheet.type('apart', '1');
    await sheet.click([90, 0, 70]);
    await sheet.click([96, 0, 70]);
    await page.keyboard.press('Enter');
    await sheet.tool('select');
    await expect(count).toHaveText('6 along it');
    await sheet.type('apart', '0.5');
    await expect(count).toHaveText('12 along it');
    await page.keyboard.press('Control+z');
    await expect(count).toHaveText('6 along it');
    await sheet.tool('round');
    await sheet.click([76, 0, 84]);
    await sheet.tool('select');
    // Beside 12 m of wall and 4.6 m of it, less the 1.8 m that stay free before the door: two lines, both selected.
    await expect(bench.getByText('2 laid lines')).toBeVisible();
    await expect(count).toHaveText('15 along it');
    await row(/seam 1/).click();
  });

  await test.step('ground that moves under what stands on it offers to drop it again, and drops nothing by itself', async () => {
    await sheet.stage('Earth');
    await sheet.brush('raise');
    const offer = page.getByTestId('redrop');
    await expect(offer).toHaveCount(0);
    await sheet.drag([57, 0, 96], [66, 0, 96], 12);
    await expect(offer).toContainText(/\d+ things? to drop again/);
    const edits = await sheet.undoCount();
    await page.keyboard.press('Control+z');
    await expect(offer).toHaveCount(0);
    await page.keyboard.press('Control+Shift+z');
    await expect(offer).toBeVisible();
    await offer.getByRole('button', { name: 'drop', exact: true }).click();
    await expect(offer).toHaveCount(0);
    expect(await sheet.undoCount()).toBe(edits + 1);
    await sheet.stage('Build');
  });

  await test.step('a coat lies by its rule and is painted on walls of a line, past their joins, and taken away', async () => {
    await sheet.look({ view: 'orbit', target: [79, 1, 84], yaw: 0, pitch: -15, distance: 14 });
    await sheet.tool('coat');
    await bench.getByLabel('add a coat').selectOption('snow');
    const coats = page.getByRole('grid', { name: 'coats' }).getByRole('row');
    await expect(coats).toHaveCount(1);
    await expect(bench.getByTestId('coat-cost')).toContainText(/[\d.]+ ms of GPU, [\d.]+ MB/);
    await expect(bench.getByTestId('coat-cost')).not.toContainText(' 0.00 ms');
    // Upright sides have none by rule.
    const dark = async () => Math.min(...(await sheet.colour([79.4, 1.4, 84.15])));
    const bare = await dark();
    await sheet.type('radius', '0.8');
    await sheet.type('strength', '100');
    const edits = await sheet.undoCount();
    const stroke = async () => {
      await sheet.drag([77.5, 1.4, 84.15], [81, 1.4, 84.15], 12);
      await sheet.point([79, 3.9, 84]);
    };
    await stroke();
    await expect.poll(() => sheet.undoCount()).toBe(edits + 1);
    await expect.poll(dark).toBeGreaterThan(bare + 40);
    await page.keyboard.press('Control+z');
    await expect.poll(async () => Math.abs((await dark()) - bare)).toBeLessThan(8);
    await page.keyboard.press('Control+Shift+z');
    await expect.poll(dark).toBeGreaterThan(bare + 40);
    // Its paint goes and comes with its coat.
    await coats.first().getByRole('button', { name: 'turn snow off' }).click();
    await expect.poll(async () => Math.abs((await dark()) - bare)).toBeLessThan(8);
    await coats.first().getByRole('button', { name: 'turn snow on' }).click();
    await expect.poll(dark).toBeGreaterThan(bare + 40);
    await page.keyboard.down('Shift');
    await stroke();
    await page.keyboard.up('Shift');
    await expect.poll(async () => Math.abs((await dark()) - bare)).toBeLessThan(12);
    await page.keyboard.press('Control+z');
    await expect.poll(dark).toBeGreaterThan(bare + 40);
    // One condition more, typed.
    await bench.getByRole('button', { name: 'condition', exact: true }).click();
    await expect(bench.getByLabel('what the condition goes by')).toHaveCount(4);
    await sheet.tool('select');
  });

  await test.step('a reload shows the same lines', async () => {
    await sheet.saved();
    const was = await listed();
    await page.reload();
    await sheet.ready();
    await expect.poll(listed).toBe(was);
    await bench.getByLabel('search pieces').fill('shed 2');
    await row(/shed 2/).click();
    await expect(count).toHaveText(/^\d+ pieces$/);
  });
  expect(faults).toEqual([]);
});
