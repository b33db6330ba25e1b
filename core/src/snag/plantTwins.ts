import { assetsOfSpecies, meshOf, tintOf } from '../growth/meshes';
import { PLANT_STRIDE, type Plants } from '../growth/plants';
import { assetBounds, type Asset } from '../kit/asset';
import type { Assets } from '../kit/placement';
import type { Species } from '../level/objects';
import { wrapDeg } from '../num/pose';
import type { Vec3 } from '../num/vec';
import type { Snag } from './finding';

/** What is lower is one of many, metres. */
const TALL = 1.5;
/** Two are told apart from farther than this no more, and are seen together within this of each other or three times their width, metres. */
const SEEN = 30;
const TOGETHER = 4;
/** Two are twins to the eye within this, as pieces are. */
const ALIKE = { degrees: 8, size: 0.05 };

interface Given {
  grown: readonly Plants[];
  species: ReadonlyMap<string, Species>;
  assets: Assets;
  /** where the level is looked at from */
  eyes: readonly { name: string; at: Vec3 }[];
}

interface Tree {
  at: Vec3;
  turn: number;
  tall: number;
  wide: number;
  mesh: number;
  tint: number;
}

/**
 * Tall plants that stand side by side in one mesh, one tint, the same way round and as tall, near a place the level is looked at
 * from: the eye finds the repetition. One finding a species, at the pair nearest to an eye.
 */
export function plantTwins({ grown, species, assets, eyes }: Given): Snag[] {
  return grown.flatMap((plants): Snag[] => {
    const s = species.get(plants.species);
    const meshes = s ? assetsOfSpecies(s, assets) : [];
    if (!s || !meshes.some((asset) => asset && assetBounds(asset).max[1] * largest(plants) >= TALL)) return [];
    let pairs = 0;
    let worst: { a: Tree; name: string; far: number } | undefined;
    for (const { name, at } of eyes) {
      const near = treesNear(plants, meshes, at);
      for (const [i, a] of near.entries())
        for (const b of near.slice(i + 1)) {
          if (!alike(a, b) || Math.hypot(a.at[0] - b.at[0], a.at[2] - b.at[2]) > together(a, meshes)) continue;
          pairs++;
          const far = Math.hypot(a.at[0] - at[0], a.at[2] - at[2]);
          if (!worst || far < worst.far) worst = { a, name, far };
        }
    }
    if (!worst) return [];
    return [
      {
        code: 'plant-twins',
        severity: 'warning',
        message:
          `two ${s.name} stand side by side the same way round and as tall, ${worst.far.toFixed(0)} m from ${worst.name}` +
          (pairs > 1 ? ` (${pairs} such pairs are seen)` : ''),
        mend: `turn or size one of them with single plant, or give ${s.name} another mesh or wider heights and widths`,
        object: s.id,
        at: worst.a.at,
      },
    ];
  });
}

function largest({ place, count }: Plants): number {
  let most = 0;
  for (let i = 0; i < count; i++) most = Math.max(most, place[i * PLANT_STRIDE + 4]);
  return most;
}

function treesNear(plants: Plants, meshes: readonly (Asset | undefined)[], [ex, , ez]: Vec3): Tree[] {
  const out: Tree[] = [];
  for (let i = 0; i < plants.count; i++) {
    const [x, y, z, turn, tall, wide] = plants.place.subarray(i * PLANT_STRIDE, i * PLANT_STRIDE + 6);
    if (Math.abs(x - ex) > SEEN || Math.abs(z - ez) > SEEN || Math.hypot(x - ex, z - ez) > SEEN) continue;
    const mesh = meshOf(plants, i);
    const asset = meshes[mesh];
    if (asset && assetBounds(asset).max[1] * tall >= TALL) out.push({ at: [x, y, z], turn, tall, wide, mesh, tint: tintOf(plants, i) });
  }
  return out;
}

const within = (a: number, b: number): boolean => Math.abs(a - b) <= ALIKE.size * Math.max(a, b);

const alike = (a: Tree, b: Tree): boolean =>
  a.mesh === b.mesh && a.tint === b.tint && Math.abs(wrapDeg(a.turn - b.turn)) <= ALIKE.degrees && within(a.tall, b.tall) && within(a.wide, b.wide);

function together({ mesh, wide }: Tree, meshes: readonly (Asset | undefined)[]): number {
  const { min, max } = assetBounds(meshes[mesh]!);
  return Math.max(TOGETHER, 3 * wide * Math.max(max[0] - min[0], max[2] - min[2]));
}
