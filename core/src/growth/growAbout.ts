import { underWater } from '../earth/water';
import type { Species } from '../level/objects';
import { hashInts, hashText } from '../num/hash';
import { sinCosDeg } from '../num/trig';
import { isIn, type Sowing } from './growCopy';
import type { Growing } from './growing';
import { PLANT_STRIDE, type Plants } from './plants';
import { MOST_SOWN, sownAt } from './sown';
import { ruleAt, spotAt } from './spot';
import { apart } from './standing';

/** The most plants that stand about one. */
export const MOST_ABOUT = 24;

const unit = (hash: number, what: number): number => (hashInts(hash, what, 77) >>> 0) / 4294967296;

/** What names a plant wherever others grow about it: two hashes of its own name. */
function nameOf({ id, hand }: Plants, i: number, seed: number): [number, number] {
  const [cx, cz, slot] = id.subarray(i * 3, i * 3 + 3);
  if (slot >= 0) return [hashInts(seed, cx, cz, slot) | 0, hashInts(seed + 1, cx, cz, slot) | 0];
  const text = parseInt(hashText(hand[cx]).slice(0, 8), 16) | 0;
  return [hashInts(seed, text, 3) | 0, hashInts(seed + 1, text, 3) | 0];
}

/** How near and how far from what it grows about a plant stands, metres: beyond what both keep, within the spread. */
export function reachAbout(species: Pick<Species, 'clearance' | 'about'>, parent: Pick<Species, 'clearance'> | undefined): [near: number, far: number] {
  return [Math.max(species.clearance, parent?.clearance ?? 0), species.about!.spread];
}

/** Where plants of a species grow about one of another, and whether they do: places in plan, metres, evenly over the ring. */
export function placesAbout(
  species: Species,
  parent: Pick<Species, 'clearance'> | undefined,
  parents: Plants,
  i: number,
): { name: [number, number]; places: [x: number, z: number, drew: number][] } {
  const { chance, count, spread } = species.about!;
  const name = nameOf(parents, i, species.seed);
  const [h] = name;
  const [near] = reachAbout(species, parent);
  if (unit(h, 0) >= chance || near >= spread) return { name, places: [] };
  const n = count[0] + Math.floor(unit(h, 1) * (count[1] - count[0] + 1));
  return {
    name,
    places: Array.from({ length: n }, (_, k) => {
      const [s, c] = sinCosDeg(unit(h, 2 + k * 3) * 360);
      // A hair within, as places are kept in single precision.
      const r = Math.sqrt(near * near + (spread * spread - near * near) * unit(h, 3 + k * 3)) * 0.99998 + near * 0.00002;
      return [parents.place[i * PLANT_STRIDE] + c * r, parents.place[i * PLANT_STRIDE + 2] + s * r, unit(h, 4 + k * 3)];
    }),
  };
}

/**
 * Grows a species about the plants of another that took its place before: each of these has some by chance, so many, within a
 * spread. Its rule says where they may stand and how likely each is; spacing and clearances hold.
 */
export function growAbout(sowing: Sowing, parents: readonly Plants[], out: Growing): void {
  const near = new Neighbours(sowing.species.spacing);
  for (const of of parents) growAboutOne(sowing, of, near, out);
}

function growAboutOne(sowing: Sowing, parents: Plants, near: Neighbours, out: Growing): void {
  const { input, part, masks, where, sown, hosts, room, salt } = sowing;
  const species = salt === 0 ? sowing.species : { ...sowing.species, seed: (sowing.species.seed + salt) | 0 };
  const parent = input.species.find((s) => s.id === parents.species);
  const c = room.candidates(MOST_ABOUT);
  for (let i = 0; i < parents.count; i++) {
    const { name, places } = placesAbout(species, parent, parents, i);
    let n = 0;
    places.forEach(([x, z, drew], k) => {
      if (!isIn(part, x, z)) return;
      spotAt(input, hosts, x, z, room.spot);
      const byRule = ruleAt(input, masks, room.spot, x, z);
      const likely = (byRule > 0 && where ? byRule * where.share(x, z) : byRule) + (sown.any ? Math.min(sownAt(sown, x, z), MOST_SOWN) : 0);
      if (drew >= likely || underWater(input.waters, x, room.spot.height, z)) return;
      [c.x[k], c.z[k], c.height[k]] = [x, z, room.spot.height];
      c.live[n++] = k;
    });
    c.count = n;
    for (const o of sowing.others) apart(c, o.standing, o.keep);
    n = 0;
    for (let j = 0; j < c.count; j++) {
      const k = c.live[j];
      if (near.take(c.x[k], c.z[k])) c.live[n++] = k;
    }
    c.count = n;
    if (n > 0)
      out.addAll(c, {
        copy: name[0],
        s: species,
        meshes: sowing.meshes,
        slopeAt: sowing.slopeAt,
        cx: name[0],
        cz: name[1],
        origin: [input.terrain.grid.ox, input.terrain.grid.oz],
      });
  }
}

/** Places that keep a distance from each other; the first that comes has it. */
class Neighbours {
  private readonly cells = new Map<string, [number, number][]>();
  constructor(private readonly spacing: number) {}

  /** Takes a place where nothing is too near. */
  take(x: number, z: number): boolean {
    const [cx, cz] = [Math.floor(x / this.spacing), Math.floor(z / this.spacing)];
    // As they are kept: in single precision.
    const [fx, fz] = [Math.fround(x), Math.fround(z)];
    for (let dz = -1; dz <= 1; dz++)
      for (let dx = -1; dx <= 1; dx++)
        for (const [ox, oz] of this.cells.get(`${cx + dx},${cz + dz}`) ?? [])
          if ((ox - fx) * (ox - fx) + (oz - fz) * (oz - fz) < this.spacing * this.spacing) return false;
    const key = `${cx},${cz}`;
    const list = this.cells.get(key);
    if (list) list.push([fx, fz]);
    else this.cells.set(key, [[fx, fz]]);
    return true;
  }
}
