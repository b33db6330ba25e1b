import type { GroundRaster } from '../surface/ground';
import type { PlantObject, Species } from '../level/objects';
import type { Surface } from '../level/lay/dressed';
import { inBand } from '../num/band';
import { hashInts, hashUnit } from '../num/hash';
import { sinCosDeg } from '../num/trig';
import { cross, distance, normalize, type Vec3 } from '../num/vec';
import { adopted } from './adopt';
import { SQUARE } from './ceiling';
import { drawerOf, patchesOf } from './growing';
import { masksOf, onGround, type Masks } from './masks';
import { meshShares } from './meshes';
import { PLANT_STRIDE, type Plants } from './plants';
import type { ReadyWhere } from './where';

/** Candidates a dab has at most, and for each place there is room for: more fill the last gaps and cost time. */
const MOST_TRIES = 600;
const TRIES = 4;
/** What falls away more steeply than about 87 degrees, or hangs over, holds no plant: least rise of its normal. */
const LEAST_UP = 0.05;
/** Steeper than this only what climbs stands: what leans with its slope by half, or whose rule lets that slope in; rise of the normal. */
const CLIMB_UP = 0.5;
/** A density is of so much ground, m2. */
const GROUND = 100;
/** A candidate is looked for from just under what hangs over the brush. */
const UNDER = 0.05;

/** What is met along a ray, and whether that is the terrain. */
export type HandCast = (origin: Vec3, direction: Vec3, far: number) => (Surface & { terrain: boolean }) | undefined;

/** A species as a brush sets it by hand. */
export interface HandSpecies {
  s: Species;
  /** its conditions, where its rule is to be kept; `undefined` sets it wherever there is room */
  rule?: { masks: Masks; where?: ReadyWhere };
}

/** A plant that stands: whose it is, and where. */
export interface Stands {
  species: string;
  at: Vec3;
}

/** What stands, by cells as wide as the widest distance that is kept between any two: in space, so that storeys do not know of each other. */
export class HandRoom {
  private readonly cells = new Map<string, Stands[]>();
  private readonly side: number;
  /** how many of each species stand in each square of 100 m2 of plan, and of all under '' */
  private readonly squares = new Map<string, number>();

  /** @param species all of the level: by their spacing and clearance, metres */
  constructor(private readonly species: ReadonlyMap<string, Pick<Species, 'spacing' | 'clearance'>>) {
    this.side = Math.max(1, ...[...species.values()].map((s) => Math.max(s.spacing, s.clearance)));
  }

  private key(x: number, y: number, z: number): string {
    return `${Math.floor(x / this.side)},${Math.floor(y / this.side)},${Math.floor(z / this.side)}`;
  }

  put(one: Stands): void {
    const key = this.key(...one.at);
    const list = this.cells.get(key);
    if (list) list.push(one);
    else this.cells.set(key, [one]);
    for (const of of ['', one.species]) {
      const square = squareOf(one.at, of);
      this.squares.set(square, (this.squares.get(square) ?? 0) + 1);
    }
  }

  /** Those within a distance of a place, metres. */
  *near([x, y, z]: Vec3, far: number): Generator<Stands> {
    const n = Math.ceil(far / this.side);
    for (let i = -n; i <= n; i++)
      for (let j = -n; j <= n; j++)
        for (let k = -n; k <= n; k++)
          for (const one of this.cells.get(this.key(x + i * this.side, y + j * this.side, z + k * this.side)) ?? [])
            if ((one.at[0] - x) ** 2 + (one.at[1] - y) ** 2 + (one.at[2] - z) ** 2 <= far * far) yield one;
  }

  /** Whether a species keeps its spacing to its own kind and the larger clearance to others at a place. */
  free(s: Pick<Species, 'id' | 'spacing' | 'clearance'>, at: Vec3): boolean {
    for (const other of this.near(at, this.side)) {
      const keep = other.species === s.id ? s.spacing : Math.max(s.clearance, this.species.get(other.species)?.clearance ?? 0);
      const d2 = (other.at[0] - at[0]) ** 2 + (other.at[1] - at[1]) ** 2 + (other.at[2] - at[2]) ** 2;
      if (d2 < keep * keep * (1 - 1e-6)) return false;
    }
    return true;
  }

  /** Plants in the square of 100 m2 that a place lies in, on all storeys, as ceilings count them: of a species, or of all. */
  count(at: Vec3, species = ''): number {
    return this.squares.get(squareOf(at, species)) ?? 0;
  }
}

const squareOf = ([x, , z]: Vec3, species: string): string => `${Math.floor(x / SQUARE)},${Math.floor(z / SQUARE)} ${species}`;

/** What a dab of a brush that sets plants by hand goes by. */
export interface HandBrush {
  list: readonly HandSpecies[];
  /** times the densities of the species */
  to: number;
  room: HandRoom;
  cast: HandCast;
  ground: GroundRaster;
  assetHeights: ReadonlyMap<string, number>;
  /** where the level's zero of patterns lies, metres */
  origin: readonly [number, number];
  /** the most plants of all species on 100 m2 */
  ceiling?: number;
}

/** What a dab set, and how many more there would be without a ceiling. */
export interface HandDab {
  plants: Omit<PlantObject, 'id' | 'name' | 'version'>[];
  held: number;
}

/** The masks of a species and its conditions, for `HandSpecies.rule`. */
export const handRule = (s: Species, ground: GroundRaster, where?: ReadyWhere): NonNullable<HandSpecies['rule']> => ({
  masks: masksOf(
    s,
    ground.surfaces.map((o) => o.id),
  ),
  ...(where ? { where } : {}),
});

/**
 * One dab of a brush that sets plants by hand on whatever it is over: floors of caves, ledges, roofs, flanks. Each species comes up to
 * its own density and no farther, however often one goes over a place, keeps its spacing to all that stands, and stands as its
 * settings have it.
 *
 * @param dab where the brush is, the way out of what it is on, its radius in metres
 * @param index of the dab in its stroke, and of the stroke: what is drawn is fixed by seed, stroke and dab
 */
export function handDab(brush: HandBrush, dab: Surface & { radius: number }, [stroke, index]: readonly [number, number]): HandDab {
  const out: HandDab = { plants: [], held: 0 };
  const area = Math.PI * dab.radius * dab.radius;
  const clear = clearOver(dab, brush.cast);
  for (const [order, of] of brush.list.entries()) {
    const { s } = of;
    const wanted = (s.density * (s.amount ?? 1) * brush.to * area) / GROUND;
    const seed = hashInts(s.seed, stroke, index, order);
    let stood = 0;
    for (const one of brush.room.near(dab.at, dab.radius)) if (one.species === s.id) stood++;
    // A part of a plant stands as often as it is large.
    let left = Math.floor(wanted + hashUnit(seed, 0)) - stood;
    const tries = Math.min(MOST_TRIES, Math.ceil(Math.max(0, left) * TRIES));
    for (let i = 1; i <= tries && left > 0; i++) {
      const hit = candidate(dab, clear, [seed, i], brush.cast);
      if (!hit || !stands(of, hit, brush.ground, hashUnit(seed, i, 2)) || !brush.room.free(s, hit.at)) continue;
      left--;
      if (brush.room.count(hit.at) >= (brush.ceiling ?? Infinity) || brush.room.count(hit.at, s.id) >= (s.ceiling ?? Infinity)) {
        out.held++;
        continue;
      }
      brush.room.put({ species: s.id, at: hit.at });
      out.plants.push(standing(brush, s, hit, hashInts(seed, i, 3)));
    }
  }
  return out;
}

/** A place of the disc, cast onto what is under it. */
function candidate(
  { at, normal, radius }: Surface & { radius: number },
  clear: number,
  [seed, i]: readonly [number, number],
  cast: HandCast,
): ReturnType<HandCast> {
  const u = normalize(Math.abs(normal[1]) < 0.9 ? cross([0, 1, 0], normal) : cross([1, 0, 0], normal));
  const v = cross(normal, u);
  const [sin, cos] = sinCosDeg(hashUnit(seed, i, 0) * 360);
  const r = Math.sqrt(hashUnit(seed, i, 1)) * radius;
  const from = [0, 1, 2].map((k) => at[k] + (u[k] * cos + v[k] * sin) * r + normal[k] * clear) as Vec3;
  return cast(from, [-normal[0], -normal[1], -normal[2]], clear + radius);
}

/** How far one looks out of what the brush is on before something hangs there, its radius at most, metres: under a roof it stays under it. */
function clearOver({ at, normal, radius }: Surface & { radius: number }, cast: HandCast): number {
  const from = [0, 1, 2].map((k) => at[k] + normal[k] * UNDER) as Vec3;
  const hit = cast(from, normal, radius);
  return hit ? Math.max(UNDER, distance(from, hit.at)) : radius;
}

/** Whether a species stands on a place: where it can hold, and where it keeps to its rule, by the product of that and its own chance. */
function stands(
  { s, rule }: HandSpecies,
  { at: [x, y, z], normal, terrain }: NonNullable<ReturnType<HandCast>>,
  ground: GroundRaster,
  chance: number,
): boolean {
  const up = normal[1];
  if (up < LEAST_UP) return false;
  const steep = Math.sqrt(Math.max(0, 1 - up * up)) / up;
  const climbs = (s.leanToSlope ?? 0) >= 0.5 || s.rule.slope[1] >= 75;
  if (!rule) return up >= CLIMB_UP || climbs;
  const { masks, where } = rule;
  const share = inBand(masks.slope, steep) * inBand(masks.height, y) * (masks.anyGround ? 1 : onGround(masks, ground, x, z, !terrain));
  return chance < share * (where && share > 0 ? where.share(x, z) : 1);
}

/** How it stands: drawn as a generated one is. */
function standing({ assetHeights, origin }: HandBrush, s: Species, { at, normal }: Surface, drew: number): HandDab['plants'][number] {
  const place = new Float32Array(PLANT_STRIDE);
  place.set(at);
  const draw = drawerOf({
    s,
    meshes: meshShares(s, assetHeights),
    ...(s.patch !== undefined && s.tints.length > 1 ? { patch: patchesOf(s, s.patch, origin) } : {}),
    slopeAt: () => [-normal[0] / normal[1], -normal[2] / normal[1]],
  });
  const one: Plants = { species: s.id, count: 1, place, look: Uint8Array.of(draw(place, 0, drew)), id: new Int32Array(3), hand: [] };
  // It has no place among those that grew.
  const { was: _, radius: _r, ...set } = adopted(one, 0, s);
  return set;
}
