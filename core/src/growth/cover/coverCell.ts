import { depthAt, type WaterBody } from '../../earth/water';
import { heightAt, steepnessAt } from '../../earth/sample';
import { inBand } from '../../num/band';
import { hashInts, mix32 } from '../../num/hash';
import { SLOTS, type GroundRaster } from '../../surface/ground';
import { drawerOf } from '../growing';
import { PLANT_STRIDE, type Plants } from '../plants';
import { slopeUnder } from '../slopeUnder';
import { spotAt, type Hosts, type Spot, type Standable } from '../spot';
import type { CoverSpecies } from './coverSpecies';

/** Side of a cell of ground cover, metres. */
export const COVER_CELL = 16;

/**
 * Rings of ground cover: how much of it stands in each and all those before, and how far that is drawn as a share of the
 * species' reach. What is far is thinner, and those that are left stand where they stood.
 */
export const COVER_RINGS = [
  { share: 0.25, reach: 1 },
  { share: 0.5, reach: 0.6 },
  { share: 1, reach: 0.3 },
] as const;

/** What ground cover is made from. */
export interface CoverInput extends Standable {
  ground: GroundRaster;
  waters: readonly WaterBody[];
  hosts: Hosts;
}

/** Plants of ground cover in a cell: those of the first ring first, `upTo` of them in each ring and those before it. */
export interface CoverPlants extends Pick<Plants, 'count' | 'place' | 'look'> {
  upTo: number[];
}

/** The additive recurrence of lowest known discrepancy in the plane: one over the root of x^3 = x + 1, and its square (M. Roberts, 2018). */
const ALONG_X = 0.7548776662466927;
const ALONG_Z = 0.5698402909980532;
/** How far a place is moved off the recurrence, which would show as a lattice: as a share of how far apart those so far stand. */
const OFF = 0.7;
/** Shallower than this is a wet stone, not water, metres. */
const WET = 0.02;

/**
 * The cover of one species in a cell. Place k of the cell's own sequence stands for the density at which it is taken; it
 * has a plant where the ground asks for more: so a denser cover only adds, a thinner one only leaves out, and every share of
 * it is even. Nothing stands under what is built, in water, or where it is steeper, higher or lower than the species grows.
 *
 * @param cx,cz the cell's place, in cells from the level's own origin
 */
export function coverCell(input: CoverInput, of: CoverSpecies, cx: number, cz: number): CoverPlants {
  const { grid } = input.terrain;
  const [x0, z0] = [cx * COVER_CELL, cz * COVER_CELL];
  const field = fieldOf(input.ground, of, x0, z0);
  const area = COVER_CELL * COVER_CELL;
  const places = Math.ceil((field.most * area) / 100);
  const rings: number[][] = COVER_RINGS.map(() => []);
  if (places === 0) return { count: 0, place: new Float32Array(), look: new Uint8Array(), upTo: [0, 0, 0] };
  // By where it lies from the level's fixed point: a level that grows to the west keeps its cover.
  const own = hashInts(of.seed, Math.round((x0 + grid.ox) / COVER_CELL), Math.round((z0 + grid.oz) / COVER_CELL), 7);
  const [sx, sz] = [(own >>> 16) / 65536, (own & 0xffff) / 65536];
  const wet = input.waters.some((w) => reaches(w, grid.spacing, x0, z0));
  const spot: Spot = { height: 0, gradient: 0, top: false };
  const built = input.hosts.built[Math.floor(z0 / COVER_CELL) * input.hosts.across + Math.floor(x0 / COVER_CELL)] === 1;
  const { masks } = of;
  const found: number[] = [];
  for (let k = 0; k < places; k++) {
    const drew = mix32(own ^ Math.imul(k + 1, 0x27d4eb2d));
    const off = OFF / Math.sqrt(k + 1);
    const u = fraction(sx + k * ALONG_X + ((drew >>> 16) / 65536 - 0.5) * off);
    const v = fraction(sz + k * ALONG_Z + ((drew & 0xffff) / 65536 - 0.5) * off);
    const asked = ((k + 0.5) * 100) / area;
    let density = field.at(u, v);
    if (asked >= density) continue;
    const [x, z] = [x0 + u * COVER_CELL, z0 + v * COVER_CELL];
    if (x > grid.width || z > grid.depth) continue;
    if (built && spotAt(input, input.hosts, x, z, spot).top) continue;
    if (wet && depthAt(input.terrain, input.waters, x, z) > WET) continue;
    const y = heightAt(input.terrain, x, z);
    density *= inBand(masks.slope, steepnessAt(input.terrain, x, z)) * inBand(masks.height, y);
    if (asked >= density) continue;
    rings[COVER_RINGS.findIndex((r) => asked < density * r.share)].push(found.length / 4);
    found.push(x, y, z, drew);
  }
  const order = rings.flat();
  const draw = drawerOf(of.s.leanToSlope ? { ...of, slopeAt: slopeUnder(input, input.hosts) } : of);
  const place = new Float32Array(order.length * PLANT_STRIDE);
  const look = new Uint8Array(order.length);
  order.forEach((from, n) => {
    place.set(found.slice(from * 4, from * 4 + 3), n * PLANT_STRIDE);
    look[n] = draw(place, n * PLANT_STRIDE, mix32(found[from * 4 + 3] + 1));
  });
  let sum = 0;
  return { count: order.length, place, look, upTo: rings.map((r) => (sum += r.length)) };
}

const fraction = (v: number): number => v - Math.floor(v);

/** Whether a water may lie in a cell. */
const reaches = ({ rect }: WaterBody, spacing: number, x0: number, z0: number): boolean =>
  rect.x0 * spacing <= x0 + COVER_CELL && rect.x1 * spacing >= x0 && rect.z0 * spacing <= z0 + COVER_CELL && rect.z1 * spacing >= z0;

/** How dense the ground asks a species to be in a cell, plants on 100 m2: at most, and anywhere in it (0 to 1 across), bilinear between samples. */
function fieldOf(ground: GroundRaster, { density }: CoverSpecies, x0: number, z0: number): { most: number; at(u: number, v: number): number } {
  const { nx, nz, spacing } = ground.grid;
  const side = COVER_CELL / spacing + 1;
  const field = new Float64Array(side * side);
  const [ix, iz] = [x0 / spacing, z0 / spacing];
  let most = 0;
  for (let z = 0; z < side; z++) {
    for (let x = 0; x < side; x++) {
      const s = (Math.min(nz - 1, iz + z) * nx + Math.min(nx - 1, ix + x)) * SLOTS;
      let sum = 0;
      for (let k = s; k < s + SLOTS; k++) sum += ground.weights[k] * density[ground.of[k]];
      field[z * side + x] = sum / 255;
      if (sum / 255 > most) most = sum / 255;
    }
  }
  const at = (u: number, v: number): number => {
    const [fx, fz] = [u * (side - 1), v * (side - 1)];
    const [i, j] = [fx | 0, fz | 0];
    const [p, q] = [fx - i, fz - j];
    const o = j * side + i;
    return (field[o] * (1 - p) + field[o + 1] * p) * (1 - q) + (field[o + side] * (1 - p) + field[o + side + 1] * p) * q;
  };
  return { most, at };
}
