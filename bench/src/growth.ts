import FastPoissonDiskSampling from 'fast-2d-poisson-disk-sampling';
import { blockGrid } from '@rammer/core/block/grid';
import { NO_MESHES } from '@rammer/core/block/placedMesh';
import { wholeRect, type Terrain } from '@rammer/core/earth/compose';
import { GrowthRoom } from '@rammer/core/growth/growthRoom';
import { grow, type GrowthInput } from '@rammer/core/growth/grow';
import { pattern } from '@rammer/core/growth/pattern';
import { speciesFrom } from '@rammer/core/growth/shippedSpecies';
import type { GroundRule, Surface } from '@rammer/core/level/objects';
import { gridOf, TILE_SAMPLES, tileKey } from '@rammer/core/level/tiles';
import { randomStream } from '@rammer/core/num/hash';
import { composeGround, makeGround } from '@rammer/core/surface/ground';
import { groundDefaults } from '@rammer/core/surface/surfaces';
import type { Pair } from './measure';

const room = new GrowthRoom();
const SPACING = 1;

/** Hills of 256 m with three species, each with slope, height, ground and sown masks, and clearances between them. */
function input(): GrowthInput {
  const grid = gridOf({ tilesX: 8, tilesZ: 8, spacing: 0.5 });
  const heights = Float32Array.from({ length: grid.nx * grid.nz }, (_, i) => 5 * Math.sin((i % grid.nx) / 40) * Math.cos(Math.floor(i / grid.nx) / 50));
  const terrain: Terrain = { grid, heights, noise: new Map() };
  const defaults = groundDefaults();
  const ground = makeGround(
    grid,
    defaults.filter((o): o is Surface => o.kind === 'surface'),
  );
  composeGround(
    ground,
    { terrain, stack: [], tiles: new Map(), waters: [], rules: defaults.filter((o): o is GroundRule => o.kind === 'groundRule') },
    wholeRect(grid),
  );
  const names = ['birch', 'gorse', 'heather'];
  const tiles = new Map<string, Int32Array>();
  const sown = Int32Array.from({ length: TILE_SAMPLES }, (_, i) => (i * 7) % 300);
  for (const name of names) for (let z = 0; z < 8; z++) for (let x = 0; x < 8; x++) tiles.set(tileKey(name, 'sown', x, z), sown);
  const species = names.map((name, i) => ({
    ...speciesFrom({ id: name, name }, name, i, 50 + i),
    spacing: SPACING,
    clearance: 0.4,
    density: 200,
    rule: { on: true, slope: [0, 60] as [number, number], height: [-6, 6] as [number, number], soft: 5, grounds: ['turf', 'slate'] },
  }));
  return { terrain, ground, blocks: blockGrid([]), meshes: NO_MESHES, waters: [], species, assetHeights: new Map(), plants: [], tiles };
}

/** Growth in one thread against a library's Poisson disks at equal spacing, accepted plants a second. */
export function growthPairs(): (() => Pair)[] {
  return [
    () => {
      const given = input();
      for (const s of given.species) pattern(s.seed);
      const ours = grow(given, undefined, undefined, room).reduce((n, p) => n + p.count, 0);
      const side = 96;
      const sample = () => new FastPoissonDiskSampling({ shape: [side, side], radius: SPACING, tries: 30 }, randomStream(5)).fill().length;
      const theirs = sample();
      // Both fill in their own time; the baseline's work is scaled to the same number of plants by repeating it.
      const times = Math.max(1, Math.round(ours / theirs));
      return {
        name: 'growth/sample',
        target: 10,
        pairs: 7,
        note:
          `3 rules, 4 masks, clearances kept, ${ours} plants accepted on 256 m, against ` +
          `fast-2d-poisson-disk-sampling (tries 30) at ${SPACING} m, ${theirs} points, ${times} times: the same number of plants`,
        ours: () => {
          grow(given, undefined, undefined, room);
        },
        baseline: () => {
          for (let i = 0; i < times; i++) sample();
        },
      };
    },
  ];
}
