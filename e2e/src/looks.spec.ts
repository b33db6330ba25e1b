import { pageWith } from './inPage';
import { lookMeshes } from './lookMeshes';
import { expect, test } from './sheet';

/** Mean difference of a pixel that may be, of 255: rounding of sRGB and of pictures. */
const MEAN = 1.5;

test('a mesh looks as it does where it came from: against another loader and its materials, same camera and light', async ({ browser }) => {
  const page = await pageWith(browser, './looks.ts', 'looks');
  const figures: string[] = [];
  for (const [name, glb] of await lookMeshes()) {
    const { mean, most, covered } = await page.evaluate(
      (base64) =>
        (globalThis as unknown as { looks: { compared(b: string): Promise<{ mean: number; most: number; covered: number }> } }).looks.compared(base64),
      Buffer.from(glb).toString('base64'),
    );
    figures.push(`${name}: mean ${mean.toFixed(2)}, most ${most}, covers ${(covered * 100).toFixed(0)} %`);
    expect.soft(covered, name).toBeGreaterThan(0.1);
    expect.soft(mean, `${name} ${most}`).toBeLessThan(MEAN);
  }
  await page.close();
  console.log(figures.join('\n'));
});
