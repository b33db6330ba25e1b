import { deflateSync } from 'node:zlib';
import { expect, Sheet, test } from './sheet';
import type { Vec3 } from '@rammer/core/num/vec';
import { heightsPng } from '@rammer/core/io/rasters';
import { crc32 } from '@rammer/core/io/zip';

/**
 * Stage Earth by hand: water and islands, sculpting, a route that keeps its grade, a pad that follows, rock by rule, a painted
 * path, and a new seed that loses nothing.
 */
test('two islands are linked, a route climbs, a pad follows, and a new seed loses nothing', async ({ page, rammer, faults }) => {
  const sheet = new Sheet(page);
  const bench = page.locator('aside[aria-label=bench]');
  const lifts = sheet.lifts();
  const message = page.getByTestId('message');
  const tool = (name: string) => page.getByRole('toolbar', { name: 'add a lift' }).getByRole('button', { name, exact: true }).click();
  const groundAt = async (p: Vec3) => {
    await sheet.heightAt(p);
    return page.getByLabel('status').innerText();
  };

  await sheet.newLevel(rammer.base, 'Two islands');
  await sheet.flatYard();
  await sheet.plan(80, 80, 90, { stage: 'earth' });

  await test.step('two round heaps, and the sea around them', async () => {
    await tool('landform');
    await sheet.drag([58, 0, 80], [74, 0, 80]);
    await expect(lifts).toHaveCount(3);
    await expect(bench.getByLabel('radius', { exact: true })).toHaveValue('16');
    await tool('landform');
    await sheet.drag([104, 0, 80], [118, 0, 80]);
    await bench.getByRole('button', { name: 'sea' }).click();
    await sheet.type('height', '1.5');
    await expect(bench).toContainText('too deep to wade: 0.9 m');
    expect(await sheet.heightAt([58, 3, 80])).toBeCloseTo(3, 1);
  });

  await test.step('the overlay tells the island that is not linked, and goes quiet while the causeway is raised', async () => {
    await page.getByLabel('overlay', { exact: true }).selectOption('islands');
    await expect(page.getByTestId('overlay')).toContainText('1 island not linked');
    await sheet.brush('raise');
    await sheet.type('strength', '0.4');
    await sheet.drag([70, 0, 80], [94, 0, 80], 16);
    await expect(page.getByTestId('overlay')).toContainText('all ground that can be stood on is linked');
    await page.keyboard.press('Control+z');
    await expect(page.getByTestId('overlay')).toContainText('1 island not linked');
    await page.keyboard.press('Control+Shift+z');
    await expect(page.getByTestId('overlay')).toContainText('all ground');
    await page.getByLabel('overlay', { exact: true }).selectOption('none');
  });

  await test.step('an outline that crosses itself is refused and its corners kept; a pool on a peak says why it is dry', async () => {
    await tool('pad');
    for (const p of [
      [122, 0, 104],
      [130, 0, 112],
      [130, 0, 104],
      [122, 0, 112],
    ] as Vec3[])
      await sheet.click(p);
    await page.keyboard.press('Enter');
    await expect(message).toContainText('the outline crosses itself: the side from corner 1 meets the side from corner 3');
    await page.keyboard.press('Backspace');
    await page.keyboard.press('Enter');
    await expect(lifts).toHaveCount(5);
    await bench.getByRole('button', { name: 'delete the lift' }).click();
    await expect(lifts).toHaveCount(4);
    await bench.getByRole('button', { name: 'pool', exact: true }).click();
    await sheet.click([58, 3, 80]);
    await sheet.type('height', '2');
    await expect(bench).toContainText('the ground at its seed is 3.00 m high, its water 2.00 m: raise the water, or put the seed in a lower place');
    await bench.getByRole('button', { name: 'delete pool 1' }).click();
  });

  await test.step('a route up the heap is held to 12 %; its long profile and typed grade', async () => {
    await tool('route');
    for (const p of [
      [104, 0, 112],
      [104, 0, 96],
      [104, 3, 82],
    ] as Vec3[])
      await sheet.click(p);
    await page.keyboard.press('Enter');
    await expect(lifts).toHaveCount(5);
    const profile = page.getByTestId('long-profile');
    await expect(profile).toContainText('steepest 12.0 % of 12 %');
    await expect(profile).toContainText(/cut [\d\u202f]+ m³, fill [\d\u202f]+ m³/);
    expect(Number(await profile.getAttribute('data-steepest'))).toBeLessThanOrEqual(12.02);
    const [a, b] = [await sheet.heightAt([104, 1, 98]), await sheet.heightAt([104, 1, 94])];
    expect((b - a) / 4).toBeLessThan(0.1225);
    expect((b - a) / 4).toBeGreaterThan(0.08);
    await sheet.type('grade', '8');
    await expect(profile).toContainText('of 8 %');
    expect(Number(await profile.getAttribute('data-steepest'))).toBeLessThanOrEqual(8.02);
    await page.keyboard.press('Control+z');
    await expect(profile).toContainText('of 12 %');
    await bench.getByLabel('ground it carries').selectOption('gravel');
  });

  await test.step('a pad under a shed follows it when it moves', async () => {
    await page.getByRole('navigation', { name: 'stages' }).getByRole('button', { name: 'Block' }).click();
    await sheet.tool('box');
    for (const [name, value] of [
      ['length', '6'],
      ['height', '3'],
      ['width', '5'],
    ] as const)
      await sheet.type(name, value);
    await sheet.click([58, 3, 80]);
    await page.keyboard.press('Escape');
    await expect(sheet.rows('blocks')).toHaveCount(1);
    await sheet.rows('blocks').first().click();
    await sheet.type('base', '4');
    await sheet.stage('Earth');
    await bench.getByRole('button', { name: 'pad under them' }).click();
    await expect(lifts).toHaveCount(6);
    await expect.poll(() => sheet.heightAt([61.4, 4, 82.9])).toBeCloseTo(4, 2);
    await sheet.stage('Block');
    await sheet.rows('blocks').first().click();
    await sheet.type('base', '4.5');
    await sheet.type('x', '56');
    await expect.poll(() => sheet.heightAt([52.6, 4, 82.9])).toBeCloseTo(4.5, 2);
    await expect.poll(() => sheet.heightAt([61.6, 3, 83])).toBeLessThan(4.3);
  });

  await test.step('rock by rule where it is steep, a path painted over it', async () => {
    await sheet.stage('Earth');
    await sheet.lift('landform 2');
    await sheet.type('crest', '7');
    // Its side profile stands in the section: the crest is dragged higher there, and back by undo.
    const side = page.getByTestId('side-profile');
    await expect(side.getByRole('img')).toHaveAttribute('aria-label', /landform 2: heap 7 m high/);
    await expect(side).toHaveAttribute('data-ground', 'below');
    await page.waitForTimeout(300);
    const grip = (await side.locator('[data-handle=crest]').boundingBox())!;
    const edits = await sheet.undoCount();
    await page.mouse.move(grip.x + 6, grip.y + 6);
    await page.mouse.down();
    await page.mouse.move(grip.x + 6, grip.y - 6, { steps: 4 });
    await page.mouse.up();
    expect(await sheet.undoCount()).toBe(edits + 1);
    expect(await sheet.number('crest')).toBeGreaterThan(7.2);
    await page.keyboard.press('Control+z');
    await expect.poll(() => sheet.number('crest')).toBe(7);
    await expect.poll(() => groundAt([116, 4, 78])).toContain('slate');
    expect(await groundAt([97, 7, 76])).toContain('turf');
    expect(await groundAt([104, 1, 100])).toContain('gravel');
    await sheet.stage('Surface');
    await page.getByRole('grid', { name: 'surfaces' }).getByText('moss', { exact: true }).click();
    await sheet.tool('paint');
    await sheet.type('strength', '100');
    await sheet.drag([96.5, 7, 76.5], [98, 7, 75]);
    await sheet.drag([96.5, 7, 76.5], [98, 7, 75]);
    await expect.poll(() => groundAt([97, 7, 76])).toContain('moss');
  });

  await test.step('lifts are hidden, locked, copied, reordered and shown alone', async () => {
    await sheet.stage('Earth');
    await sheet.lift('landform 1');
    await bench.getByRole('button', { name: 'lock landform 1' }).click();
    await sheet.type('crest', '9');
    await expect(message).toContainText('landform 1 is locked: unlock it first');
    await bench.getByRole('button', { name: 'unlock landform 1' }).click();
    await bench.getByRole('button', { name: 'duplicate the lift' }).click();
    await expect(lifts).toHaveCount(7);
    await expect(lifts.nth(4)).toContainText('landform 3');
    await bench.getByRole('button', { name: 'up in the stack' }).click();
    await expect(lifts.nth(3)).toContainText('landform 3');
    await bench.getByRole('button', { name: 'show it alone' }).click();
    await expect.poll(() => sheet.heightAt([97, 7, 76])).toBe(0);
    await bench.getByRole('button', { name: 'show it alone' }).click();
    await expect.poll(() => sheet.heightAt([97, 7, 76])).toBeGreaterThan(6);
    await bench.getByRole('button', { name: 'delete the lift' }).click();
    await expect(lifts).toHaveCount(6);
  });

  await test.step('a new seed keeps all of it, over a reload too', async () => {
    await sheet.lift('rough ground');
    await sheet.type('height', '0.5');
    await sheet.type('seed', '77');
    await page.waitForTimeout(1200);
    const looks = async () => {
      expect(await sheet.heightAt([52.6, 4, 82.9])).toBeCloseTo(4.5, 2);
      expect(await groundAt([97, 7, 76])).toContain('moss');
      expect(await groundAt([104, 1, 100])).toContain('gravel');
      await sheet.lift('route 1');
      await expect(page.getByTestId('long-profile')).toContainText('steepest 12.0 % of 12 %');
      // The causeway was raised relative to the ground: it still stands out of the water enough to wade.
      expect(await sheet.heightAt([82, 1, 80])).toBeGreaterThan(0.6);
    };
    await looks();
    await sheet.saved();
    await page.reload();
    await sheet.ready();
    await expect(lifts).toHaveCount(6);
    await looks();
  });
  expect(faults).toEqual([]);
});

/** What is laid in, looked for and worked out: a survey, a proposed route, weathering with cancel, a pool that runs out. */
test('heights from a picture, a proposed route, weathering and a pool', async ({ page, rammer, faults }) => {
  const sheet = new Sheet(page);
  const bench = page.locator('aside[aria-label=bench]');
  const lifts = sheet.lifts();
  const message = page.getByTestId('message');
  const tool = (name: string) => page.getByRole('toolbar', { name: 'add a lift' }).getByRole('button', { name, exact: true }).click();

  await sheet.newLevel(rammer.base, 'Laid in');
  await sheet.flatYard();
  await sheet.plan(80, 80, 150, { stage: 'earth' });

  await test.step('a broken picture is refused by name; a good one shows its real size and lies at it', async () => {
    const files = bench.getByLabel('file of heights');
    const dialog = page.getByRole('dialog', { name: 'lay in heights' });
    await files.setInputFiles({ name: 'dot.png', mimeType: 'image/png', buffer: picture(1, () => 9) });
    await expect(dialog.getByRole('alert')).toContainText('dot.png is 1 x 1 pixels: ground needs at least 2 x 2');
    await expect(dialog.getByRole('button', { name: 'lay it in' })).toBeDisabled();
    await dialog.getByRole('button', { name: 'cancel' }).click();
    // It rises from west to east.
    await files.setInputFiles({ name: 'rise.png', mimeType: 'image/png', buffer: picture(65, (x) => x) });
    await expect(dialog).toContainText('160.0 x 160.0 m, 80 s across at a walk; a pixel is 2.50 m');
    await dialog.getByLabel('highest').fill('24');
    await dialog.getByLabel('highest').press('Enter');
    await dialog.getByRole('button', { name: 'lay it in' }).click();
    await expect(lifts).toHaveCount(3);
    expect(await sheet.heightAt([80, 12, 80])).toBeCloseTo(12, 1);
    expect(await sheet.heightAt([120, 18, 60])).toBeCloseTo(18, 1);
  });

  await test.step('a route is proposed up the rise that keeps its grade, by another seed another', async () => {
    await tool('route');
    await bench.getByRole('button', { name: 'propose' }).click();
    await sheet.type('grade', '10');
    await sheet.click([30, 4, 80]);
    await sheet.click([130, 20, 80]);
    await expect(lifts).toHaveCount(4);
    const profile = page.getByTestId('long-profile');
    await expect(profile).toBeVisible();
    const along = Number(/profile, ([\d.]+) m/.exec(await profile.innerText())![1]);
    // 16 m of rise at 10 %; straight it would be 100 m.
    expect(along).toBeGreaterThan(130);
    expect(Number(await profile.getAttribute('data-steepest'))).toBeLessThanOrEqual(10.02);
  });

  await test.step('weathering is cancelled and leaves nothing; done, it is kept and told stale when the ground changes', async () => {
    await bench.getByRole('toolbar', { name: 'add a lift' }).getByRole('button', { name: 'weather' }).click();
    await expect(lifts).toHaveCount(5);
    await sheet.type('droplets', '2000000');
    const edits = await sheet.undoCount();
    await bench.getByRole('button', { name: 'weather it' }).click();
    await bench.getByRole('button', { name: 'cancel' }).click();
    await expect(message).toContainText('was cancelled; its last shape is kept');
    expect(await sheet.undoCount()).toBe(edits);
    await sheet.type('droplets', '3000');
    await sheet.type('rounds', '5');
    await bench.getByRole('button', { name: 'weather it' }).click();
    await expect(bench).toContainText('up to date', { timeout: 60_000 });
    expect(await sheet.undoCount()).toBe(edits + 3);
    await sheet.lift('survey 1');
    await sheet.type('weight', '60');
    await sheet.lift('weather 1');
    await expect(bench).toContainText('stale: the ground below it, or its numbers, changed');
  });

  await test.step('a pool in a hollow says where it would run over, and that it runs out when it is filled higher', async () => {
    await tool('landform');
    await sheet.drag([40, 6, 130], [54, 6, 130]);
    await bench.getByRole('button', { name: 'cut', exact: true }).click();
    await bench.getByRole('button', { name: 'pool', exact: true }).click();
    await sheet.click([40, 3, 130]);
    await expect(bench).toContainText(/it runs over at [\d.]+ m/);
    await sheet.type('height', '14');
    await expect(bench).toContainText('it runs out of the level');
    await page.keyboard.press('Control+z');
    await expect(bench).toContainText(/it runs over at [\d.]+ m/);
  });

  await test.step('a stream runs down along the route, whose way is sunk for it; where its banks are too low it runs over', async () => {
    const edits = await sheet.undoCount();
    await sheet.lift('route 1');
    await bench.getByRole('button', { name: 'stream', exact: true }).click();
    expect(await sheet.undoCount()).toBe(edits + 1);
    await expect(sheet.rows('waters')).toHaveCount(2);
    await expect(bench.getByLabel('route it runs along')).toContainText('route 1');
    // The survey was made lower since the route was proposed: it stands on a bank there, and the water would leave it.
    await expect(bench).toContainText('it runs over its banks: sink its route, or make it shallower');
    await sheet.lift('route 1');
    expect(await sheet.number('sunk')).toBe(0.8);
    await sheet.type('sunk', '12');
    await sheet.rows('waters').getByText('stream 1').click();
    await expect(bench).toContainText('waded through, at most 0.9 m');
    await sheet.type('depth', '1.5');
    await expect(bench).toContainText('too deep to wade: 0.9 m');
  });

  await test.step('a print is set once a press, one made from a mesh too; the weather brush wears it down', async () => {
    await sheet.brush('print');
    await bench.getByLabel('file of a print').setInputFiles({ name: 'broken.obj', mimeType: 'text/plain', buffer: Buffer.from('v 0 0 0\nf 1 2 3') });
    await expect(bench.getByRole('alert')).toContainText('broken.obj, line 2: a face names a corner that is not there');
    // A wide one takes a while, and can be stopped.
    await bench.getByLabel('file of a print').setInputFiles({ name: 'wide.png', mimeType: 'image/png', buffer: blankPicture(6000) });
    await bench.getByRole('button', { name: 'stop loading' }).click();
    await expect(bench.getByRole('button', { name: 'from a file' })).toBeVisible();
    await expect(bench.getByLabel('what is printed')).toHaveValue('outcrop');
    await expect(bench.getByRole('alert')).toBeHidden();
    await bench
      .getByLabel('file of a print')
      .setInputFiles({ name: 'wedge.obj', mimeType: 'text/plain', buffer: Buffer.from('v 0 0 0\nv 10 4 0\nv 10 4 10\nv 0 0 10\nf 1 4 3 2') });
    await expect(bench.getByLabel('what is printed')).toHaveValue('own');
    await sheet.type('height', '3');
    await sheet.type('hardness', '90');
    const at: Vec3 = [123, 18.4, 134];
    const [before, edits] = [await sheet.heightAt(at), await sheet.undoCount()];
    await sheet.drag([120, 18, 134], [122, 18.3, 134]);
    expect(await sheet.undoCount()).toBe(edits + 1);
    // Three quarters of the way across a wedge 12 m wide.
    expect((await sheet.heightAt(at)) - before).toBeCloseTo(2.25, 1);
    const printed = await sheet.heightAt([125, 18.7, 134]);
    await sheet.brush('weather');
    await sheet.drag([124, 18, 134], [127, 18, 134], 12);
    expect(await sheet.heightAt([125, 18.7, 134])).toBeLessThan(printed - 0.1);
    await page.keyboard.press('Control+z');
    await page.keyboard.press('Control+z');
    expect(await sheet.heightAt(at)).toBeCloseTo(before, 1);
  });

  await test.step('a lift is tuned in a work window: nothing is changed outside it, nor kept, until it is run everywhere', async () => {
    await sheet.lift('rough ground');
    // Seeds are anybody's guess, and so is the way of the route: of some places one changes.
    const inside = [
      [70, 10, 66],
      [90, 12, 70],
      [66, 9, 96],
      [94, 13, 98],
    ] as Vec3[];
    const outside: Vec3 = [20, 4, 30];
    const heights = async () => {
      const all: number[] = [];
      for (const p of inside) all.push(await sheet.heightAt(p));
      return all;
    };
    const most = (now: number[]) => Math.max(...now.map((h, i) => Math.abs(h - before[i])));
    const [edits, before, far] = [await sheet.undoCount(), await heights(), await sheet.heightAt(outside)];
    await bench.getByRole('button', { name: 'work window' }).click();
    await sheet.type('height', '60');
    await sheet.type('scale', '30');
    await expect(bench).toContainText('tuned in the window');
    await expect.poll(async () => most(await heights())).toBeGreaterThan(0.3);
    expect(await sheet.heightAt(outside)).toBeCloseTo(far, 2);
    expect(await sheet.undoCount()).toBe(edits);
    await bench.getByRole('button', { name: 'discard' }).click();
    await expect.poll(async () => most(await heights())).toBeLessThan(0.02);
    await bench.getByRole('button', { name: 'work window' }).click();
    await sheet.type('height', '60');
    await bench.getByRole('button', { name: 'run everywhere' }).click();
    expect(await sheet.undoCount()).toBe(edits + 1);
    await expect.poll(async () => Math.abs((await sheet.heightAt(outside)) - far) + most(await heights())).toBeGreaterThan(0.1);
  });

  await test.step('a mask is drawn where the lift counts, and its corner dragged', async () => {
    const edits = await sheet.undoCount();
    await bench.getByRole('button', { name: 'draw', exact: true }).click();
    for (const p of [
      [100, 14, 20],
      [130, 17, 20],
      [130, 17, 50],
      [100, 14, 50],
      [100, 14, 20],
    ] as Vec3[])
      await sheet.click(p);
    expect(await sheet.undoCount()).toBe(edits + 1);
    await expect(bench.getByLabel('outline of the mask')).toBeVisible();
    const corner = page.getByTestId('lift-handles').locator('[data-handle="corner 1"]');
    const box = (await corner.boundingBox())!;
    await page.mouse.move(box.x + 7, box.y + 7);
    await page.mouse.down();
    await page.mouse.move(box.x - 40, box.y + 7, { steps: 4 });
    await page.mouse.up();
    expect(await sheet.undoCount()).toBe(edits + 2);
  });
  expect(faults).toEqual([]);
});

/** A square picture of heights as a 16-bit PNG. */
function picture(side: number, height: (x: number) => number): Buffer {
  const heights = Float32Array.from({ length: side * side }, (_, i) => height(i % side));
  return Buffer.from(
    heightsPng({ grid: { tilesX: 1, tilesZ: 1, spacing: 1, nx: side, nz: side, width: side - 1, depth: side - 1, ox: 0, oz: 0 }, heights, noise: new Map() })
      .png,
  );
}

/** A square PNG of 16 bits, all of it 0: quick to make however wide. */
function blankPicture(side: number): Buffer {
  const header = Buffer.from([0, 0, 0, 0, 0, 0, 0, 0, 16, 0, 0, 0, 0]);
  header.writeUInt32BE(side, 0);
  header.writeUInt32BE(side, 4);
  const chunk = (name: string, data: Buffer) => {
    const body = Buffer.concat([Buffer.from(name), data]);
    const ends = Buffer.alloc(8);
    ends.writeUInt32BE(data.length, 0);
    ends.writeUInt32BE(crc32(body), 4);
    return Buffer.concat([ends.subarray(0, 4), body, ends.subarray(4)]);
  };
  return Buffer.concat([
    Buffer.from('89504e470d0a1a0a', 'hex'),
    chunk('IHDR', header),
    chunk('IDAT', deflateSync(Buffer.alloc(side * (1 + 2 * side)))),
    chunk('IEND', Buffer.alloc(0)),
  ]);
}
