import { encode } from 'fast-png';
import type { Vec3 } from '@rammer/core/num/vec';
import { expect, Sheet, test } from './sheet';

/** Stage Grow by hand: a habitat with rules and a cluster, a way painted through it, hand work that stays, a ceiling, a budget, a walk. */
test('a habitat grows by ordered rules, gives way to a path, and keeps what hands did', async ({ page, rammer }) => {
  const sheet = new Sheet(page);
  const bench = page.locator('aside[aria-label=bench]');
  const listed = (name: 'species' | 'habitats' | 'cover') =>
    page.getByRole('group', { name: 'what the table lists' }).getByRole('button', { name, exact: true }).click();
  const count = (id: string) => page.getByTestId(id).textContent().then(Number);
  const settled = () => expect(page.getByTestId('growing')).toHaveCount(0, { timeout: 30_000 });
  /** Once nothing grows any more. */
  const at = async (id: string) => {
    let [was, now] = [-1, await count(id)];
    while (was !== now) {
      await page.waitForTimeout(700);
      await settled();
      [was, now] = [now, await count(id)];
    }
    return now;
  };
  const pick = async (name: string) => {
    await page
      .getByRole('listbox', { name: 'plants' })
      .getByRole('option', { name: new RegExp(`^${name}`) })
      .first()
      .click();
    await expect(sheet.rows('species').filter({ hasText: name })).toHaveCount(1);
    // Habitats say where: its own rule is off.
    const own = page.getByRole('checkbox', { name: 'grows by rule' });
    if (await own.isChecked()) await own.uncheck();
  };
  const rules = sheet.rows('habitats');

  await sheet.newLevel(rammer.base, 'Heath');
  await sheet.flatYard();
  await sheet.plan(80, 80, 60, { stage: 'grow' });

  await test.step('a habitat is drawn; three rules and a cluster, each with what it grows', async () => {
    await listed('species');
    for (const name of ['birch', 'heather', 'foxglove', 'loose slate']) await pick(name);
    await listed('habitats');
    await page.getByRole('group', { name: 'add a habitat' }).getByRole('button', { name: 'empty' }).click();
    await expect(rules).toHaveCount(1);
    await sheet.tool('outline');
    for (const [x, z] of [
      [62, 62],
      [98, 62],
      [98, 98],
      [62, 98],
    ])
      await sheet.click([x, 0, z]);
    await page.keyboard.press('Enter');
    await expect(bench).toContainText(/1\s?296 m²/);
    await sheet.tool('select');
    for (const [i, name] of ['birch', 'heather', 'loose slate'].entries()) {
      await listed('species');
      await sheet.rows('species').filter({ hasText: name }).first().click();
      await listed('habitats');
      await bench.getByRole('button', { name: 'add a rule' }).click();
      await expect(rules).toHaveCount(i + 2);
      await sheet.type('density', ['1.5', '12', '20'][i]);
    }
    await settled();
    await expect.poll(() => count('rule-birch')).toBeGreaterThan(10);
    // 12 on 100 m2 over the outline with its soft border, less what birches keep free.
    await expect.poll(() => count('rule-heather')).toBeGreaterThan(90);
    expect(await count('rule-heather')).toBeLessThan(165);
    await rules.filter({ hasText: 'birch' }).click();
    const alone = await at('rule-birch');
    await bench.getByRole('button', { name: 'cluster', exact: true }).click();
    await bench.getByLabel('species of cluster 1').selectOption({ label: 'foxglove' });
    await sheet.type('chance', '100');
    await expect.poll(() => count('rule-birch')).toBeGreaterThan(alone + 5);
    // Earlier rules have their place first: heather before birch is more heather.
    const second = await at('rule-heather');
    await rules.filter({ hasText: 'heather' }).click();
    await bench.getByRole('button', { name: 'rule earlier' }).click();
    await expect.poll(() => count('rule-heather')).toBeGreaterThan(second);
    await page.keyboard.press('Control+z');
    await expect.poll(() => count('rule-heather')).toBe(second);
    // The rule on the ground.
    await page.getByLabel('overlay', { exact: true }).selectOption('growth rule');
    await expect(page.getByTestId('overlay')).toContainText(/heather in full, 12 on 100 m²; all of it is worth [\d\s]+ m²/);
    await page.getByLabel('overlay', { exact: true }).selectOption('none');
  });

  await test.step('it is saved as a file and read again, a rule takes what goes with a species, and a file that is none is refused', async () => {
    await rules.first().click();
    const [file] = await Promise.all([page.waitForEvent('download'), bench.getByRole('button', { name: 'save as a file' }).click()]);
    expect(file.suggestedFilename()).toBe('habitat-1.rammer.zip');
    await page.getByLabel('file with habitats').setInputFiles(await file.path());
    await expect(page.getByTestId('message')).toContainText('kept from');
    await page.getByRole('group', { name: 'add a habitat' }).getByRole('button', { name: 'habitat 1', exact: true }).click();
    // Its three rules again, and no species twice.
    await expect(rules).toHaveCount(8);
    await listed('species');
    await expect(sheet.rows('species')).toHaveCount(4);
    await page.keyboard.press('Control+z');
    await sheet.rows('species').filter({ hasText: 'birch' }).click();
    await page.getByLabel('goes with another').selectOption({ label: 'foxglove' });
    await bench.getByRole('button', { name: 'pick them too' }).click();
    await listed('habitats');
    await expect(rules).toHaveCount(4);
    await bench.getByRole('button', { name: 'add a rule' }).click();
    await expect(rules).toHaveCount(5);
    await expect(rules.last()).toHaveAttribute('title', 'birch, foxglove');
    await page.keyboard.press('Control+z');
    await expect(rules).toHaveCount(4);
    await page.getByLabel('file with habitats').setInputFiles({ name: 'moor.zip', mimeType: 'application/zip', buffer: Buffer.from('a moor') });
    await expect(page.getByTestId('message')).toContainText('moor.zip: this is not a zip file');
    await expect(rules).toHaveCount(4);
  });

  await test.step('a path painted through it clears it, and its litter comes', async () => {
    // Heather and birch keep off gravel, loose slate lies on it alone.
    await listed('species');
    for (const name of ['birch', 'heather', 'foxglove']) {
      await sheet.rows('species').filter({ hasText: name }).first().click();
      await page.getByRole('checkbox', { name: 'gravel' }).uncheck();
    }
    await sheet.rows('species').filter({ hasText: 'loose slate' }).click();
    for (const ground of ['turf', 'slate', 'moss']) await page.getByRole('checkbox', { name: ground, exact: true }).uncheck();
    await listed('habitats');
    await expect.poll(() => count('rule-loose slate')).toBe(0);
    const heather = await at('rule-heather');
    await sheet.stage('Surface');
    await sheet.rows('surfaces').filter({ hasText: 'gravel' }).click();
    await sheet.tool('paint');
    await sheet.type('radius', '3');
    await sheet.type('strength', '100');
    await sheet.drag([56, 0, 80], [104, 0, 80], 12);
    await sheet.stage('Grow');
    await settled();
    await expect.poll(() => count('rule-loose slate')).toBeGreaterThan(5);
    await expect.poll(() => count('rule-heather')).toBeLessThan(heather - 8);
  });

  await test.step('why not here names the ground; painted back, it says yes or that it drew no', async () => {
    await rules.filter({ hasText: 'heather' }).click();
    await sheet.tool('why here');
    await sheet.click([80, 0, 80]);
    const why = page.getByTestId('why');
    await expect(why).toContainText(/no heather: the ground says no/);
    await listed('species');
    await sheet.rows('species').filter({ hasText: 'heather' }).click();
    await page.getByRole('checkbox', { name: 'gravel' }).check();
    await expect(why).not.toContainText('the ground says no');
    await page.keyboard.press('Control+z');
    await expect(why).toContainText('the ground says no');
  });

  await test.step('ground cover follows its surface: on gravel it is the path, on turf all but the path; a plain edit takes it away', async () => {
    const back = await sheet.pose();
    await listed('cover');
    const adds = page.getByRole('group', { name: 'add ground cover' });
    const add = async (surface: string) => {
      await adds.getByLabel('which species').selectOption({ label: 'heather' });
      await adds.getByLabel('which surface').selectOption({ label: surface });
      await adds.getByRole('button', { name: 'add' }).click();
    };
    await add('gravel');
    await sheet.type('density', '100');
    await sheet.look({ view: 'stand', target: [80, 0, 80], yaw: 90, pitch: -10, distance: 10 }, { stage: 'grow' });
    await listed('cover');
    const here = () => bench.textContent().then((t) => Number(/(\d+) here/.exec(t!)![1]));
    // Six metres wide with soft sides, 48 m long, a plant a square metre; round the eye it is all made.
    await expect.poll(here).toBeGreaterThan(180);
    expect(await here()).toBeLessThan(400);
    await add('turf');
    await expect.poll(here).toBeGreaterThan(1500);
    await sheet.rows('ground cover').filter({ hasText: 'heather on turf' }).getByRole('button', { name: 'turn heather on turf off' }).click();
    await expect.poll(here).toBeLessThan(400);
    await expect(sheet.rows('ground cover')).toHaveCount(2);
    for (const name of ['gravel', 'turf']) await bench.getByRole('button', { name: `delete heather on ${name}` }).click();
    await expect.poll(here).toBe(0);
    await sheet.look(back, { stage: 'grow' });
    await listed('species');
    await sheet.rows('species').filter({ hasText: 'heather' }).click();
  });

  await test.step('three set by hand, one taken out: still there at another density, seed and spacing', async () => {
    await sheet.tool('single plant');
    const hand: Vec3[] = [
      [48, 0, 70],
      [48, 0, 76],
      [48, 0, 84],
    ];
    for (const p of hand) await sheet.click(p);
    await expect(page.getByLabel('status')).toContainText(/kept 3 by hand/);
    await sheet.drag(hand[0], [46, 0, 66], 4);
    await sheet.click(hand[1]);
    await page.keyboard.press('Delete');
    await expect(page.getByLabel('status')).toContainText(/kept 2 by hand/);
    await sheet.type('spacing', '1.4');
    await sheet.type('seed', '4711');
    await listed('habitats');
    await rules.filter({ hasText: 'heather' }).click();
    await sheet.type('density', '9');
    await settled();
    await expect(page.getByLabel('status')).toContainText(/kept 2 by hand/);
    // Outside the outline nothing else stands.
    await sheet.point([46, 0, 66]);
    await expect(page.getByLabel('status')).toContainText(/plants\s*1/);
  });

  await test.step('a brush sets by hand up to the density of its species and no farther; Shift takes them away', async () => {
    await listed('species');
    await sheet.rows('species').filter({ hasText: 'foxglove' }).click();
    await sheet.type('density', '20');
    await sheet.tool('by hand');
    await sheet.type('radius', '4');
    const kept = () => count('count-foxglove');
    const none = await at('count-foxglove');
    await sheet.drag([108, 0, 102], [110, 0, 102], 3);
    await settled();
    // A brush of 4 m is 50 m2: ten of them, and a few more at its ends.
    await expect.poll(kept).toBeGreaterThanOrEqual(none + 9);
    const first = await kept();
    expect(first).toBeLessThan(none + 20);
    await page.keyboard.down('Shift');
    await sheet.drag([106, 0, 102], [112, 0, 102], 6);
    await page.keyboard.up('Shift');
    await expect.poll(kept).toBe(none);
    await page.keyboard.press('Control+z');
    await expect.poll(kept).toBe(first);
    for (let i = 0; i < 2; i++) await page.keyboard.press('Control+z');
    await expect.poll(kept).toBe(none);
  });

  await test.step('a habitat is painted from a picture of the level; one of another shape is refused', async () => {
    await listed('habitats');
    await rules.first().click();
    const before = await at('rule-heather');
    const file = page.getByLabel(/^picture that .* is painted from$/);
    const png = (width: number, height: number) => ({
      name: `mask ${width}.png`,
      mimeType: 'image/png',
      buffer: Buffer.from(encode({ width, height, channels: 1, depth: 8, data: new Uint8Array(width * height).fill(255) })),
    });
    await file.setInputFiles(png(20, 10));
    await expect(page.getByLabel('status')).toContainText(/mask 20\.png: the picture is 20 x 10 pixels.*crop it to 10 x 10/);
    await file.setInputFiles(png(16, 16));
    await expect.poll(() => count('rule-heather'), { timeout: 30_000 }).toBeGreaterThan(before * 3);
    await page.keyboard.press('Control+z');
    await expect.poll(() => count('rule-heather'), { timeout: 30_000 }).toBe(before);
  });

  await test.step('the ceiling stops the brush', async () => {
    await listed('species');
    await sheet.rows('species').filter({ hasText: 'heather' }).click();
    await sheet.type('all species, at most', '9');
    await sheet.tool('sow');
    await sheet.type('to', '400');
    await sheet.type('radius', '8');
    await sheet.drag([116, 0, 70], [116, 0, 90], 6);
    await expect(bench).toContainText(/\d+ kept out/);
    await sheet.type('all species, at most', '0');
    await expect(bench).not.toContainText('kept out');
    await page.keyboard.press('Control+z');
    await page.keyboard.press('Control+z');
    await page.keyboard.press('Control+z');
  });

  await test.step('a birch stops who walks into it', async () => {
    await listed('species');
    await sheet.rows('species').filter({ hasText: 'birch' }).click();
    await sheet.tool('single plant');
    await sheet.click([50, 0, 92]);
    await sheet.stage('Play');
    await sheet.tool('entry');
    await sheet.click([50, 0, 98]);
    await page.getByRole('button', { name: 'walk from entry' }).click();
    const z = async () => Number(/z\s*([\d.]+)/.exec((await page.getByTestId('feet').textContent({ timeout: 60_000 }))!)![1]);
    expect(await z()).toBeGreaterThan(97);
    await page.keyboard.down('w');
    await expect.poll(z, { timeout: 40_000 }).toBeLessThan(94);
    await page.waitForTimeout(3000);
    await page.keyboard.up('w');
    // Half a trunk and the body's own radius before it.
    expect(await z()).toBeGreaterThan(92.2);
    await page.keyboard.press('Escape');
  });
});

test('a level over its budget is fitted: its dearest place stands under the line', async ({ page, rammer }) => {
  const sheet = new Sheet(page);
  await page.goto(rammer.base);
  await page.getByRole('button', { name: 'Harrow Ledge', exact: true }).click();
  await sheet.ready();
  await sheet.stage('Grow');
  await page.getByLabel('target device').selectOption({ label: 'Pocket 30' });
  await expect(page.getByTestId('growing')).toHaveCount(0, { timeout: 30_000 });
  await page.getByRole('button', { name: 'fit to budget' }).click();
  const fit = page.getByRole('group', { name: 'fit to budget' });
  await expect(fit).toContainText(/of 26\.6 ms at the dearest place/, { timeout: 60_000 });
  const [, over, under] = /([\d.]+) of 26\.6 ms.*it would be ([\d.]+)/.exec((await fit.textContent())!)!;
  expect(Number(over)).toBeGreaterThan(26.6);
  expect(Number(under)).toBeLessThanOrEqual(26.6);
  // What one would see of it, before it is taken.
  await fit.getByRole('button', { name: 'show what is lost' }).click();
  const lost = page.getByRole('group', { name: 'what is lost' });
  await expect(lost).toContainText(/[\d.]+ % of the picture is another/, { timeout: 60_000 });
  const share = Number(/([\d.]+) % of the picture/.exec((await lost.textContent())!)![1]);
  expect(share).toBeGreaterThan(0);
  expect(share).toBeLessThan(40);
  await lost.getByRole('button', { name: 'after' }).click();
  await expect(lost.getByRole('img').first()).toHaveAccessibleName(/^after, /);
  await fit.getByRole('button', { name: 'take these' }).click();
  await expect(page.getByTestId('growing')).toHaveCount(0, { timeout: 30_000 });
  await page.getByRole('button', { name: 'fit to budget' }).click();
  await expect(fit).toContainText('It is inside: nothing is taken.', { timeout: 60_000 });
  await fit.getByRole('button', { name: 'close' }).click();
  await sheet.rows('species').filter({ hasText: 'heather' }).first().click();
  await page.getByRole('group', { name: 'what if' }).getByRole('button', { name: 'thinner' }).click();
  await expect(fit.getByRole('row')).toHaveText(/heather\s*amount\s*\d+ % → \d+ %\s*−[\d.]+ ms/, { timeout: 60_000 });
  await fit.getByRole('button', { name: 'leave it' }).click();
  await page.getByLabel('overlay', { exact: true }).selectOption('overdraw');
  await expect(page.getByTestId('overlay')).toContainText(/reckoned with [\d.]+ screens of cut-out leaves/);
});
