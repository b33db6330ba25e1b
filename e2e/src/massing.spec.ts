import { expect, Sheet, test } from './sheet';
import type { Vec3 } from '@rammer/core/num/vec';

/** The rest of stage Block by hand: what is drawn along lines, groups, copies, movers, gaps, casting and swapping, and a camera from a picture. */
test('walls, slabs and tunnels are drawn, grouped, moved, cast and swapped', async ({ page, rammer, faults }) => {
  const sheet = new Sheet(page);
  const blocks = sheet.rows('blocks');
  const view = page.getByTestId('view').locator('canvas');
  const bench = page.locator('aside[aria-label=bench]');
  const message = page.getByTestId('message');
  const draw = async (key: string, points: Vec3[]) => {
    await view.focus();
    await page.keyboard.press(key);
    for (const p of points) await sheet.click(p);
  };
  const panel = (name: string) => page.getByRole('group', { name: 'of the selection' }).getByRole('button', { name, exact: true }).click();

  await sheet.newLevel(rammer.base, 'Massing yard');
  await sheet.flatYard();
  // At one quality: how many triangles are drawn is compared below.
  await sheet.plan(80, 80, 30, { stage: 'block', draw: 'fixed' });

  await test.step('a wall of three stretches, the last by its typed length', async () => {
    await draw('k', [
      [70, 0, 70],
      [76, 0, 70],
    ]);
    await sheet.point([76, 0, 73]);
    await page.keyboard.type('4.5');
    await page.keyboard.press('Enter');
    await page.keyboard.press('Enter');
    await expect(blocks).toHaveCount(1);
    await expect(bench.getByText('3 corners, 10.50 m')).toBeVisible();
    expect(await sheet.number('length')).toBeCloseTo(6.15, 2);
    expect(await sheet.number('width')).toBeCloseTo(4.65, 2);
    await sheet.type('thickness', '0.5');
    expect(await sheet.number('length')).toBeCloseTo(6.25, 2);
  });

  await test.step('a slab whose outline crosses itself is refused and its corners kept; Backspace mends it', async () => {
    await draw('g', [
      [80, 0, 70],
      [86, 0, 76],
      [86, 0, 70],
      [80, 0, 76],
    ]);
    await page.keyboard.press('Enter');
    await expect(message).toContainText('the outline crosses itself: the side from corner 1 meets the side from corner 3');
    await expect(blocks).toHaveCount(1);
    await page.keyboard.press('Backspace');
    await page.keyboard.press('Enter');
    await expect(blocks).toHaveCount(2);
    await sheet.type('base', '3');
  });

  await test.step('a tunnel through a mass; its clear width is one of its own numbers', async () => {
    await view.focus();
    await page.keyboard.press('Escape');
    await page.keyboard.press('r');
    for (const [name, value] of [
      ['length', 6],
      ['height', 5],
      ['width', 6],
    ] as const)
      await sheet.type(name, String(value));
    await sheet.click([86, 0, 86]);
    await draw('f', [
      [81, 0, 86],
      [91, 0, 86],
    ]);
    await page.keyboard.press('Enter');
    await expect(blocks).toHaveCount(4);
    await expect(page.getByTestId('metrics')).toContainText('clear: passage 2.00 m wide, 2.40 m high');
    await sheet.type('clear w.', '0.7');
    await expect(page.getByTestId('metrics')).toContainText('blocked: passage 0.70 m wide');
    await page.keyboard.press('Control+z');
    await expect(page.getByTestId('metrics')).toContainText('clear: passage 2.00 m');
  });

  await test.step('a group folds, hides, locks and is shown alone', async () => {
    await blocks.nth(2).click();
    await blocks.nth(3).click({ modifiers: ['Shift'] });
    await sheet.type('group', 'adit');
    await expect(blocks).toHaveCount(5);
    await page.getByRole('button', { name: 'lock group adit' }).click();
    await expect(page.getByRole('button', { name: 'unlock group adit' })).toBeVisible();
    await blocks.nth(1).click();
    await sheet.type('base', '1');
    await expect(message).toContainText('box 1 is locked: unlock first to change it');
    expect(await sheet.number('base')).toBe(0);
    await page.getByRole('button', { name: 'unlock group adit' }).click();
    const triangles = async () => Number(await page.getByTestId('drawn').getAttribute('data-list-triangles'));
    const all = await triangles();
    await page.getByRole('button', { name: 'isolate group adit' }).click();
    await expect.poll(triangles).toBeLessThan(all);
    await page.getByRole('button', { name: 'show all', exact: true }).click();
    await expect.poll(triangles).toBe(all);
    await page.getByRole('button', { name: 'fold adit', exact: true }).click();
    await expect(blocks).toHaveCount(3);
    await page.getByRole('button', { name: 'unfold adit' }).click();
  });

  await test.step('a linked copy of the group follows its master, and is detached', async () => {
    await page.getByRole('button', { name: 'place a copy of adit' }).click();
    const rows = page.getByRole('grid', { name: 'blocks' });
    await expect(rows.getByRole('row', { name: /adit copy 1/ })).toHaveCount(1);
    await sheet.type('x', '72');
    await sheet.type('z', '82');
    const triangles = async () => Number(await page.getByTestId('drawn').getAttribute('data-list-triangles'));
    await page.waitForTimeout(1500);
    const whole = await triangles();
    // A master that is moved whole leaves its copy where it stands.
    await page.getByRole('button', { name: 'fold adit', exact: true }).click();
    await rows.getByText('adit', { exact: true }).click();
    await view.focus();
    await page.keyboard.press('ArrowLeft');
    await rows.getByRole('row', { name: /adit copy 1/ }).click();
    expect(await sheet.number('x')).toBe(72);
    await page.keyboard.press('Control+z');
    await page.getByRole('button', { name: 'unfold adit', exact: true }).click();
    // Taken out of the master, the tunnel is out of the copy too: two masses without a bore.
    await page.getByRole('button', { name: 'take tunnel void 1 out of the level' }).click();
    await expect.poll(triangles).toBeLessThan(whole);
    await page.keyboard.press('Control+z');
    await expect.poll(triangles).toBe(whole);
    await rows.getByRole('row', { name: /adit copy 1/ }).click();
    await bench.getByRole('button', { name: 'detach' }).click();
    await expect(page.getByRole('button', { name: 'fold adit copy 1', exact: true })).toBeVisible();
    await expect.poll(triangles).toBe(whole);
    await page.keyboard.press('Control+z');
    await page.keyboard.press('Control+z');
    await page.keyboard.press('Control+z');
    await page.keyboard.press('Control+z');
    await expect(rows.getByRole('row', { name: /adit copy 1/ })).toHaveCount(0);
  });

  await test.step('Ctrl and a drag copies; the copy takes the corner of its neighbour', async () => {
    await view.focus();
    await page.keyboard.press('Escape');
    await page.keyboard.press('r');
    for (const [name, value] of [
      ['length', 2],
      ['height', 1.2],
      ['width', 2],
    ] as const)
      await sheet.type(name, String(value));
    await sheet.click([70, 0, 88]);
    await view.focus();
    await page.keyboard.press('Escape');
    await page.keyboard.down('Control');
    await sheet.drag([69.4, 1.2, 87.4], [73.5, 1.2, 87.5], 8);
    await page.keyboard.up('Control');
    await expect(page.getByRole('grid', { name: 'blocks' }).getByRole('row', { name: /^box/ })).toHaveCount(3);
    expect(await sheet.number('x')).toBeCloseTo(74, 1);
    await sheet.type('x', '76');
  });

  await test.step('the copy moves; its gap is declared tight and is a snag', async () => {
    await panel('motion');
    await page.getByRole('button', { name: 'make it move' }).click();
    await sheet.type('stop 2 x', '5');
    await sheet.type('stop 2 y', '0');
    const stop = (await page.locator('[data-handle="stop 2"]').boundingBox())!;
    await sheet.dragPixels(stop.x + 7, stop.y + 7, stop.x + 60, stop.y + 7);
    await expect.poll(() => sheet.number('stop 2 x')).toBeGreaterThan(5.4);
    expect(await sheet.number('stop 2 y')).toBe(0);
    await page.keyboard.press('Control+z');
    await expect.poll(() => sheet.number('stop 2 x')).toBe(5);
    await expect(page.getByTestId('metrics')).toContainText('at its nearest 4.00 m: tight, at its farthest 9.00 m: impossible');
    await page.getByTestId('metrics').getByRole('button', { name: 'easy', exact: true }).click();
    await expect(page.getByTestId('metrics').locator('[data-verdict=bad]')).toHaveCount(1);
    await sheet.stage('Play');
    await page.getByTestId('bake').click();
    await page.getByTestId('snags').click();
    await expect(sheet.rows('snags').filter({ hasText: /the gap from box \d+ to box \d+ is declared easy and is at its nearest 4.00 m: tight/ })).toHaveCount(
      1,
      { timeout: 60_000 },
    );
    await sheet.stage('Block');
    await panel('numbers');
  });

  await test.step('a cast stands for its blocks, follows when it is cast again, and gives them back', async () => {
    await page
      .getByRole('grid', { name: 'blocks' })
      .getByRole('row', { name: /wall 1/ })
      .click();
    await panel('cast');
    const cast = page.getByTestId('cast');
    await cast.getByRole('button', { name: 'cast', exact: true }).click();
    await expect(message).toContainText(/wall 1: 6.25 x 2.50 x 4.75 m, \d+ triangles/);
    await cast.getByRole('button', { name: 'swap', exact: true }).click();
    await expect(message).toContainText('1 swapped');
    await page.getByRole('combobox', { name: 'overlay' }).selectOption('blockout');
    await expect(page.getByTestId('still')).toContainText('still blockout: 4 of 5 solids, assets stand for 1');
    await page.getByRole('combobox', { name: 'overlay' }).selectOption('none');
    await page
      .getByRole('grid', { name: 'blocks' })
      .getByRole('row', { name: /wall 1/ })
      .click();
    await panel('numbers');
    await sheet.type('height', '4');
    await panel('cast');
    await page.getByTestId('cast').getByRole('button', { name: 'cast again' }).click();
    await expect(message).toContainText('6.25 x 4.00 x 4.75 m');
    await expect(message).toContainText('1 placed from it follow');
    await page.getByTestId('cast').getByRole('button', { name: 'swap back' }).click();
    await sheet.stage('Build');
    await expect(page.getByText('0 pieces')).toBeVisible();
    await sheet.stage('Block');
    await panel('numbers');
  });

  await test.step('a section line is drawn, named and kept; the play bounds say that they can be walked off', async () => {
    await page.getByRole('button', { name: 'draw a section line' }).click();
    await sheet.click([86, 0, 92]);
    await sheet.click([86, 0, 80]);
    await page.getByLabel('name of the section line').fill('through the adit');
    await page.getByLabel('name of the section line').press('Enter');
    await expect(page.getByLabel('the section runs along')).toHaveValue(/section-/);
    await expect(page.getByTestId('section').getByRole('img')).toHaveAttribute('aria-label', /Section along through the adit/);
    await sheet.stage('Play');
    await page.getByRole('button', { name: 'entry', exact: true }).click();
    await sheet.click([74, 0, 78]);
    await page.getByRole('button', { name: 'play bounds', exact: true }).click();
    for (const p of [
      [66, 0, 66],
      [94, 0, 66],
      [94, 0, 93],
      [66, 0, 93],
    ] as const)
      await sheet.click([...p]);
    await page.keyboard.press('Enter');
    await expect(page.getByText('play bounds, 4 corners')).toBeVisible();
    // Its corners are dragged; one that would make it cross itself stays.
    const corner = async (from: number, x: number, y: number) => {
      const box = (await page.getByTestId('lines').locator(`[data-handle="corner ${from}"]`).boundingBox())!;
      await page.mouse.move(box.x + 7, box.y + 7);
      await page.mouse.down();
      await page.mouse.move(box.x + 7 + x, box.y + 7 + y, { steps: 5 });
      await page.mouse.up();
    };
    await page.keyboard.press('Escape');
    const drawn = await sheet.undoCount();
    await corner(2, 24, -16);
    expect(await sheet.undoCount()).toBe(drawn + 1);
    await page.keyboard.press('Control+z');
    const [[wx, wy], [ex, ey]] = await sheet.pixels([80, 0, 99], [94, 0, 66]);
    await corner(2, wx - ex, wy - ey);
    await expect(page.getByTestId('message')).toContainText('the outline would cross itself');
    expect(await sheet.undoCount()).toBe(drawn);
    await page.getByTestId('bake').click();
    await expect(sheet.rows('snags').filter({ hasText: /play bounds can be walked out of: \d+ m² outside are reached from the entry/ })).toHaveCount(1, {
      timeout: 60_000,
    });
    await expect(sheet.rows('snags').filter({ hasText: /the level's edge is seen against the sky/ })).toHaveCount(1);
    await page.getByRole('button', { name: 'ring of masses' }).click();
    await expect(page.getByRole('button', { name: 'ring anew' })).toBeVisible();
    await page.getByTestId('bake').click();
    await expect(sheet.rows('snags').filter({ hasText: /the level's edge is seen against the sky/ })).toHaveCount(0, { timeout: 60_000 });
    await sheet.stage('Block');
  });

  await test.step('what was made is there after a reload, and goes as it came', async () => {
    await sheet.saved();
    const triangles = () => page.getByTestId('drawn').getAttribute('data-list-triangles');
    await page.waitForTimeout(800);
    const before = await triangles();
    const edits = await sheet.undoCount();
    await page.reload();
    await sheet.ready();
    await expect.poll(triangles).toBe(before);
    await view.focus();
    for (let i = 0; i < edits; i++) await page.keyboard.press('Control+z');
    await expect(page.getByText('No blocks yet.')).toBeVisible();
    // A stage is in the link as soon as it is chosen.
    await sheet.stage('Light');
    await page.reload();
    await sheet.ready();
    await expect(page.getByRole('heading', { name: 'Light' })).toBeVisible();
  });
  expect(faults).toEqual([]);
});

test('the camera of a picture is found from lines drawn on it', async ({ page, rammer, faults }) => {
  const sheet = new Sheet(page);
  await sheet.newLevel(rammer.base, 'Picture yard');
  await sheet.flatYard();
  await sheet.plan(80, 80, 30, { stage: 'block' });
  await page.getByTestId('view').locator('canvas').focus();
  await page.keyboard.press('r');
  for (const [name, value] of [
    ['length', 6],
    ['height', 4],
    ['width', 5],
  ] as const)
    await sheet.type(name, String(value));
  await sheet.click([80, 0, 80]);
  await sheet.look({ view: 'orbit', target: [80, 2, 80], yaw: 35, pitch: -14, distance: 14 }, { stage: 'brief' });
  const box = (await page.getByTestId('view').boundingBox())!;
  // Corners of the box on the picture: pixels of the view.
  const corner = async (x: number, y: number, z: number): Promise<[number, number]> => {
    const p = await sheet.pixel([80 + x * 3, y * 4, 80 + z * 2.5]);
    return [p[0] - box.x, p[1] - box.y];
  };
  const lines = {
    'first level': [
      [await corner(-1, 1, 1), await corner(-1, 1, -1)],
      [await corner(1, 1, 1), await corner(1, 1, -1)],
      [await corner(-1, 0, 1), await corner(-1, 0, -1)],
    ],
    'second level': [
      [await corner(-1, 1, 1), await corner(1, 1, 1)],
      [await corner(-1, 1, -1), await corner(1, 1, -1)],
      [await corner(-1, 0, 1), await corner(1, 0, 1)],
    ],
    upright: [
      [await corner(-1, 0, 1), await corner(-1, 1, 1)],
      [await corner(1, 0, 1), await corner(1, 1, 1)],
      [await corner(-1, 0, -1), await corner(-1, 1, -1)],
    ],
    'known length': [[await corner(-1, 0, 1), await corner(-1, 1, 1)]],
  };
  const picture = await page.getByTestId('view').locator('canvas').screenshot();
  await page.getByLabel('reference picture').setInputFiles({ name: 'quarry.png', mimeType: 'image/png', buffer: picture });
  await page.getByRole('button', { name: 'fit', exact: true }).click();
  const dialog = page.getByRole('dialog');
  const area = (await dialog.getByTestId('fit-picture').boundingBox())!;
  const k = Math.min(area.width / box.width, area.height / box.height);
  const at = ([x, y]: [number, number]): [number, number] => [
    area.x + (area.width - box.width * k) / 2 + x * k,
    area.y + (area.height - box.height * k) / 2 + y * k,
  ];
  for (const [kind, list] of Object.entries(lines)) {
    await dialog.getByRole('button', { name: new RegExp(`^${kind}`) }).click();
    for (const [from, to] of list) await sheet.dragPixels(...at(from), ...at(to), 2);
  }
  await dialog.getByLabel('known length', { exact: true }).fill('4');
  await dialog.getByLabel('known length', { exact: true }).press('Enter');
  for (const [name, value] of [
    ['from x', 77],
    ['from y', 0],
    ['from z', 82.5],
  ] as const) {
    await dialog.getByLabel(name).fill(String(value));
    await dialog.getByLabel(name).press('Enter');
  }
  const text = await dialog.getByTestId('fitted').innerText();
  const [lens, heading, pitch] = [/lens ([\d.]+)/, /heading ([\d.]+)/, /pitch (-?[\d.]+)/].map((r) => Number(r.exec(text)![1]));
  const eye = /eye at ([\d., -]+)/.exec(text)![1].split(',').map(Number);
  console.log(`fit: ${text}`);
  expect(Math.abs(lens / 55 - 1)).toBeLessThan(0.02);
  expect(Math.abs(heading - 35)).toBeLessThan(0.5);
  expect(Math.abs(pitch + 14)).toBeLessThan(0.5);
  const a = (14 * Math.PI) / 180;
  const wanted = [80 - 14 * Math.cos(a) * Math.sin((35 * Math.PI) / 180), 2 + 14 * Math.sin(a), 80 + 14 * Math.cos(a) * Math.cos((35 * Math.PI) / 180)];
  expect(Math.hypot(...wanted.map((v, i) => v - eye[i]))).toBeLessThan(0.02 * 14);
  await dialog.getByRole('button', { name: 'keep as a viewpoint' }).click();
  await expect(page.getByTestId('reference')).toBeVisible();
  await expect.poll(() => page.url()).toMatch(/pose=orbit_[^&]*_5\d\.\d\d(&|$)/);
  await page.keyboard.press('Control+z');
  await expect(page.getByTestId('reference')).toHaveCount(0);
  expect(faults).toEqual([]);
});
