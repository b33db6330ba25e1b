import type { Vec3 } from '@rammer/core/num/vec';
import type * as Lights from './lights';
import { pageWith } from './inPage';
import { expect, test } from './sheet';

type Boxes = [Vec3, Vec3][];

/** An arch of two piers and a lintel, each by its lowest and highest corner, metres. */
const ARCH: Boxes = [
  [
    [-2, 0, -1.5],
    [-1.2, 3.2, 1.5],
  ],
  [
    [1.2, 0, -1.5],
    [2, 3.2, 1.5],
  ],
  [
    [-2, 2.4, -1.5],
    [2, 3.2, 1.5],
  ],
];

/** Share of an even sky's light that reaches the origin past boxes, by rays: an estimate that shares nothing with the picture. */
function openSky(boxes: Boxes): number {
  const N = 400;
  let open = 0;
  for (let i = 0; i < N; i++) {
    for (let j = 0; j < N; j++) {
      // Equal parts of the light on level ground: by the square of the sine of the angle from straight up.
      const s = Math.sqrt((i + 0.5) / N);
      const a = ((j + 0.5) / N) * 2 * Math.PI;
      const d: Vec3 = [s * Math.cos(a), Math.sqrt(1 - s * s), s * Math.sin(a)];
      const met = boxes.some(([min, max]) => {
        let [near, far] = [1e-6, Infinity];
        for (let k = 0; k < 3; k++) {
          const [p, q] = [min[k] / d[k], max[k] / d[k]];
          near = Math.max(near, Math.min(p, q));
          far = Math.min(far, Math.max(p, q));
        }
        return near < far;
      });
      if (!met) open++;
    }
  }
  return open / (N * N);
}

test('light of the full picture: shadow of a figure, a closed box, under an arch, a grey card, edges, the same still twice', async ({ browser }) => {
  const page = await pageWith(browser, './lights.ts', 'lights');
  page.on('console', (m) => {
    if (m.type() === 'error') console.log(m.text());
  });
  const lights = <T>(call: string): Promise<T> => page.evaluate<T>(`lights.${call}`);

  const long = await lights<ReturnType<typeof Lights.shadowLength>>('shadowLength()');
  const due = 1.8 / Math.tan(Math.PI / 6);
  expect(Math.abs(long / due - 1), `${long} m against ${due}`).toBeLessThan(0.02);

  const box = await lights<ReturnType<typeof Lights.box>>('box(false)');
  expect(box.most, JSON.stringify(box)).toBe(0);
  const unroofed = await lights<ReturnType<typeof Lights.box>>('box(true)');
  expect(unroofed.mean).toBeGreaterThan(40);

  const frames = 96;
  const arch = await lights<number>(`underArch(${JSON.stringify(ARCH)}, ${frames})`);
  const reckoned = openSky(ARCH);
  expect(Math.abs(arch - reckoned), `${arch} against ${reckoned}`).toBeLessThan(0.03);

  for (const [exposure, contrast, saturation] of [
    [0, 1, 1],
    [-1, 1.3, 1],
    [1.5, 1, 0.4],
  ]) {
    const card = await lights<ReturnType<typeof Lights.greyCard>>(`greyCard(${exposure}, ${contrast}, ${saturation})`);
    card.seen.forEach((v, k) => expect(Math.abs(v - card.reckoned[k]), JSON.stringify(card)).toBeLessThan(1));
  }

  for (const haze of ['50, 0, 30', '40, 6, 30', '120, 15, 12']) {
    const wall = await lights<ReturnType<typeof Lights.hazed>>(`hazed(${haze})`);
    wall.seen.forEach((v, k) => expect(Math.abs(v - wall.reckoned[k]), `${haze} ${JSON.stringify(wall)}`).toBeLessThan(2));
  }

  const edge = await lights<ReturnType<typeof Lights.edges>>('edges(32)');
  expect(edge.mean, JSON.stringify(edge)).toBeLessThan(5);
  expect(edge.raw).toBeGreaterThan(30);

  const sharp = await lights<ReturnType<typeof Lights.lens>>('lens(0)');
  const blurred = await lights<ReturnType<typeof Lights.lens>>('lens(120)');
  // 120 mm wide, in focus at 8 m: at 2 m it is spread over 0.12 x (8 - 2) / 8 = 0.09 m, of which 120 pixels are 2.08 m: five on each side.
  expect(blurred.focus, JSON.stringify([sharp, blurred])).toBeLessThanOrEqual(sharp.focus + 1);
  expect(blurred.near).toBeGreaterThanOrEqual(sharp.near + 3);

  const [wind, calm, after] = await lights<number[]>('winds()');
  expect(wind).toBeCloseTo(1);
  expect([calm, after]).toEqual([0, wind]);

  expect(await lights<number>('twice()')).toBe(0);
  console.log(
    `shadow of 1.8 m at 30 degrees: ${long.toFixed(3)} m, ${due.toFixed(3)} is due; closed box: at most ${box.most} of 255; ` +
      `under the arch ${(arch * 100).toFixed(1)} % of the open sky, ${(reckoned * 100).toFixed(1)} % by rays; edges of 32 frames against 256: ` +
      `mean ${edge.mean.toFixed(2)}, most ${edge.most}, one frame ${edge.raw.toFixed(0)} of 255`,
  );
  await page.close();
});
