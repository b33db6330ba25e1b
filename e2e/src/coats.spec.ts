import type * as Coats from './coats';
import { pageWith } from './inPage';
import { expect, test } from './sheet';

test('shares of coats on the GPU are those of core: bands, bearing, patches, edges and paint', async ({ browser }) => {
  const page = await pageWith(browser, './coats.ts', 'coats');
  for (const way of [
    [0, 0, 1],
    [0.5, 0.6, 0.6],
    [-0.7, -0.2, -0.4],
  ]) {
    const { most, mean, sum } = await page.evaluate<ReturnType<typeof Coats.differences>>(`coats.differences([${way.join()}])`);
    console.log(`coats, a side that looks ${way.join(', ')}: most ${most.toFixed(2)}, mean ${mean.toFixed(3)} of 255, mean share ${sum.toFixed(1)}`);
    // Some lie there and some do not: what is compared is not nothing.
    expect(sum).toBeGreaterThan(15);
    expect(sum).toBeLessThan(240);
    expect(most).toBeLessThan(1.5);
    expect(mean).toBeLessThan(0.3);
  }
  await page.close();
});
