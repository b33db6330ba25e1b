import { filled, packedPaint } from '../coat/paint';
import { coatObject, type Piece } from '../level/objects';
import { decode } from 'fast-png';
import { validateBytes } from 'gltf-validator';
import { describe, expect, it } from 'vitest';
import { blockSolid } from '../block/solid';
import { composeTerrain } from '../earth/compose';
import { terrainMesh } from '../earth/mesh';
import { heightAt, normalAt } from '../earth/sample';
import type { Vec3 } from '../num/vec';
import { testBlock, testLevel } from '../testing/levels';
import { instanceMatrix } from '../cost/instances';
import { assemble } from '../scene/parts';
import { loadSolidKernel } from '../block/loadKernel';
import { PLANT_STRIDE } from '../growth/plants';
import { testAssets } from '../testing/assets';
import { testSpecies } from '../testing/growth';
import { levelGlbStream, levelToGlb } from './glb';
import { joined } from './glbStream';
import { blocksToObj } from './obj';
import { terrainLodsToGlb } from './terrainGlb';
import { groundIndexPng, heightsPng, heightsRaw, weightsPng } from './rasters';
import { contoursSvg } from './contoursSvg';
import { readHeightRaw } from './heightmap';

const level = testLevel(2, 0.5, { seed: 5, height: 3, scale: 30, octaves: 3 });
const wall = testBlock('box', [4.03, 2.4, 0.3], [10.25, 1.001, 10], 33, { name: 'wall, north' });
const ramp = testBlock('ramp', [3, 1.2, 1], [50, -2.5, 5], -90, { name: 'way up' });
for (const b of [wall, ramp, testBlock('box', [1, 1, 1], [1, 1, 1], 0, { out: true })]) level.objects.set(b.id, b);
const terrain = composeTerrain(level);

/** A reader of our own, from the glTF 2.0 text: chunks, accessors, and nodes with translation and rotation. */
function readGlb(bytes: Uint8Array) {
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  expect(view.getUint32(0, true)).toBe(0x46546c67);
  expect(view.getUint32(8, true)).toBe(bytes.length);
  const jsonLength = view.getUint32(12, true);
  const json = JSON.parse(new TextDecoder().decode(bytes.subarray(20, 20 + jsonLength)));
  const bin = bytes.subarray(28 + jsonLength);
  const accessor = (i: number): number[] => {
    const a = json.accessors[i];
    const v = json.bufferViews[a.bufferView];
    const parts = { SCALAR: 1, VEC3: 3 }[a.type as 'SCALAR']!;
    const data = new DataView(bin.buffer, bin.byteOffset + (v.byteOffset ?? 0) + (a.byteOffset ?? 0));
    const size = { 5126: 4, 5125: 4, 5123: 2 }[a.componentType as 5126]!;
    const stride = v.byteStride ?? size * parts;
    return Array.from({ length: a.count * parts }, (_, k) => {
      const at = Math.floor(k / parts) * stride + (k % parts) * size;
      return a.componentType === 5126 ? data.getFloat32(at, true) : size === 4 ? data.getUint32(at, true) : data.getUint16(at, true);
    });
  };
  return json.scenes[json.scene].nodes.map((n: number) => {
    const node = json.nodes[n];
    const p = json.meshes[node.mesh].primitives[0];
    const local = accessor(p.attributes.POSITION);
    const [x, y, z, w] = node.rotation ?? [0, 0, 0, 1];
    const t = node.translation ?? [0, 0, 0];
    const points: Vec3[] = [];
    for (let i = 0; i < local.length; i += 3) {
      const v: Vec3 = [local[i], local[i + 1], local[i + 2]];
      const c = (a: Vec3, b: Vec3): Vec3 => [a[1] * b[2] - a[2] * b[1], a[2] * b[0] - a[0] * b[2], a[0] * b[1] - a[1] * b[0]];
      const q: Vec3 = [x, y, z];
      const uv = c(q, v);
      const uuv = c(q, uv);
      points.push([0, 1, 2].map((k) => v[k] + 2 * (w * uv[k] + uuv[k]) + t[k]) as Vec3);
    }
    return { name: node.name as string, scale: node.scale, points, indices: accessor(p.indices) };
  }) as { name: string; scale?: number[]; points: Vec3[]; indices: number[] }[];
}

describe('the terrain by levels of detail', () => {
  it('has no fault for the validator; each LOD is the heights at its own samples, halved each time', async () => {
    const { glb, lods } = await terrainLodsToGlb(terrain);
    const report = await validateBytes(glb);
    expect(report.issues.messages.filter((m) => m.severity < 2)).toEqual([]);
    expect(lods.map((l) => [l.name, l.stride, l.triangles])).toEqual([1, 2, 4, 8, 16, 32].map((s, i) => [`terrain_LOD${i}`, s, (128 / s) ** 2 * 2]));
    const { json, floats } = split(glb);
    json.meshes.forEach((mesh: any, i: number) => {
      const p = floats(mesh.primitives[0].attributes.POSITION);
      const w = 128 / lods[i].stride + 1;
      for (const [x, z] of [
        [0, 0],
        [w - 1, 0],
        [1, 2],
        [w - 1, w - 1],
      ]) {
        const at = (z * w + x) * 3;
        expect(p.slice(at, at + 3)).toEqual(
          [x * lods[i].stride * 0.5, terrain.heights[z * lods[i].stride * 129 + x * lods[i].stride], z * lods[i].stride * 0.5].map(Math.fround),
        );
      }
      expect(json.accessors[mesh.primitives[0].attributes.TEXCOORD_0]).toMatchObject({ type: 'VEC2', count: w * w });
    });
  });
});

describe('the GLB of a level', () => {
  it('comes in pieces of a few rows, which together are the file it says; the terrain is its mesh', async () => {
    const { bytes, chunks } = await levelGlbStream(level, terrain);
    const pieces = [...chunks()];
    expect(pieces.reduce((sum, p) => sum + p.length, 0)).toBe(bytes);
    expect(Math.max(...pieces.map((p) => p.length))).toBeLessThanOrEqual(32 * 128 * 6 * 4);
    const whole = joined({ bytes, chunks });
    expect(whole).toEqual(await levelToGlb(level, terrain));
    const mesh = terrainMesh(terrain);
    const { json, floats } = split(whole);
    const { attributes } = json.meshes[json.nodes.find((n: any) => n.name === 'terrain').mesh].primitives[0];
    expect(floats(attributes.POSITION)).toEqual([...mesh.positions]);
    expect(readGlb(whole).find((n) => n.name === 'terrain')!.indices).toEqual([...mesh.indices]);
    const normals = floats(attributes.NORMAL);
    for (const i of [0, 64, 129 * 70 + 33, 129 * 129 - 1])
      expect(normals.slice(i * 3, i * 3 + 3)).toEqual(normalAt(terrain, mesh.positions[i * 3], mesh.positions[i * 3 + 2]).map(Math.fround));
  });

  it('has no fault for the Khronos validator', async () => {
    const report = await validateBytes(await levelToGlb(level, terrain));
    expect({ errors: report.issues.numErrors, warnings: report.issues.numWarnings, messages: report.issues.messages.filter((m) => m.severity < 2) }).toEqual({
      errors: 0,
      warnings: 0,
      messages: [],
    });
  });

  it('read back by another reader is the level to a millimetre: names, metres, no scale', async () => {
    const nodes = readGlb(await levelToGlb(level, terrain));
    expect(nodes.map((n) => n.name)).toEqual(['terrain', 'wall, north', 'way up']);
    for (const block of [wall, ramp]) {
      const node = nodes.find((n) => n.name === block.name)!;
      expect(node.scale).toBeUndefined();
      const corners = blockSolid(block).corners;
      for (const p of node.points) expect(Math.min(...corners.map((c) => Math.hypot(c[0] - p[0], c[1] - p[1], c[2] - p[2])))).toBeLessThan(0.001);
      for (const c of corners) expect(Math.min(...node.points.map((p) => Math.hypot(c[0] - p[0], c[1] - p[1], c[2] - p[2])))).toBeLessThan(0.001);
    }
    const ground = nodes[0];
    expect(ground.points).toHaveLength(129 * 129);
    expect(ground.indices).toHaveLength(128 * 128 * 6);
    for (const p of ground.points) expect(Math.abs(p[1] - heightAt(terrain, p[0], p[2]))).toBeLessThan(0.001);
  });
});

describe('the GLB of a level with pieces and plants', async () => {
  const full = testLevel(2, 0.5, { seed: 5, height: 1, scale: 30, octaves: 2 });
  for (const name of ['stair', 'birch'])
    full.objects.set(name, { id: name, version: 1, kind: 'asset', name, role: name === 'stair' ? 'piece' : 'plant', hash: '0'.repeat(64) });
  full.objects.set('p1', {
    id: 'p1',
    version: 1,
    kind: 'piece',
    name: 'way up',
    asset: 'stair',
    at: [20, 1.25, 30],
    turn: -37,
    sink: 0,
    collider: 'asset',
    hidden: false,
    out: false,
  });
  full.objects.set('species', {
    ...testSpecies('birch', 0, { density: 2, lean: 20, rule: { on: true, slope: [0, 80], height: [-99, 99], soft: 0, grounds: [] } }),
    id: 'species',
  });
  const parts = await assemble(full, testAssets());
  const plants = parts.grown[0];

  it('plain and instanced has no fault for the Khronos validator', async () => {
    for (const instanced of [false, true]) {
      const report = await validateBytes(await levelToGlb(full, parts.terrain, { parts, instanced }));
      expect([instanced, report.issues.numErrors, report.issues.messages.filter((m) => m.severity === 0)]).toEqual([instanced, 0, []]);
    }
  });

  it('plain: every plant and piece a node with its own pose, meshes shared', async () => {
    const { json } = split(await levelToGlb(full, parts.terrain, { parts }));
    const nodes = json.nodes as { name: string; mesh: number; translation?: number[]; scale?: number[] }[];
    const birches = nodes.filter((n) => n.name.startsWith('birch '));
    expect(birches).toHaveLength(plants.count);
    expect(new Set(birches.map((n) => n.mesh)).size).toBe(1);
    birches.forEach((n, i) => {
      for (let k = 0; k < 3; k++) expect(n.translation![k]).toBeCloseTo(plants.place[i * PLANT_STRIDE + k], 4);
      expect(n.scale![1]).toBeCloseTo(plants.place[i * PLANT_STRIDE + 4], 5);
    });
    expect(nodes.find((n) => n.name === 'way up')!.translation).toEqual([20, 1.25, 30]);
  });

  it('instanced: poses read back by another reader are those of the view, trunk and all', async () => {
    const { json, floats } = split(await levelToGlb(full, parts.terrain, { parts, instanced: true }));
    expect(json.extensionsRequired).toEqual(['EXT_mesh_gpu_instancing']);
    const node = json.nodes.find((n: any) => n.name === 'birch');
    const { TRANSLATION, ROTATION, SCALE } = node.extensions.EXT_mesh_gpu_instancing.attributes;
    const [at, q, scale] = [floats(TRANSLATION), floats(ROTATION), floats(SCALE)];
    expect(at).toHaveLength(plants.count * 3);
    const wanted = new Float32Array(16);
    for (let i = 0; i < plants.count; i++) {
      const [x, y, z, turn, tall, wide, lean, to] = plants.place.subarray(i * PLANT_STRIDE, (i + 1) * PLANT_STRIDE);
      // Bit for bit where nothing is turned.
      expect([...at.slice(i * 3, i * 3 + 3), scale[i * 3], scale[i * 3 + 1]]).toEqual([x, y, z, wide, tall]);
      instanceMatrix(wanted, 0, { at: [x, y, z], turn, tall, wide, lean, leanTo: to });
      const [a, b, c, w] = q.slice(i * 4, i * 4 + 4);
      const up = [2 * (a * b - c * w), 1 - 2 * (a * a + c * c), 2 * (b * c + a * w)];
      const along = [1 - 2 * (b * b + c * c), 2 * (a * b + c * w), 2 * (a * c - b * w)];
      for (let k = 0; k < 3; k++) {
        expect(up[k] * tall).toBeCloseTo(wanted[4 + k], 4);
        expect(along[k] * wide).toBeCloseTo(wanted[k], 4);
      }
    }
  });

  it('tells coats with the scene and paint with the piece, which is a node of its own also among instances', async () => {
    const coated = testLevel(2);
    const moss = coatObject.parse({ id: 'moss', kind: 'coat', name: 'moss', order: 0, colour: '#5c6b2e' });
    const stair = parts.assets.get('stair')!;
    const paint = packedPaint(stair, filled(stair, new Map(), 'moss', 200))!;
    coated.objects.set('moss', moss);
    coated.objects.set('stair', full.objects.get('stair')!);
    const first = full.objects.get('p1') as Piece;
    for (const [id, more] of [
      ['bare', {}],
      ['mossy', { paint }],
      ['other', {}],
    ] as const)
      coated.objects.set(id, { ...first, id, name: id, ...more });
    for (const instanced of [false, true]) {
      const { json } = split(await levelToGlb(coated, parts.terrain, { parts: { assets: parts.assets, grown: [], species: [] }, instanced }));
      expect(json.scenes[0].extras.coats).toEqual([moss]);
      expect(json.nodes.find((n: any) => n.name === 'mossy').extras).toEqual({ paint });
      expect(json.nodes.filter((n: any) => n.extras)).toHaveLength(1);
      expect(json.nodes.some((n: any) => n.name === 'bare')).toBe(!instanced);
    }
  });
});

describe('a block that is a mesh', () => {
  it('has its turn in its node, as a plain one has, and waters are there too', async () => {
    const level = testLevel(2);
    const solid = testBlock('box', [6, 3, 0.4], [20, 0, 20], 37);
    const door = testBlock('box', [1, 2, 1], [20, 0, 20], 37, { op: 'void' });
    for (const b of [solid, door]) level.objects.set(b.id, b);
    level.objects.set('pond', {
      id: 'pond',
      version: 1,
      kind: 'water',
      form: 'plane',
      name: 'pond',
      height: 1,
      x0: 40,
      z0: 40,
      x1: 60,
      z1: 60,
      hidden: true,
      out: false,
    });
    const parts = await assemble(level, new Map(), await loadSolidKernel());
    const { json, floats } = split(await levelToGlb(level, parts.terrain, { parts, built: parts.built }));
    const node = json.nodes.find((n: any) => n.name === solid.name);
    expect(node.rotation[1]).toBeCloseTo(Math.sin((37 * Math.PI) / 360), 6);
    expect(node.rotation[3]).toBeCloseTo(Math.cos((37 * Math.PI) / 360), 6);
    // In its own axes it is as long, as high and as thick as it was drawn.
    const p = floats(json.meshes[node.mesh].primitives[0].attributes.POSITION);
    const span = [0, 1, 2].map((k) => {
      const v = [...p].filter((_, i) => i % 3 === k);
      return Math.max(...v) - Math.min(...v);
    });
    expect(span.map((v) => Number(v.toFixed(4)))).toEqual([6, 3, 0.4]);
    const pond = json.nodes.find((n: any) => n.name === 'pond');
    const material = json.materials[json.meshes[pond.mesh].primitives[0].material];
    expect([material.alphaMode, material.name]).toEqual(['BLEND', 'water pond']);
    expect([...floats(json.meshes[pond.mesh].primitives[0].attributes.POSITION)].filter((_, i) => i % 3 === 1).every((y) => Math.abs(y - 1) < 1e-6)).toBe(true);
  });
});

describe('other open files', () => {
  it('OBJ of the blocks: names, metres, faces that name their own corners', () => {
    const text = blocksToObj([wall, ramp]);
    const lines = text.trim().split('\n');
    expect(lines.filter((l) => l.startsWith('o '))).toEqual(['o wall,_north', 'o way_up']);
    const points = lines.filter((l) => l.startsWith('v ')).map((l) => l.slice(2).split(' ').map(Number));
    expect(points).toHaveLength(8 + 6);
    for (const c of blockSolid(wall).corners) expect(Math.min(...points.map((p) => Math.hypot(p[0] - c[0], p[1] - c[1], p[2] - c[2])))).toBeLessThan(0.001);
    const faces = lines.filter((l) => l.startsWith('f ')).map((l) => l.slice(2).split(' ').map(Number));
    expect(
      faces
        .slice(6)
        .flat()
        .every((i) => i >= 9 && i <= 14),
    ).toBe(true);
  });

  it('heights as RAW come back within one step, contours by their heights', () => {
    const { raw, sidecar } = heightsRaw(terrain);
    const read = readHeightRaw('h.raw', raw, sidecar.width, sidecar.height, false);
    if (!read.ok) throw new Error(read.message);
    const step = (sidecar.high - sidecar.low) / 65_535;
    expect(read.value.values.every((v, i) => Math.abs(sidecar.low + v * (sidecar.high - sidecar.low) - terrain.heights[i]) <= step)).toBe(true);
    const svg = contoursSvg(terrain, 0.5);
    const said = [...svg.matchAll(/data-height="(-?[\d.]+)"/g)].map((m) => Number(m[1]));
    expect(said).toEqual([...said].sort((a, b) => a - b));
    expect(said[0]).toBeGreaterThanOrEqual(sidecar.low);
    expect(said[said.length - 1]).toBeLessThanOrEqual(sidecar.high);
    expect(svg).toContain(`viewBox="0 0 ${terrain.grid.width} ${terrain.grid.depth}"`);
  });

  it('heights as 16-bit PNG come back within one step, weights as they are', async () => {
    const { png, sidecar } = heightsPng(terrain);
    const image = decode(png);
    expect([image.width, image.height, image.depth]).toEqual([129, 129, 16]);
    const step = (sidecar.high - sidecar.low) / 65535;
    for (let i = 0; i < terrain.heights.length; i++)
      if (Math.abs(sidecar.low + (image.data[i] / 65535) * (sidecar.high - sidecar.low) - terrain.heights[i]) > step) throw new Error(`sample ${i}`);
    const { ground } = await assemble(level, new Map());
    const w = weightsPng(ground);
    expect(Buffer.compare(Buffer.from(decode(w.pngs[0]).data), Buffer.from(ground.weights))).toBe(0);
    expect(w.sidecar.channels).toEqual(['turf', 'slate', 'gravel', 'moss']);
    const index = groundIndexPng(ground);
    const of = decode(index.png).data;
    for (let i = 0; i < of.length; i++) expect(ground.weights[i * 4 + of[i]]).toBe(Math.max(...ground.weights.subarray(i * 4, i * 4 + 4)));
    expect(index.sidecar.names).toEqual(['turf', 'slate', 'gravel', 'moss']);
  });
});

/** JSON and float accessors of a GLB. */
function split(bytes: Uint8Array): { json: any; floats(accessor: number): number[] } {
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  const length = view.getUint32(12, true);
  const json = JSON.parse(new TextDecoder().decode(bytes.subarray(20, 20 + length)));
  return {
    json,
    floats(i) {
      const a = json.accessors[i];
      const v = json.bufferViews[a.bufferView];
      const n = { VEC3: 3, VEC4: 4 }[a.type as 'VEC3']!;
      const start = 28 + length + (v.byteOffset ?? 0) + (a.byteOffset ?? 0);
      const stride = v.byteStride ?? n * 4;
      return Array.from({ length: a.count * n }, (_, k) => view.getFloat32(start + Math.floor(k / n) * stride + (k % n) * 4, true));
    },
  };
}
