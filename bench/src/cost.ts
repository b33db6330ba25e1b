import { CELL } from '@rammer/core/block/grid';
import { batchList } from '@rammer/core/cost/batches';
import type { Drawable } from '@rammer/core/cost/drawable';
import { instanceLod } from '@rammer/core/cost/lods';
import { tally } from '@rammer/core/cost/tally';
import { boxInFrustum, cameraOf, frustumPlanes } from '@rammer/core/cost/camera';
import { hashUnit } from '@rammer/core/num/hash';
import type { Vec3 } from '@rammer/core/num/vec';
import type { Pair } from './measure';

const SIDE = 1024;
const PLANTS = 1_000_000;
const RADIUS = 0.4;
const TRIANGLES = [152, 24, 8, 5];

/** One view of a million plants counted by cell, against every plant looked at by the same rule. */
export function costPairs(): (() => Pair)[] {
  return [
    () => {
      const cells = SIDE / CELL;
      const counts = new Int32Array(cells * cells);
      const cellOf = new Int32Array(PLANTS);
      const at = new Float32Array(PLANTS * 3);
      for (let i = 0; i < PLANTS; i++) {
        const x = hashUnit(1, i) * SIDE;
        const z = hashUnit(2, i) * SIDE;
        at.set([x, 8 * Math.sin(x / 90) * Math.cos(z / 70), z], i * 3);
        cellOf[i] = Math.floor(z / CELL) * cells + Math.floor(x / CELL);
        counts[cellOf[i]]++;
      }
      const drawables: Drawable[] = Array.from(counts, (n, c): Drawable => {
        const x = (c % cells) * CELL;
        const z = Math.floor(c / cells) * CELL;
        return {
          key: `plants/${c}`,
          course: 'plants',
          of: 'heather',
          min: [x, -8, z],
          max: [x + CELL, 8.6, z + CELL],
          triangles: TRIANGLES,
          vertices: TRIANGLES,
          draws: [1, 1, 1, 1],
          instances: n,
          radius: RADIUS,
          cutoff: 0,
          casts: false,
          alphaArea: [0, 0, 0, 0],
          bytes: 0,
        };
      });
      const camera = cameraOf({ view: 'orbit', target: [512, 0, 512], yaw: 30, pitch: -25, distance: 300 }, 16 / 9, 1.65);
      const byCell = () => tally(batchList(drawables, camera, 1, 1)).all.triangles;
      const byPlant = () => {
        const planes = frustumPlanes(camera);
        let triangles = 0;
        for (let i = 0; i < PLANTS; i++) {
          const d = drawables[cellOf[i]];
          if (!boxInFrustum(planes, d.min, d.max)) continue;
          triangles += TRIANGLES[instanceLod(TRIANGLES.length, RADIUS, distanceTo(camera.eye, d.min, d.max), { fov: camera.fov, halfHeight: 0 }, 1)];
        }
        return triangles;
      };
      const [a, b] = [byCell(), byPlant()];
      if (Math.abs(a - b) > 0.02 * b) throw new Error(`by cell ${a} triangles, by plant ${b}`);
      // For the note: how far the rule by cell is from each plant judged by its own place.
      const planes = frustumPlanes(camera);
      let own = 0;
      for (let i = 0; i < PLANTS; i++) {
        const p: Vec3 = [at[i * 3], at[i * 3 + 1], at[i * 3 + 2]];
        if (boxInFrustum(planes, [p[0] - RADIUS, p[1], p[2] - RADIUS], [p[0] + RADIUS, p[1] + 0.6, p[2] + RADIUS]))
          own += TRIANGLES[instanceLod(TRIANGLES.length, RADIUS, distanceTo(camera.eye, p, p), { fov: camera.fov, halfHeight: 0 }, 1)];
      }
      return {
        name: 'cost/view',
        target: 50,
        pairs: 7,
        note:
          `a million plants in ${cells * cells} cells: ${a} triangles either way; each plant ` +
          `judged by its own place and not its cell's gives ${own} (${((a / own - 1) * 100).toFixed(1)} %)`,
        ours: () => {
          byCell();
        },
        baseline: () => {
          byPlant();
        },
      };
    },
  ];
}

function distanceTo(p: Vec3, min: Vec3, max: Vec3): number {
  let sum = 0;
  for (let k = 0; k < 3; k++) {
    const d = p[k] - Math.min(Math.max(p[k], min[k]), max[k]);
    sum += d * d;
  }
  return Math.sqrt(sum);
}
