import { blockGrid } from '@rammer/core/block/grid';
import { BlockCells } from '@rammer/core/cost/blockCells';
import { PieceCells, pieceCells } from '@rammer/core/cost/instances';
import { pickPlant } from '@rammer/core/growth/pickPlant';
import { PLANT_STRIDE, type Plants } from '@rammer/core/growth/plants';
import { assetBounds } from '@rammer/core/kit/asset';
import { shippedPieces } from '@rammer/core/kit/pieces';
import { PlacedScene } from '@rammer/core/kit/placedScene';
import { placedPiece } from '@rammer/core/kit/placement';
import { shippedPlants } from '@rammer/core/kit/plants';
import { applyEdit, commitChanges } from '@rammer/core/level/edits/index';
import { makeLevel, presentPieces } from '@rammer/core/level/level';
import type { AssetObject, LevelObject, Piece, Species } from '@rammer/core/level/objects';
import { presentOf } from '@rammer/core/level/present';
import type { Mark } from '@rammer/core/num/journal';
import { hashUnit } from '@rammer/core/num/hash';
import type { Vec3 } from '@rammer/core/num/vec';
import { inPlace } from '@rammer/core/scene/inPlace';
import { Scene } from '@rammer/core/scene/scene';
import { terrainOf, testObjects } from '@rammer/core/testing/levels';
import { groundAlong, groundAlongGrid, groundAt } from '@rammer/core/surface/groundAt';
import type { Pair } from './measure';

const assets = new Map(shippedPieces().map((a, i) => [`a${i}`, a]));
const EDITS = 40;
/** Metres between pieces: a built-up level. */
const APART = 6;
const ROW = 150;

const piece = (i: number): Piece => ({
  id: `p${i}`,
  version: 1,
  kind: 'piece',
  name: `piece ${i}`,
  asset: `a${i % 6}`,
  at: [(i % ROW) * APART + 3, 0, Math.floor(i / ROW) * APART + 3],
  turn: (i * 37) % 360,
  sink: 0,
  collider: 'asset',
  hidden: false,
  out: false,
});
const asset = (id: string): LevelObject => ({ id, version: 1, kind: 'asset', name: id, role: 'piece', hash: '0'.repeat(64) }) as LevelObject;

const block = (i: number): LevelObject => ({
  id: `b${i}`,
  version: 1,
  kind: 'block',
  name: `block ${i}`,
  shape: 'box',
  size: [3, 3, 3],
  at: [(i % ROW) * APART + 3, 0, Math.floor(i / ROW) * APART + 3],
  turn: (i * 37) % 360,
  hidden: false,
  out: false,
});

/** A level with all that is derived from it, on plain ground of 896 m. */
async function sceneWith(objects: Iterable<LevelObject>): Promise<Scene> {
  const scene = new Scene({ runner: inPlace({ keepNoise: true }), assets });
  await scene.open(makeLevel([...testObjects(14, 1), ...[...assets.keys()].map(asset), ...objects]));
  await scene.settled();
  return scene;
}

/** Pieces and blocks in the cells they are drawn in, as the view keeps them. */
class Drawn {
  private mark?: Mark;
  private readonly pieces = new PieceCells();
  private readonly blocks = new BlockCells();

  constructor(private readonly scene: Scene) {}

  follow(): void {
    const present = presentOf(this.scene.level.objects);
    const { ids, mark } = present.since(this.mark);
    this.mark = mark;
    for (const id of ids ?? [...present.of('piece'), ...present.of('block')].map((o) => o.id)) {
      const o = present.get(id);
      this.pieces.set(id, o?.kind === 'piece' ? o : undefined);
      this.blocks.set(id, o?.kind === 'block' ? o : undefined, this.scene.solids.built.get(id));
    }
    this.blocks.update();
    this.pieces.drawables(assets, NAMES);
  }
}

/** An edit of one object, and all that is derived from it. */
const edit = (scene: Scene, id: string, set: Record<string, unknown>): void => {
  const applied = applyEdit(scene.level, { kind: 'set', patches: [{ id, set }] });
  if (!applied.ok) throw new Error(applied.message);
  commitChanges(scene.level, applied.changes);
  scene.changed(applied.changes, new Set([scene.level.object(id)!.kind]));
};

const NAMES = new Map<string, AssetObject>();
const terrain = terrainOf(() => 0, 14, 1);

/** One thing moved, and all that follows: what is present, where it stands, what is drawn, what is under the pointer. */
function moved(scene: Scene, kind: 'p' | 'b'): () => void {
  const drawn = new Drawn(scene);
  drawn.follow();
  let step = 0;
  return () => {
    for (let i = 0; i < EDITS; i++) {
      step = (step + 1) % 5;
      edit(scene, `${kind}${i * 4}`, { at: [50 + step, 0, 20 + i / 10] });
      drawn.follow();
      groundAlongGrid(
        scene.terrain.value,
        { blocks: scene.solids.plain.grid, meshes: scene.placed.scene.grid },
        { origin: [50, 30, -20], direction: [0, -0.6, 0.8] },
      );
    }
  };
}

const editPair = (name: string, what: string, kind: 'p' | 'b', make: (i: number) => LevelObject) => async (): Promise<Pair> => {
  const of = (n: number) => sceneWith(Array.from({ length: n }, (_, i) => make(i)));
  return {
    name,
    target: 0.5,
    note:
      `${EDITS} times one ${what} moved: the edit, all nodes of the scene, its cell, drawables, a pick; ` +
      `on 20,000 ${what}s against 200 at one density: the time ratio 200 / 20,000`,
    ours: moved(await of(20_000), kind),
    baseline: moved(await of(200), kind),
  };
};

const RAYS = Array.from({ length: 8 }, (_, i): { o: Vec3; d: Vec3 } => {
  const d: Vec3 = [hashUnit(1, i) - 0.5, -0.25 - hashUnit(2, i) * 0.4, hashUnit(3, i) - 0.5];
  const l = Math.hypot(...d);
  return { o: [200 + hashUnit(4, i) * 500, 12, 200 + hashUnit(5, i) * 400], d: d.map((v) => v / l) as Vec3 };
});

async function pickPair(): Promise<Pair> {
  const { placed: kept } = await sceneWith(Array.from({ length: 20_000 }, (_, i) => piece(i)));
  const count = 100_000;
  const place = new Float32Array(count * PLANT_STRIDE);
  for (let i = 0; i < count; i++) place.set([hashUnit(6, i) * 900, 0, hashUnit(7, i) * 900, 0, 1, 1, 0, 0, 1], i * PLANT_STRIDE);
  const grown: Plants[] = [{ species: 's', count, place, look: new Uint8Array(count), id: new Int32Array(count * 3), hand: [] }];
  // Each by itself is in no grid: looking at each is what a loop over one-plant lists does.
  const species = new Map([['s', { id: 's', asset: 'plant', hidden: false } as Species]]);
  const plants = new Map([['plant', shippedPlants()[0]]]);
  const placed = [...kept.scene.values()];
  const none = blockGrid([]);
  const answers = (ray: (typeof RAYS)[number], quick: boolean) => {
    const ground = quick
      ? groundAlongGrid(terrain, { blocks: none, meshes: kept.scene.grid }, { origin: ray.o, direction: ray.d })
      : groundAlong(terrain, [], { origin: ray.o, direction: ray.d }, { pieces: placed });
    const far = (ground?.distance ?? 1e6) + 0.3;
    const plant = quick
      ? pickPlant({ grown, species, assets: plants }, { origin: ray.o, direction: ray.d, far })
      : eachPlant(place, count, plants.get('plant')!, ray, far);
    return [ground?.host.kind === 'piece' ? ground.host.id : ground?.host.kind, plant?.index];
  };
  for (const ray of RAYS)
    if (JSON.stringify(answers(ray, true)) !== JSON.stringify(answers(ray, false)))
      throw new Error('picking by cells finds another thing than looking at each');
  return {
    name: 'scene/pick',
    target: 50,
    note: `${RAYS.length} pointer moves over 20,000 pieces and 100,000 plants, by the cells the ray passes, against looking at each; the same things are found`,
    ours: () => {
      for (const ray of RAYS) answers(ray, true);
    },
    baseline: () => {
      for (const ray of RAYS) answers(ray, false);
    },
  };
}

/** Every plant as an upright ellipsoid, one after the other. */
function eachPlant(
  place: Float32Array,
  count: number,
  of: ReturnType<typeof shippedPlants>[number],
  { o, d }: (typeof RAYS)[number],
  far: number,
): { index: number } | undefined {
  const { min, max } = assetBounds(of);
  const side = Math.max(-min[0], max[0], -min[2], max[2]);
  const [, top] = max;
  let best: { index: number; distance: number } | undefined;
  for (let i = 0; i < count; i++) {
    const p = i * PLANT_STRIDE;
    const [a, b] = [side * place[p + 5] * 0.85, (top * place[p + 4]) / 2];
    const [ox, oy, oz] = [(o[0] - place[p]) / a, (o[1] - place[p + 1] - b) / b, (o[2] - place[p + 2]) / a];
    const [dx, dy, dz] = [d[0] / a, d[1] / b, d[2] / a];
    const dd = dx * dx + dy * dy + dz * dz;
    const od = ox * dx + oy * dy + oz * dz;
    const miss = ox * ox + oy * oy + oz * oz - (od * od) / dd;
    if (miss > 1 || -od / dd < 0) continue;
    const distance = -od / dd - Math.sqrt((1 - miss) / dd);
    if (distance <= far && (!best || distance < best.distance)) best = { index: i, distance };
  }
  return best;
}

async function copiesPair(): Promise<Pair> {
  const objects = (): LevelObject[] => [
    ...Array.from({ length: 50 }, (_, i) => ({ ...piece(i), group: 'g' })),
    { id: 'g', version: 1, kind: 'assembly', name: 'g', group: 'g', pivot: [0, 0, 0] },
    ...Array.from({ length: 200 }, (_, i): LevelObject => ({
      id: `c${i}`,
      version: 1,
      kind: 'copy',
      name: `copy ${i}`,
      assembly: 'g',
      at: [(i % 20) * 40, 0, Math.floor(i / 20) * 80],
      turn: (i * 11) % 360,
      hidden: false,
      out: false,
    })),
  ];
  const scene = await sceneWith(objects());
  const drawn = new Drawn(scene);
  drawn.follow();
  let step = 0;
  const master = () => edit(scene, 'p7', { at: [50 + ((step += 1) % 9), 0, 3] });
  return {
    name: 'scene/copies',
    target: 10,
    note: 'one edit of a master with 200 copies of 50 members, taken in: present, meshes, cells; against making these anew',
    ours: () => {
      master();
      drawn.follow();
    },
    baseline: () => {
      master();
      const level = makeLevel(scene.level.objects.values());
      const meshes = new PlacedScene();
      for (const p of presentPieces(level)) meshes.put(placedPiece(p, assets.get(p.asset)!));
      pieceCells(presentPieces(level), assets);
    },
  };
}

/** 20,000 pieces moved as one, put back, and dropped: each an edit, as the drag of a whole selection ends. */
async function allPair(): Promise<Pair> {
  const list = Array.from({ length: 20_000 }, (_, i) => piece(i));
  const scene = await sceneWith(list);
  const drawn = new Drawn(scene);
  drawn.follow();
  const all = (at: (p: Piece) => Vec3) => {
    const applied = applyEdit(scene.level, { kind: 'set', patches: list.map((p) => ({ id: p.id, set: { at: at(p) } })) });
    if (!applied.ok) throw new Error(applied.message);
    commitChanges(scene.level, applied.changes);
    scene.changed(applied.changes, new Set(['piece']));
    drawn.follow();
  };
  const ground = (x: number, z: number) => groundAt(scene.terrain.value, scene.solids.plain.grid, [x, 5, z]).height;
  return {
    name: 'scene/all',
    target: 1,
    note: '20,000 pieces moved by one edit, put back by another, dropped by a third: each taken in whole; against opening the level as it is after each',
    pairs: 7,
    ours: () => {
      all(({ at: [x, , z] }) => [x + 1, 2, z]);
      all(({ at }) => at);
      all(({ at: [x, , z] }) => [x, ground(x, z), z]);
    },
    baseline: async () => {
      for (let i = 0; i < 3; i++) {
        const opened = new Scene({ runner: inPlace({ keepNoise: true }), assets });
        await opened.open(makeLevel(scene.level.objects.values()));
        await opened.settled();
        new Drawn(opened).follow();
      }
    },
  };
}

export const scenePairs = (): (() => Pair | Promise<Pair>)[] => [
  editPair('scene/edit', 'piece', 'p', piece),
  editPair('scene/block', 'block', 'b', block),
  pickPair,
  copiesPair,
  allPair,
];
