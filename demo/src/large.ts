import { SHIPPED_BODIES } from '@rammer/core/body/bodies';
import { composeTerrain } from '@rammer/core/earth/compose';
import { routeLine } from '@rammer/core/earth/routeLine';
import { heightAt } from '@rammer/core/earth/sample';
import { aroundLift } from '@rammer/core/earth/volume';
import { keepWeather, weather, weatherHash } from '@rammer/core/earth/weather/weatherLift';
import { applyEdit, commitChanges } from '@rammer/core/level/edits/index';
import { makeLevel, type Level } from '@rammer/core/level/level';
import { parseObject, type LevelObject, type Route, type Weather } from '@rammer/core/level/objects';
import { gridOf } from '@rammer/core/level/tiles';
import { SHIPPED_LIGHTING } from '@rammer/core/level/lighting';
import { NIGHT } from './night';
import { valleyGrounds } from './grounds';
import { demoKits } from './kits';
import { KitYard } from './kitShed';
import { groundCovers, valleySpecies } from './planting';
import { shippedAssets, shippedGrounds } from './shippedAssets';
import { Yard } from './sheds';

type Point = [number, number];

/** Terraces of the quarry from the yard up: height and outline; each a pad cut into the hillside. */
const TERRACES: { name: string; height: number; outline: Point[] }[] = [
  {
    name: 'lower yard',
    height: 24,
    outline: [
      [392, 560],
      [470, 552],
      [560, 556],
      [628, 566],
      [640, 604],
      [560, 622],
      [452, 624],
      [390, 606],
    ],
  },
  {
    name: 'first terrace',
    height: 38,
    outline: [
      [412, 494],
      [498, 484],
      [590, 488],
      [622, 502],
      [618, 528],
      [540, 534],
      [430, 536],
      [404, 520],
    ],
  },
  {
    name: 'second terrace',
    height: 52,
    outline: [
      [430, 428],
      [520, 420],
      [600, 426],
      [612, 452],
      [560, 466],
      [446, 468],
      [424, 452],
    ],
  },
  {
    name: 'third terrace',
    height: 66,
    outline: [
      [452, 362],
      [530, 354],
      [596, 360],
      [602, 388],
      [540, 400],
      [462, 400],
      [446, 384],
    ],
  },
];
/** What the valley uses of the kit and the plants. */
const VALLEY = [
  'kit-wall',
  'kit-corner',
  'kit-door-wall',
  'kit-window-wall',
  'kit-gable',
  'kit-roof',
  'kit-ridge',
  'kit-sluice-wheel',
  'kit-slate-stack',
  'kit-winding-wheel',
  'plant-birch',
  'plant-birch-2',
  'plant-gorse',
  'plant-bracken',
  'plant-heather',
  'plant-bell-heather',
  'plant-tussock-grass',
  'plant-moss-cushion',
  'plant-loose-slate',
  'plant-short-grass',
  'plant-seed-grass',
];
/** The winding house at the head of the incline. */
const HEAD: { x: number; z: number; height: number } = { x: 676, z: 330, height: 74 };

/** Everything that lies in the ground, as it is in the schema. */
function lifts(): LevelObject[] {
  const heap = (n: number, x: number, z: number, radius: number, height: number) => ({
    id: `spoil-${n}`,
    lift: 'landform',
    name: `spoil heap ${n}`,
    line: [[x, z]],
    radius,
    height,
    foot: radius * 0.8,
    crown: 'flat',
    ragged: 4,
    seed: 60 + n,
  });
  const given: Record<string, unknown>[] = [
    { id: 'moor', lift: 'noise', name: 'moor', seed: 23, height: 11, scale: 380, octaves: 6, warp: 40 },
    {
      id: 'mountain',
      lift: 'landform',
      name: 'mountain',
      line: [
        [-120, -160],
        [1150, -160],
        [1150, 470],
        [820, 560],
        [640, 610],
        [380, 600],
        [200, 520],
        [-120, 560],
      ],
      height: 96,
      foot: 430,
      crown: 'flat',
      ragged: 40,
      seed: 3,
    },
    {
      id: 'crags',
      lift: 'noise',
      name: 'crags',
      seed: 71,
      height: 16,
      scale: 110,
      octaves: 5,
      style: 'ridged',
      mask: { height: { band: [52, 3000], soft: 40 } },
    },
    {
      id: 'far-shore',
      lift: 'landform',
      name: 'far shore',
      line: [
        [-120, 700],
        [60, 760],
        [170, 900],
        [420, 960],
        [640, 930],
        [780, 800],
        [880, 700],
        [1150, 640],
        [1150, 1180],
        [-120, 1180],
      ],
      height: 26,
      foot: 180,
      crown: 'domed',
      ragged: 30,
      seed: 14,
    },
    {
      id: 'basin',
      lift: 'landform',
      name: 'lake basin',
      line: [
        [250, 700],
        [360, 668],
        [470, 700],
        [560, 690],
        [640, 740],
        [620, 840],
        [500, 900],
        [340, 890],
        [230, 810],
      ],
      height: 22,
      cut: true,
      foot: 70,
      crown: 'dished',
      ragged: 16,
      seed: 9,
    },
    {
      id: 'rain',
      lift: 'weather',
      name: 'rain on the mountain',
      seed: 5,
      droplets: 90_000,
      strength: 1.2,
      radius: 3,
      talus: 38,
      rounds: 30,
      mask: {
        outline: {
          line: [
            [60, 40],
            [700, 30],
            [960, 120],
            [940, 480],
            [700, 560],
            [360, 560],
            [110, 470],
          ],
          soft: 60,
        },
      },
    },
    heap(1, 352, 640, 30, 11),
    heap(2, 700, 622, 26, 9),
    heap(3, 668, 520, 20, 8),
    heap(4, 372, 486, 18, 7),
    heap(5, 404, 400, 15, 6),
    heap(6, 640, 440, 14, 5),
    ...TERRACES.map((t, i) => ({ id: `terrace-${i}`, lift: 'pad', name: t.name, outline: t.outline, height: t.height, batter: i === 0 ? 42 : 68, margin: 2 })),
    {
      id: 'head',
      lift: 'pad',
      name: 'winding house ledge',
      outline: [
        [660, 316],
        [694, 316],
        [694, 346],
        [660, 346],
      ],
      height: HEAD.height,
      batter: 40,
      margin: 1,
    },
    {
      id: 'incline',
      lift: 'route',
      name: 'tramway incline',
      line: [
        [646, 24, 596],
        [654, 34, 540],
        [664, 52, 440],
        [674, 74, 346],
      ],
      width: 6,
      shoulder: 1,
      grade: 36,
      crossfall: 0,
      batter: 50,
      ground: 'gravel',
    },
    {
      id: 'road',
      lift: 'route',
      name: 'quarry road',
      line: [
        [980, 14, 990],
        [900, 10.5, 900],
        [850, 7.5, 800],
        [800, 9, 720],
        [742, 15.5, 652],
        [692, 21.5, 616],
        [630, 24, 606],
      ],
      width: 5,
      shoulder: 1.5,
      grade: 12,
      crossfall: 2,
      batter: 34,
      ground: 'gravel',
    },
    {
      id: 'way-1',
      lift: 'route',
      name: 'way to the first terrace',
      line: [
        [424, 24, 572],
        [372, 28, 560],
        [352, 33, 520],
        [412, 38, 512],
      ],
      width: 3.4,
      shoulder: 0.6,
      grade: 14,
      crossfall: 2,
      batter: 44,
      ground: 'gravel',
    },
    {
      id: 'way-2',
      lift: 'route',
      name: 'way to the second terrace',
      line: [
        [606, 38, 508],
        [640, 42, 490],
        [640, 48, 456],
        [600, 52, 444],
      ],
      width: 3.4,
      shoulder: 0.6,
      grade: 16,
      crossfall: 2,
      batter: 46,
      ground: 'gravel',
    },
    {
      id: 'way-3',
      lift: 'route',
      name: 'way to the third terrace',
      line: [
        [438, 52, 450],
        [400, 56, 430],
        [402, 62, 386],
        [456, 66, 380],
      ],
      width: 3.4,
      shoulder: 0.6,
      grade: 16,
      crossfall: 2,
      batter: 46,
      ground: 'gravel',
    },
    {
      id: 'way-4',
      lift: 'route',
      name: 'way to the winding house',
      line: [
        [590, 66, 374],
        [630, 70, 356],
        [664, 74, 338],
      ],
      width: 3.4,
      shoulder: 0.6,
      grade: 16,
      crossfall: 2,
      batter: 46,
      ground: 'gravel',
    },
    {
      id: 'shore-path',
      lift: 'route',
      name: 'shore path',
      line: [
        [800, 9, 720],
        [700, 0, 716],
        [600, 0, 680],
        [500, 0, 664],
        [420, 0, 650],
        [398, 23, 612],
      ],
      width: 1.8,
      shoulder: 0.5,
      grade: 18,
      crossfall: 2,
      batter: 34,
      ground: 'gravel',
    },
    {
      id: 'beck-bed',
      lift: 'route',
      name: 'bed of the beck',
      line: [
        [240, 0, 372],
        [226, 0, 440],
        [262, 0, 512],
        [244, 0, 590],
        [270, 0, 650],
        [262, 0, 700],
        [296, 0, 742],
      ],
      width: 2.4,
      shoulder: 0,
      grade: 60,
      crossfall: 0,
      sunk: 2,
      batter: 46,
    },
    { id: 'hand', lift: 'hand', name: 'hand work' },
  ];
  return given.map((g, i): LevelObject => {
    const parsed = parseObject({ version: 1, kind: 'lift', order: i * 10, visible: true, ...g });
    if (!parsed.ok) throw new Error(parsed.message);
    return parsed.object;
  });
}

/**
 * Makes demo/harrow-ledge-large.rammer.zip: the valley around the quarry, 1024 m, every form of its ground a lift.
 *
 * @param rained one made before, whose rain is taken over: it takes ten seconds to fall
 */
export function makeLargeDemo(rained?: Level): Level {
  const assets = [...shippedAssets().filter((a) => VALLEY.some((n) => a.object.id === n)), ...shippedGrounds()];
  const level = makeLevel(
    [
      {
        id: 'settings',
        version: 1,
        kind: 'settings',
        name: 'Harrow Ledge, the valley',
        tilesX: 16,
        tilesZ: 16,
        spacing: 1,
        player: 'adult',
        device: 'den-60',
        lighting: 'lighting-day',
        sun: { azimuth: 232, elevation: 34 },
      },
      { id: 'adult', version: 1, kind: 'body', name: 'adult', figures: SHIPPED_BODIES.adult },
      { id: 'ram', version: 1, kind: 'body', name: 'ram', figures: SHIPPED_BODIES.ram },
      ...lifts(),
      ...valleyGrounds(['spoil-1', 'spoil-2', 'spoil-3', 'spoil-4', 'spoil-5', 'spoil-6']),
      ...SHIPPED_LIGHTING.map((m) => (m.id === 'lighting-day' ? { ...m, haze: 2600, sun: { azimuth: 232, elevation: 34 } } : m)),
      NIGHT,
      ...assets.map((a) => a.object),
      ...valleySpecies(),
      ...groundCovers(),
      {
        id: 'beck',
        version: 1,
        kind: 'water',
        form: 'stream',
        name: 'beck',
        height: 0.3,
        route: 'beck-bed',
        hidden: false,
        out: false,
        look: { colour: '#426668', clarity: 1.6, foam: 0.7, waves: 0.7 },
      },
      { id: 'lake', version: 1, kind: 'water', form: 'pool', name: 'lake', height: -3, seed: [430, 790], hidden: false, out: false },
    ] as LevelObject[],
    [],
    0,
    assets.map((a) => [a.object.hash, a.bytes]),
  );
  if (rained) {
    for (const [key, tile] of rained.tiles) level.tiles.set(key, tile);
    level.objects.set('rain', rained.object('rain')!);
  } else rain(level);
  layOnGround(level, ['shore-path', 'beck-bed']);
  downhill(level, 'beck-bed');
  const terrain = composeTerrain(level);
  const ground = (x: number, z: number) => heightAt(terrain, x, z);
  const yard = new Yard(ground);
  yard.shed('engine shed', { length: 18, width: 10, height: 5.2 }, { x: 560, z: 590, turn: 4 }, { width: 3.4, height: 3.2, offset: -3 });
  yard.shed('dressing shed 1', { length: 12, width: 7, height: 3.2 }, { x: 452, z: 586, turn: -6 }, { width: 1.4, height: 2.2, offset: 2 });
  yard.shed('winding house', { length: 9, width: 8, height: 5 }, { x: HEAD.x, z: HEAD.z - 4, turn: 0 }, { width: 2.2, height: 2.5, offset: 0 });
  const kit = new KitYard(ground);
  [
    [480, 600],
    [520, 608],
    [604, 584],
    [470, 508],
    [560, 502],
    [560, 440],
    [490, 376],
  ].forEach(([x, z], i) => kit.shed(`dressing shed ${i + 2}`, 3 + (i % 3), { x, z, turn: ((i * 23) % 14) - 7 }, { door: [2], windows: [1, 3, -2] }));
  for (const [name, x, z] of [
    ['sluice wheel, low', 500, 512],
    ['sluice wheel, middle', 520, 446],
    ['sluice wheel, high', 520, 380],
  ] as const)
    kit.piece('kit-sluice-wheel', name, [x, z], 12);
  kit.piece('kit-winding-wheel', 'winding wheel', [HEAD.x, HEAD.z + 10], 90);
  for (let i = 0; i < 22; i++) kit.piece('kit-slate-stack', `slate stack ${i + 1}`, [420 + ((i * 97) % 180), 568 + ((i * 41) % 44)], (i * 37) % 180);
  const on = (x: number, z: number): [number, number, number] => [x, Math.round(ground(x, z) * 1000) / 1000, z];
  const rest: LevelObject[] = [
    ...yard.blocks,
    ...demoKits(),
    ...kit.pieces,
    { id: 'entry', version: 1, kind: 'marker', marker: 'entry', name: 'valley gate', at: on(958, 962), turn: 0 },
    { id: 'objective', version: 1, kind: 'marker', marker: 'objective', name: 'winding house', at: on(HEAD.x, HEAD.z + 6), turn: 0 },
    ...(
      [
        [520, 520],
        [540, 452],
        [500, 388],
      ] as const
    ).map(([x, z], i): LevelObject => ({
      id: `ram-${i + 1}`,
      version: 1,
      kind: 'marker',
      marker: 'threat',
      name: `ram ${i + 1}`,
      at: on(x, z),
      turn: 80 * i,
      body: 'ram',
    })),
    { id: 'people-yard', version: 1, kind: 'people', name: 'people in the yard', at: on(596, 604), turn: 0 },
    {
      id: 'view-valley',
      version: 1,
      kind: 'viewpoint',
      name: 'over the valley',
      pose: { view: 'orbit', target: [520, 34, 560], yaw: -14, pitch: -17, distance: 520 },
    },
    {
      id: 'view-road',
      version: 1,
      kind: 'viewpoint',
      name: 'on the quarry road',
      pose: { view: 'stand', target: on(806, 730), yaw: -52, pitch: 3, distance: 10 },
    },
    {
      id: 'view-yard',
      version: 1,
      kind: 'viewpoint',
      name: 'in the lower yard',
      pose: { view: 'stand', target: on(606, 612), yaw: -52, pitch: 5, distance: 10 },
    },
  ];
  for (const o of rest) level.objects.set(o.id, o);
  return level;
}

/** Gives the points of routes that have no height the ground's own, before anything is built on it. */
function layOnGround(level: Level, ids: readonly string[]): void {
  const built = new Set([...level.objects.values()].flatMap((o) => (o.kind === 'lift' && o.lift === 'route' ? [o.id] : [])));
  const bare = makeLevel(
    [...level.objects.values()].filter((o) => !built.has(o.id)),
    level.tiles,
  );
  const terrain = composeTerrain(bare);
  for (const id of ids) {
    const route = level.object(id) as Route;
    level.objects.set(id, {
      ...route,
      line: route.line.map(([x, y, z]): [number, number, number] => [x, y === 0 ? Math.round(heightAt(terrain, x, z) * 10) / 10 : y, z]),
    });
  }
}

/** Gives a route a point each ten metres on the ground, none higher than the one before: the bed of a stream. */
function downhill(level: Level, id: string): void {
  const route = level.object(id) as Route;
  const { x, z, count, step } = routeLine(route);
  const terrain = composeTerrain(
    makeLevel(
      [...level.objects.values()].filter((o) => o.id !== id),
      level.tiles,
    ),
  );
  const line: [number, number, number][] = [];
  for (let i = 0; i < count; i += Math.round(10 / step)) {
    const ground = Math.round(heightAt(terrain, x[i], z[i]) * 10) / 10;
    line.push([Math.round(x[i] * 10) / 10, line.length > 0 ? Math.min(ground, line[line.length - 1][1]) : ground, Math.round(z[i] * 10) / 10]);
  }
  level.objects.set(id, { ...route, line });
}

/** Lets it rain as the stage does: the rasters come into the level by the same edit. */
function rain(level: Level): void {
  const lift = level.object('rain') as Weather;
  const grid = gridOf(level.object('settings') as never);
  const { below } = aroundLift(level, composeTerrain(level), lift.id)!;
  const made = weather(lift, below.heights, grid)!;
  const applied = applyEdit(level, keepWeather(lift, made, weatherHash(lift, below.heights, grid), grid, level.tiles));
  if (!applied.ok) throw new Error(applied.message);
  commitChanges(level, applied.changes);
}
