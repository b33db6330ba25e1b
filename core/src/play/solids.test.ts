import { beforeAll, describe, expect, it } from 'vitest';
import { SHIPPED_BODIES } from '../body/bodies';
import { blockGrid } from '../block/grid';
import type { PlacedMesh } from '../block/placedMesh';
import { grow } from '../growth/grow';
import { trunkColliders } from '../growth/trunks';
import { DOOR, STOREY } from '../kit/pieces';
import { pieceColliders } from '../kit/placement';
import type { Piece } from '../level/objects';
import type { Vec3 } from '../num/vec';
import { testAssets } from '../testing/assets';
import { growthOn, testSpecies } from '../testing/growth';
import { loadKernels } from '../testing/kernels';
import { terrainOf } from '../testing/levels';
import { findReach } from './reach';
import { makeWalkArea, standAt, standsAt } from './walkArea';
import { makeWalker } from './walker';

const { adult, ram } = SHIPPED_BODIES;
const flat = terrainOf(() => 0);
const assets = testAssets();
let kernels: Awaited<ReturnType<typeof loadKernels>>;
beforeAll(async () => {
  kernels = await loadKernels();
});

/** A wall of the kit across the whole level at z 32, with one door wall where it is asked for. */
function fence(door?: number, sunk = 0): PlacedMesh[] {
  const pieces = Array.from({ length: 32 }, (_, i): Piece => {
    const x = i * 2 + 1;
    const asset = x === door ? 'door wall' : 'wall';
    return {
      id: `w${i}`,
      version: 1,
      kind: 'piece',
      name: `${asset} ${i}`,
      asset,
      at: [x, x === door ? -sunk : 0, 32],
      turn: 0,
      sink: 0,
      collider: 'asset',
      hidden: false,
      out: false,
    };
  });
  return pieceColliders(pieces, assets);
}

function reach(meshes: PlacedMesh[], from: Vec3, to: Vec3, body = adult) {
  const area = makeWalkArea(body, flat.grid);
  area.update({ terrain: flat, blocks: [], meshes });
  // The same again bakes nothing: the meshes are part of what a tile remembers.
  expect(area.update({ terrain: flat, blocks: [], meshes })).toBe(0);
  return findReach(area, from, to);
}

function walk(meshes: PlacedMesh[], at: Vec3, x: number, z: number, seconds: number): Vec3 {
  const walker = makeWalker(kernels.rapier, adult, { terrain: flat, blocks: [], meshes }, at);
  for (let i = 0; i < seconds * 60; i++) walker.step({ x, z, run: false, jump: false });
  const end: Vec3 = [...walker.at];
  walker.dispose();
  return end;
}

describe('pieces', () => {
  it('close the way, open it by a door, and close it again for a body the door is too low for', () => {
    expect(reach(fence(), [20, 0, 50], [20, 0, 10])).toMatchObject({
      reached: false,
      stop: { code: 'ledge', message: expect.stringMatching(/^wall \d+: a 3\.00 m face, too high/) },
    });
    const open = reach(fence(31), [20, 0, 50], [20, 0, 10]);
    expect(open.reached).toBe(true);
    // The way leads through the opening about x 31.
    const crossing = open.path.find((p, i) => i > 0 && open.path[i - 1][2] > 32 !== p[2] > 32);
    expect(crossing).toBeDefined();
    expect(reach(fence(31, 0.5), [20, 0, 50], [20, 0, 10]).reached).toBe(false);
    // The ram is lower and wider: 1.10 m are enough for its 0.90 m, 1.60 m of height too.
    expect(reach(fence(31, 0.5), [20, 0, 50], [20, 0, 10], ram).reached).toBe(true);
  });

  it('stop the walker, and let him through the door', () => {
    expect(walk(fence(), [20, 0.05, 34], 0, -1, 3)[2]).toBeGreaterThan(32 + adult.radius);
    expect(walk(fence(31), [31, 0.05, 34], 0, -1, 3)[2]).toBeLessThan(30.5);
    expect(walk(fence(31), [31 + DOOR.width / 2 + 0.2, 0.05, 34], 0, -1, 3)[2]).toBeGreaterThan(32);
  });

  it('carry the walker up the stair to the next storey', () => {
    const stair = pieceColliders(
      [{ id: 's', version: 1, kind: 'piece', name: 'stair', asset: 'stair', at: [30, 0, 32], turn: 0, sink: 0, collider: 'asset', hidden: false, out: false }],
      assets,
    );
    const end = walk(stair, [27.4, 0.05, 32], 1, 0, 2.1);
    expect(end[1]).toBeGreaterThan(STOREY - 0.45);
    expect(Math.abs(end[2] - 32)).toBeLessThan(0.05);
  });
});

describe('trunks', () => {
  it('stop the walker and are left out of the walk area, heather is walked through', () => {
    const birch = testSpecies('birch', 0, {
      density: 1,
      spacing: 6,
      slenderness: [1, 1],
      height: [6.7, 6.7],
      rule: { on: true, slope: [0, 90], height: [-9, 9], soft: 0, grounds: [] },
    });
    const species = new Map([['birch', birch]]);
    const grown = grow(growthOn(flat, [birch], { blocks: blockGrid([]) }));
    const trunks = trunkColliders(grown, species, assets);
    const [x, , z] = grown[0].place;
    const end = walk(trunks, [x, 0.05, z + 2], 0, -1, 3);
    // He slides round or stands; he never stands inside.
    expect(Math.hypot(end[0] - x, end[2] - z)).toBeGreaterThan(adult.radius + 0.12);
    const area = makeWalkArea(adult, flat.grid);
    area.update({ terrain: flat, blocks: [], meshes: trunks });
    // The nearest ground to stand on is a body's radius from the bark, all round.
    const ids: number[] = [];
    let nearest = Infinity;
    for (let dx = -1; dx <= 1; dx += 0.05) {
      for (let dz = -1; dz <= 1; dz += 0.05) {
        standsAt(area, x + dx, z + dz, ids);
        for (const id of ids) {
          const at = standAt(area, id, { x: 0, z: 0, h: 0 });
          if (at.h < 1) nearest = Math.min(nearest, Math.hypot(at.x - x, at.z - z));
        }
      }
    }
    expect(nearest).toBeGreaterThan(adult.radius + 0.1);
    expect(nearest).toBeLessThan(adult.radius + 0.4);
  });
});
