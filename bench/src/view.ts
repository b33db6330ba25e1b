import type { Page } from '@playwright/test';
import { decode } from 'fast-png';
import { Rammer } from '../../e2e/src/rammer';
import { launch } from './browser';
import { quantile, type Row } from './measure';

/** Poses over the small demo: from above, across the terraces, close to a shed, at the gate. */
const POSES = ['orbit_82_5_80_352_-19_86', 'orbit_80_4_80_0_-32_152', 'orbit_96_2_112_40_-14_26', 'stand_132_0_140_332_2_10'];
/** frames a pose: with four poses, sixteen pairs a row */
const FRAMES = 4;

const BASELINES: readonly { name: string; off: string; what: string; target?: number }[] = [
  { name: 'view/demo', off: 'fixed,fine,all,apart', what: 'levels of detail, culling and instancing off', target: 4 },
  { name: 'view/demo-lod', off: 'fixed,fine', what: 'levels of detail off' },
  { name: 'view/demo-culling', off: 'fixed,all', what: 'culling off' },
  { name: 'view/demo-instancing', off: 'fixed,apart', what: 'instancing off' },
];

const open = async (page: Page, url: string): Promise<void> => {
  await page.goto(url);
  await page.waitForFunction(() => document.querySelector('[data-testid=drawn]')?.getAttribute('data-drawn-draws'), undefined, { timeout: 60_000 });
  await page.waitForTimeout(1500);
};

/** Times by the fence of frames in motion, ms: an arrow key held, the first frame of the motion left out. */
async function frames(page: Page): Promise<number[]> {
  const count = () => page.getByTestId('drawn').getAttribute('data-frames').then(Number);
  await page.getByTestId('view').locator('canvas').focus();
  const before = await count();
  for (let i = 0; i < 2000 && (await count()) < before + FRAMES + 1; i++) {
    await page.keyboard.press(i % 2 ? 'ArrowLeft' : 'ArrowRight');
    await page.waitForTimeout(10);
  }
  const recent = (await page.getByTestId('drawn').getAttribute('data-recent'))!.split(' ');
  return recent.slice(-FRAMES).map((t) => Number(t.split('/')[0]));
}

async function picture(page: Page): Promise<Uint8Array> {
  await page.addStyleTag({ content: '[data-testid=view] svg, [data-testid=view] > div:not(:first-child) { visibility: hidden }' });
  return decode(await page.getByTestId('view').screenshot()).data as Uint8Array;
}

/** `view/` rows, in Debian's Chromium drawing in software. */
export async function viewRows(): Promise<Row[]> {
  const rammer = await Rammer.start();
  const browser = await launch();
  try {
    const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
    const levels = (await (await page.request.get(`${rammer.base}/api/levels`)).json()) as { id: string }[];
    const link = (pose: string, draw: string) => `${rammer.base}/levels/${levels[0].id}?stage=block&pose=${pose}&draw=${draw}`;
    const rows: Row[] = [];
    const ours: number[] = [];
    const baselines = BASELINES.map(() => ({ times: [] as number[], difference: 0 }));
    for (const pose of POSES) {
      await open(page, link(pose, 'fixed'));
      const a = await picture(page);
      ours.push(...(await frames(page)));
      for (const [i, { off }] of BASELINES.entries()) {
        await open(page, link(pose, off));
        const b = await picture(page);
        baselines[i].times.push(...(await frames(page)));
        let sum = 0;
        for (let k = 0; k < a.length; k++) sum += Math.abs(a[k] - b[k]);
        baselines[i].difference = Math.max(baselines[i].difference, sum / a.length / 255);
      }
    }
    for (const [i, { name, what, target }] of BASELINES.entries()) {
      const { times, difference } = baselines[i];
      const ratios = ours.map((t, k) => times[k] / t);
      rows.push({
        name,
        unit: 'ms',
        ours: quantile(ours, 0.5),
        baseline: quantile(times, 0.5),
        ratio: quantile(ratios, 0.5),
        low: quantile(ratios, 0.25),
        high: quantile(ratios, 0.75),
        ...(target ? { target } : {}),
        note:
          `frames at ${POSES.length} fixed poses of the small demo, pixel ratio 0.5 and LODs as a software renderer has them ` +
          `in motion, against the same with ${what}; largest mean difference of a picture ${(difference * 100).toFixed(2)} % of full scale`,
      });
    }
    // The governed view in motion, as a person has it, against the promise of five frames a second.
    await open(page, link(POSES[0], ''));
    const box = (await page.getByTestId('view').boundingBox())!;
    await page.mouse.move(box.x + 400, box.y + 300);
    await page.mouse.down({ button: 'middle' });
    for (let i = 0; i < 240; i++) {
      await page.mouse.move(box.x + 400 + ((i * 5) % 300), box.y + 300);
      await page.waitForTimeout(25);
    }
    const drawn = (await page.getByTestId('drawn').evaluate((e) => ({ ...(e as HTMLElement).dataset }))) as Record<string, string>;
    await page.mouse.up({ button: 'middle' });
    const times = drawn.recent
      .split(' ')
      .slice(-30)
      .map((t) => Number(t.split('/')[0]));
    const ratios = times.map((t) => 200 / t);
    rows.push({
      name: 'view/orbit',
      unit: 'ms',
      ours: quantile(times, 0.5),
      baseline: 200,
      ratio: quantile(ratios, 0.5),
      low: quantile(ratios, 0.25),
      high: quantile(ratios, 0.75),
      target: 1,
      note:
        `frames of the small demo while it is orbited at 1280x800, by the fence, at pixel ` +
        `ratio ${drawn.ratio} with ${drawn.drawnTriangles} triangles, against 200 ms (5 frames a second)`,
    });
    return rows;
  } finally {
    await browser.close();
    await rammer.stop();
  }
}
