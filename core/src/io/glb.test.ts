import { validateBytes } from 'gltf-validator';
import { describe, expect, it } from 'vitest';
import { blockSolid } from '../block/solid';
import { composeTerrain } from '../earth/compose';
import { heightAt } from '../earth/sample';
import type { Vec3 } from '../num/vec';
import { testBlock, testLevel } from '../testing/levels';
import { levelToGlb } from './glb';

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

describe('the GLB of a level', () => {
  it('has no fault for the Khronos validator', async () => {
    const report = await validateBytes(await levelToGlb(level, terrain));
    expect({ errors: report.issues.numErrors, warnings: report.issues.numWarnings, messages: report.issues.messages.filter((m) => m.severity < 2) }).toEqual({ errors: 0, warnings: 0, messages: [] });
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
