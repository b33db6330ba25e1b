import type { Page } from '@playwright/test';
import { SHIPPED_BODIES } from '@rammer/core/body/bodies';
import { writePackage } from '@rammer/core/io/package';
import { newLevel } from '@rammer/core/level/level';
import { Rammer } from '../../e2e/src/rammer';
import { launch } from './browser';
import { quantile, type Row } from './measure';

const MANY = 2000;
const FEW = 20;
/** steps of the drag that are timed; the first few are left out */
const STEPS = 16;

/** A level of so many boxes in rows, the first of them in the middle by itself. */
function levelOf(count: number): Buffer {
  const level = newLevel({ name: `${count} blocks`, tilesX: 5, tilesZ: 5, spacing: 0.5, body: { name: 'adult', figures: SHIPPED_BODIES.adult }, seed: 1 });
  for (let i = 0; i < count; i++) {
    const at: [number, number, number] = i === 0 ? [80, 0, 80] : [4 + (i % 50) * 3, 0, 4 + Math.floor(i / 50) * 1.7 + (i >= count / 2 ? 24 : 0)];
    level.objects.set(`b${i}`, {
      id: `b${i}`,
      version: 1,
      kind: 'block',
      name: `box ${i}`,
      shape: 'box',
      size: [1.5, 1 + (i % 5) * 0.5, 1.2],
      at,
      turn: 0,
      hidden: false,
      out: false,
    });
  }
  return Buffer.from(writePackage(level));
}

/** Opens a level from above, chooses the box in its middle and drags it: milliseconds from a movement of the mouse to the picture that shows it. */
async function dragged(page: Page, base: string, count: number): Promise<number[]> {
  const made = await page.request.post(`${base}/api/levels/package`, { data: levelOf(count), headers: { 'content-type': 'application/zip', origin: base } });
  const { id } = (await made.json()) as { id: string };
  await page.goto(`${base}/levels/${id}?stage=block&pose=plan_80_0_80_0_-90_150`);
  await page.waitForFunction(() => document.querySelector('[data-testid=drawn]')?.getAttribute('data-drawn-draws'), undefined, { timeout: 60_000 });
  await page.waitForTimeout(4000);
  const box = (await page.getByTestId('view').boundingBox())!;
  const [x, y] = [box.x + box.width / 2, box.y + box.height / 2];
  await page.mouse.click(x, y);
  await page.waitForTimeout(1500);
  const chosen = await page.locator('aside[aria-label=bench]').innerText();
  if (!chosen.includes('box 0')) throw new Error('the block in the middle was not chosen');
  await page.mouse.move(x, y);
  await page.mouse.down();
  const times: number[] = [];
  for (let i = 1; i <= STEPS + 4; i++) {
    const before = await page.getByTestId('drawn').getAttribute('data-frames');
    const start = performance.now();
    await page.mouse.move(x + i * 4, y + i * 2);
    await page.waitForFunction((n) => document.querySelector('[data-testid=drawn]')?.getAttribute('data-frames') !== n, before, { timeout: 20_000 });
    if (i > 4) times.push(performance.now() - start);
  }
  await page.mouse.up();
  return times;
}

/** `view/blocks`: whether a block among thousands is dragged as live as one among few. */
export async function blockRows(): Promise<Row[]> {
  const rammer = await Rammer.start();
  const browser = await launch();
  try {
    const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
    const few = await dragged(page, rammer.base, FEW);
    const many = await dragged(page, rammer.base, MANY);
    const ratios = many.map((t, i) => few[i] / t);
    return [
      {
        name: 'view/blocks',
        unit: 'ms',
        ours: quantile(many, 0.5),
        baseline: quantile(few, 0.5),
        ratio: quantile(ratios, 0.5),
        low: quantile(ratios, 0.25),
        high: quantile(ratios, 0.75),
        note:
          `a step of dragging one of ${MANY} blocks, from the mouse to the picture ` +
          `that shows it, all in sight, against one of ${FEW}: the time ratio ${FEW} / ${MANY}`,
      },
    ];
  } finally {
    await browser.close();
    await rammer.stop();
  }
}
