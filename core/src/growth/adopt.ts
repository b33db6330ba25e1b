import type { PlantObject, Species } from '../level/objects';
import { tiltOf, wrapDeg } from '../num/pose';
import { sinCosDeg } from '../num/trig';
import { holeRadius } from './holes';
import { meshesOf, meshOf, tintOf } from './meshes';
import { PLANT_STRIDE, type Plants } from './plants';

const fine = (v: number): number => Math.round(v * 1000) / 1000;
const share = (v: number): number => Math.min(100, Math.max(0.01, Math.round(v * 10_000) / 10_000));

/** What a plant set by hand is, but for what it is called. */
export type Adopted = Omit<PlantObject, 'id' | 'name' | 'version'>;

/**
 * A generated plant as one that is set by hand: where it stands, as it stands, in its tint; its place among the generated
 * ones stays empty. To a millimetre, a ten thousandth of its size and a thousandth of a degree.
 */
export function adopted(plants: Plants, i: number, species: Pick<Species, 'id' | 'spacing' | 'asset' | 'weight' | 'meshes'>): Adopted {
  const [x, y, z, turn, tall, wide, lean, to, deep] = plants.place.subarray(i * PLANT_STRIDE, (i + 1) * PLANT_STRIDE);
  // Its own level axis, before the turn.
  const [s, c] = sinCosDeg(to + turn);
  const tilt = lean > 0 ? tiltOf(lean * c, lean * s) : undefined;
  const size: [number, number, number] = [share(wide), share(tall), share(deep)];
  return {
    kind: 'plant',
    species: species.id,
    at: [fine(x), fine(y), fine(z)],
    turn: fine(wrapDeg(turn)),
    ...(tilt ? { tilt } : {}),
    scale: size[0] === size[1] && size[1] === size[2] ? size[0] : size,
    tint: tintOf(plants, i),
    ...(species.meshes ? { asset: meshesOf(species)[meshOf(plants, i)].asset } : {}),
    was: [fine(x), fine(z)],
    radius: holeRadius(species),
    gone: false,
  };
}
