import { SHIPPED_BODIES } from '../body/bodies';
import { composeTerrain, type Terrain } from '../earth/compose';
import { makeLevel, type Level } from '../level/level';
import type { Block, LevelObject } from '../level/objects';
import { gridOf } from '../level/tiles';

/** Small levels for tests. */
export function testObjects(tiles = 2, spacing: 0.25 | 0.5 | 1 | 2 = 0.5, noise = { seed: 3, height: 0, scale: 40, octaves: 3 }): LevelObject[] {
  return [
    {
      id: 'settings',
      version: 1,
      kind: 'settings',
      name: 'test',
      tilesX: tiles,
      tilesZ: tiles,
      spacing,
      player: 'adult',
      device: 'den-60',
      sun: { azimuth: 200, elevation: 40 },
    },
    { id: 'adult', version: 1, kind: 'body', name: 'adult', figures: SHIPPED_BODIES.adult },
    { id: 'noise', version: 1, kind: 'lift', lift: 'noise', name: 'noise', order: 0, visible: true, ...noise },
    { id: 'hand', version: 1, kind: 'lift', lift: 'hand', name: 'hand', order: 100, visible: true },
  ];
}

export const testLevel = (...args: Parameters<typeof testObjects>): Level => makeLevel(testObjects(...args));

/** Terrain of a level whose heights are given by a function of x and z, metres. */
export function terrainOf(height: (x: number, z: number) => number, tiles = 2, spacing: 0.25 | 0.5 | 1 | 2 = 0.5): Terrain {
  const grid = gridOf({ tilesX: tiles, tilesZ: tiles, spacing });
  const heights = new Float32Array(grid.nx * grid.nz);
  for (let z = 0; z < grid.nz; z++) for (let x = 0; x < grid.nx; x++) heights[z * grid.nx + x] = height(x * spacing, z * spacing);
  return { grid, heights, noise: new Map() };
}

export const terrainFrom = (level: Level): Terrain => composeTerrain(level);

let count = 0;
export function testBlock(shape: Block['shape'], size: Block['size'], at: Block['at'], turn = 0, more: Partial<Block> = {}): Block {
  count++;
  return { id: `b${count}`, version: 1, kind: 'block', name: `${shape} ${count}`, shape, size, at, turn, hidden: false, out: false, ...more };
}
