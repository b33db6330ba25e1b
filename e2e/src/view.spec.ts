import { readFileSync } from 'node:fs';
import { strFromU8, strToU8, unzipSync, zipSync } from 'fflate';
import type { Page } from '@playwright/test';
import { expect, Sheet, test } from './sheet';

/** Twenty places to look from, near and far, in all views. */
const POSES = Array.from({ length: 20 }, (_, i) => {
  const a = i * 47;
  if (i % 5 === 4) return `plan_${30 + i * 5}_0_${130 - i * 4}_0_-90_${20 + i * 8}`;
  if (i % 5 === 3) return `stand_${30 + i * 5}_${[0, 4, 9, 13][i % 4]}_${120 - i * 4}_${a % 360}_-4_10`;
  return `orbit_${40 + i * 4}_3_${120 - i * 4}_${a % 360}_${-10 - (i % 4) * 18}_${14 + i * 9}`;
});

/** Whether the wall's words hold the counts of the frame that is shown now. */
const wallAgrees = (page: Page): Promise<boolean> =>
  page.evaluate(() => {
    const { drawnTriangles, drawnDraws } = (document.querySelector('[data-testid=drawn]') as HTMLElement).dataset;
    const wall = document.querySelector<HTMLElement>('[data-testid=wall]')!.innerText.replace(/\u202f/g, '');
    return wall.includes(`${drawnTriangles} triangles`) && wall.includes(`${drawnDraws} draw calls`);
  });

/** The small demo with a viewpoint at each of the poses, and none of its own. */
function withViewpoints(): Buffer {
  const files = unzipSync(readFileSync(new URL('../../demo/harrow-ledge-small.rammer.zip', import.meta.url)));
  const level = JSON.parse(strFromU8(files['level.json'])) as { objects: { kind: string; name?: string }[] };
  const viewpoints = POSES.map((text, i) => {
    const [view, ...n] = text.split('_');
    const [x, y, z, yaw, pitch, distance] = n.map(Number);
    return {
      id: `pose-${String(i).padStart(2, '0')}`,
      version: 1,
      kind: 'viewpoint',
      name: `pose ${i}`,
      pose: { view, target: [x, y, z], yaw, pitch, distance },
    };
  });
  level.objects = [...level.objects.filter((o) => o.kind !== 'viewpoint'), ...viewpoints];
  for (const o of level.objects) if (o.kind === 'settings') o.name = 'Twenty poses';
  return Buffer.from(zipSync({ ...files, 'level.json': strToU8(JSON.stringify(level)) }));
}

test('the batch list is what the renderer draws, at 20 poses, plain and full', async ({ page, rammer }) => {
  // Batches and triangles are the same in a small picture, which twenty poses are drawn sooner in.
  await page.setViewportSize({ width: 1280, height: 480 });
  const sheet = new Sheet(page);
  await page.goto(rammer.base);
  await page.setInputFiles('input[type=file]', { name: 'poses.rammer.zip', mimeType: 'application/zip', buffer: withViewpoints() });
  await sheet.ready();
  await expect(page.getByTestId('growing')).toHaveCount(0);
  const drawn = page.getByTestId('drawn');
  const read = () => drawn.evaluate((e) => ({ ...(e as HTMLElement).dataset }));
  const box = (await page.getByTestId('view').boundingBox())!;
  const picture = page.getByTestId('picture');
  for (const tier of ['plain', 'full']) {
    await picture.click();
    await page.getByRole('radio', { name: new RegExp(`^${tier}`) }).check();
    await page.keyboard.press('Escape');
    await expect(picture).toHaveAttribute('data-tier', tier);
    await page.mouse.move(box.x + 5, box.y + 5);
    const seen = new Set<string>();
    for (let i = 0; i < POSES.length; i++) {
      const before = await read();
      await page.keyboard.press('.');
      // The better frame at rest is the last, when all LODs have given way; the wall follows some frames later, and shows the same numbers.
      await expect
        .poll(
          async () => {
            const now = await read();
            const equal = now.drawnDraws === now.listDraws && now.drawnTriangles === now.listTriangles;
            return now.pose !== before.pose && Number(now.frames) > Number(before.frames) + 1 && equal && (await wallAgrees(page));
          },
          { timeout: 30_000, message: `${tier} ${POSES[i]}` },
        )
        .toBe(true);
      const d = await read();
      seen.add(`${d.drawnDraws}/${d.drawnTriangles}`);
    }
    expect(seen.size).toBeGreaterThan(12);
  }
});

test('the small demo orbits within its means; a dab is in the next frame and our own work is at most a quarter of it', async ({ page, rammer }) => {
  const sheet = new Sheet(page);
  await page.goto(rammer.base);
  await page.getByRole('button', { name: 'Harrow Ledge', exact: true }).click();
  await sheet.ready();
  await sheet.look({ view: 'orbit', target: [82, 5, 80], yaw: -8, pitch: -19, distance: 86 }, { stage: 'earth' });
  await page.waitForTimeout(1500);
  const drawn = page.getByTestId('drawn');
  const read = () => drawn.evaluate((e) => ({ ...(e as HTMLElement).dataset })) as Promise<Record<string, string>>;
  const box = (await page.getByTestId('view').boundingBox())!;

  // Orbit with the middle button for three seconds; every frame is timed by its fence.
  await page.mouse.move(box.x + 400, box.y + 300);
  await page.mouse.down({ button: 'middle' });
  const turn = async (ms: number) => {
    const start = Date.now();
    for (let i = 0; Date.now() - start < ms; i++) {
      await page.mouse.move(box.x + 400 + ((i * 5) % 300), box.y + 300);
      await page.waitForTimeout(25);
    }
  };
  await turn(2000);
  const first = Number((await read()).frames);
  const start = Date.now();
  await turn(6000);
  const moving = await read();
  const seconds = (Date.now() - start) / 1000;
  await page.mouse.up({ button: 'middle' });
  const frames = Number(moving.frames) - first;
  const times = moving.recent
    .split(' ')
    .slice(-Math.min(frames, 60))
    .map((t) => Number(t.split('/')[0]))
    .sort((a, b) => a - b);
  const median = times[Math.floor(times.length / 2)];
  console.log(
    `orbit: ${(frames / seconds).toFixed(1)} frames a second, median ${median} ms by ` +
      `the fence, at pixel ratio ${moving.ratio} with ${moving.drawnTriangles} triangles`,
  );
  expect(Number(moving.ratio)).toBeGreaterThanOrEqual(0.5);
  expect(Number(moving.drawnTriangles)).toBeLessThan(40_000);
  // The figure itself depends on the machine's other load and stands in bench and the notes; here a frame
  // must at least come within a second, which a stuck fence or a lost request would miss.
  expect(median).toBeLessThan(1000);

  // A dab: our own work is at most a quarter of the frame that shows it.
  await sheet.brush('raise');
  await page.waitForTimeout(1200);
  const before = await read();
  await page.mouse.move(box.x + 420, box.y + 420);
  await page.mouse.down();
  const shares: number[] = [];
  for (let i = 0; i < 25; i++) {
    await page.mouse.move(box.x + 420 + i * 6, box.y + 420);
    await page.waitForTimeout(40);
    const d = await read();
    shares.push(Number(d.ownMs) / Number(d.frameMs));
  }
  await page.mouse.up();
  expect(Number((await read()).frames)).toBeGreaterThan(Number(before.frames));
  shares.sort((a, b) => a - b);
  console.log(
    `dab: our own work ${(shares[Math.floor(shares.length / 2)] * 100).toFixed(0)} % of a frame, worst ${(shares[shares.length - 1] * 100).toFixed(0)} %`,
  );
  expect(shares[Math.floor(shares.length / 2)]).toBeLessThan(0.25);
});

test('fetches at most 1.2 MB of code until the first picture', async ({ page, rammer }) => {
  const sheet = new Sheet(page);
  await page.goto(rammer.base);
  const href = await page
    .getByRole('button', { name: 'Harrow Ledge', exact: true })
    .click()
    .then(() => sheet.ready())
    .then(() => page.url());
  const sizes = new Map<string, number>();
  const client = await page.context().newCDPSession(page);
  await client.send('Network.enable');
  await client.send('Network.setCacheDisabled', { cacheDisabled: true });
  const urls = new Map<string, string>();
  client.on('Network.responseReceived', (e) => urls.set(e.requestId, e.response.url));
  client.on('Network.loadingFinished', (e) => {
    const u = urls.get(e.requestId);
    if (u && /\.(js|css|wasm)(\?|$)/.test(u)) sizes.set(u, e.encodedDataLength);
  });
  await page.goto('about:blank');
  await sheet.open(href);
  const total = [...sizes.values()].reduce((a, b) => a + b, 0);
  console.log(`code until the first picture: ${(total / 1e6).toFixed(3)} MB in ${sizes.size} files`);
  expect(sizes.size).toBeGreaterThan(2);
  expect(total).toBeLessThan(1_200_000);
});

test('one finger turns the view, two draw it nearer, a tap selects', async ({ page, rammer, faults }) => {
  const sheet = new Sheet(page);
  await sheet.newLevel(rammer.base, 'Touched yard');
  await sheet.flatYard();
  await sheet.plan(80, 80, 30, { stage: 'block' });
  await page.getByTestId('view').locator('canvas').focus();
  await page.keyboard.press('r');
  await sheet.click([80, 0, 80]);
  await page.keyboard.press('Escape');
  await page.keyboard.press('Escape');
  await sheet.look({ view: 'orbit', target: [80, 1, 80], yaw: 20, pitch: -30, distance: 20 }, { stage: 'block' });
  const client = await page.context().newCDPSession(page);
  const touch = (type: 'touchStart' | 'touchMove' | 'touchEnd', ...points: [number, number][]) =>
    client.send('Input.dispatchTouchEvent', { type, touchPoints: points.map(([x, y], id) => ({ x, y, id })) });
  await touch('touchStart', [600, 300]);
  for (let i = 1; i <= 5; i++) await touch('touchMove', [600 + i * 20, 300]);
  await touch('touchEnd');
  const turned = await sheet.pose();
  expect(turned.yaw).toBeCloseTo(48, 0);
  expect(turned.distance).toBe(20);
  await touch('touchStart', [600, 300], [700, 300]);
  for (let i = 1; i <= 5; i++) await touch('touchMove', [600 - i * 10, 300], [700 + i * 10, 300]);
  await touch('touchEnd');
  const nearer = await sheet.pose();
  expect(nearer.distance).toBeCloseTo(10, 0);
  expect(nearer.yaw).toBeCloseTo(48, 0);
  await expect(page.getByTestId('selection')).toHaveCount(0);
  const at = await sheet.pixel([80, 1.2, 80]);
  // Sent together: a finger does not wait for the page to have drawn before it is lifted.
  await Promise.all([touch('touchStart', at), touch('touchEnd')]);
  await expect(page.getByTestId('selection')).toHaveCount(1);
  expect(faults).toEqual([]);
});
