import type { Page } from '@playwright/test';
import { SHIPPED_BODIES } from '@rammer/core/body/bodies';
import { Rammer } from '../../e2e/src/rammer';
import { launch } from './browser';
import type { Row } from './measure';

/** Tiles a side: 4097 and 1025 samples, half a metre apart. */
const WIDE = 64;
const USUAL = 16;

interface Opened {
  open: number;
  stroke: number;
  undo: number;
  sent: number;
  before: number;
  after: number;
}

/** Opens a level of noise, draws one stroke over it and undoes it: milliseconds, bytes sent, and megabytes of heap and buffers before and after. */
async function opened(page: Page, base: string, tiles: number): Promise<Opened> {
  const made = await page.request.post(`${base}/api/levels`, {
    data: { name: `${tiles} tiles`, tilesX: tiles, tilesZ: tiles, spacing: 0.5, body: { name: 'adult', figures: SHIPPED_BODIES.adult }, seed: 3 },
    headers: { origin: base },
  });
  const { id } = (await made.json()) as { id: string };
  const middle = tiles * 16;
  const memory = async (): Promise<number> => {
    await page.waitForTimeout(8000);
    const cdp = await page.context().newCDPSession(page);
    await cdp.send('HeapProfiler.collectGarbage');
    const use = (await cdp.send('Runtime.getHeapUsage')) as { usedSize: number; backingStorageSize?: number };
    return (use.usedSize + (use.backingStorageSize ?? 0)) / 1e6;
  };
  const timed = async (work: () => Promise<unknown>): Promise<number> => {
    const start = performance.now();
    await work();
    return performance.now() - start;
  };
  const open = await timed(async () => {
    await page.goto(`${base}/levels/${id}?stage=earth&pose=orbit_${middle}_0_${middle}_0_-35_120`);
    await page.waitForFunction(() => document.querySelector('[data-testid=drawn]')?.getAttribute('data-drawn-draws'), undefined, { timeout: 180_000 });
  });
  const before = await memory();
  await page.getByRole('group', { name: 'tools of Earth' }).getByRole('button', { name: 'raise', exact: true }).click();
  let sent = 0;
  page.on('request', (r) => {
    if (r.url().includes('/edits') && r.method() === 'POST') sent += r.postDataBuffer()?.length ?? 0;
  });
  const edits = (n: number) =>
    page.waitForFunction((n) => document.querySelector('[data-testid=undo]')?.getAttribute('aria-label')?.includes(` ${n} edits`), n, { timeout: 60_000 });
  const box = (await page.getByTestId('view').boundingBox())!;
  const stroke = await timed(async () => {
    await page.mouse.move(box.x + 300, box.y + 350);
    await page.mouse.down();
    for (let i = 1; i <= 10; i++) await page.mouse.move(box.x + 300 + i * 20, box.y + 350);
    await page.mouse.up();
    await edits(1);
  });
  await page.waitForFunction(() => document.querySelector('[data-testid=save]')?.getAttribute('data-state') === 'saved', undefined, { timeout: 60_000 });
  const undo = await timed(async () => {
    await page.keyboard.press('Control+z');
    await edits(0);
  });
  return { open, stroke, undo, sent, before, after: await memory() };
}

/** `view/wide`: a level of 4097 samples a side, opened, sculpted and undone in a page of its own, against the usual 1025. */
export async function wideRows(): Promise<Row[]> {
  const rammer = await Rammer.start();
  const browser = await launch();
  try {
    const all: Opened[] = [];
    for (const tiles of [USUAL, WIDE]) {
      const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
      all.push(await opened(page, rammer.base, tiles));
      await page.close();
    }
    const [usual, wide] = all;
    const samples = (WIDE / USUAL) ** 2;
    const ratio = (usual.open * samples) / wide.open;
    const s = (ms: number) => `${(ms / 1000).toFixed(1)} s`;
    return [
      {
        name: 'view/wide',
        unit: 'ms',
        ours: wide.open,
        baseline: usual.open * samples,
        ratio,
        low: ratio,
        high: ratio,
        note:
          `opening 4097 x 4097 samples until the first picture, against 1025 x 1025 times ${samples}, once; a ` +
          `stroke of ten moves ${s(wide.stroke)} (1025: ${s(usual.stroke)}), its undo ${s(wide.undo)} (${s(usual.undo)}), sent ` +
          `${(wide.sent / 1000).toFixed(1)} KB (${(usual.sent / 1000).toFixed(1)}), heap and buffers ${wide.before.toFixed(0)} ` +
          `MB settled and ${wide.after.toFixed(0)} MB after them (${usual.before.toFixed(0)}, ${usual.after.toFixed(0)})`,
      },
    ];
  } finally {
    await browser.close();
    await rammer.stop();
  }
}
