import type { Asset } from '@rammer/core/kit/asset';
import { hashUnit } from '@rammer/core/num/hash';
import { fractal } from '@rammer/core/num/tiling';
import { sinCosDeg } from '@rammer/core/num/trig';
import type { Vec3 } from '@rammer/core/num/vec';
import { assemble } from '../form/assemble';
import { Form } from '../form/form';
import { frames, moved, turned } from '../form/frame';

const log = (lod: number): Form => {
  const form = new Form();
  const [sides, points] = [
    [14, 12],
    [8, 5],
  ][lod];
  const line = Array.from({ length: points }, (_, i): Vec3 => {
    const t = i / (points - 1);
    return [-1.7 + 3.5 * t, 0.17 - 0.05 * t + 0.05 * Math.sin(t * 4), 0.12 * Math.sin(t * 3)];
  });
  const radius = (i: number) => 0.2 * (1 - 0.5 * (i / (points - 1)));
  form.warped(
    ([x, y, z]) => {
      const k = 1 + 0.12 * (fractal({ seed: 871, period: 6, octaves: 2 }, x * 0.3 + 1, Math.atan2(z, y - 0.15) / 6.28 + 1) - 0.5);
      // Its broken end runs out in splinters.
      const torn = x > 1.75 ? 0.35 * (hashUnit(872, Math.round(y * 40), Math.round(z * 40)) - 0.2) : 0;
      return [x + torn, 0.15 + (y - 0.15) * k, z * k];
    },
    (f) => f.rod(line, radius, sides, 'bark'),
  );
  form.in(frames(moved(-1.7, 0.17, 0), turned('z', 90)), (f) =>
    f.turned(
      [
        [0, 0.0],
        [0.2, 0.0],
      ].reverse() as [number, number][],
      sides,
      'timber',
    ),
  );
  if (lod === 0)
    for (const [x, turn, long] of [
      [-0.6, 40, 0.5],
      [0.2, -70, 0.7],
      [0.9, 20, 0.4],
      [1.2, 130, 0.3],
    ] as const) {
      const [s, c] = sinCosDeg(turn);
      form.rod(
        [
          [x, 0.17, 0],
          [x + 0.15, 0.2 + c * long * 0.5, s * long * 0.6],
          [x + 0.3, 0.18 + c * long * 0.8, s * long],
        ],
        (i) => [0.05, 0.035, 0.012][i],
        6,
        'bark',
        { seed: x },
      );
    }
  return form;
};

/** Lies as it fell; its trunk stops a body. */
const fallenTrunk = async (): Promise<Asset> => ({
  ...(await assemble({
    name: 'fallen trunk',
    role: 'plant',
    collider: 'mesh',
    tags: ['trunk', 'wood'],
    real: [0.3, 0.9],
    grounds: ['turf', 'moss', 'heath'],
    lods: [log(0), log(1)],
  })),
  trunk: 0.25,
});

/** Plates that came off a heap: flat, none higher than a hand. */
const litter = (): Promise<Asset> =>
  assemble({
    name: 'loose slate',
    role: 'plant',
    collider: 'none',
    tags: ['loose slate', 'litter'],
    real: [0.04, 0.25],
    grounds: ['scree', 'gravel', 'slate'],
    baked: 64,
    lods: [0, 1].map((lod) => {
      const form = new Form();
      for (let i = 0; i < (lod === 0 ? 12 : 6); i++) {
        const [s, c] = sinCosDeg(i * 137.5);
        const r = 0.5 * Math.sqrt((i + 0.3) / 12);
        const size = (0.05 + 0.13 * hashUnit(881, i) ** 2) * (lod === 0 ? 1 : 1.2);
        const corners = 5;
        form.in(
          frames(
            moved(c * r, 0.004 + 0.012 * hashUnit(882, i), s * r),
            turned('y', 360 * hashUnit(883, i)),
            turned('x', -90 + 26 * (hashUnit(884, i) - 0.5)),
            turned('y', 22 * (hashUnit(885, i) - 0.5)),
          ),
          (f) =>
            f.prism(
              Array.from({ length: corners }, (_, k): [number, number] => {
                const [sn, cs] = sinCosDeg((k * 360) / corners + 30 * hashUnit(886, i, k));
                const q = size * (0.75 + 0.5 * hashUnit(887, i, k));
                return [cs * q * 1.3, sn * q];
              }),
              -0.008,
              0.01 + 0.012 * hashUnit(888, i),
              'sawn slate',
            ),
        );
      }
      return form;
    }),
  });

export const lying = (): (() => Promise<Asset>)[] => [fallenTrunk, litter];
