import { routePlan } from '../earth/lifts/route';
import { nearestStretch, noNear, stretchesOf } from '../earth/stretches';
import { assetsOfSpecies, meshOf } from '../growth/meshes';
import type { Plants } from '../growth/plants';
import { PLANT_STRIDE } from '../growth/plants';
import { assetBounds, type Asset } from '../kit/asset';
import type { Assets } from '../kit/placement';
import type { BodyFigures } from '../body/bodies';
import type { Lift, Marker, Route, Species } from '../level/objects';
import type { Snag } from './finding';

interface Given {
  grown: readonly Plants[];
  species: ReadonlyMap<string, Species>;
  assets: Assets;
  /** lifts of the level; ways among them count */
  stack: readonly Lift[];
  markers: readonly Pick<Marker, 'id' | 'at' | 'name' | 'marker'>[];
  body: Pick<BodyFigures, 'radius'>;
}

/** Markers whose place is kept clear: where one begins, and where one is to get to. */
const CLEAR: ReadonlySet<string> = new Set(['entry', 'objective']);

/** A trunk that stops a body: its place, and its radius as it is grown, metres. */
interface Trunk {
  x: number;
  y: number;
  z: number;
  radius: number;
}

/**
 * Plants whose trunk, or what else of them stops a body, stands on a way, so that it cannot pass in its width, and those on an entry
 * or an objective. What stops nobody may lie on a way: ways are dressed, not blocked. One finding a species and way, at the trunk
 * nearest to its middle.
 */
export function plantsInWay({ grown, species, assets, stack, markers, body }: Given): Snag[] {
  const ways = stack.filter((l): l is Route => l.lift === 'route' && l.visible);
  return grown.flatMap((plants) => {
    const s = species.get(plants.species);
    const radii = s && s.stops !== 'none' ? assetsOfSpecies(s, assets).map((asset) => (asset ? stopRadius(asset, s) : 0)) : [];
    if (!s || !radii.some((r) => r > 0)) return [];
    const trunks = Array.from({ length: plants.count }, (_, i) => i).flatMap((i): Trunk[] => {
      const trunk = radii[meshOf(plants, i)];
      if (trunk <= 0) return [];
      const [x, y, z, , , wide] = plants.place.subarray(i * PLANT_STRIDE, i * PLANT_STRIDE + 6);
      return [{ x, y, z, radius: trunk * wide }];
    });
    return [...ways.flatMap((way) => onWay(way, s, trunks)), ...markers.flatMap((m) => onMarker(m, s, trunks, body.radius))];
  });
}

/** How far a mesh stops a body about its foot at scale 1, metres. */
function stopRadius(asset: Asset, { stops }: Species): number {
  if (stops !== 'shape') return asset.trunk;
  const { min, max } = assetBounds(asset);
  return Math.max(-min[0], max[0], -min[2], max[2]);
}

function onWay(way: Route, species: Species, trunks: readonly Trunk[]): Snag[] {
  const half = way.width / 2;
  const widest = trunks.reduce((most, t) => Math.max(most, t.radius), 0);
  const stretches = stretchesOf(routePlan(way), false, half + widest + 0.01);
  const near = noNear();
  let count = 0;
  let worst: (Trunk & { distance: number }) | undefined;
  for (const t of trunks) {
    const { id, distance } = nearestStretch(stretches, t.x, t.z, near);
    if (id < 0 || distance - t.radius >= half) continue;
    count++;
    if (!worst || distance < worst.distance) worst = { ...t, distance };
  }
  if (!worst) return [];
  const stand = `${count} ${species.name} stand${count === 1 ? 's' : ''} in the width of ${way.name}`;
  return [
    {
      code: 'plants-in-way',
      severity: 'warning',
      message: `${stand}: the nearest ${worst.distance.toFixed(1)} m from its middle, where ${half.toFixed(1)} m are clear`,
      mend: `give ${species.name} the condition from way, from ${Math.ceil((worst.radius + 0.2) * 10) / 10} m on, or remove those`,
      object: species.id,
      at: [worst.x, worst.y, worst.z],
    },
  ];
}

function onMarker({ at, name, marker }: Given['markers'][number], species: Species, trunks: readonly Trunk[], radius: number): Snag[] {
  if (!CLEAR.has(marker)) return [];
  const found = trunks.find((t) => Math.hypot(t.x - at[0], t.z - at[2]) < t.radius + radius && Math.abs(t.y - at[1]) < 2);
  if (!found) return [];
  return [
    {
      code: 'plant-on-marker',
      severity: 'warning',
      message: `a ${species.name} stands on ${name}: a body of ${radius} m does not fit beside its trunk`,
      mend: `remove it, or give ${species.name} the condition from marker`,
      object: species.id,
      at: [found.x, found.y, found.z],
    },
  ];
}
