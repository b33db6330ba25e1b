import { SHIPPED_BODIES } from '@rammer/core/body/bodies';
import { inPlace } from '@rammer/core/scene/inPlace';
import { assemble, partsOf, type LevelParts } from '@rammer/core/scene/parts';
import { Scene } from '@rammer/core/scene/scene';
import { resultsOf, sceneAssets, sceneLevel, SCENE_EDITS } from '@rammer/core/testing/scenes';
import { speciesFrom } from '@rammer/core/growth/shippedSpecies';
import { shippedPlants } from '@rammer/core/kit/plants';
import { groundDefaults, surfaceFrom } from '@rammer/core/surface/surfaces';
import { surfaceTexture } from '@rammer/core/surface/textures';
import { composeTerrain } from '@rammer/core/earth/compose';
import { shippedPieces } from '@rammer/core/kit/pieces';
import { placedPieces } from '@rammer/core/kit/placement';
import { applyEdit, commitChanges, type AnyEditBody } from '@rammer/core/level/edits/index';
import { makeLevel, newLevel, presentPieces } from '@rammer/core/level/level';
import { parseObject, type LevelObject } from '@rammer/core/level/objects';
import { hashBytes, hashUnit } from '@rammer/core/num/hash';
import { tiltOf } from '@rammer/core/num/pose';
import { atan2Deg, sinCosDeg } from '@rammer/core/num/trig';
import { dot, normalize, type Vec3 } from '@rammer/core/num/vec';
import { Apart, dressDab, type Cast } from '@rammer/core/kit/dress';
import { DRESSING } from '@rammer/core/level/lay/dressed';
import { layDressed } from '@rammer/core/level/lay/layDressed';
import { layLine } from '@rammer/core/level/lay/layLine';
import { cornersAt, testKit, testLine } from '@rammer/core/testing/kits';

const rule = (id: string, order: number, surface: string, where: object[]) => ({ id, kind: 'groundRule', order, surface, share: 0.8, where });
const GROUND: { id: string; kind: string; [field: string]: unknown }[] = [
  {
    id: 'heap',
    kind: 'lift',
    lift: 'landform',
    order: 10,
    visible: true,
    line: [
      [60, 20],
      [84, 22],
      [80, 44],
    ],
    height: 5,
    foot: 7,
    crown: 'domed',
    ragged: 2,
    seed: 3,
    mask: { slope: { band: [0, 40], soft: 8 } },
  },
  { id: 'hole', kind: 'lift', lift: 'landform', order: 11, visible: true, line: [[24, 40]], radius: 14, height: 5, cut: true, foot: 9, seed: 5 },
  { id: 'rain', kind: 'lift', lift: 'weather', order: 20, visible: true },
  {
    id: 'way',
    kind: 'lift',
    lift: 'route',
    order: 110,
    visible: true,
    line: [
      [4, 0, 8],
      [40, 1, 12],
      [90, 2, 56],
    ],
    width: 3,
    ground: 'gravel',
  },
  {
    id: 'yard',
    kind: 'lift',
    lift: 'pad',
    order: 120,
    visible: true,
    outline: [
      [44, 44],
      [60, 44],
      [60, 58],
      [44, 58],
    ],
    height: 1,
  },
  { id: 'pool', kind: 'water', form: 'pool', height: -1.5, seed: [24, 40] },
  { ...surfaceFrom('scree', 'scree', 5, 'scree') },
  { ...surfaceFrom('mud', 'mud', 6, 'mud') },
  rule('by-noise', 20, 'moss', [
    { by: 'noise', band: [0.5, 1], soft: 0.2, seed: 3, scale: 12 },
    { by: 'height', band: [-1, 5], soft: 1 },
  ]),
  rule('by-shore', 30, 'mud', [
    { by: 'shore', band: [-50, 3], soft: 2 },
    { by: 'water', band: [-2, 3], soft: 1 },
  ]),
  rule('by-rain', 40, 'gravel', [{ by: 'scour', band: [0.2, 50], soft: 0.5 }]),
  rule('by-runs', 41, 'scree', [{ by: 'runoff', band: [0.3, 1], soft: 0.4 }]),
  rule('by-mud', 42, 'mud', [{ by: 'settle', band: [0.3, 50], soft: 0.4 }]),
  rule('by-lift', 50, 'scree', [
    { by: 'lift', band: [0.5, 50], soft: 1, lift: 'heap' },
    { by: 'curvature', band: [-5, 0.2], soft: 0.1, over: 2 },
  ]),
  rule('by-way', 60, 'moss', [{ by: 'route', band: [0, 2], soft: 1 }]),
];

/** What must come out the same wherever it runs; bundled and run in the browser by the test beside it. */
export async function bits(): Promise<{
  terrain: string;
  angles: string;
  ground: string;
  plants: string[];
  texture: string;
  stands: string[];
  nodes: string[];
  laid: string[];
}> {
  const level = newLevel({ name: 'bits', tilesX: 3, tilesZ: 2, spacing: 0.5, body: { name: 'adult', figures: SHIPPED_BODIES.adult }, seed: 4711 });
  const angles = Float64Array.from({ length: 20_000 }, (_, i) => sinCosDeg(i * 0.7331)[i % 2] + atan2Deg(i - 9000.5, 77.7 + (i % 911)));
  for (const o of groundDefaults()) level.objects.set(o.id, o);
  const assets = new Map([...shippedPlants()].map((a) => [a.name, a]));
  for (const [i, name] of ['birch', 'gorse', 'heather'].entries()) level.objects.set(name, speciesFrom({ id: name, name }, name, i, 11 + i));
  // Every kind of lift but those of rasters alone, a pool, and a rule by every kind of condition.
  for (const given of GROUND) {
    const parsed = parseObject({ version: 1, name: given.id, ...given });
    if (!parsed.ok) throw new Error(parsed.message);
    level.objects.set(given.id, parsed.object);
  }
  level.tiles.set(
    'rain/runoff/0,0',
    Int32Array.from({ length: 65 * 65 }, (_, i) => (i * 37) % 1024),
  );
  level.tiles.set(
    'rain/scour/1,0',
    Int32Array.from({ length: 65 * 65 }, (_, i) => (i * 91) % 2048),
  );
  level.tiles.set(
    'rain/settle/1,1',
    Int32Array.from({ length: 65 * 65 }, (_, i) => (i * 53) % 2048),
  );
  level.tiles.set('heather/sown/1,0', new Int32Array(65 * 65).fill(700));
  const parts = await assemble(level, assets);
  return {
    terrain: hashBytes(new Uint8Array(composeTerrain(level).heights.buffer)),
    angles: hashBytes(new Uint8Array(angles.buffer)),
    ground: hashBytes(parts.ground.weights) + hashBytes(parts.ground.of),
    plants: parts.grown.map((g) => `${g.species} ${g.count} ${hashBytes(new Uint8Array(g.place.buffer))} ${hashBytes(new Uint8Array(g.id.buffer))}`),
    texture: hashBytes(surfaceTexture('slate', 64)),
    stands: stands(),
    nodes: await nodes(),
    laid: laid(),
  };
}

/** Lines laid in steps, leaning along a curve, and round a house; a stroke of the brush of pieces over a ball; and a seam line. */
function laid(): string[] {
  const kit = testKit();
  const height = (i: number) => Math.round(hashUnit(5, i) * 900) / 1000;
  const corners = Array.from({ length: 9 }, (_, n) => ({
    n,
    at: [n * 7.3, height(n), (n % 3) * 5.1] as Vec3,
    ground: Array.from({ length: 16 }, (_x, k) => height(n * 16 + k)),
  }));
  const house = cornersAt([0, 0], [0, 9.3], [6.1, 9.3], [6.1, 4.4], [15.2, 4.4], [15.2, 0]);
  const lines = [
    testLine({ corners, slope: 'step', remainder: 'stretch', turn: 33.3 }),
    testLine({ corners, slope: 'lean', curved: true, remainder: 'filler', seed: 9 }),
    testLine({ corners: house, closed: true, storeys: 3, floors: true, stairs: true, roof: true, remainder: 'stretch' }),
  ];
  const ball: Cast = (o, d) => {
    const b = dot(o, d);
    const t = -b - Math.sqrt(Math.max(0, b * b - dot(o, o) + 36));
    const at: Vec3 = [o[0] + d[0] * t, o[1] + d[1] * t, o[2] + d[2] * t];
    return { at, normal: normalize(at) };
  };
  const dressing = {
    ...DRESSING,
    list: [
      { asset: 'a', weight: 1 },
      { asset: 'b', weight: 2 },
    ],
    lean: 0.6,
    tilt: 20,
    uneven: 0.2,
    sink: [0, 0.3] as [number, number],
  };
  const apart = new Apart(dressing.spacing);
  const brushed = [0, 1, 2, 3].flatMap((i) => {
    const normal = normalize([i - 1.5, 0.7, 1]);
    return dressDab(dressing, { at: normal.map((v) => v * 6) as Vec3, normal, radius: 4 }, [2, i], apart, ball);
  });
  const { kit: _, ...seam } = testLine({
    corners: corners.map((c) => ({ ...c, beside: [c.ground.map((h) => h * 0.7), c.ground.map((h) => h * 1.2)] as [number[], number[]] })),
    curved: true,
    closed: true,
  });
  const { list, seed: _seed, spacing: _spacing, ...ranges } = dressing;
  const dress = {
    ...ranges,
    turn: [-170, 130] as [number, number],
    size: [0.7, 1.4] as [number, number],
    pieces: [...list],
    plants: [{ species: 'fern', weight: 2, scale: 0.37 }],
    spacing: 0.43,
    loose: 0.8,
    aside: [-0.6, 1.1] as [number, number],
  };
  const sown = [...layDressed({ ...seam, dress }).pieces.values()];
  return [...lines.map((l) => [...layLine(l, kit).pieces.values()]), brushed, sown].map((list) => hashBytes(new TextEncoder().encode(JSON.stringify(list))));
}

/** What stands in a level of tilted, uneven copies in copies, and where their pieces are: kept up through edits, and made from nothing. */
function stands(): string[] {
  const assets = new Map(shippedPieces().map((a, i) => [`a${i}`, a]));
  const given: object[] = [
    ...Array.from({ length: 12 }, (_, i) => ({
      id: `p${i}`,
      kind: 'piece',
      asset: `a${i % 6}`,
      at: [i * 1.7, i * 0.3, i * 2.3],
      turn: i * 37.7 - 180,
      group: i % 2 ? 'g' : 'h',
      ...(i % 3 ? {} : { tilt: tiltOf(i * 11.3, 20 - i * 3.1) }),
      ...(i % 4 ? {} : { scale: [1, 1.3, 0.7] }),
    })),
    { id: 'g', kind: 'assembly', group: 'g', pivot: [3, 1, 2] },
    { id: 'h', kind: 'assembly', group: 'h', pivot: [0, 0, 0] },
    {
      id: 'in',
      kind: 'copy',
      assembly: 'g',
      at: [9, 2, 7],
      turn: 33.3,
      tilt: tiltOf(10, 15),
      group: 'h',
      overrides: [{ member: 'p3', move: [0.1, 0.2, 0.3], turn: 12.3, scale: [1.1, 1, 1] }],
    },
    ...Array.from({ length: 5 }, (_, i) => ({
      id: `c${i}`,
      kind: 'copy',
      assembly: 'h',
      at: [i * 30, 0, 50],
      turn: i * 71.1 - 180,
      scale: [1.2, 0.9, 1.1],
      overrides: [{ member: 'in~p1', tilt: tiltOf(0, 30 + i) }],
    })),
  ];
  const level = makeLevel([...assets.keys()].map((id) => ({ id, version: 1, kind: 'asset', name: id, role: 'piece', hash: '0'.repeat(64) }) as LevelObject));
  for (const o of given) {
    const parsed = parseObject({ version: 1, name: (o as { id: string }).id, ...o });
    if (!parsed.ok) throw new Error(parsed.message);
    level.objects.set(parsed.object.id, parsed.object);
  }
  const told = (of: typeof level): string => {
    const placed = placedPieces(presentPieces(of), assets);
    return placed.map((m) => `${m.id} ${hashBytes(new Uint8Array(m.positions.buffer))}`).join() + JSON.stringify(presentPieces(of));
  };
  told(level);
  for (const [id, set] of [
    ['p1', { at: [4.4, 1, 0.3] }],
    ['in', { turn: -71.7 }],
    ['p4', { group: null }],
    ['c2', { scale: null }],
  ] as const) {
    const applied = applyEdit(level, { kind: 'set', patches: [{ id, set }] });
    if (!applied.ok) throw new Error(applied.message);
    commitChanges(level, applied.changes);
    told(level);
  }
  return [level, makeLevel(level.objects.values())].map((of) => hashBytes(new TextEncoder().encode(told(of))));
}

/** All that is derived from a level: kept up through edits that reach every node, and made from nothing. Without what only the kernel of solids can make. */
async function nodes(): Promise<string[]> {
  const assets = sceneAssets();
  const plain = (edit: AnyEditBody) => !/"(v0|v1|op|cylinder)"/.test(JSON.stringify(edit));
  const level = sceneLevel();
  for (const id of ['v0', 'v1']) level.objects.delete(id);
  const scene = new Scene({ runner: inPlace({ keepNoise: true }), assets });
  await scene.open(level);
  for (const edit of SCENE_EDITS.filter(plain)) {
    const applied = applyEdit(level, edit);
    if (!applied.ok) throw new Error(applied.message);
    const kinds = new Set([...applied.changes.objects].map(([id, o]) => (o ?? level.object(id))!.kind));
    commitChanges(level, applied.changes);
    scene.changed(applied.changes, kinds);
    await scene.settled();
  }
  const told = (parts: LevelParts) => hashBytes(new TextEncoder().encode(JSON.stringify(resultsOf(parts))));
  return [told(partsOf(scene)), told(await assemble(makeLevel(level.objects.values(), level.tiles), assets))];
}
