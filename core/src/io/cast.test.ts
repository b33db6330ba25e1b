import { validateBytes } from 'gltf-validator';
import { beforeAll, describe, expect, it } from 'vitest';
import { BlockBuilder } from '../block/build';
import { relined } from '../block/drawn';
import type { SolidKernel } from '../block/kernel';
import { loadSolidKernel } from '../block/loadKernel';
import { blockSolid } from '../block/solid';
import { pieceCells } from '../cost/instances';
import { composeTerrain } from '../earth/compose';
import { assetBounds, assetFacts, type Asset } from '../kit/asset';
import { castAsset, commonTurn, pivotOf, texelDensity } from '../kit/cast';
import { placedPieces } from '../kit/placement';
import { differenceText, sizeDifference, standFor } from '../kit/swap';
import type { Block, Piece } from '../level/objects';
import type { Vec3 } from '../num/vec';
import { testBlock, testLevel } from '../testing/levels';
import { expectClosed, measure } from '../testing/meshes';
import { readAsset, writeAsset } from './assetGlb';
import { levelToGlb } from './glb';
import { assetToObj, blocksToObj, groupsOf } from './obj';

let kernel: SolidKernel;
beforeAll(async () => {
  kernel = await loadSolidKernel();
});

const OPTIONS = { name: 'shed', collider: 'mesh' as const, texel: 512, picture: 1024 };
const shed = (): { blocks: Block[]; ids: Set<string> } => {
  const mass = testBlock('box', [2.4, 2.4, 2.4], [10, 1, 20], 0, { name: 'mass' });
  const door = testBlock('box', [1, 2.1, 3], [10, 1, 20], 0, { name: 'door', op: 'void' });
  const roof = testBlock('wedge', [2.8, 1, 2.8], [10, 3.3, 20], 0, { name: 'roof' });
  return { blocks: [mass, door, roof, testBlock('box', [1, 1, 1], [10, 1, 20])], ids: new Set([mass.id, roof.id]) };
};
const cast = ({ blocks, ids }: ReturnType<typeof shed>, pivot: Vec3 = [10, 1, 20]): Asset =>
  castAsset(new BlockBuilder(kernel).joined(blocks, ids), { ...OPTIONS, pivot });

/** A reader of our own, from the text of the format: points and the places in them that faces name. */
function readObj(text: string): { groups: string[]; objects: string[]; points: Vec3[]; uvs: number; faces: number[][] } {
  const out = { groups: [] as string[], objects: [] as string[], points: [] as Vec3[], uvs: 0, faces: [] as number[][] };
  for (const line of text.split('\n')) {
    const [word, ...rest] = line.split(' ');
    if (word === 'v') out.points.push(rest.map(Number) as Vec3);
    else if (word === 'vt') out.uvs++;
    else if (word === 'o') out.objects.push(rest[0]);
    else if (word === 'g') out.groups.push(rest[0]);
    else if (word === 'f') out.faces.push(rest.map((r) => Number(r.split('/')[0]) - 1));
  }
  return out;
}

describe('a cast', () => {
  it('joins solids less their voids into one closed mesh: worked by hand', () => {
    const made = shed();
    const mesh = new BlockBuilder(kernel).joined(made.blocks, made.ids);
    expectClosed(mesh);
    // The cube less its door, and the roof less the 0.1 m it is let in: there the wedge is 2.8 m wide, 2.52 m higher up, and the cube 2.4 m.
    const cube = 2.4 ** 3 - 1 * 2.1 * 2.4;
    const letIn = 2.4 * 2.4 * 0.1;
    expect(measure(mesh).volume).toBeCloseTo(cube + (2.8 * 2.8 * 1) / 2 - letIn, 4);
  });

  it('has its real dimensions about its pivot, and the texel density asked for on every face', () => {
    const asset = cast(shed());
    expect(assetFacts(asset).size.map((v) => Number(v.toFixed(4)))).toEqual([2.8, 3.3, 2.8]);
    expect(assetBounds(asset).min.map((v) => Number(v.toFixed(4)))).toEqual([-1.4, 0, -1.4]);
    const [least, most] = texelDensity(asset.lods[0][0], 1024)!;
    expect(least).toBeCloseTo(512, 1);
    expect(most).toBeCloseTo(512, 1);
  });

  it('puts the pivot where it is asked', () => {
    const box = testBlock('box', [2, 4, 6], [10, 5, 20]);
    const mesh = new BlockBuilder(kernel).joined([box], new Set([box.id]));
    expect(pivotOf(mesh, 'base')).toEqual([10, 5, 20]);
    expect(pivotOf(mesh, 'centre')).toEqual([10, 7, 20]);
    expect(pivotOf(mesh, 'corner')).toEqual([9, 5, 17]);
    expect(pivotOf(mesh, 'origin')).toEqual([0, 0, 0]);
    expect(new BlockBuilder(kernel).joined([box], new Set()).indices).toHaveLength(0);
  });

  it('takes over the turn its blocks share, so that its dimensions are theirs', () => {
    const box = testBlock('box', [2, 4, 6], [10, 5, 20], 30);
    const other = testBlock('box', [2, 1, 6], [10, 9, 20], 120);
    expect(commonTurn([30, 120, -60])).toBe(30);
    expect(commonTurn([30, 31])).toBe(0);
    const mesh = new BlockBuilder(kernel).joined([box, { ...other, size: [6, 1, 2] }], new Set([box.id, other.id]));
    const pivot = pivotOf(mesh, 'base', 30);
    expect(pivot.map((v) => Number(v.toFixed(4)))).toEqual([10, 5, 20]);
    const asset = castAsset(mesh, { ...OPTIONS, pivot, turn: 30 });
    expect(assetFacts(asset).size.map((v) => Number(v.toFixed(4)))).toEqual([2, 5, 6]);
    const piece: Piece = {
      id: 'p',
      version: 1,
      kind: 'piece',
      name: 'p',
      asset: 'a',
      at: pivot,
      turn: 30,
      sink: 0,
      collider: 'asset',
      hidden: false,
      out: false,
    };
    const [placed] = placedPieces([piece], new Map([['a', asset]]));
    const { corners } = blockSolid(box);
    for (let k = 0; k < 3; k += 2) expect(placed.min[k]).toBeCloseTo(Math.min(...corners.map((c) => c[k])), 4);
  });

  it('is a valid GLB that comes back as it was, texture coordinates included', async () => {
    const asset = cast(shed());
    const bytes = await writeAsset(asset);
    expect((await validateBytes(bytes)).issues.numErrors).toBe(0);
    const read = await readAsset(bytes);
    expect(read.ok && read.value).toMatchObject({ name: 'shed', collider: 'mesh', tags: ['cast'] });
    if (!read.ok) return;
    expect(read.value.lods[0][0].uvs).toEqual(asset.lods[0][0].uvs);
    expect(read.value.lods[0][0].positions).toEqual(asset.lods[0][0].positions);
  });

  it('as OBJ, read by a reader of our own, has its corners to a millimetre', () => {
    const asset = cast(shed());
    const obj = readObj(assetToObj(asset));
    expect(obj.objects).toEqual(['shed']);
    expect(obj.uvs).toBe(obj.points.length);
    const p = asset.lods[0][0].positions;
    obj.points.forEach((q, i) => q.forEach((v, k) => expect(Math.abs(v - p[i * 3 + k])).toBeLessThan(1e-3)));
    expect(Math.max(...obj.faces.flat())).toBe(obj.points.length - 1);
  });
});

describe('groups', () => {
  it('are a node each with their blocks under it, and a `g` each in OBJ', async () => {
    const level = testLevel();
    const list = [
      testBlock('box', [1, 1, 1], [10, 0, 10], 0, { name: 'post', group: 'gate' }),
      testBlock('box', [1, 1, 1], [13, 0, 10], 0, { name: 'other post', group: 'gate' }),
      testBlock('box', [1, 1, 1], [20, 0, 10], 0, { name: 'loose' }),
    ];
    for (const b of list) level.objects.set(b.id, b);
    const bytes = await levelToGlb(level, composeTerrain(level));
    expect((await validateBytes(bytes)).issues.numErrors).toBe(0);
    const json = JSON.parse(new TextDecoder().decode(bytes.subarray(20, 20 + new DataView(bytes.buffer, bytes.byteOffset).getUint32(12, true))));
    const gate = json.nodes.find((n: { name: string }) => n.name === 'gate');
    expect(gate.children.map((c: number) => json.nodes[c].name)).toEqual(['post', 'other post']);
    expect(json.scenes[0].nodes.map((n: number) => json.nodes[n].name)).toEqual(['terrain', 'gate', 'loose']);
    const obj = readObj(blocksToObj(list, [], groupsOf(list)));
    expect(obj.groups).toEqual(['gate', 'gate', 'ungrouped']);
    expect(obj.objects).toEqual(['post', 'other_post', 'loose']);
  });
});

describe("an asset in a block's place", () => {
  const box = testBlock('box', [4, 3, 2], [30, 2, 40], 90);
  const piece = (more: Partial<Piece>): Piece => ({
    id: 'p',
    version: 1,
    kind: 'piece',
    name: 'p',
    asset: 'a',
    at: [0, 0, 0],
    turn: 0,
    sink: 0,
    collider: 'asset',
    hidden: false,
    out: false,
    ...more,
  });

  it("fitted, fills the block; at its own size it stands on the block's base and says the difference", () => {
    const made = shed();
    const asset = cast(made, [7, 0, 3]);
    const fitted = placedPieces([piece(standFor(box, asset, 'fitted'))], new Map([['a', asset]]))[0];
    const { corners } = blockSolid(box);
    for (let k = 0; k < 3; k++) {
      expect(fitted.min[k]).toBeCloseTo(Math.min(...corners.map((c) => c[k])), 4);
      expect(fitted.max[k]).toBeCloseTo(Math.max(...corners.map((c) => c[k])), 4);
    }
    const own = placedPieces([piece(standFor(box, asset, 'own'))], new Map([['a', asset]]))[0];
    expect([own.min[0], own.max[0], own.min[1], own.min[2], own.max[2]].map((v) => Number(v.toFixed(3)))).toEqual([28.6, 31.4, 2, 38.6, 41.4]);
    expect(differenceText(sizeDifference(box, asset))).toBe('1.20 m shorter, 0.30 m higher, 0.80 m wider');
    expect(differenceText([0.001, 0, -0.004])).toBe('the same size');
  });

  it('drawn to a size, is drawn and collides alike: matrix and mesh agree', () => {
    const asset = cast(shed(), [10, 1, 20]);
    const p = piece({ at: [5, 1, 6], turn: 30, scale: [2, 0.5, 3] });
    const [cell] = pieceCells([p], new Map([['a', asset]]));
    const [mesh] = placedPieces([p], new Map([['a', asset]]));
    const m = cell.matrices;
    const local = asset.lods[0][0].positions;
    for (let i = 0; i < local.length; i += 3) {
      for (let k = 0; k < 3; k++) expect(m[k] * local[i] + m[4 + k] * local[i + 1] + m[8 + k] * local[i + 2] + m[12 + k]).toBeCloseTo(mesh.positions[i + k], 3);
    }
  });

  it('cast from its source blocks set again at its pivot stands exactly where the blocks stood', () => {
    const wall = testBlock('wall', [1, 1, 1], [0, 0, 0], 0, { wide: 0.4 });
    const drawn = {
      ...wall,
      ...relined(wall, [
        [10, 2, 10],
        [20, 2, 10],
        [20, 2, 15],
      ]),
    };
    const mesh = new BlockBuilder(kernel).joined([drawn], new Set([drawn.id]));
    const pivot = pivotOf(mesh, 'base');
    const asset = castAsset(mesh, { ...OPTIONS, pivot });
    const [placed] = placedPieces([piece({ at: pivot })], new Map([['a', asset]]));
    expect(measure(placed).volume).toBeCloseTo(15 * 0.4 * 2.5, 3);
    expect(placed.min.map((v) => Number(v.toFixed(3)))).toEqual([10, 2, 9.8]);
  });
});
