import { readFileSync } from 'node:fs';
import type { Page } from '@playwright/test';
import { readAsset } from '@rammer/core/io/assetGlb';
import { readZip } from '@rammer/core/io/zip';
import { assetBounds, assetFacts } from '@rammer/core/kit/asset';
import { birchGlb, crateFiles, packedCrateGlb, wallFiles } from '@rammer/core/testing/othersMeshes';
import { jpegPicture } from '@rammer/core/testing/pictures';
import { expect, Sheet, test } from './sheet';

type Files = Record<string, Uint8Array>;
const plain = (files: Files): [string, number[]][] => Object.entries(files).map(([name, bytes]) => [name, [...bytes]]);

/** Lets files go over the view, as a hand would. */
async function drop(page: Page, files: Files): Promise<void> {
  const data = await page.evaluateHandle((list) => {
    const transfer = new DataTransfer();
    for (const [name, bytes] of list) transfer.items.add(new File([Uint8Array.from(bytes)], name));
    return transfer;
  }, plain(files));
  for (const type of ['dragover', 'drop']) await page.getByTestId('drop').dispatchEvent(type, { dataTransfer: data });
}

/** What the browser gives who asks for a file on disk: one that is changed by `rewrite`. */
async function disk(page: Page, files: Files): Promise<(files: Files) => Promise<void>> {
  const write = (list: [string, number[]][]) =>
    page.evaluate((given) => {
      const w = window as unknown as Record<string, unknown>;
      const now = Object.fromEntries(given.map(([name, bytes]) => [name, new File([Uint8Array.from(bytes)], name, { lastModified: Date.now() })]));
      w.onDisk = now;
      w.showOpenFilePicker = async () => Object.keys(now).map((name) => ({ getFile: async () => (w.onDisk as Record<string, File>)[name] }));
    }, list);
  await write(plain(files));
  return (next) => write(plain(next));
}

/** Pixels of a picture that are brown: more red than green, more green than blue, each by a good deal. */
function brownOf(image: HTMLElement | SVGElement): number {
  const img = image as HTMLImageElement;
  const canvas = document.createElement('canvas');
  [canvas.width, canvas.height] = [img.naturalWidth, img.naturalHeight];
  const context = canvas.getContext('2d')!;
  context.drawImage(img, 0, 0);
  const { data } = context.getImageData(0, 0, canvas.width, canvas.height);
  let brown = 0;
  for (let i = 0; i < data.length; i += 4) if (data[i + 3] > 200 && data[i] - data[i + 1] > 25 && data[i + 1] - data[i + 2] > 20) brown++;
  return brown;
}

test('three meshes of others: mended, tagged, found again, placed, grown, followed on disk, exported', async ({ page, rammer }) => {
  const sheet = new Sheet(page);
  await sheet.newLevel(rammer.base, 'Crate yard');
  await sheet.flatYard();
  await sheet.plan(80, 80, 30, { stage: 'build' });
  const rewrite = await disk(page, await crateFiles());
  const card = page.getByRole('region', { name: 'meshes coming in' });
  const wrong = card.getByRole('list', { name: 'what looks wrong' }).getByRole('listitem');
  const mends = card.getByRole('list', { name: 'mends' }).getByRole('listitem');
  const figures = card.getByRole('table', { name: 'figures' });

  await test.step('dropped, and looked at before anything is kept', async () => {
    await drop(page, { ...(await crateFiles()), ...wallFiles(), 'birch.glb': await birchGlb(), 'notes.txt': new Uint8Array([65]) });
    await expect(card.getByRole('option')).toHaveCount(3, { timeout: 30_000 });
    await expect(card).toContainText('notes.txt belongs to no mesh');
    await card.getByRole('option', { name: /old crate/ }).click();
    await expect(wrong).toHaveText([
      /lies on its side: \+z/,
      /100 m high, where such things are 0.3 to 1.6 m: its file seems to be in centimetres/,
      /pivot lies/,
    ]);
    await expect(figures).toContainText('80.00 x 80.00 x 100.00 m');
    await expect(card.getByRole('img', { name: 'old crate beside the figure' })).toBeVisible();
  });

  await test.step('the crate: set up, in metres, at one click each; a mend is taken back and made again', async () => {
    await wrong.nth(0).getByRole('button').first().click();
    await expect(wrong.first()).toContainText('100 m high');
    await wrong.first().getByRole('button', { name: 'to 1.00 m' }).click();
    await expect(card).toContainText('Nothing looks wrong');
    await expect(figures).toContainText('0.80 x 1.00 x 0.80 m');
    await card.getByRole('button', { name: 'take back: sized by 1/100' }).click();
    await expect(figures).toContainText('80.00 x 100.00 x 80.00 m');
    await wrong.first().getByRole('button', { name: 'to 1.00 m' }).click();
    await card.getByRole('button', { name: 'more mends' }).click();
    await card.getByRole('button', { name: 'hull', exact: true }).click();
    await expect(mends).toHaveText([/set up/, /sized by 1\/100/, /collider hull/]);
    await expect(figures).toContainText('hull: 1 of 12 triangles');
    await card.getByLabel('new tag').fill('cargo');
    await card.getByLabel('new tag').press('Enter');
    await card.getByRole('button', { name: 'keep', exact: true }).click();
    await expect(page.getByText('old crate kept: 0.80 x 1.00 x 0.80 m, 12 triangles')).toBeVisible({ timeout: 20_000 });
  });

  await test.step('the wall is hollow at its back; the tree has six materials and becomes a plant', async () => {
    await card.getByRole('option', { name: /hollow wall/ }).click();
    await expect(wrong.filter({ hasText: 'hollow: from back' })).toHaveCount(1);
    await card.getByRole('button', { name: 'draw both sides' }).click();
    await expect(wrong.filter({ hasText: 'hollow' })).toHaveCount(0);
    await card.getByRole('option', { name: /birch/ }).click();
    await expect(card.getByRole('radio', { name: 'plant' })).toHaveAttribute('aria-checked', 'true');
    await card.getByRole('button', { name: 'merge to 2' }).click();
    await card.getByRole('button', { name: 'make 3' }).click();
    await card.getByRole('button', { name: 'find its trunk' }).click();
    await card.getByRole('button', { name: 'picture it from 8 sides, 96 px' }).click();
    await expect(card).toContainText('Nothing looks wrong');
    await expect(figures).toContainText('0.15 m');
    await expect(card.getByRole('button', { name: /^LOD 3/ })).toContainText('px off');
    await card.getByRole('button', { name: 'keep all 2' }).click();
    await expect(card).toBeHidden({ timeout: 30_000 });
  });

  await test.step('found with a slip of the hand, and placed', async () => {
    await page.getByLabel('search the library').fill('cagro');
    await page
      .getByRole('listbox', { name: 'pieces' })
      .getByRole('option', { name: /old crate/ })
      .click();
    await sheet.click([80, 0, 80]);
    await expect(sheet.rows('pieces')).toHaveCount(1);
  });

  await test.step('made a species in wide; facts follow', async () => {
    await page.getByLabel('search the library').fill('');
    await page.getByRole('button', { name: 'wide', exact: true }).click();
    const wide = page.getByRole('region', { name: 'library in wide' });
    await wide.getByLabel('search in wide').fill('birch');
    await wide
      .getByRole('listbox', { name: 'assets' })
      // Ours are called so too.
      .getByTitle(/^birch: .* 2028 \/ 810/)
      .click();
    await wide.getByRole('button', { name: 'grow', exact: true }).click();
    await expect(sheet.rows('species')).toHaveCount(1);
    await sheet.stage('Build');
    await page.getByRole('button', { name: 'wide', exact: true }).click();
    await wide.getByLabel('search in wide').fill('');
    await wide.getByRole('checkbox', { name: /^used/ }).check();
    await wide.getByRole('option', { name: /old crate/ }).click();
    await expect(wide.getByText('1 placed, 0 species grow from it.')).toBeVisible();
    await wide.getByLabel('kit', { exact: true }).fill('harbour');
    await wide.getByLabel('kit', { exact: true }).press('Enter');
    await expect(wide.getByRole('checkbox', { name: /^harbour/ })).toBeVisible();
    await wide.getByRole('button', { name: 'follow file' }).click();
    await expect(page.getByText(/old crate.gltf.* followed for old crate/)).toBeVisible();
  });

  await test.step('changed on disk: its mends are made again, the difference is shown, what is placed follows', async () => {
    await page.waitForTimeout(50);
    await rewrite(await crateFiles(1.4));
    await page.getByRole('list', { name: 'changed on disk' }).first().getByRole('button', { name: 'look' }).click({ timeout: 15_000 });
    await expect(mends).toHaveText([/set up/, /sized by 1\/100/, /collider hull/], { timeout: 20_000 });
    await expect(figures).toContainText('0.80 x 1.40 x 0.80 m before: 0.80 x 1.00 x 0.80');
    await card.getByRole('button', { name: 'keep', exact: true }).click();
    await expect(page.getByText('12 triangles; 1 placed from it follow')).toBeVisible({ timeout: 20_000 });
    await page.getByRole('region', { name: 'library in wide' }).getByRole('button', { name: 'close' }).click();
    await page.getByRole('button', { name: 'Orbit' }).click();
    await sheet.rows('pieces').first().click();
    await expect(page.getByTestId('selection')).toContainText('1.40', { timeout: 20_000 });
    await page.keyboard.press('Control+z');
    await expect(page.getByTestId('selection')).toContainText('1.00');
    await page.getByTestId('redo').click();
    await expect(page.getByTestId('selection')).toContainText('1.40');
  });

  await test.step('exported as it came: its JPEG to the byte, its size, its hull', async () => {
    await sheet.saved();
    await sheet.stage('Hand over');
    const waiting = page.waitForEvent('download');
    await page.getByRole('button', { name: 'assets', exact: true }).click();
    const zip = readZip(new Uint8Array(readFileSync((await (await waiting).path())!)));
    if (!zip.ok) throw new Error(zip.message);
    expect([...zip.value.keys()].sort()).toEqual(['birch.glb', 'old-crate.glb']);
    const crate = await readAsset(zip.value.get('old-crate.glb')!);
    const birch = await readAsset(zip.value.get('birch.glb')!);
    if (!crate.ok || !birch.ok) throw new Error('not read');
    expect(crate.value).toMatchObject({ collider: 'hull', tags: ['crate', 'cargo'], kit: 'harbour', role: 'prop' });
    expect(Buffer.from(crate.value.textures![0].bytes).equals(Buffer.from(jpegPicture()))).toBe(true);
    expect(assetBounds(crate.value).max[1]).toBeCloseTo(1.4, 5);
    expect(assetFacts(birch.value).triangles).toHaveLength(5);
    expect(birch.value.distant).toMatchObject({ columns: 4, rows: 2 });
    expect(birch.value.trunk).toBeCloseTo(0.15, 2);
  });
});

test('a mesh that is broken says what is wrong with it, and changes nothing', async ({ page, rammer }) => {
  const sheet = new Sheet(page);
  await sheet.newLevel(rammer.base, 'Bad yard');
  await sheet.plan(80, 80, 30, { stage: 'build' });
  const { 'planks.jpg': _, ...rest } = await crateFiles();
  await drop(page, { ...rest, 'cut.glb': (await birchGlb()).slice(0, 9000), 'wall.xyz': new Uint8Array([1]) });
  const card = page.getByRole('region', { name: 'meshes coming in' });
  await expect(card.getByRole('alert')).toHaveText(
    [/planks.jpg/, /cut.glb says it is \d+ bytes and is 9000: it was cut off/, /wall.xyz is no mesh that is read/],
    { timeout: 20_000 },
  );
  await expect(card.getByRole('button', { name: 'keep', exact: true })).toHaveCount(0);
  await page.keyboard.press('Escape');
  await expect(card).toBeHidden();
  // A picture that stays packed is drawn, under the policy that forbids code of text; its brown is what one sees.
  await drop(page, { 'packed crate.glb': await packedCrateGlb() });
  const shown = card.getByRole('img', { name: 'packed crate beside the figure' });
  await expect(card.getByText('32 x 16 KTX2')).toBeVisible({ timeout: 20_000 });
  await expect.poll(() => shown.evaluate(brownOf), { timeout: 20_000 }).toBeGreaterThan(500);
  await page.keyboard.press('Escape');
  await expect(card).toBeHidden();
  await expect(page.getByTestId('undo')).toContainText('0');
});
