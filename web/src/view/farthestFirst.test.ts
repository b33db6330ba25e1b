import { BufferGeometry, InstancedBufferAttribute, InstancedMesh, ShaderMaterial } from 'three';
import { describe, expect, it } from 'vitest';
import { farthestFirst, orderable } from './farthestFirst';

describe('panes that are seen through', () => {
  const at = [4, 1, 3, 2];
  const made = () => {
    const matrices = new Float32Array(16 * at.length);
    at.forEach((z, i) => matrices.set([1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1, 0, 0, 0, z, 1], i * 16));
    const mesh = new InstancedMesh(new BufferGeometry(), new ShaderMaterial(), 0);
    mesh.instanceMatrix = new InstancedBufferAttribute(matrices, 16);
    mesh.instanceColor = new InstancedBufferAttribute(Float32Array.from(at.flatMap((z) => [z, 0, 0])), 3);
    mesh.geometry.setAttribute('shift', new InstancedBufferAttribute(Float32Array.from(at.flatMap((z) => [0, z, 0])), 3));
    mesh.count = at.length;
    orderable(mesh);
    return { mesh, matrices };
  };
  const order = (mesh: InstancedMesh) => [0, 1, 2, 3].map((i) => mesh.instanceMatrix.array[i * 16 + 14]);

  it('are drawn the farthest first from either side, their colours and shifts with them', () => {
    const { mesh, matrices } = made();
    const before = matrices.slice();
    farthestFirst(mesh, [0, 0, 0]);
    expect(order(mesh)).toEqual([4, 3, 2, 1]);
    farthestFirst(mesh, [0, 0, 9]);
    expect(order(mesh)).toEqual([1, 2, 3, 4]);
    expect([0, 1, 2, 3].map((i) => mesh.instanceColor!.array[i * 3])).toEqual([1, 2, 3, 4]);
    expect([0, 1, 2, 3].map((i) => mesh.geometry.getAttribute('shift').array[i * 3 + 1])).toEqual([1, 2, 3, 4]);
    // The cell's own matrices stay as they are: others read them.
    expect(matrices).toEqual(before);
  });

  it('are sent again only when their order is another', () => {
    const { mesh } = made();
    farthestFirst(mesh, [0, 0, 0]);
    const { version } = mesh.instanceMatrix;
    farthestFirst(mesh, [0, 0, 0.1]);
    expect(mesh.instanceMatrix.version).toBe(version);
    farthestFirst(mesh, [0, 0, 2.4]);
    expect(mesh.instanceMatrix.version).toBe(version + 1);
  });
});
