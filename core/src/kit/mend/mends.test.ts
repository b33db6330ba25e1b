import fc from 'fast-check';
import { beforeAll, describe, expect, it } from 'vitest';
import { SHIPPED_BODIES } from '../../body/bodies';
import { lodSwaps } from '../../cost/lodPixels';
import { readAsset, writeAsset } from '../../io/assetGlb';
import { readIncoming } from '../../io/assets/incoming';
import { loadMendTools } from '../../io/assets/loadMendTools';
import { mendSchema, mendText, type Mend } from '../../level/mend';
import { packPng, PNG_PICTURES, unpackPng } from '../../io/assets/pngPictures';
import { halvePicture, type PixelKind } from '../../num/halvePicture';
import { hashUnit } from '../../num/hash';
import type { Mesh } from '../../num/mesh';
import { distanceTo, triangleTree } from '../../num/triangleTree';
import { birchGlb, boxStreams, crateFiles, turnedStreams, wallFiles } from '../../testing/othersMeshes';
import { assetBounds, assetFacts, type Asset } from '../asset';
import { assetMesh } from '../assetMesh';
import { findingsOf } from '../findings';
import { PLAIN_MATERIAL, textureBytes, type AssetTexture, type TextureSlot, type TextureUse } from '../material';
import { coverage, openness, viewOf } from '../openSides';
import { applyMend, applyMends } from './applyMends';
import { colliderShapes } from './colliders';
import { convexParts, volume } from './convexParts';
import { assetTexelDensity } from '../texelDensity';
import { packable } from './pictures';
import { pivotOf } from './move';
import { distantCoverage } from './distant';
import type { MendTools, PictureTools } from './tools';
import { trunkRadius } from './trunk';

/** What a JPEG is here, where nothing unpacks it. */
const brown: PictureTools = {
  ...PNG_PICTURES,
  unpack: (t) => (t.mime === 'image/png' ? PNG_PICTURES.unpack(t) : Promise.resolve({ width: 1, height: 1, data: Uint8Array.from([138, 90, 43, 255]) })),
};
let tools: MendTools;
let crate: Asset;
let wall: Asset;
let birch: Asset;
const read = async (files: Record<string, Uint8Array>): Promise<Asset> =>
  (await readIncoming(Object.entries(files).map(([path, bytes]) => ({ path, bytes })))).meshes[0].asset;
beforeAll(async () => {
  tools = await loadMendTools();
  [crate, wall, birch] = [await read(await crateFiles()), await read(wallFiles()), await read({ 'birch.glb': await birchGlb() })];
});

const plainAsset = (mesh: Mesh & { normals: Float32Array }, more: Partial<Asset> = {}): Asset => ({
  name: 'thing',
  role: 'prop',
  collider: 'mesh',
  tags: [],
  trunk: 0,
  lods: [[{ ...mesh, material: 'a', alphaTested: false, look: 0 }]],
  materials: [{ ...PLAIN_MATERIAL, name: 'a', textures: {} }],
  textures: [],
  textureBytes: 0,
  ...more,
});
const ball = (sides = 48): ReturnType<typeof turnedStreams> =>
  turnedStreams(
    Array.from({ length: sides / 2 + 1 }, (_, i): [number, number] => {
      const a = (i / (sides / 2)) * Math.PI;
      return [Math.max(0.001, Math.sin(a)), 1 - Math.cos(a)];
    }),
    sides,
  );
/** Two boxes side by side that touch nowhere. */
const two = (): Asset => {
  const [a, b] = [boxStreams([0, 0, 0], [1, 1, 1]), boxStreams([3, 0, 0], [4, 1, 1])];
  return plainAsset(a, {
    lods: [[a, b].map((m, i) => ({ ...m, material: 'ab'[i], alphaTested: false, look: i }))],
    materials: [
      { ...PLAIN_MATERIAL, name: 'a', baseColour: [1, 0, 0, 1], textures: {} },
      { ...PLAIN_MATERIAL, name: 'b', baseColour: [0, 0, 1, 1], roughness: 0.5, textures: {} },
    ],
  });
};

describe('what looks wrong', () => {
  const about = (a: Asset) => findingsOf(a, SHIPPED_BODIES.adult).map((f) => f.about);
  it('about a crate in centimetres that lies on its side: one click each', async () => {
    expect(about(crate)).toEqual(['axis', 'unit', 'pivot']);
    let a = crate;
    for (let n = 0; n < 5; n++) {
      const [first] = findingsOf(a, SHIPPED_BODIES.adult);
      if (first) a = await applyMend(a, first.mends[0].mend, tools);
    }
    expect(about(a)).toEqual([]);
    const { min, max } = assetBounds(a);
    expect([...min, ...max].map((v) => Math.round(v * 1000) / 1000 + 0)).toEqual([-0.4, 0, -0.4, 0.4, 1, 0.4]);
  });

  it('about a wall without its back: hollow there, closed nowhere', async () => {
    expect(openness(wall)).toEqual({ closed: false, openEdges: 4, hollow: ['back'] });
    expect(about(wall)).toEqual(['pivot', 'weld', 'hollow']);
    const mended = await applyMend(wall, { mend: 'sides' }, tools);
    expect(openness(mended).hollow).toEqual([]);
    expect(openness(crate)).toEqual({ closed: true, openEdges: 0, hollow: [] });
  });

  it('about a tree of six materials without LODs; as a plant it has no trunk', async () => {
    expect(about(birch)).toEqual(['materials', 'lods', 'collider']);
    expect(about({ ...birch, role: 'plant' })).toEqual(['materials', 'lods', 'trunk']);
  });

  it('about a unit is said by the tags, else by the body; inches too', async () => {
    const door = (factor: number, name: string) => applyMend({ ...two(), name }, { mend: 'unit', factor }, tools);
    const unit = (a: Asset) => findingsOf(a, SHIPPED_BODIES.adult).find((f) => f.about === 'unit')?.mends[0].mend;
    expect(unit(await door(2.1 / 0.0254, 'door'))).toEqual({ mend: 'unit', factor: 0.0254 });
    expect(unit(await door(2.1, 'door'))).toBeUndefined();
    expect(unit(await door(100, 'thing'))).toEqual({ mend: 'unit', factor: 0.01 });
    expect(unit(await door(1, 'thing'))).toBeUndefined();
    expect(unit(await door(0.001, 'thing'))).toEqual({ mend: 'unit', factor: 100 });
  });
});

describe('a mend', () => {
  it('of size, axis, turn and pivot moves what belongs to it', async () => {
    const a = plainAsset(boxStreams([1, 2, 3], [2, 4, 6]), { trunk: 0.5, errors: [0.25], colliders: [boxStreams([1, 2, 3], [2, 4, 6])] });
    const twice = await applyMend(a, { mend: 'unit', factor: 2 }, tools);
    expect([assetBounds(twice), twice.trunk, twice.errors]).toEqual([{ min: [2, 4, 6], max: [4, 8, 12] }, 1, [0.5]]);
    const up = await applyMend(a, { mend: 'axis', up: '+z' }, tools);
    expect(assetBounds(up)).toEqual({ min: [1, 3, -4], max: [2, 6, -2] });
    expect(volume(up.colliders![0])).toBeCloseTo(6, 5);
    for (const [at, corner] of [
      ['foot', [-0.5, 0, -1.5]],
      ['centre', [-0.5, -1, -1.5]],
      ['corner', [0, 0, 0]],
    ] as const) {
      const moved = await applyMend(a, { mend: 'pivot', at }, tools);
      expect([pivotOf(moved), assetBounds(moved).min]).toEqual([at, corner]);
    }
    const turned = assetBounds(await applyMend(plainAsset(boxStreams([0, 0, 0], [1, 1, 2])), { mend: 'turn', degrees: 90 }, tools));
    expect(turned.max.map((v) => Math.round(v * 1e6) / 1e6)).toEqual([2, 1, 0]);
  });

  it('keeps the outside outside, whichever way is up', async () => {
    for (const up of ['+z', '-z', '+x', '-x', '-y'] as const) {
      const a = await applyMend(plainAsset(boxStreams([0, 0, 0], [1, 2, 3])), { mend: 'axis', up }, tools);
      expect([up, Math.round(volume(assetMesh(a)) * 1e5) / 1e5]).toEqual([up, 6]);
      const [p] = a.lods[0];
      for (let i = 0; i < p.normals.length; i += 3) expect(Math.abs(p.normals[i]) + Math.abs(p.normals[i + 1]) + Math.abs(p.normals[i + 2])).toBeCloseTo(1, 6);
    }
  });

  it('of doubled corners joins those that say the same, and leaves hard edges', async () => {
    const loose = await applyMend(plainAsset(ball(24)), { mend: 'normals', crease: 0 }, tools);
    expect(loose.lods[0][0].positions.length / 3).toBeGreaterThan(1000);
    const round = await applyMend(loose, { mend: 'normals', crease: 180 }, tools);
    expect(round.lods[0][0].positions.length / 3).toBeLessThan(320);
    const box = plainAsset(boxStreams([0, 0, 0], [1, 1, 1]));
    expect((await applyMend(box, { mend: 'weld', within: 0.001 }, tools)).lods[0][0].positions.length / 3).toBe(24);
    // A box stays sharp at 40 degrees, and is round at 180: eight corners, each a mean of three sides.
    expect((await applyMend(box, { mend: 'normals', crease: 40 }, tools)).lods[0][0].positions.length / 3).toBe(24);
    const soft = (await applyMend({ ...box, lods: [[{ ...box.lods[0][0], uvs: undefined }]] }, { mend: 'normals', crease: 180 }, tools)).lods[0][0];
    expect(soft.positions.length / 3).toBe(8);
    for (let i = 0; i < 24; i++) expect(Math.abs(soft.normals[i])).toBeCloseTo(Math.sqrt(1 / 3), 6);
  });

  it('of materials keeps the colours of bare ones in their corners, and joins their draws', async () => {
    const a = await applyMend(two(), { mend: 'materials', to: 1 }, tools);
    expect(a.materials!.map((m) => [m.name, m.baseColour, m.roughness])).toEqual([['a', [1, 1, 1, 1], 0.75]]);
    expect(a.lods[0]).toHaveLength(1);
    const [p] = a.lods[0];
    expect([...p.colours!.subarray(0, 4), ...p.colours!.subarray(-4)]).toEqual([1, 0, 0, 1, 0, 0, 1, 1]);
    expect(assetFacts(a).triangles).toEqual([24]);
    const worn = await applyMend(two(), { mend: 'slot', from: 'b', to: 'a' }, tools);
    expect(worn.materials!.map((m) => m.name)).toEqual(['a']);
    expect(await applyMend(two(), { mend: 'slot', from: 'none', to: 'a' }, tools)).toEqual(two());
    expect((await applyMend(birch, { mend: 'materials', to: 2 }, tools)).materials).toHaveLength(2);
  });
});

describe('LODs', () => {
  it('lie no further from the finest than is said, by points of their own', async () => {
    const a = await applyMend(plainAsset(ball()), { mend: 'lods', shares: [0.4, 0.15, 0.05] }, tools);
    const { triangles } = assetFacts(a);
    expect(triangles[0]).toBe(48 * 24 * 2 + 2 * 46);
    for (const [i, share] of [0.4, 0.15, 0.05].entries()) expect(triangles[i + 1]).toBeLessThanOrEqual(triangles[0] * share * 1.1);
    a.lods.slice(1).forEach((lod, i) => {
      const [fine, coarse] = [triangleTree(assetMesh(a)), triangleTree(assetMesh({ ...a, lods: [lod] }))];
      for (let n = 0; n < 3000; n++) {
        for (const [from, to] of [
          [fine, coarse],
          [coarse, fine],
        ]) {
          const p = pointOn(from.mesh, n);
          expect(distanceTo(to, ...p)).toBeLessThanOrEqual(a.errors![i]);
        }
      }
    });
    const swaps = lodSwaps(a);
    expect(swaps.map((s) => s.distance)).toEqual(swaps.map((s) => s.distance).sort((x, y) => x - y));
    // An error of e metres at a distance d fills e / (2 d tan 30) of a screen 1080 high.
    expect(swaps[0].pixels!).toBeCloseTo((a.errors![0] / (2 * swaps[0].distance * Math.tan(Math.PI / 6))) * 1080, 6);
  });

  it('of two materials open no crack between them', async () => {
    const sphere = ball();
    const half = sphere.indices.length / 2;
    const parts = [sphere.indices.slice(0, half), sphere.indices.slice(half)].map((indices, i) => ({
      ...sphere,
      indices,
      material: `${i}`,
      alphaTested: false,
      look: i,
    }));
    const a = plainAsset(sphere, { lods: [parts], materials: [0, 1].map((i) => ({ ...PLAIN_MATERIAL, name: `${i}`, textures: {} })) });
    const made = await applyMend(a, { mend: 'lods', shares: [0.2] }, tools);
    expect(openness({ ...made, lods: [made.lods[1]] })).toMatchObject({ closed: true });
    expect(new Set(made.lods[1].map((p) => p.look))).toEqual(new Set([0, 1]));
  });
});

/** A point on a mesh, by a number: every triangle in turn. */
function pointOn({ positions: p, indices }: Mesh, n: number): [number, number, number] {
  const t = Math.floor(hashUnit(7, n) * (indices.length / 3)) * 3;
  let [u, v] = [hashUnit(8, n), hashUnit(9, n)];
  if (u + v > 1) [u, v] = [1 - u, 1 - v];
  const [a, b, c] = [indices[t] * 3, indices[t + 1] * 3, indices[t + 2] * 3];
  return [0, 1, 2].map((k) => p[a + k] * (1 - u - v) + p[b + k] * u + p[c + k] * v) as [number, number, number];
}

/** How far a point lies outside a convex shape, by the planes of its triangles. */
function outside({ positions: p, indices }: Mesh, q: readonly number[]): number {
  let most = -Infinity;
  for (let i = 0; i < indices.length; i += 3) {
    const [a, b, c] = [indices[i] * 3, indices[i + 1] * 3, indices[i + 2] * 3];
    const u = [p[b] - p[a], p[b + 1] - p[a + 1], p[b + 2] - p[a + 2]];
    const w = [p[c] - p[a], p[c + 1] - p[a + 1], p[c + 2] - p[a + 2]];
    const n = [u[1] * w[2] - u[2] * w[1], u[2] * w[0] - u[0] * w[2], u[0] * w[1] - u[1] * w[0]];
    const l = Math.hypot(...n);
    if (l > 1e-9) most = Math.max(most, (n[0] * (q[0] - p[a]) + n[1] * (q[1] - p[a + 1]) + n[2] * (q[2] - p[a + 2])) / l);
  }
  return most;
}

describe('a collider', () => {
  it('of a hull holds every vertex; of parts each lies in one, and the empty room between is left out', async () => {
    const mesh = assetMesh(two());
    const hull = tools.hull(mesh.positions)!;
    const parts = convexParts(mesh, 8, tools.hull);
    for (let i = 0; i < mesh.positions.length; i += 3) {
      const q = [...mesh.positions.subarray(i, i + 3)];
      expect(outside(hull, q)).toBeLessThan(1e-4);
      expect(Math.min(...parts.map((p) => outside(p, q)))).toBeLessThan(1e-4);
    }
    expect(volume(hull)).toBeCloseTo(4, 3);
    expect(parts.reduce((s, p) => s + volume(p), 0)).toBeCloseTo(2, 1);
    const leaves = await applyMend(birch, { mend: 'collider', as: 'parts', parts: 6 }, tools);
    expect(leaves.colliders!.length).toBeLessThanOrEqual(6);
    const corners = assetMesh(birch).positions;
    for (let i = 0; i < corners.length; i += 3) {
      const q = [...corners.subarray(i, i + 3)];
      expect(Math.min(...leaves.colliders!.map((p) => outside(p, q)))).toBeLessThan(1e-3);
    }
  });

  it('of a plain shape goes about it: box, cylinder, capsule', async () => {
    const tall = plainAsset(boxStreams([-1, 0, -1], [1, 6, 1]));
    const size = (kind: 'box' | 'cylinder' | 'capsule') => volume(colliderShapes(tall, kind)[0]);
    expect(size('box')).toBeCloseTo(24, 5);
    // About the corners of the box, root of two from its middle.
    expect(size('cylinder') / (Math.PI * 2 * 6)).toBeGreaterThan(0.99);
    expect(size('cylinder') / (Math.PI * 2 * 6)).toBeLessThan(1.02);
    expect(size('capsule')).toBeLessThan(size('cylinder'));
    expect(colliderShapes(tall, 'none')).toEqual([]);
  });

  it('of a plant is its trunk, found by slicing', async () => {
    expect(trunkRadius(birch)).toBeCloseTo(0.15, 2);
    expect((await applyMend(birch, { mend: 'trunk' }, tools)).trunk).toBeCloseTo(0.15, 2);
    expect((await applyMend(birch, { mend: 'trunk', radius: 0.4 }, tools)).trunk).toBe(0.4);
    // Beside the pivot the nearest counts, not the one that ends nearest.
    const part = (rings: [number, number][], at: [number, number]) => ({ ...turnedStreams(rings, 16, at), material: 'x', alphaTested: false, look: 0 });
    const upright = (r: number, at: [number, number]) => part([[r, 0], [r, 2]], at); // prettier-ignore
    const crown = part([[2, 1], [2, 2]], [0, 0]); // prettier-ignore
    expect(trunkRadius({ lods: [[upright(0.2, [0.5, 0]), upright(0.03, [0, 0.62]), crown]] })).toBeCloseTo(0.7, 5);
    // Leaves that hang to the ground beside it are not its trunk.
    const skirt = turnedStreams([[0.2, 0], [0.2, 1.2]], 8, [1.5, 0]); // prettier-ignore
    const hung = { ...birch, lods: [[...birch.lods[0], { ...skirt, material: 'x', alphaTested: false, look: 0 }]] };
    expect(trunkRadius(hung)).toBeCloseTo(0.15, 2);
  });
});

describe('pictures', () => {
  const flat = (name: string, side: number, rgba: [number, number, number, number]) => {
    const bytes = packPng({ width: side, height: side, data: Uint8Array.from({ length: side * side * 4 }, (_, i) => rgba[i % 4]) });
    return { name, mime: 'image/png', bytes, width: side, height: side, gpuBytes: textureBytes(side, side) };
  };
  const use = (texture: number): TextureUse => ({ texture, uv: 0, offset: [0, 0], rotation: 0, scale: [1, 1], wrap: ['repeat', 'repeat'] });
  const worn = (textures: Partial<Record<TextureSlot, TextureUse>>, pictures: AssetTexture[]): Asset =>
    plainAsset(boxStreams([0, 0, 0], [1, 1, 1]), { materials: [{ ...PLAIN_MATERIAL, name: 'a', textures }], textures: pictures });

  it('are halved until they fit, those that fit stay to the byte', async () => {
    const a = worn({ baseColour: use(0), normal: use(1) }, [flat('colour', 64, [200, 100, 50, 255]), flat('bumps', 16, [128, 128, 255, 255])]);
    const made = await applyMend(a, { mend: 'pictures', most: 16 }, tools);
    expect(made.textures!.map((t) => [t.width, t.height, t.gpuBytes])).toEqual([
      [16, 16, 1365],
      [16, 16, 1365],
    ]);
    expect(made.textures![1]).toBe(a.textures![1]);
    expect([...unpackPng(made.textures![0].bytes).data.subarray(0, 4)]).toEqual([200, 100, 50, 255]);
    expect(made.textureBytes).toBe(2730);
    // A texel density of 4 pixels a metre is a quarter of the one before.
    expect(assetTexelDensity(made)!.mean).toBeCloseTo(assetTexelDensity(a)!.mean / 4, 6);
    await expect(
      applyMend({ ...a, textures: [{ ...a.textures![0], mime: 'image/jpeg' }, a.textures![1]] }, { mend: 'pictures', most: 16 }, tools),
    ).rejects.toThrow('colour is image/jpeg');
  });

  it('halve light, not its bytes; directions stay one long; clear pixels colour nothing', () => {
    const half = (kind: PixelKind, ...pixels: number[]) => [...halvePicture({ width: 2, height: 1, data: Uint8Array.from(pixels) }, kind).data];
    // Half black and half white is 0.5 as light: sRGB 188.
    expect(half('colour', 0, 0, 0, 255, 255, 255, 255, 255)).toEqual([188, 188, 188, 255]);
    expect(half('data', 0, 0, 0, 255, 255, 255, 255, 255)).toEqual([128, 128, 128, 255]);
    expect(half('colour', 255, 0, 0, 0, 0, 0, 255, 255)).toEqual([0, 0, 255, 128]);
    const s = Math.round(127.5 + 127.5 * Math.SQRT1_2);
    expect(half('normal', 255 - s, 128, s, 255, s, 128, s, 255)).toEqual([128, 128, 255, 255]);
    expect(halvePicture({ width: 3, height: 1, data: new Uint8Array(12).fill(90) }, 'data')).toEqual({
      width: 1,
      height: 1,
      data: Uint8Array.from([90, 90, 90, 90]),
    });
  });

  it('of occlusion and of roughness become one, which both wear', async () => {
    const a = worn({ occlusion: use(0), metalRough: use(1), normal: use(2) }, [
      flat('ao', 8, [10, 11, 12, 255]),
      flat('mr', 16, [20, 21, 22, 255]),
      flat('n', 4, [128, 128, 255, 255]),
    ]);
    expect(packable(a)).toBe(1);
    const made = await applyMend(a, { mend: 'pack' }, tools);
    const { occlusion, metalRough } = made.materials![0].textures;
    expect([made.textures!.length, occlusion!.texture === metalRough!.texture, packable(made)]).toEqual([2, true, 0]);
    expect([...unpackPng(made.textures![occlusion!.texture].bytes).data.subarray(0, 4)]).toEqual([10, 21, 22, 255]);
    expect(made.textures![occlusion!.texture].width).toBe(16);
  });
});

describe('a distant picture', () => {
  it.each(['birch', 'crate'])('of a %s covers what the mesh covers, within 5 % from 16 directions', async (name) => {
    const upright = await applyMends(crate, [{ mend: 'axis', up: '+z' }, { mend: 'unit', factor: 0.01 }], { ...tools, pictures: brown }); // prettier-ignore
    const asset = { birch, crate: upright }[name]!;
    const made = await applyMend(asset, { mend: 'distant', side: 96 }, { ...tools, pictures: brown });
    expect(made.lods).toHaveLength(asset.lods.length + 1);
    const colours = unpackPng(made.textures![made.materials![made.lods.at(-1)![0].look!].textures.baseColour!.texture].bytes);
    for (let i = 0; i < 16; i++) {
      const a = (i / 16) * Math.PI * 2;
      const to = [Math.sin(a), 0, Math.cos(a)];
      const whole = coverage(asset, to, 0, 512) * (2 * viewOf(asset, to).half) ** 2;
      expect(Math.abs(distantCoverage(made, colours, (i / 16) * 360) / whole - 1), `${i}`).toBeLessThan(0.05);
    }
  });

  it('has the colours and directions of the mesh, goes through a file, and goes when the mesh is changed', async () => {
    const made = await applyMend(two(), { mend: 'distant', side: 64 }, tools);
    const { columns, rows, normals } = made.distant!;
    const [colours, facing] = [made.materials!.at(-1)!.textures.baseColour!.texture, normals].map((t) => unpackPng(made.textures![t].bytes));
    expect([columns, rows, made.materials!.at(-1)!.name]).toEqual([4, 2, 'distant']);
    // From the front the red box stands left of the blue one and looks towards +z; from +x only the blue one is seen.
    const [wide, high] = [colours.width / 4, colours.height / 2];
    const at = (p: typeof colours, frame: number, x: number, y: number) => [
      ...p.data.subarray((Math.floor(y * high) * p.width + frame * wide + Math.floor(x * wide)) * 4).subarray(0, 3),
    ];
    expect([at(colours, 0, 0.56, 0.5), at(colours, 0, 0.93, 0.5), at(colours, 2, 0.5 - 0.06, 0.5)]).toEqual([
      [255, 0, 0],
      [0, 0, 255],
      [0, 0, 255],
    ]);
    expect(at(facing, 0, 0.56, 0.5)).toEqual([128, 128, 255]);
    expect(at(facing, 2, 0.44, 0.5)).toEqual([255, 128, 128]);
    const back = await readAsset(await writeAsset(made), 'x');
    expect(back.ok && back.value).toEqual(made);
    const sized = await applyMend(made, { mend: 'unit', factor: 2 }, tools);
    expect([sized.lods.length, sized.distant, sized.textures!.length, sized.materials!.length]).toEqual([1, undefined, 0, 2]);
  });
});

describe('mends that are kept', () => {
  const recipe: Mend[] = [
    { mend: 'axis', up: '+z' },
    { mend: 'unit', factor: 0.01 },
    { mend: 'pivot', at: 'foot' },
    { mend: 'collider', as: 'hull', parts: 8 },
  ];

  it('made again on the same file are the same bytes; on a newer one what it is now', async () => {
    const once = await writeAsset(await applyMends(crate, recipe, tools));
    expect(Buffer.from(await writeAsset(await applyMends(crate, recipe, tools))).equals(Buffer.from(once))).toBe(true);
    const newer = await read(await crateFiles(1.5));
    const now = await applyMends(newer, recipe, tools);
    expect(assetFacts(now).size.map((v) => Math.round(v * 100) / 100)).toEqual([0.8, 1.5, 0.8]);
    expect(volume(now.colliders![0])).toBeCloseTo(0.8 * 0.8 * 1.5, 3);
    const back = await readAsset(await writeAsset(now), 'x');
    expect(back.ok && [back.value.collider, back.value.colliders!.length, back.value.textures![0].mime]).toEqual(['hull', 1, 'image/jpeg']);
  });

  it('without one are as if it was never made, and never touch what they are given', async () => {
    const before = structuredClone(crate.lods);
    const without = await applyMends(crate, recipe.slice(1), tools);
    expect(assetFacts(without).size[1]).toBeCloseTo(0.8, 5);
    expect(crate.lods).toEqual(before);
  });

  it('have a form and words each', async () => {
    const all: Mend[] = [
      ...recipe,
      { mend: 'turn', degrees: 90 },
      { mend: 'weld', within: 0.001 },
      { mend: 'normals', crease: 40 },
      { mend: 'sides' },
      { mend: 'lods', shares: [0.5] },
      { mend: 'trunk' },
      { mend: 'pictures', most: 512 },
      { mend: 'pack' },
      { mend: 'distant', side: 96 },
      { mend: 'materials', to: 2 },
      { mend: 'slot', from: 'a', to: 'b' },
    ];
    for (const m of all) expect(mendSchema.parse(m)).toEqual(m);
    expect(new Set(all.map(mendText)).size).toBe(all.length);
    expect(mendSchema.safeParse({ mend: 'unit', factor: Infinity }).success).toBe(false);
  });
});

describe('what is seen of a mesh', () => {
  it('covers what it covers: a box from its side all of the middle, a ball pi', async () => {
    expect(coverage(plainAsset(boxStreams([0, 0, 0], [2, 2, 2])), [0, 0, 1])).toBeCloseTo(1, 2);
    fc.assert(
      fc.property(fc.integer({ min: 0, max: 360 }), (deg) => {
        const a = (deg * Math.PI) / 180;
        const to = [Math.sin(a), 0, Math.cos(a)];
        const round = plainAsset(ball());
        const area = coverage(round, to) * (2 * viewOf(round, to).half) ** 2;
        expect(Math.abs(area / Math.PI - 1)).toBeLessThan(0.02);
      }),
      { numRuns: 12 },
    );
  });

  it('lies as far as a search of every triangle says', async () => {
    const mesh = assetMesh(birch);
    const tree = triangleTree(mesh);
    const slow = (q: [number, number, number]): number =>
      Math.min(
        ...Array.from({ length: mesh.indices.length / 3 }, (_, t) =>
          distanceTo(triangleTree({ positions: mesh.positions, indices: mesh.indices.slice(t * 3, t * 3 + 3) }), ...q),
        ),
      );
    for (let n = 0; n < 12; n++) {
      const q: [number, number, number] = [hashUnit(1, n) * 8 - 4, hashUnit(2, n) * 8 - 1, hashUnit(3, n) * 8 - 4];
      expect(distanceTo(tree, ...q)).toBeCloseTo(slow(q), 6);
    }
  });
});
