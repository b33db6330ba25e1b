import type { Page } from '@playwright/test';
import type { Vec3 } from '@rammer/core/num/vec';
import { expect, Sheet, test } from './sheet';

/** Stage Surface by hand: more surfaces, rules in order, what wins over paint, the brushes, filling, why, and what the overlays say. */
test('ground is laid by rules, painted, smudged, replaced and filled, and says why it is what it is', async ({ page, rammer }) => {
  const sheet = new Sheet(page);
  const bench = page.locator('aside[aria-label=bench]');
  const message = page.getByTestId('message');
  const rules = sheet.rows('rules of the ground');
  const surfaces = sheet.rows('surfaces');
  const tab = (name: RegExp) => page.getByRole('group', { name: 'what the table lists' }).getByRole('button', { name }).click();
  const ground = async (p: Vec3) => {
    await sheet.heightAt(p);
    return /ground\s+(.+?)\s{2,}|ground\s+(\S.*)/.exec(await page.getByLabel('status').innerText())?.[0] ?? '';
  };
  const pick = (name: string) => page.getByRole('grid', { name: 'surfaces' }).getByText(name, { exact: true }).click();

  await sheet.newLevel(rammer.base, 'Grounds');
  await sheet.flatYard();
  await sheet.plan(80, 80, 60, { stage: 'surface' });

  await test.step('surfaces are added, laid at two scales, filled in their hollows, and a used one is not deleted', async () => {
    await expect(surfaces).toHaveCount(4);
    await bench.getByLabel('add a surface').selectOption('scree');
    await bench.getByLabel('add a surface').selectOption('mud');
    await expect(surfaces).toHaveCount(6);
    await bench.getByLabel('laid', { exact: true }).selectOption('two scales');
    await bench.getByLabel('in its hollows').selectOption('moss');
    await sheet.type('filled to', '30');
    await sheet.type('tile', '4');
    await expect(bench).toContainText('512 px/m');
    // Its texture counts on the wall as the game has it.
    const megabytes = async () => Number(/([\d.]+) MB/.exec((await page.getByRole('list', { name: 'all counts of this view' }).textContent())!)![1]);
    const memory = await megabytes();
    await bench.getByLabel('pixels', { exact: true }).selectOption('256');
    await expect(bench).toContainText('64 px/m');
    await expect.poll(megabytes).toBeLessThan(memory - 15);
    await pick('slate');
    await bench.getByRole('button', { name: 'delete the surface' }).click();
    await expect(message).toContainText('slate is used by the rule steep ground: change that first');
    await expect(surfaces).toHaveCount(6);
  });

  await test.step('a rule by height lies everywhere here; a lower place in the order does not cover it', async () => {
    await pick('scree');
    await tab(/rules/);
    await bench.getByRole('button', { name: 'rule', exact: true }).click();
    await expect(rules).toHaveCount(2);
    await bench.getByLabel('what the condition goes by').selectOption('height');
    await sheet.type('height from', '-5');
    await sheet.type('height to', '5');
    await expect.poll(() => ground([80, 0, 80])).toContain('scree');
    await bench.getByRole('button', { name: 'condition', exact: true }).click();
    await bench.getByLabel('what the condition goes by').nth(1).selectOption('noise');
    await sheet.type('patches from', '1');
    await sheet.type('patches to', '1');
    await expect.poll(() => ground([80, 0, 80])).not.toContain('scree');
    await page.keyboard.press('Control+z');
    await page.keyboard.press('Control+z');
    await page.keyboard.press('Control+z');
    await expect.poll(() => ground([80, 0, 80])).toContain('scree');
    await rules
      .first()
      .getByRole('button', { name: /turn .* off/ })
      .click();
    await expect.poll(() => ground([80, 0, 80])).toContain('turf');
    await rules
      .first()
      .getByRole('button', { name: /turn .* on/ })
      .click();
  });

  await test.step('paint covers a rule, a rule that wins covers paint', async () => {
    await tab(/surfaces/);
    await pick('gravel');
    await sheet.tool('paint');
    await sheet.type('strength', '100');
    for (let i = 0; i < 3; i++) await sheet.drag([70, 0, 80], [74, 0, 80]);
    await expect.poll(() => ground([72, 0, 80])).toContain('gravel');
    await tab(/rules/);
    await rules.first().getByText('scree 1').click();
    await bench.getByLabel('over paint').check();
    await expect.poll(() => ground([72, 0, 80])).toContain('scree');
    await expect(rules.first()).toContainText('wins');
    await bench.getByLabel('over paint').uncheck();
    await expect.poll(() => ground([72, 0, 80])).toContain('gravel');
  });

  await test.step('smudge drags gravel along, replace makes it mud and leaves the scree', async () => {
    await sheet.tool('smudge');
    for (let i = 0; i < 3; i++) await sheet.drag([72, 0, 80], [84, 0, 80], 14);
    await expect.poll(() => ground([78.5, 0, 80])).toContain('gravel');
    await sheet.tool('replace');
    await tab(/surfaces/);
    await pick('mud');
    await bench.getByLabel('goes', { exact: true }).selectOption({ label: 'gravel' });
    for (let i = 0; i < 4; i++) await sheet.drag([70, 0, 80], [78, 0, 80], 10);
    await expect.poll(() => ground([72, 0, 80])).toContain('mud');
    expect(await ground([72, 0, 90])).toContain('scree');
  });

  await test.step('an outline is filled, a crossing one refused; erasing brings the rules back', async () => {
    await pick('moss');
    await sheet.tool('fill outline');
    for (const p of [
      [84, 0, 90],
      [96, 0, 98],
      [96, 0, 90],
      [84, 0, 98],
    ] as Vec3[])
      await sheet.click(p);
    await page.keyboard.press('Enter');
    await expect(message).toContainText('the outline crosses itself');
    await page.keyboard.press('Escape');
    await sheet.tool('fill outline');
    for (const p of [
      [84, 0, 90],
      [96, 0, 90],
      [96, 0, 98],
      [84, 0, 98],
    ] as Vec3[])
      await sheet.click(p);
    await page.keyboard.press('Enter');
    await expect.poll(() => ground([90, 0, 94])).toContain('moss');
    expect(await ground([90, 0, 101])).toContain('scree');
    await sheet.tool('erase to rules');
    for (let i = 0; i < 3; i++) await sheet.drag([88, 0, 94], [92, 0, 94]);
    await expect.poll(() => ground([90, 0, 94])).toContain('scree');
  });

  await test.step('why this ground tells rules, values and paint', async () => {
    await sheet.tool('why this ground');
    await sheet.click([72, 0, 80]);
    const why = page.getByTestId('why-ground');
    await expect(why).toContainText('mud: mud');
    await expect(why).toContainText(/scree.*scree 1.*100 %/);
    await expect(why).toContainText(/height.*0\.00 m, in -5 to 5 m/);
    await expect(why).toContainText('paint');
  });

  await test.step('a rule lies on the top of a block and goes with it; what is of the ground is told to lay nothing there', async () => {
    await sheet.plan(80, 80, 60, { stage: 'block' });
    await page.keyboard.press('r');
    await sheet.click([64, 0, 66]);
    await sheet.plan(80, 80, 60, { stage: 'surface' });
    await pick('moss');
    await tab(/rules/);
    await bench.getByRole('button', { name: 'rule', exact: true }).click();
    await bench.getByRole('textbox', { name: 'slope from' }).fill('0');
    await page.keyboard.press('Enter');
    await bench.getByLabel('lies on', { exact: true }).selectOption('tops');
    await expect.poll(() => ground([64, 0, 66])).toContain('moss');
    expect(await ground([68, 0, 66])).not.toContain('moss');
    await bench.getByLabel('what the condition goes by').selectOption('runoff');
    await expect(bench).toContainText('nothing on tops: runoff is of the ground');
    await expect.poll(() => ground([64, 0, 66])).toContain('blockout');
    await page.keyboard.press('Control+z');
    await sheet.stage('Block');
    await sheet.rows('blocks').first().click();
    await sheet.type('x', '69');
    await sheet.stage('Surface');
    await expect.poll(() => ground([69, 0, 66])).toContain('moss');
    expect(await ground([64, 0, 66])).not.toContain('moss');
  });

  await test.step('a surface wears a picture of its own, in one act; what is no picture is refused', async () => {
    await tab(/surfaces/);
    await pick('mud');
    const before = await colourAt(page, sheet, [72, 0, 80]);
    const red = await page.evaluate(() => {
      const canvas = document.createElement('canvas');
      canvas.width = canvas.height = 40;
      const context = canvas.getContext('2d')!;
      context.fillStyle = '#e02010';
      context.fillRect(0, 0, 40, 40);
      return canvas.toDataURL('image/png').split(',')[1];
    });
    const edits = await sheet.undoCount();
    await page.getByLabel('picture that mud wears').setInputFiles({ name: 'clay.png', mimeType: 'image/png', buffer: Buffer.from(red, 'base64') });
    await expect(bench.getByText('clay', { exact: true })).toBeVisible();
    await expect
      .poll(async () => {
        const [r, g] = await colourAt(page, sheet, [72, 0, 80]);
        return r / g;
      })
      .toBeGreaterThan(2.5);
    expect(before[0] / before[1]).toBeLessThan(1.6);
    expect(await sheet.undoCount()).toBe(edits + 1);
    await page.getByLabel('picture that mud wears').setInputFiles({ name: 'notes.txt', mimeType: 'text/plain', buffer: Buffer.from('no picture') });
    await expect(page.getByTestId('message')).toContainText('notes.txt is not worn by mud: it is no picture');
    await bench.getByRole('button', { name: 'mud wears its texture again' }).click();
    await expect
      .poll(async () => {
        const [r, g] = await colourAt(page, sheet, [72, 0, 80]);
        return r / g;
      })
      .toBeLessThan(1.6);
    await page.keyboard.press('Control+z');
    await expect(bench.getByText('clay', { exact: true })).toBeVisible();
  });

  await test.step('the overlays tell what repeats and how fine it is; all of it comes back after a reload', async () => {
    await page.getByLabel('overlay', { exact: true }).selectOption('repeat');
    await expect(page.getByTestId('overlay')).toContainText(/scree: \d+ tiles of 6 m side by side; lay it at two scales, or break it up/);
    await page.getByLabel('overlay', { exact: true }).selectOption('texels');
    await expect(page.getByTestId('overlay')).toContainText('as wanted');
    await page.getByLabel('overlay', { exact: true }).selectOption('none');
    await sheet.saved();
    await page.reload();
    await sheet.ready();
    await expect.poll(() => ground([72, 0, 80])).toContain('mud');
    await expect
      .poll(async () => {
        const [r, g] = await colourAt(page, sheet, [72, 0, 80]);
        return r / g;
      })
      .toBeGreaterThan(2.5);
    expect(await ground([90, 0, 94])).toContain('scree');
    expect(await ground([69, 0, 66])).toContain('moss');
    await tab(/rules/);
    await expect(rules).toHaveCount(3);
  });
});

test('another size is a copy with everything where it was on the ground', async ({ page, rammer }) => {
  const sheet = new Sheet(page);
  const bench = page.locator('aside[aria-label=bench]');
  await sheet.newLevel(rammer.base, 'Too small');
  await sheet.plan(80, 80, 60, { stage: 'earth' });
  await sheet.brush('raise');
  await sheet.drag([76, 0, 80], [84, 0, 80]);
  const raised = await sheet.heightAt([80, 0, 80]);
  const beside = await sheet.heightAt([80, 0, 95]);
  await sheet.saved();
  await sheet.stage('Brief');
  await bench.getByRole('button', { name: /another size/ }).click();
  await expect(bench.getByRole('button', { name: 'make the duplicate' })).toBeDisabled();
  await sheet.type('tiles across', '1');
  await expect(sheet.field('tiles across')).toHaveAttribute('aria-invalid', 'true');
  await sheet.type('tiles across', '6');
  await sheet.type('add in the west', '32');
  await expect(bench).toContainText('192 x 160 m');
  await bench.getByRole('button', { name: 'make the duplicate' }).click();
  await expect(bench.getByLabel('level', { exact: true })).toHaveValue('Too small, 192 x 160 m', { timeout: 30_000 });
  await sheet.ready();
  await sheet.plan(112, 80, 60, { stage: 'earth' });
  expect(await sheet.heightAt([112, 0, 80])).toBeCloseTo(raised, 1);
  expect(await sheet.heightAt([112, 0, 95])).toBeCloseTo(beside, 1);
});

/** Mean red, green and blue of the picture at a place of the level, 20 pixels a side. */
async function colourAt(page: Page, sheet: Sheet, at: Vec3): Promise<[number, number, number]> {
  const [x, y] = await sheet.pixel(at);
  const shot = await page.screenshot({ clip: { x: x - 10, y: y - 10, width: 20, height: 20 } });
  return page.evaluate(async (png) => {
    const bitmap = await createImageBitmap(new Blob([Uint8Array.from(atob(png), (c) => c.charCodeAt(0))]));
    const context = new OffscreenCanvas(20, 20).getContext('2d')!;
    context.drawImage(bitmap, 0, 0);
    const { data } = context.getImageData(0, 0, 20, 20);
    return [0, 1, 2].map((c) => data.filter((_, i) => i % 4 === c).reduce((n, v) => n + v, 0) / 400) as [number, number, number];
  }, shot.toString('base64'));
}
