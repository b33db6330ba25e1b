import { meshGrid } from '../block/placedMesh';
import { handAsset } from '../growth/growing';
import { onGround, masksOf } from '../growth/masks';
import { leanOfPose } from '../growth/plants';
import { openBelow } from '../growth/upright';
import { underWater } from '../earth/water';
import { assetBounds } from '../kit/asset';
import { unlikelySize } from '../kit/realSizes';
import { groundNameAt } from '../surface/ground';
import { groundAt } from '../surface/groundAt';
import { isMade, memberOf, ownerOf, poseOf } from '../level/instance';
import type { Snag } from './finding';
import type { SnagInput } from './input';

/** What leans by more than this shows what is under it, degrees. */
const SHOWS = 8;

/** Plants set by hand: on ground their species does not grow on, in the air or under it, in water, at an unlikely size, tipped so that one sees into them. */
export function handPlant(input: SnagInput): Snag[] {
  const meshes = meshGrid(input.placed);
  /** of what stands along lines, by line and species: how many there are, and how many are on ground that is not theirs */
  const along = new Map<string, { total: number; wrong: number; first?: Snag }>();
  const told = input.plants.flatMap((plant): Snag[] => {
    const species = input.species.find((s) => s.id === plant.species);
    if (!species || plant.gone) return [];
    const found: Snag[] = [];
    const tell = (code: string, message: string, mend: string) =>
      found.push({ code, severity: 'warning', message: `${plant.name} ${message}`, mend, at: plant.at, object: plant.id });
    const [x, y, z] = plant.at;
    const host = groundAt(input.terrain, input.grid, [x, y + 0.3, z], { meshes, ground: input.ground });
    const top = host.host.kind !== 'terrain';
    const gap = y - host.height;
    if (gap > 0.1) tell('plant-floating', `stands ${gap.toFixed(2)} m in the air`, 'move it: it is set on the ground where it is dropped');
    else if (gap < -0.5) tell('plant-buried', `stands ${(-gap).toFixed(2)} m under the ground`, 'move it: it is set on the ground where it is dropped');
    if (underWater(input.waters, x, y, z)) tell('plant-wet', 'stands under water', 'move it out of the water, or remove it');
    const masks = masksOf(
      species,
      input.ground.surfaces.map((s) => s.id),
    );
    const wrong = !masks.anyGround && onGround(masks, input.ground, x, z, top) < 0.2;
    const line = isMade(plant.id) && /^m\d/.test(memberOf(plant.id)) ? ownerOf(plant.id) : undefined;
    if (line !== undefined) {
      const key = `${line}/${species.id}`;
      const of = along.get(key) ?? along.set(key, { total: 0, wrong: 0 }).get(key)!;
      of.total++;
      if (wrong) of.wrong++;
      const on = groundNameAt(input.ground, x, z, top);
      const message = `${species.name} along ${plant.name.replace(/: [\d.]+$/, '')} stands on ${on}, where it does not grow`;
      if (wrong && !of.first)
        of.first = { code: 'plant-wrong-ground', severity: 'warning', message, mend: 'take it out of the line, or accept it', at: plant.at, object: line };
    } else if (wrong)
      tell(
        'plant-wrong-ground',
        `stands on ${groundNameAt(input.ground, x, z, top)}, where ${species.name} does not grow`,
        'move it, paint its ground there, or accept it',
      );
    const lean = plant.tilt ? leanOfPose(plant)[1] : 0;
    // What lies as its slope does shows nothing of it.
    if (lean > SHOWS + (species.leanToSlope ?? 0) * 90 && openBelow(species, input.assets))
      tell('plants-tipped', `leans by ${lean.toFixed(0)}° and is open below: one sees into it`, 'set it upright, sink it, or close the mesh');
    const asset = handAsset(species, plant, input.assets);
    if (asset) {
      const unlikely = unlikelySize(asset, assetBounds(asset).max[1] * poseOf(plant).scale![1]);
      if (unlikely) tell('size-unlikely', unlikely, 'scale it, or use another species');
    }
    return found;
  });
  // A line goes from one ground to the next: what is at home on most of it belongs there.
  return [...told, ...[...along.values()].flatMap(({ total, wrong, first }) => (first && wrong * 2 > total ? [first] : []))];
}
