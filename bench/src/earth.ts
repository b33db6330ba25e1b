import { once } from 'node:events';
import { Worker } from 'node:worker_threads';
import { beginStroke, BRUSH_DEFAULTS, strokeTiles } from '@rammer/core/earth/brush';
import { dab } from '@rammer/core/earth/dab';
import { composeRect, composeTerrain, wholeRect, type Rect, type Terrain } from '@rammer/core/earth/compose';
import { terrainPositions, terrainVertexCount, tileNormals } from '@rammer/core/earth/mesh';
import { joinSlabs, slabJobs, type SlabResult } from '@rammer/core/earth/slab';
import { HYDRAULIC_DEFAULTS, hydraulic, type HydraulicSettings } from '@rammer/core/earth/weather/hydraulic';
import { hashUnit } from '@rammer/core/num/hash';
import { liftStack, makeLevel, type Level } from '@rammer/core/level/level';
import { TILE_QUADS, TILE_SAMPLES, TILE_SIDE, tileKey, type Grid } from '@rammer/core/level/tiles';
import { SHIPPED_BODIES } from '@rammer/core/body/bodies';
import { changedRect } from '@rammer/core/earth/changed';
import { parseObject, type Landform, type Lift } from '@rammer/core/level/objects';
import type { Pair } from './measure';

/** A level of `tiles` a side with hand work on every tile, and its noise cached, as after some hours of work. */
function worked(tiles: number): { level: Level; terrain: Terrain } {
  const level = makeLevel([
    {
      id: 'settings',
      version: 1,
      kind: 'settings',
      name: 'bench',
      tilesX: tiles,
      tilesZ: tiles,
      spacing: 0.5,
      player: 'adult',
      device: 'den-60',
      sun: { azimuth: 200, elevation: 40 },
    },
    { id: 'adult', version: 1, kind: 'body', name: 'adult', figures: SHIPPED_BODIES.adult },
    { id: 'noise', version: 1, kind: 'lift', lift: 'noise', name: 'noise', order: 0, visible: true, seed: 5, height: 3, scale: 60, octaves: 1 },
    { id: 'hand', version: 1, kind: 'lift', lift: 'hand', name: 'hand', order: 100, visible: true },
  ]);
  const tile = Int32Array.from({ length: TILE_SAMPLES }, (_, i) => (i * 31) % 900);
  const weight = Int32Array.from({ length: TILE_SAMPLES }, (_, i) => (i * 17) % 1024);
  for (let z = 0; z < tiles; z++) {
    for (let x = 0; x < tiles; x++) {
      level.tiles.set(tileKey('hand', 'delta', x, z), tile);
      level.tiles.set(tileKey('hand', 'held', x, z), tile);
      level.tiles.set(tileKey('hand', 'weight', x, z), weight);
    }
  }
  return { level, terrain: composeTerrain(level) };
}

const positions = new Float32Array(terrainVertexCount(0) * 3);
const normals = new Uint8Array(TILE_SIDE * TILE_SIDE * 4);

/** Composes a rectangle, then writes mesh and normals of the given tiles. */
function redo(level: Level, terrain: Terrain, tiles: ReadonlyMap<string, Int32Array>, rect: Rect, [tx0, tz0, tx1, tz1]: number[]): void {
  composeRect(terrain, liftStack(level), tiles, rect);
  for (let z = tz0; z <= tz1; z++) {
    for (let x = tx0; x <= tx1; x++) {
      terrainPositions(terrain, [x, z], 0, 3, positions);
      tileNormals(terrain, x, z, normals, 4);
    }
  }
}

/** A dab on the corner where four tiles meet in the middle of the level. */
function dabOnCorner(level: Level, terrain: Terrain, tiles: number): void {
  const middle = Math.floor(tiles / 2);
  const at = middle * TILE_QUADS * terrain.grid.spacing;
  const buffer = beginStroke('hand', terrain.grid);
  const rect = dab(buffer, level.tiles, terrain, BRUSH_DEFAULTS, { x: at, z: at })!;
  redo(level, terrain, strokeTiles(buffer, level.tiles), rect, [middle - 1, middle - 1, middle, middle]);
}

/** A 1025 level of ten lifts: noise, four landforms (one with a mask by slope), two routes, two pads, hand work. */
export function tenLifts(): { level: Level; terrain: Terrain } {
  const { level } = worked(16);
  const lift = (given: Record<string, unknown>) => {
    const parsed = parseObject({ version: 1, kind: 'lift', name: String(given.id), ...given });
    if (!parsed.ok) throw new Error(parsed.message);
    level.objects.set(parsed.object.id, parsed.object);
  };
  for (let i = 0; i < 4; i++)
    lift({
      id: `heap${i}`,
      lift: 'landform',
      order: 10 + i,
      line: [
        [60 + i * 110, 60],
        [110 + i * 110, 70],
        [100 + i * 110, 130],
      ],
      height: 6,
      foot: 8,
      ragged: 2,
      ...(i === 3 ? { mask: { slope: { band: [0, 30], soft: 6 } } } : {}),
    });
  for (let i = 0; i < 2; i++)
    lift({
      id: `way${i}`,
      lift: 'route',
      order: 200 + i,
      line: [
        [20, 0, 200 + i * 120],
        [200, 4, 240 + i * 120],
        [480, 2, 210 + i * 120],
      ],
      width: 4,
    });
  for (let i = 0; i < 2; i++)
    lift({
      id: `yard${i}`,
      lift: 'pad',
      order: 210 + i,
      outline: [
        [300 + i * 80, 420],
        [340 + i * 80, 420],
        [340 + i * 80, 450],
        [300 + i * 80, 450],
      ],
      height: 3,
    });
  return { level, terrain: composeTerrain(level) };
}

export function earthPairs(): (() => Pair)[] {
  return [
    () => {
      const { level, terrain } = tenLifts();
      let height = 6;
      const change = (): Lift[] => {
        const before = liftStack(level);
        level.objects.set('heap0', { ...(level.object('heap0') as Landform), height: (height = height === 6 ? 7 : 6) });
        return before;
      };
      return {
        name: 'earth/lift',
        target: 10,
        note: 'the height of one of ten lifts of a 1025 level set: what it can change composed anew, against the whole',
        ours: () => {
          const before = change();
          composeRect(terrain, liftStack(level), level.tiles, changedRect(before, liftStack(level), terrain, level.tiles)!);
        },
        baseline: () => {
          change();
          composeRect(terrain, liftStack(level), level.tiles, wholeRect(terrain.grid));
        },
      };
    },
    () => {
      const tiles = 16;
      const { level, terrain } = worked(tiles);
      const middle = Math.floor(tiles / 2);
      const at = middle * TILE_QUADS * terrain.grid.spacing;
      return {
        name: 'earth/dab',
        target: 20,
        note:
          `compose, normals and mesh of the touched tiles, a dab of 6 m on a tile ` +
          `corner, against the same on all ${tiles * tiles} tiles of a 1025 level; noise cached`,
        ours: () => dabOnCorner(level, terrain, tiles),
        baseline: () => {
          const buffer = beginStroke('hand', terrain.grid);
          dab(buffer, level.tiles, terrain, BRUSH_DEFAULTS, { x: at, z: at });
          redo(level, terrain, strokeTiles(buffer, level.tiles), wholeRect(terrain.grid), [0, 0, tiles - 1, tiles - 1]);
        },
      };
    },
    () => {
      const small = worked(16);
      const large = worked(64);
      const many = (n: number, work: () => void) => {
        for (let i = 0; i < n; i++) work();
      };
      return {
        name: 'earth/dab-scale',
        target: 0.77,
        pairs: 15,
        note: 'eight such dabs on a 4097 level, against the same on a 1025 level: the time ratio 1025 / 4097',
        ours: () => many(8, () => dabOnCorner(large.level, large.terrain, 64)),
        baseline: () => many(8, () => dabOnCorner(small.level, small.terrain, 16)),
      };
    },
    () => {
      const { level, terrain } = tenLifts();
      return {
        name: 'earth/recompose',
        pairs: 7,
        note: 'ten lifts of a 1025 level composed whole with the noise cached, against all of it from the lifts alone',
        ours: () => {
          composeRect(terrain, liftStack(level), level.tiles, wholeRect(terrain.grid));
        },
        baseline: () => {
          composeTerrain(level);
        },
      };
    },
    () => {
      const {
        level,
        terrain: { grid },
      } = tenLifts();
      const workers = [startWorker(), startWorker()];
      const compose = async (hands: Worker[], parts: number) => {
        const noise = new Map<string, Float32Array>();
        const jobs = slabJobs({ grid, noise, stack: liftStack(level), tiles: level.tiles }, parts);
        const slabs: SlabResult[] = [];
        let next = 0;
        await Promise.all(
          hands.map(async (worker) => {
            while (next < jobs.length) {
              const at = next++;
              worker.postMessage(jobs[at]);
              slabs[at] = (await once(worker, 'message'))[0] as SlabResult;
            }
          }),
        );
        joinSlabs(grid, noise, slabs);
      };
      return {
        name: 'earth/workers',
        target: 1.5,
        pairs: 15,
        note: 'ten lifts of a 1025 level composed whole with their noise in four slabs by two workers, tiles sent and rows returned, against one worker',
        ours: () => compose(workers, 4),
        baseline: () => compose(workers.slice(0, 1), 4),
      };
    },
    () => {
      const {
        terrain: { grid, heights },
      } = worked(16);
      const share = new Float32Array(heights.length).fill(1);
      const settings = { ...HYDRAULIC_DEFAULTS, droplets: 200_000 };
      const marks = () => ({ scour: new Float32Array(heights.length), settle: new Float32Array(heights.length), runoff: new Float32Array(heights.length) });
      return {
        name: 'earth/droplets',
        pairs: 7,
        note: '200,000 droplets at 1025 over flat arrays with one brush, against the same drops over an object a sample that look for their brush at each step',
        ours: () => {
          hydraulic(Float64Array.from(heights), grid, settings, { share, marks: marks() });
        },
        baseline: () => {
          plainDroplets(heights, grid, settings);
        },
      };
    },
  ];
}

/** A worker that does not keep the process waiting. */
function startWorker(): Worker {
  // A worker does not take over how its parent reads TypeScript: it is told itself.
  const worker = new Worker(
    `import('tsx/esm/api').then((tsx) => { tsx.register(); return import(${JSON.stringify(new URL('./slabWorker.ts', import.meta.url).href)}); })`,
    { eval: true },
  );
  worker.unref();
  return worker;
}

/** The droplets of `earth/weather/hydraulic` as they come to mind: a record a sample, a brush worked out at each step. */
function plainDroplets(from: Float32Array, { nx, nz, spacing }: Grid, s: HydraulicSettings): void {
  const rows = Array.from({ length: nz }, (_, z) => Array.from({ length: nx }, (_u, x) => ({ height: from[z * nx + x], scour: 0, settle: 0, runoff: 0 })));
  const heightAt = (x: number, z: number) => {
    const [ix, iz] = [Math.floor(x), Math.floor(z)];
    const [u, v] = [x - ix, z - iz];
    const [a, b, c, d] = [rows[iz][ix].height, rows[iz][ix + 1].height, rows[iz + 1][ix].height, rows[iz + 1][ix + 1].height];
    return {
      height: a * (1 - u) * (1 - v) + b * u * (1 - v) + c * (1 - u) * v + d * u * v,
      gx: (b - a) * (1 - v) + (d - c) * v,
      gz: (c - a) * (1 - u) + (d - b) * u,
    };
  };
  const lay = (x: number, z: number, metres: number) => {
    const [ix, iz] = [Math.min(nx - 2, Math.floor(x)), Math.min(nz - 2, Math.floor(z))];
    const [u, v] = [x - ix, z - iz];
    for (const [i, j, k] of [
      [0, 0, (1 - u) * (1 - v)],
      [1, 0, u * (1 - v)],
      [0, 1, (1 - u) * v],
      [1, 1, u * v],
    ]) {
      const cell = rows[iz + j][ix + i];
      cell.height += metres * k;
      cell.settle += metres * k;
    }
  };
  const radius = Math.max(1, s.radius / spacing);
  for (let drop = 0; drop < s.droplets; drop++) {
    let [x, z] = [1 + hashUnit(s.seed, drop, 1) * (nx - 3), 1 + hashUnit(s.seed, drop, 2) * (nz - 3)];
    let [dx, dz, speed, water, carried] = [0, 0, 1, 1, 0];
    for (let life = 0; life < 80; life++) {
      const here = heightAt(x, z);
      rows[Math.floor(z)][Math.floor(x)].runoff += water;
      dx = dx * s.inertia - here.gx * (1 - s.inertia);
      dz = dz * s.inertia - here.gz * (1 - s.inertia);
      const l = Math.sqrt(dx * dx + dz * dz);
      if (l < 1e-9) break;
      const [px, pz] = [x + dx / l, z + dz / l];
      [dx, dz] = [dx / l, dz / l];
      if (px < 1 || pz < 1 || px > nx - 2.001 || pz > nz - 2.001) break;
      const fall = here.height - heightAt(px, pz).height;
      const room = Math.max((fall / spacing) * speed * water * s.capacity, 0.01) * spacing * 0.25;
      if (carried > room || fall < 0) {
        const drops = fall < 0 ? Math.min(carried, -fall) : (carried - room) * s.settle;
        carried -= drops;
        lay(x, z, drops);
      } else {
        const takes = Math.min((room - carried) * s.scour, fall);
        const brush: { x: number; z: number; k: number }[] = [];
        for (let j = -Math.ceil(radius); j <= radius; j++)
          for (let i = -Math.ceil(radius); i <= radius; i++) {
            const k = radius - Math.hypot(i, j);
            if (k > 0) brush.push({ x: Math.floor(x) + i, z: Math.floor(z) + j, k });
          }
        const sum = brush.reduce((a, b) => a + b.k, 0);
        for (const b of brush) {
          const cell = rows[b.z]?.[b.x];
          if (!cell) continue;
          cell.height -= (takes * b.k) / sum;
          cell.scour += (takes * b.k) / sum;
          carried += (takes * b.k) / sum;
        }
      }
      speed = Math.sqrt(Math.max(0, speed * speed + (fall / spacing) * 4));
      water *= 1 - s.dries;
      [x, z] = [px, pz];
    }
    if (carried > 0) lay(x, z, carried);
  }
}
