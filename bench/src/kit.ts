import { SHIPPED_BODIES } from '@rammer/core/body/bodies';
import { blockGrid } from '@rammer/core/block/grid';
import { meshGrid } from '@rammer/core/block/placedMesh';
import { Apart, dressDab, type Cast } from '@rammer/core/kit/dress';
import { DRESSING } from '@rammer/core/level/lay/dressed';
import { shippedPieces } from '@rammer/core/kit/pieces';
import { fits, joinsOf, partsByAsset } from '@rammer/core/kit/joinGrid';
import { partOf } from '@rammer/core/kit/joins';
import { placedPieces } from '@rammer/core/kit/placement';
import { makeLevel } from '@rammer/core/level/level';
import type { Kit, LaidLine, LevelObject, Piece } from '@rammer/core/level/objects';
import { Present } from '@rammer/core/level/present';
import { hashUnit } from '@rammer/core/num/hash';
import type { Vec3 } from '@rammer/core/num/vec';
import { wrapDeg } from '@rammer/core/num/pose';
import { colliders } from '@rammer/core/snag/collider';
import { doorway } from '@rammer/core/snag/doorway';
import { Eyes } from '@rammer/core/snag/eyes';
import { joinFit } from '@rammer/core/snag/joinFit';
import { nearDetail } from '@rammer/core/snag/nearDetail';
import { poking } from '@rammer/core/snag/poking';
import { piecePlace } from '@rammer/core/snag/piece';
import type { Snag } from '@rammer/core/snag/finding';
import { doubled, twins } from '@rammer/core/snag/samePlace';
import { groundAlong, groundAlongGrid } from '@rammer/core/surface/groundAt';
import { terrainOf, testObjects } from '@rammer/core/testing/levels';
import type { Pair } from './measure';

const shipped = shippedPieces();
const assets = new Map(shipped.map((a, i) => [`a${i}`, i === 3 ? { ...a, role: 'prop' as const } : a]));
const kit: Kit = {
  id: 'kit',
  version: 1,
  kind: 'kit',
  name: 'kit',
  pitch: 2,
  storey: 3,
  stretch: [0.8, 1.25],
  parts: shipped.flatMap((a, i) => (i === 3 ? [] : [partOf(`a${i}`, a, 2)])),
};

/** A street of 400 parts round 20 corners, on ground that rises and falls. */
function street(): LaidLine {
  const height = (i: number) => Math.round(hashUnit(1, i) * 90) / 1000;
  const corners = Array.from({ length: 21 }, (_, n) => ({
    n,
    at: [n * 39.9, height(n * 80), (n % 2) * 3] as Vec3,
    ...(n < 20 ? { ground: Array.from({ length: 81 }, (_x, k) => height(n * 80 + k)) } : {}),
  }));
  return {
    id: 'street',
    version: 1,
    kind: 'laidLine',
    name: 'street',
    kit: 'kit',
    at: [0, 0, 0],
    turn: 30,
    corners,
    slope: 'step',
    remainder: 'stretch',
    storeys: 1,
    regular: [{ use: 'door', each: 3, first: 1 }],
    seed: 4,
    hidden: false,
    out: false,
  };
}

function layPair(): Pair {
  const line = street();
  const level = makeLevel([...testObjects(28), kit, line] as LevelObject[]);
  const { objects } = level;
  const present = new Present(objects);
  const pieces = present.of('piece').length;
  let turn = 0;
  /** the street with its tenth corner at another place each time */
  const moved = (): LaidLine => {
    turn++;
    return { ...line, corners: line.corners.map((c) => (c.n === 10 ? { ...c, at: [c.at[0], c.at[1], 3 + (turn % 7) / 10] } : c)) };
  };
  let { mark } = present.since();
  return {
    name: 'kit/lay',
    target: 5,
    pairs: 15,
    note: `a street of ${pieces} pieces after one of its 21 corners moved, laid and standing in the level, against laying all of it`,
    ours: () => {
      objects.set('street', moved());
      const news = present.since(mark);
      mark = news.mark;
      if (!news.ids || news.ids.size === 0) throw new Error('nothing was laid anew');
    },
    baseline: () => {
      objects.set('street', moved());
      if (new Present(objects).of('piece').length < 100) throw new Error('nothing was laid');
      present.since(mark);
    },
  };
}

/** 20,000 pieces: runs of ten walls that join, one in fifty a little off, and props between them. */
function many(): Piece[] {
  return Array.from({ length: 20_000 }, (_, i): Piece => {
    const run = Math.floor(i / 12);
    const k = i % 12;
    const [x0, z0] = [(run % 40) * 24, Math.floor(run / 40) * 8];
    const off = i % 600 === 5 ? 0.02 : 0;
    const prop = k >= 10;
    return {
      id: `p${String(i).padStart(5, '0')}`,
      version: 1,
      kind: 'piece',
      name: `piece ${i}`,
      asset: prop ? 'a3' : `a${k % 5 === 2 ? 2 : 0}`,
      at: prop ? [x0 + k, 0, z0 + 3] : [x0 + k * 2 + off, 0, z0],
      turn: prop ? Math.floor(hashUnit(3, i) * 360) - 180 : 0,
      sink: 0,
      collider: 'asset',
      hidden: false,
      out: false,
    };
  });
}

/** The findings of each check by a look at every pair, counted. */
function pairwise(pieces: readonly Piece[], bounds: readonly { min: Vec3; max: Vec3 }[]): number {
  let found = 0;
  const parts = partsByAsset([kit]);
  const joins = pieces.flatMap((p) => (parts.has(p.asset) ? joinsOf(p, parts.get(p.asset)!) : []));
  const nearest = joins.map((a) => {
    let best: { j: number; off: number } | undefined;
    for (let j = 0; j < joins.length; j++) {
      const b = joins[j];
      const [dx, dy, dz] = [b.at[0] - a.at[0], b.at[1] - a.at[1], b.at[2] - a.at[2]];
      const d = dx * dx + dy * dy + dz * dz;
      if (d > 0.25 || b.piece === a.piece || a.way[0] * b.way[0] + a.way[1] * b.way[1] + a.way[2] * b.way[2] > -0.95) continue;
      if (!best || d < best.off) best = { j, off: d };
    }
    return best;
  });
  nearest.forEach((n, i) => {
    if (n && nearest[n.j]?.j === i && joins[i].piece.id <= joins[n.j].piece.id && (Math.sqrt(n.off) > 1e-3 || !fits(joins[i].join, joins[n.j].join))) found++;
  });
  const left = new Set(pieces.keys());
  for (let i = 0; i < pieces.length; i++) {
    const p = pieces[i];
    const prop = p.asset === 'a3';
    let twin = false;
    const first = left.has(i);
    for (let j = 0; j < pieces.length; j++) {
      const q = pieces[j];
      if (i === j || p.asset !== q.asset) continue;
      const [dx, dy, dz] = [p.at[0] - q.at[0], p.at[1] - q.at[1], p.at[2] - q.at[2]];
      const d = Math.sqrt(dx * dx + dy * dy + dz * dz);
      if (d > 10) continue;
      const turn = Math.abs(wrapDeg(p.turn - q.turn));
      if (j < i && d <= 0.01 && turn <= 1) found++;
      if (!prop || !first || d <= 0.01 || turn > 8 || !left.has(j)) continue;
      twin = true;
      left.delete(j);
    }
    left.delete(i);
    if (twin) found++;
  }
  const held = bounds.map((b) => b.min[1] <= 0.06);
  const queue = held.flatMap((h, i) => (h ? [i] : []));
  while (queue.length > 0) {
    const a = bounds[queue.pop()!];
    for (let i = 0; i < bounds.length; i++) {
      if (held[i] || a.min[0] > bounds[i].max[0] + 0.06 || bounds[i].min[0] > a.max[0] + 0.06) continue;
      if (a.min[1] > bounds[i].max[1] + 0.06 || bounds[i].min[1] > a.max[1] + 0.06 || a.min[2] > bounds[i].max[2] + 0.06 || bounds[i].min[2] > a.max[2] + 0.06)
        continue;
      held[i] = true;
      queue.push(i);
    }
  }
  return found + held.filter((h) => !h).length;
}

/** Colliders, detail and doorways of 20,000 pieces by the nearest eye, against a look at every place an eye gets to. */
function nearPair(): Pair {
  const pieces = many();
  const placed = placedPieces(pieces, assets);
  const places: number[] = [];
  for (let x = 0; x < 960; x += 3) for (let z = 0; z < 336; z += 3) if (hashUnit(5, x, z) < 0.9) places.push(x, 0, z, 1);
  const dots = Float32Array.from(places);
  const terrain = terrainOf(() => 0, 32);
  const body = SHIPPED_BODIES.adult;
  const input = { terrain, blocks: [], grid: blockGrid([]), placed, pieces, assets, kits: [kit], dots, body };
  const slowly = (): number => {
    let sum = 0;
    for (const { min, max } of placed) {
      let best = 120;
      for (let i = 0; i < dots.length; i += 4) {
        const dx = Math.max(min[0] - dots[i], 0, dots[i] - max[0]);
        const dz = Math.max(min[2] - dots[i + 2], 0, dots[i + 2] - max[2]);
        const dy = Math.max(min[1] - dots[i + 1] - body.eye, 0, dots[i + 1] - max[1]);
        best = Math.min(best, Math.sqrt(dx * dx + dy * dy + dz * dz));
      }
      sum += best;
    }
    return sum;
  };
  const eyes = new Eyes(dots);
  const quickly = placed.reduce((sum, box) => sum + (eyes.nearest(box, body.eye, 120) ?? 120), 0);
  if (Math.abs(quickly - slowly()) > 1e-6) throw new Error(`the nearest eyes are ${quickly} m off and a look at all says ${slowly()}`);
  const found = [colliders, nearDetail, doorway, poking].flatMap((check) => check(input)).length;
  return {
    name: 'snag/near',
    target: 20,
    pairs: 7,
    note:
      `colliders, texels, triangles, doorways and what pokes through among 20,000 pieces and ${dots.length / 4} places to stand, ` +
      `${found} findings, against the nearest of all places for each piece alone`,
    ours: () => {
      if ([colliders, nearDetail, doorway, poking].flatMap((check) => check(input)).length !== found) throw new Error('other findings');
    },
    baseline: () => {
      if (slowly() <= 0) throw new Error('no places');
    },
  };
}

function snagPair(): Pair {
  const pieces = many();
  const placed = placedPieces(pieces, assets);
  const terrain = terrainOf(() => 0, 32);
  const input = { terrain, blocks: [], placed, pieces, assets, kits: [kit] } as never;
  const all = (): Snag[] => [joinFit, doubled, twins, piecePlace].flatMap((check) => (check as (i: never) => Snag[])(input));
  const [ours, slow] = [all().length, pairwise(pieces, placed)];
  if (ours !== slow) throw new Error(`the checks found ${ours} and a look at every pair ${slow}`);
  return {
    name: 'snag/pieces',
    target: 50,
    pairs: 7,
    note: `joins, doubled pieces, twins and what floats among 20,000 pieces, ${ours} findings, against a look at every pair with the same findings`,
    ours: () => {
      if (all().length !== ours) throw new Error('other findings');
    },
    baseline: () => {
      if (pairwise(pieces, placed) !== slow) throw new Error('other findings');
    },
  };
}

/** Looks at every place there is. */
class ApartByAll extends Apart {
  private readonly all: Vec3[] = [];
  private readonly least: number;
  constructor(spacing: number) {
    super(spacing);
    this.least = spacing * spacing * (1 - 1e-9);
  }
  override put(p: Vec3): void {
    this.all.push(p);
  }
  override free([x, y, z]: Vec3): boolean {
    for (const p of this.all) {
      const [dx, dy, dz] = [p[0] - x, p[1] - y, p[2] - z];
      if (dx * dx + dy * dy + dz * dz < this.least) return false;
    }
    return true;
  }
}

function brushPair(): Pair {
  const hosts = Array.from({ length: 3000 }, (_, i): Piece => {
    const [x, z] = [(i % 60) * 4.2 + 1, Math.floor(i / 60) * 5 + 1];
    return {
      id: `h${i}`,
      version: 1,
      kind: 'piece',
      name: `host ${i}`,
      asset: `a${[0, 5, 4, 3][i % 4]}`,
      at: [x, i % 4 === 3 ? 2.5 : 0, z],
      turn: (i * 47) % 360,
      sink: 0,
      collider: 'asset',
      hidden: false,
      out: false,
    };
  });
  const placed = placedPieces(hosts, assets);
  const meshes = meshGrid(placed);
  const terrain = terrainOf((x, z) => Math.sin(x / 9) + Math.cos(z / 7), 8);
  const dressing = { ...DRESSING, list: [{ asset: 'rock', weight: 1 }], spacing: 0.5, lean: 1, seed: 7 };
  // Dabs on grounds, walls and undersides along eight lines over the level.
  const dabs = Array.from({ length: 160 }, (_, i) => {
    const at: Vec3 = [8 + (i % 20) * 11.5, 1, 12 + Math.floor(i / 20) * 28];
    const normal: Vec3 = i % 4 === 2 ? [1, 0, 0] : i % 4 === 3 ? [0, -1, 0] : [0, 1, 0];
    return { at, normal, radius: 3 };
  });
  const blocks = blockGrid([]);
  const byGrid: Cast = (origin, direction, far) => {
    const hit = groundAlongGrid(terrain, { blocks, meshes }, { origin, direction, far });
    return hit && { at: hit.point, normal: hit.normal };
  };
  const byAll: Cast = (origin, direction, far) => {
    const hit = groundAlong(terrain, [], { origin, direction, far }, { pieces: placed });
    return hit && { at: hit.point, normal: hit.normal };
  };
  const dress = (apart: Apart, cast: Cast) => dabs.flatMap((d, i) => dressDab(dressing, d, [1, i], apart, cast));
  const ours = dress(new Apart(dressing.spacing), byGrid);
  if (JSON.stringify(ours) !== JSON.stringify(dress(new ApartByAll(dressing.spacing), byAll))) throw new Error('the two ways dress otherwise');
  const start = performance.now();
  for (let i = 0; i < 5; i++) dress(new Apart(dressing.spacing), byGrid);
  const second = (ours.length * 5 * 1000) / (performance.now() - start);
  return {
    name: 'kit/brush',
    target: 20,
    pairs: 7,
    note:
      `${ours.length} pieces brushed on ground, walls, roofs and undersides among 3,000 meshes, about ${Math.round(second / 1000)},000 a second, ` +
      'against rays at every mesh and a look at every place, with the same pieces set',
    ours: () => void dress(new Apart(dressing.spacing), byGrid),
    baseline: () => void dress(new ApartByAll(dressing.spacing), byAll),
  };
}

/** `kit/` rows. */
export const kitPairs = (): (() => Pair)[] => [layPair, brushPair];
/** `snag/` rows. */
export const snagPairs = (): (() => Pair)[] => [snagPair, nearPair];
