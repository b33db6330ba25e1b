import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { cameraOf } from '@rammer/core/cost/camera';
import type { Block, Pose } from '@rammer/core/level/objects';
import { add, distance, scale, type Vec3 } from '@rammer/core/num/vec';
import { layoutDimensions } from './dimensions';
import { project, rayAlongAxis, rayAt, rayPlane } from './project';
import { changeView, lookBy, orbitBy, panBy, poseFromText, poseToText, zoomBy } from './rig';

const W = 800;
const H = 600;
const pose = fc.record({
  view: fc.constantFrom('plan' as const, 'orbit' as const, 'stand' as const),
  target: fc.tuple(fc.double({ min: 0, max: 100, noNaN: true }), fc.double({ min: -5, max: 20, noNaN: true }), fc.double({ min: 0, max: 100, noNaN: true })),
  yaw: fc.double({ min: 0, max: 359, noNaN: true }),
  pitch: fc.double({ min: -80, max: 15, noNaN: true }),
  distance: fc.double({ min: 5, max: 200, noNaN: true }),
}) as fc.Arbitrary<Pose>;
const block: Block = { id: 'b', version: 1, kind: 'block', name: 'b', shape: 'box', size: [6, 2.5, 4], at: [50, 0, 50], turn: 20, hidden: false, out: false };

describe('projection', () => {
  it('sends the ray of a pixel through that pixel', () => {
    fc.assert(
      fc.property(
        pose,
        fc.double({ min: 1, max: W - 1, noNaN: true }),
        fc.double({ min: 1, max: H - 1, noNaN: true }),
        fc.double({ min: 3, max: 150, noNaN: true }),
        (p, x, y, t) => {
          const camera = cameraOf(p, W / H, 1.65);
          const { origin, direction } = rayAt(camera, W, H, x, y);
          const s = project(camera, W, H, add(origin, scale(direction, t)))!;
          expect(s.x).toBeCloseTo(x, 4);
          expect(s.y).toBeCloseTo(y, 4);
        },
      ),
    );
  });

  it('has nothing behind the eye', () => {
    const camera = cameraOf({ view: 'stand', target: [0, 0, 0], yaw: 0, pitch: 0, distance: 10 }, 1, 1.65);
    expect(project(camera, W, H, [0, 1, 5])).toBeUndefined();
    expect(project(camera, W, H, [0, 1, -5])).toBeDefined();
  });

  it('finds the point of a plane and of an axis under a ray', () => {
    const ray = { origin: [0, 10, 0] as Vec3, direction: [0.6, -0.8, 0] as Vec3 };
    expect(rayPlane(ray, [0, 2, 0], [0, 1, 0])).toEqual([6, 2, 0].map((v) => expect.closeTo(v, 9)));
    expect(rayPlane(ray, [0, 12, 0], [0, 1, 0])).toBeUndefined();
    expect(rayAlongAxis(ray, [0, 2, 0], [1, 0, 0])).toBeCloseTo(6, 9);
    expect(rayAlongAxis(ray, [0, 0, 0], [0.6, -0.8, 0])).toBeUndefined();
  });
});

describe('the rig', () => {
  it('orbits at one distance, looks from one place, zooms towards the pointer', () => {
    fc.assert(
      fc.property(pose, fc.integer({ min: -200, max: 200 }), fc.integer({ min: -200, max: 200 }), (p0, dx, dy) => {
        const p: Pose = { ...p0, view: 'orbit' };
        const eye = (q: Pose) => cameraOf(q, 1, 1.65).eye;
        expect(distance(eye(orbitBy(p, dx, dy)), p.target)).toBeCloseTo(p.distance, 6);
        expect(distance(eye(lookBy(p, dx, dy)), eye(p))).toBeLessThan(1e-6);
        const at: Vec3 = [40, 0, 40];
        const z = zoomBy(p, 0.5, at);
        expect(distance(eye(z), at)).toBeCloseTo(distance(eye(p), at) / 2, 5);
      }),
    );
  });

  it('keeps what was under the pointer under it when panned in Plan', () => {
    const p: Pose = { view: 'plan', target: [50, 0, 50], yaw: 0, pitch: -90, distance: 60 };
    const before = project(cameraOf(p, W / H, 1.65), W, H, [55, 0, 45])!;
    const after = project(cameraOf(panBy(p, 30, -20, 60 / H), W / H, 1.65), W, H, [55, 0, 45])!;
    expect([after.x - before.x, after.y - before.y].map((v) => Math.round(v))).toEqual([30, -20]);
  });

  it('writes a pose into a link and reads it back', () => {
    fc.assert(
      fc.property(pose, (p) => {
        const back = poseFromText(poseToText(p))!;
        expect(back.view).toBe(p.view);
        expect(distance(back.target, p.target)).toBeLessThan(0.01);
        expect(Math.abs(back.yaw - p.yaw)).toBeLessThan(0.06);
      }),
    );
    for (const bad of [null, '', 'orbit', 'orbit_1_2_3', 'walk_1_2_3_4_5_6', 'orbit_1_2_3_4_5_x', 'orbit_1_2_3_4_5_-6'])
      expect(poseFromText(bad)).toBeUndefined();
  });

  it('keeps the place looked at when the view changes', () => {
    const terrain = {
      grid: { tilesX: 2, tilesZ: 2, spacing: 0.5, nx: 129, nz: 129, width: 64, depth: 64 },
      heights: new Float32Array(129 * 129).fill(3),
      noise: new Map(),
    } as never;
    const orbit: Pose = { view: 'orbit', target: [20, 1, 30], yaw: 50, pitch: -30, distance: 40 };
    const stand = changeView(orbit, 'stand', terrain);
    expect(stand).toMatchObject({ view: 'stand', target: [20, 3, 30], yaw: 50 });
    expect(changeView(stand, 'plan', terrain).target).toEqual([20, 3, 30]);
    expect(changeView(orbit, 'orbit', terrain)).toBe(orbit);
  });
});

describe('dimension lines', () => {
  it('lie outside the silhouette, their labels apart and inside the view, at any pose', () => {
    let drawn = 0;
    fc.assert(
      fc.property(
        fc.double({ min: 0, max: 359, noNaN: true }),
        fc.double({ min: -80, max: -5, noNaN: true }),
        fc.double({ min: 9, max: 60, noNaN: true }),
        (yaw, pitch, away) => {
          const camera = cameraOf({ view: 'orbit', target: [50, 1, 50], yaw, pitch, distance: away }, W / H, 1.65);
          const dims = layoutDimensions(block, (p) => project(camera, W, H, p), W, H);
          drawn += dims.length;
          expect(new Set(dims.map((d) => d.field)).size).toBe(dims.length);
          for (const d of dims) {
            expect(d.value).toBe(block.size[{ length: 0, height: 1, width: 2 }[d.field]]);
            expect(d.label[0]).toBeGreaterThan(0);
            expect(d.label[0]).toBeLessThan(W);
            for (const o of dims) if (o !== d) expect(Math.abs(o.label[0] - d.label[0]) > 44 || Math.abs(o.label[1] - d.label[1]) > 20).toBe(true);
          }
        },
      ),
      { numRuns: 60 },
    );
    expect(drawn).toBeGreaterThan(120);
  });
});
