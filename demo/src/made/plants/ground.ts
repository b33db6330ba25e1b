import type { Asset } from '@rammer/core/kit/asset';
import { hashUnit } from '@rammer/core/num/hash';
import { sinCosDeg } from '@rammer/core/num/trig';
import { normalize, type Vec3 } from '@rammer/core/num/vec';
import { mix, shade } from '../paint/sheet';
import { plantAsset } from './asset';
import { Atlas, CARD, LEAF } from './atlas';
import type { Canvas } from './canvas';
import { Leafy, varied } from './leafy';

/** Blades of a tuft as one card: fanned out of its foot, dry at their tips, some with a seed head. */
function fan(c: Canvas, seed: number, blades: number, heads: number): void {
  for (let i = 0; i < blades; i++) {
    const k = (i + 0.5) / blades - 0.5;
    const tall = 0.55 + 0.42 * hashUnit(seed, i, 1);
    const aside = k * 0.8 + 0.25 * (hashUnit(seed, i, 2) - 0.5);
    const foot = 0.5 + k * 0.5;
    const own = mix([0.23, 0.29, 0.1], [0.36, 0.38, 0.16], hashUnit(seed, i, 3));
    c.stroke(
      [
        [foot, 1],
        [foot + aside * 0.25, 1 - tall * 0.55],
        [foot + aside * 0.6, 1 - tall],
      ],
      (t) => 0.024 * (1 - 0.85 * t),
      (t) => shade(mix(own, [0.56, 0.5, 0.29], Math.max(0, t - 0.55) * 1.3), 0.6 + 0.5 * t),
    );
  }
  for (let i = 0; i < heads; i++) {
    const x = 0.25 + (0.5 * (i + 0.5)) / heads;
    const lean = 0.3 * (hashUnit(seed, i, 5) - 0.5);
    const top = 0.1 + 0.16 * hashUnit(seed, i, 6);
    c.stroke(
      [
        [x, 1],
        [x + lean * 0.4, 0.5],
        [x + lean, top],
      ],
      () => 0.006,
      () => [0.5, 0.46, 0.27],
    );
    c.stroke(
      [
        [x + lean * 0.82, top + 0.2],
        [x + lean, top],
      ],
      (t) => 0.02 * Math.sin(0.3 + 2.6 * t),
      (t) => shade([0.58, 0.47, 0.33], 0.8 + 0.3 * t),
    );
  }
}

/** A tuft of few cards, for ground that is covered by thousands of them. */
async function tuft({ name, seed, high, heads }: { name: string; seed: number; high: number; heads: number }): Promise<Asset> {
  const atlas = new Atlas();
  const cells = [0, 1].map((i) => atlas.draw(LEAF[i], (c) => fan(c, seed + i * 7, 15, heads)));
  const full = atlas.draw(CARD[0], (c) => fan(c, seed + 31, 34, heads * 2));
  const lods = [4, 2, 1].map((cards, lod) => {
    // Lit as ground is: from above, not as a ball.
    const leafy = new Leafy([0, -2, 0], 0.85);
    for (let i = 0; i < cards; i++) {
      const [s, c] = sinCosDeg(lod === 0 ? i * 137.5 : (i * 180) / cards + 20);
      const out = lod === 0 ? 0.06 : 0;
      const p: Vec3 = [c * out, -0.02, s * out];
      const lean = lod === 0 ? 0.22 + 0.2 * hashUnit(seed, i, 9) : 0.04;
      const tall = high * (lod === 0 ? 0.85 + 0.3 * hashUnit(seed, i, 8) : 1);
      const tip: Vec3 = [p[0] + c * lean * tall, p[1] + tall, p[2] + s * lean * tall];
      const mid: Vec3 = [p[0] + c * lean * tall * 0.3, p[1] + tall * 0.55, p[2] + s * lean * tall * 0.3];
      leafy.strip(
        lod === 0 ? [p, mid, tip] : [p, tip],
        () => high * (lod === 0 ? 0.36 : 0.55),
        normalize([-s, 0, c]),
        lod === 0 ? cells[i % 2] : full,
        (t) => varied(seed, i, 0.2, 0.5 + 0.5 * t),
      );
    }
    return leafy;
  });
  return plantAsset({ name, tags: ['grass', 'cover'], real: [0.08, 0.5], trunk: 0, grounds: ['turf', 'moss', 'heath'], atlas, distant: 0, lods });
}

/** What covers the ground. */
export const groundPlants = (): (() => Promise<Asset>)[] => [
  () => tuft({ name: 'short grass', seed: 871, high: 0.2, heads: 0 }),
  () => tuft({ name: 'seed grass', seed: 881, high: 0.34, heads: 4 }),
];
