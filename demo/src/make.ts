import { quarryCoats } from './coats';
import { writeFileSync } from 'node:fs';
import { SHIPPED_BODIES } from '@rammer/core/body/bodies';
import { composeTerrain } from '@rammer/core/earth/compose';
import { heightAt } from '@rammer/core/earth/sample';
import { rasterToTiles, writePackage } from '@rammer/core/io/package';
import { makeLevel, type Level } from '@rammer/core/level/level';
import type { LevelObject } from '@rammer/core/level/objects';
import { gridOf } from '@rammer/core/level/tiles';
import { toFixed } from '@rammer/core/num/fixed';
import { SHIPPED_LIGHTING } from '@rammer/core/level/lighting';
import { NIGHT } from './night';
import { quarryGrounds } from './grounds';
import { makeLargeDemo } from './large';
import { demoKits } from './kits';
import { KitYard } from './kitShed';
import { INCLINE, PIT, quarryGround, quarryLifts, quarryPaint } from './quarry';
import { groundCovers, quarryHabitats, quarrySpecies } from './planting';
import { shippedAssets, shippedGrounds } from './shippedAssets';
import { Yard } from './sheds';
import { laidWorks, standWorks } from './works';

/** Makes demo/harrow-ledge-small.rammer.zip. Everything in it comes from this folder. */
export function makeSmallDemo(): Level {
  const assets = [...shippedAssets(), ...shippedGrounds()];
  const objects: LevelObject[] = [
    {
      id: 'settings',
      version: 1,
      kind: 'settings',
      name: 'Harrow Ledge',
      tilesX: 5,
      tilesZ: 5,
      spacing: 0.5,
      player: 'adult',
      device: 'den-60',
      lighting: 'lighting-day',
      sun: { azimuth: 232, elevation: 34 },
    },
    { id: 'adult', version: 1, kind: 'body', name: 'adult', figures: SHIPPED_BODIES.adult },
    { id: 'ram', version: 1, kind: 'body', name: 'ram', figures: SHIPPED_BODIES.ram },
    { id: 'hillside', version: 1, kind: 'lift', lift: 'noise', name: 'hillside', order: 0, visible: true, seed: 7, height: 2.6, scale: 70, octaves: 5 },
    { id: 'quarry', version: 1, kind: 'lift', lift: 'hand', name: 'quarry, by hand', order: 100, visible: true },
    ...quarryLifts(),
    ...quarryGrounds(['spoil-1', 'spoil-2', 'spoil-3']),
    ...SHIPPED_LIGHTING.map((m) => (m.id === 'lighting-day' ? { ...m, sun: { azimuth: 232, elevation: 34 } } : m)),
    NIGHT,
    ...assets.map((a) => a.object),
    ...quarrySpecies(),
    ...quarryHabitats(),
    ...groundCovers(),
    { id: 'pit-water', version: 1, kind: 'water', form: 'pool', name: 'flooded pit', height: -2.1, seed: [PIT.x, PIT.z], hidden: false, out: false },
  ];
  const grid = gridOf(objects[0] as never);
  const n = grid.nx * grid.nz;
  const delta = new Int32Array(n);
  const held = new Int32Array(n);
  const weight = new Int32Array(n);
  const gravel = new Int32Array(n);
  for (let z = 0, i = 0; z < grid.nz; z++) {
    for (let x = 0; x < grid.nx; x++, i++) {
      const g = quarryGround(x * grid.spacing, z * grid.spacing);
      delta[i] = toFixed(g.rise);
      weight[i] = Math.round(g.weight * 1024);
      held[i] = weight[i] > 0 ? toFixed(g.target) : 0;
      const paint = quarryPaint(x * grid.spacing, z * grid.spacing);
      // In steps of an eighth, so that the raster stays small.
      gravel[i] = Math.round(paint * 8) * 128;
    }
  }
  const tiles = [
    ...rasterToTiles(delta, 'quarry', 'delta', grid),
    ...rasterToTiles(held, 'quarry', 'held', grid),
    ...rasterToTiles(weight, 'quarry', 'weight', grid),
    ...rasterToTiles(gravel, 'gravel', 'paint', grid),
  ];
  const level = makeLevel(
    objects,
    tiles,
    0,
    assets.map((a) => [a.object.hash, a.bytes]),
  );
  const terrain = composeTerrain(level);
  const ground = (x: number, z: number) => heightAt(terrain, x, z);

  const yard = new Yard(ground);
  // One is still blocked out.
  yard.shed('dressing shed 1', { length: 9, width: 5, height: 2.7 }, { x: 34, z: 56, turn: -6 }, { width: 1.2, height: 2.1, offset: 1.5 });
  const dock = ground(108, 122);
  yard.block('loading dock', 'box', { size: [9, 1.2, 4], at: [108, dock - 0.1, 124] });
  yard.block('loading dock ramp', 'ramp', { size: [5, 1.1, 4], at: [101, dock, 124] });
  yard.steps('dock step', 6, 2, { x: 106, z: 127.4, turn: -90 });
  // The wagon lift: up the incline, a wait at its head, and back.
  const head = ground(INCLINE.x, INCLINE.head);
  const foot = ground(INCLINE.x, 106.5);
  yard.block(
    'tramway wagon',
    'box',
    { size: [2.4, 1.4, 1.5], at: [INCLINE.x, foot + 0.1, 106.5], turn: 90 },
    {
      stops: [
        { by: [0, 0, 0], travel: 24, wait: 8 },
        { by: [0, Math.round((head - foot) * 1000) / 1000, INCLINE.head - 106.5], travel: 24, wait: 8 },
      ],
    },
  );
  const parapet = (
    [
      [48, 101.5],
      [57, 99.5],
      [66, 100],
      [73, 102.5],
    ] as const
  ).map(([x, z]): [number, number, number] => [x, Math.round((ground(x, z) - 0.3) * 1000) / 1000, z]);
  yard.along('pit parapet', 'wall', parapet, { tall: 1.4, wide: 0.5 });
  yard.adit('adit', 108, 104);

  const kit = new KitYard(ground);
  standWorks(kit, ground);

  const on = (x: number, z: number): [number, number, number] => [x, Math.round(ground(x, z) * 1000) / 1000, z];
  const rest: LevelObject[] = [
    ...yard.blocks,
    ...demoKits(),
    ...quarryCoats(),
    ...kit.pieces,
    ...laidWorks(ground, dock + 1.1),
    { id: 'entry', version: 1, kind: 'marker', marker: 'entry', name: 'lower yard gate', at: on(138, 146), turn: 0 },
    { id: 'objective', version: 1, kind: 'marker', marker: 'objective', name: 'winding house', at: on(INCLINE.x + 0.5, 20.5), turn: 0 },
    { id: 'ram-1', version: 1, kind: 'marker', marker: 'threat', name: 'ram on the first terrace', at: on(92, 80), turn: 120, body: 'ram' },
    { id: 'ram-2', version: 1, kind: 'marker', marker: 'threat', name: 'ram on the second terrace', at: on(40, 46), turn: 200, body: 'ram' },
    { id: 'people-dock', version: 1, kind: 'people', name: 'people at the dock', at: on(100, 127.5), turn: 0 },
    { id: 'birch-gate', version: 1, kind: 'plant', name: 'birch at the gate', species: 'birch', at: on(131.5, 141.5), turn: 40, scale: 1.2, gone: false },
    {
      id: 'log-gate',
      version: 1,
      kind: 'plant',
      name: 'fallen trunk at the gate',
      species: 'fallen-trunk',
      at: on(128.2, 144),
      turn: 35,
      scale: 1,
      gone: false,
    },
    {
      id: 'log-terrace',
      version: 1,
      kind: 'plant',
      name: 'fallen trunk on the terrace',
      species: 'fallen-trunk',
      at: on(36, 68),
      turn: 110,
      scale: 1.1,
      gone: false,
    },
    ...(
      [
        [126.2, 141.4, 1.1],
        [125.5, 140.6, 0.9],
        [126.6, 140.4, 1],
        [127.6, 142.6, 0.95],
      ] as const
    ).map(([x, z, scale], i): LevelObject => ({
      id: `foxglove-${i + 1}`,
      version: 1,
      kind: 'plant',
      name: `foxglove ${i + 1}`,
      species: 'foxglove',
      at: on(x, z),
      turn: i * 80,
      scale,
      gone: false,
    })),
    // Deliberately on gravel, where heather does not grow.
    { id: 'heather-yard', version: 1, kind: 'plant', name: 'heather in the yard', species: 'heather', at: on(104, 106), turn: 0, scale: 0.9, gone: false },
    {
      id: 'view-yard',
      version: 1,
      kind: 'viewpoint',
      name: 'from over the pit',
      pose: { view: 'orbit', target: [82, 5, 80], yaw: -8, pitch: -19, distance: 86 },
    },
    {
      id: 'view-sheds',
      version: 1,
      kind: 'viewpoint',
      name: 'before the engine shed',
      pose: { view: 'stand', target: on(93, 121.5), yaw: -12, pitch: 6, distance: 10 },
    },
    {
      id: 'view-terrace',
      version: 1,
      kind: 'viewpoint',
      name: 'on the second terrace',
      pose: { view: 'stand', target: on(50, 60), yaw: -20, pitch: 3, distance: 10 },
    },
    { id: 'view-gate', version: 1, kind: 'viewpoint', name: 'at the gate', pose: { view: 'stand', target: on(132, 140), yaw: -28, pitch: 2, distance: 10 } },
  ];
  for (const o of rest) level.objects.set(o.id, o);
  return level;
}

if (process.argv[1]?.endsWith('make.ts')) {
  for (const [name, make] of [
    ['small', makeSmallDemo],
    ['large', makeLargeDemo],
  ] as const) {
    const bytes = writePackage(make());
    writeFileSync(new URL(`../harrow-ledge-${name}.rammer.zip`, import.meta.url), bytes);
    console.log(`wrote demo/harrow-ledge-${name}.rammer.zip, ${bytes.length} bytes`);
  }
}
