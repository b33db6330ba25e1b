import { BoxGeometry, BufferAttribute, BufferGeometry, CylinderGeometry, Mesh, MeshBasicMaterial, SphereGeometry } from 'three';
import { mergeGeometries } from 'three/examples/jsm/utils/BufferGeometryUtils.js';
import type { BodyFigures } from '@rammer/core/body/bodies';

/** The figure of a body at true scale: two-legged, or four-legged where it is longer than tall. */
export function figureMesh(body: BodyFigures): Mesh<BufferGeometry, MeshBasicMaterial> {
  const { height: h, radius: r } = body;
  const parts: BufferGeometry[] = [];
  const put = (g: BufferGeometry, x: number, y: number, z: number, shade: number) => {
    g.translate(x, y, z);
    const n = g.getAttribute('position').count;
    const colour = new Float32Array(n * 3);
    const normal = g.getAttribute('normal');
    for (let i = 0; i < n; i++) {
      const l = shade * (0.72 + 0.28 * normal.getY(i) + 0.1 * normal.getX(i));
      colour.set([0.7 * l, 0.25 * l, 0.165 * l], i * 3);
    }
    g.setAttribute('color', new BufferAttribute(colour, 3));
    g.deleteAttribute('uv');
    parts.push(g);
  };
  const w = Math.min(r, h * 0.16);
  if (body.crouched === undefined) {
    put(new BoxGeometry(w * 1.1, h * 0.42, h * 1.05), 0, h * 0.62, 0, 1);
    for (const [x, z] of [
      [-1, -1],
      [1, -1],
      [-1, 1],
      [1, 1],
    ])
      put(new CylinderGeometry(w * 0.2, w * 0.16, h * 0.45, 5), x * w * 0.4, h * 0.225, z * h * 0.42, 0.9);
    put(new SphereGeometry(w * 0.6, 6, 5), 0, h * 0.86, -h * 0.62, 1.1);
  } else {
    put(new CylinderGeometry(w * 0.72, w * 0.5, h * 0.34, 7), 0, h * 0.66, 0, 1);
    put(new CylinderGeometry(w * 0.26, w * 0.2, h * 0.5, 6), -w * 0.34, h * 0.25, 0, 0.9);
    put(new CylinderGeometry(w * 0.26, w * 0.2, h * 0.5, 6), w * 0.34, h * 0.25, 0, 0.9);
    put(new CylinderGeometry(w * 0.17, w * 0.15, h * 0.36, 5), -w * 0.84, h * 0.62, 0, 0.95);
    put(new CylinderGeometry(w * 0.17, w * 0.15, h * 0.36, 5), w * 0.84, h * 0.62, 0, 0.95);
    put(new SphereGeometry(h * 0.068, 8, 6), 0, h * 0.93, 0, 1.15);
  }
  const mesh = new Mesh(mergeGeometries(parts), new MeshBasicMaterial({ vertexColors: true }));
  mesh.frustumCulled = false;
  return mesh;
}

/** The graduated staff: five metres, a band each half metre. */
export function staffMesh(): Mesh {
  const parts: BufferGeometry[] = [];
  for (let i = 0; i < 10; i++) {
    const g = new BoxGeometry(0.12, 0.5, 0.12);
    g.translate(0, i * 0.5 + 0.25, 0);
    const n = g.getAttribute('position').count;
    const c = i % 2 === 0 ? [0.96, 0.96, 0.94] : [0.68, 0.23, 0.15];
    const colour = new Float32Array(n * 3);
    for (let k = 0; k < n; k++) colour.set(c, k * 3);
    g.setAttribute('color', new BufferAttribute(colour, 3));
    parts.push(g);
  }
  const mesh = new Mesh(mergeGeometries(parts), new MeshBasicMaterial({ vertexColors: true }));
  mesh.frustumCulled = false;
  return mesh;
}
