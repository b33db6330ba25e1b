import { InstancedBufferAttribute, type InstancedMesh } from 'three';
import type { Vec3 } from '@rammer/core/num/vec';

/** What an instance has of its own, in the order it came in. */
interface Own {
  attribute: InstancedBufferAttribute;
  given: Float32Array;
}

/** Keeps what each instance has as it came, and gives the mesh bytes of its own that can be put in order. */
export function orderable(mesh: InstancedMesh): void {
  const own: Own[] = [];
  const keep = (attribute: InstancedBufferAttribute): InstancedBufferAttribute => {
    const mine = new InstancedBufferAttribute((attribute.array as Float32Array).slice(), attribute.itemSize);
    own.push({ attribute: mine, given: attribute.array as Float32Array });
    return mine;
  };
  mesh.instanceMatrix = keep(mesh.instanceMatrix);
  if (mesh.instanceColor) mesh.instanceColor = keep(mesh.instanceColor);
  const shift = mesh.geometry.getAttribute('shift');
  if (shift instanceof InstancedBufferAttribute) mesh.geometry.setAttribute('shift', keep(shift));
  mesh.userData.own = own;
}

/** Puts the instances of a mesh in order, the farthest from the eye first; nothing where they are. */
export function farthestFirst(mesh: InstancedMesh, eye: Vec3): void {
  const own = mesh.userData.own as Own[] | undefined;
  if (!own || mesh.count < 2) return;
  const { given: m } = own[0];
  const away = Float32Array.from({ length: mesh.count }, (_, i) => Math.hypot(m[i * 16 + 12] - eye[0], m[i * 16 + 13] - eye[1], m[i * 16 + 14] - eye[2]));
  const order = Array.from(away.keys()).sort((a, b) => away[b] - away[a] || a - b);
  const key = order.join();
  if (mesh.userData.order === key) return;
  mesh.userData.order = key;
  for (const { attribute, given } of own) {
    const n = attribute.itemSize;
    order.forEach((from, to) => attribute.array.set(given.subarray(from * n, from * n + n), to * n));
    attribute.needsUpdate = true;
  }
}
