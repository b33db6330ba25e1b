import type { Asset } from '@rammer/core/kit/asset';
import { boxMesh } from '@rammer/core/kit/assetMesh';
import { hashUnit } from '@rammer/core/num/hash';
import { fractal } from '@rammer/core/num/tiling';
import { sinCosDeg } from '@rammer/core/num/trig';
import type { Vec3 } from '@rammer/core/num/vec';
import { assemble, type Made } from './form/assemble';
import { Form, type BoxLook } from './form/form';
import { frames, moved, turned } from './form/frame';

const prop = (said: Omit<Made, 'role' | 'lods'>, count: number, build: (lod: number) => Form) =>
  assemble({ role: 'prop', ...said, lods: Array.from({ length: count }, (_, i) => build(i)) });
const wood = (lod: number, grain: number, stuff = 'timber', bevel = 0.006): BoxLook => ({ stuff, grain, bevel: lod === 0 ? bevel : 0 });
const metal = (lod: number, bevel = 0.004): BoxLook => ({ stuff: 'iron', bevel: lod === 0 ? bevel : 0 });

/** Boards in a frame, a hand's breadth apart from being full. */
const crate = () =>
  prop({ name: 'crate', collider: 'box', tags: ['crate'], real: [0.6, 1] }, 3, (lod) => {
    const form = new Form();
    if (lod === 2) return form.box([-0.4, 0, -0.4], [0.4, 0.8, 0.4], wood(2, 1));
    for (const turn of [0, 90, 180, 270])
      form.in(turned('y', turn), (f) => {
        for (let i = 0; i < 5; i++) {
          const [a, b] = [0.02 + i * 0.152, 0.02 + (i + 1) * 0.152];
          f.box([-0.385, a + 0.003, 0.36], [0.385, b - 0.003, 0.38], { ...wood(lod, i + turn), skip: ['north'] });
        }
        for (const x of [-0.4, 0.31]) f.box([x, 0, 0.378], [x + 0.09, 0.8, 0.402], wood(lod, 40 + turn));
        for (const y of [0, 0.71]) f.box([-0.31, y, 0.378], [0.31, y + 0.09, 0.4], wood(lod, 50 + turn + y * 10));
        f.in(frames(moved(0, 0.4, 0.388), turned('z', 45)), (g) =>
          g.box([-0.42, -0.045, -0.01], [0.42, 0.045, 0.008], { ...wood(lod, 60 + turn), skip: ['north'] }),
        );
      });
    for (let i = 0; i < 6; i++)
      form.box([-0.38 + i * 0.1267 + 0.002, 0.765, -0.38], [-0.38 + (i + 1) * 0.1267 - 0.002, 0.785, 0.38], { ...wood(lod, 70 + i), skip: ['bottom'] });
    form.box([-0.36, 0.01, -0.36], [0.36, 0.03, 0.36], wood(1, 9));
    return form;
  });

const barrel = () =>
  prop({ name: 'barrel', collider: 'cylinder', tags: ['barrel'], real: [0.7, 1.1] }, 3, (lod) => {
    const sides = [24, 14, 8][lod];
    const bulge = (y: number) => 0.25 + 0.07 * Math.sin((y / 0.9) * Math.PI);
    const rows = lod === 0 ? 10 : lod === 1 ? 6 : 3;
    const form = new Form();
    const profile = Array.from({ length: rows + 1 }, (_, i): [number, number] => [bulge((0.9 * i) / rows), (0.9 * i) / rows]);
    form.turned([[0, 0.03], [0.235, 0.03], [0.235, 0], ...profile, [0.235, 0.9], [0.235, 0.865], [0, 0.865]], sides, 'tarred timber', { along: true });
    for (const y of lod < 2 ? [0.06, 0.24, 0.62, 0.8] : [])
      form.turned(
        [
          [bulge(y) - 0.004, y],
          [bulge(y) + 0.006, y + 0.002],
          [bulge(y + 0.045) + 0.006, y + 0.043],
          [bulge(y + 0.045) - 0.004, y + 0.045],
        ],
        sides,
        'iron',
        { seed: y * 10 },
      );
    if (lod === 0)
      form.in(frames(moved(0, 0.46, 0.318), turned('x', 90)), (f) =>
        f.turned(
          [
            [0.035, 0],
            [0.03, 0.025],
            [0, 0.028],
          ],
          8,
          'tarred timber',
        ),
      );
    return form;
  });

/** A tub for slate on four wheels, of the gauge of the tramway; it runs along x. */
const wagon = () =>
  prop({ name: 'wagon', collider: 'parts', tags: ['wagon'], real: [1, 1.6], colliders: [boxMesh([-0.85, 0, -0.5], [0.85, 1.25, 0.5])] }, 3, (lod) => {
    const form = new Form();
    const boards = lod === 0 ? 5 : 1;
    for (let i = 0; i < boards; i++) {
      const [a, b] = [0.52 + (0.68 * i) / boards, 0.52 + (0.68 * (i + 1)) / boards];
      for (const z of [-0.48, 0.44]) form.box([-0.8, a + 0.003, z], [0.8, b - 0.003, z + 0.04], wood(lod, i + (z > 0 ? 10 : 0), 'tarred timber'));
      for (const x of [-0.8, 0.76]) form.box([x, a + 0.003, -0.44], [x + 0.04, b - 0.003, 0.44], wood(lod, 20 + i + (x > 0 ? 10 : 0), 'tarred timber'));
    }
    form.box([-0.78, 0.5, -0.46], [0.78, 0.54, 0.46], wood(lod, 3, 'tarred timber'));
    for (const z of [-0.36, 0.28]) form.box([-0.95, 0.34, z], [0.95, 0.5, z + 0.08], wood(lod, 5, 'tarred timber', 0.01));
    if (lod < 2) {
      for (const x of [-0.45, 0.45]) for (const z of [-0.495, 0.48]) form.box([x - 0.03, 0.36, z], [x + 0.03, 1.22, z + 0.015], metal(lod));
      for (const [x, z] of [
        [-0.81, -0.49],
        [0.77, -0.49],
        [-0.81, 0.45],
        [0.77, 0.45],
      ])
        form.box([x, 0.5, z], [x + 0.04, 1.24, z + 0.04], metal(lod));
      for (const x of [-0.99, 0.95]) form.box([x, 0.36, -0.08], [x + 0.04, 0.46, 0.08], metal(lod, 0.01));
    }
    const sides = [20, 10, 6][lod];
    for (const x of [-0.42, 0.42]) {
      form.rod(
        [
          [x, 0.2, -0.46],
          [x, 0.2, 0.46],
        ],
        () => 0.03,
        lod === 0 ? 8 : 4,
        'iron',
        { caps: lod === 0 },
      );
      for (const z of [-0.381, 0.381]) {
        const s = z < 0 ? 1 : -1;
        form.in(frames(moved(x, 0.2, z), turned('x', 90 * s)), (f) =>
          f.turned(
            [
              [0, -0.04],
              [0.18, -0.04],
              [0.19, -0.035],
              [0.19, 0.02],
              [0.225, 0.022],
              [0.225, 0.04],
              [0.05, 0.04],
              [0.045, 0.07],
              [0, 0.07],
            ],
            sides,
            'iron',
          ),
        );
      }
    }
    return form;
  });

const ladder = () =>
  prop({ name: 'ladder', collider: 'box', tags: ['ladder'], real: [2.6, 3.4], baked: 64 }, 2, (lod) => {
    const form = new Form();
    for (const x of [-0.22, 0.22]) form.box([x - 0.03, 0, -0.022], [x + 0.03, 3, 0.022], wood(lod, x > 0 ? 1 : 2, 'timber', 0.008));
    for (let i = 0; i < 10; i++)
      form.rod(
        [
          [-0.2, 0.25 + i * 0.28, 0],
          [0.2, 0.25 + i * 0.28, 0],
        ],
        () => 0.016,
        lod === 0 ? 8 : 4,
        'timber',
        { along: true, seed: i },
      );
    return form;
  });

/** Links of iron hanging from a ring: 1.4 m of it. */
const chain = () =>
  prop({ name: 'chain', collider: 'mesh', tags: ['chain'], real: [1.2, 1.6], baked: 64 }, 3, (lod) => {
    const form = new Form();
    if (lod === 2) return form.box([-0.02, 0, -0.02], [0.02, 1.4, 0.02], metal(2));
    const links = 14;
    const [around, sides] = lod === 0 ? [12, 6] : [6, 3];
    for (let i = 0; i < links; i++)
      form.in(frames(moved(0, 0.07 + i * 0.1, 0), turned('y', i % 2 === 0 ? 12 : 98)), (f) => {
        const line = Array.from({ length: around + 1 }, (_, k): Vec3 => {
          const [s, c] = sinCosDeg((k * 360) / around);
          return [0.036 * c, 0.045 * Math.sign(s) * Math.abs(s) ** 0.7 + 0.022 * s, 0];
        });
        f.rod(line, () => 0.0115, sides, 'iron', { closed: true, seed: i });
      });
    return form;
  });

/** A lantern to be stood or hung. */
const lamp = () =>
  prop({ name: 'lamp', collider: 'box', tags: ['lamp'], real: [0.3, 0.5], baked: 64 }, 2, (lod) => {
    const form = new Form();
    const sides = lod === 0 ? 12 : 6;
    form.turned(
      [
        [0, 0],
        [0.1, 0],
        [0.1, 0.02],
        [0.085, 0.05],
        [0.05, 0.06],
        [0, 0.06],
      ],
      sides,
      'iron',
    );
    form.turned(
      [
        [0.07, 0.26],
        [0.09, 0.265],
        [0.08, 0.29],
        [0.045, 0.32],
        [0.05, 0.34],
        [0.02, 0.365],
        [0, 0.37],
      ],
      sides,
      'iron',
      { seed: 3 },
    );
    for (let i = 0; i < 4; i++) {
      const [s, c] = sinCosDeg(i * 90 + 45);
      form.rod(
        [
          [c * 0.075, 0.05, s * 0.075],
          [c * 0.075, 0.265, s * 0.075],
        ],
        () => 0.006,
        lod === 0 ? 6 : 3,
        'iron',
        { seed: i },
      );
    }
    form.turned(
      [
        [0.055, 0.058],
        [0.064, 0.12],
        [0.062, 0.2],
        [0.045, 0.262],
      ],
      sides,
      'pane',
      { smooth: true },
    );
    form.turned(
      [
        [0, 0.075],
        [0.02, 0.1],
        [0.016, 0.13],
        [0, 0.17],
      ],
      lod === 0 ? 8 : 4,
      'flame',
      { smooth: true },
    );
    if (lod === 0)
      form.rod(
        Array.from({ length: 9 }, (_, k): Vec3 => [-0.07 * Math.cos((k * Math.PI) / 8), 0.32 + 0.12 * Math.sin((k * Math.PI) / 8), 0]),
        () => 0.005,
        5,
        'iron',
      );
    return form;
  });

const sack = () =>
  prop({ name: 'sack', collider: 'hull', tags: ['sack'], real: [0.45, 0.8], baked: 64 }, 3, (lod) => {
    const [sides, rows] = [
      [20, 12],
      [12, 7],
      [7, 4],
    ][lod];
    const form = new Form();
    const girth = (k: number) =>
      k < 0.08 ? 0.2 + k : k < 0.72 ? 0.255 - 0.05 * (k - 0.35) ** 2 : k < 0.86 ? 0.25 - (k - 0.72) * 1.35 : 0.06 + (k - 0.86) * 0.5;
    const lumpy = ([x, y, z]: Vec3): Vec3 => {
      const a = Math.atan2(z, x) / (2 * Math.PI);
      const k =
        1 +
        0.16 * (fractal({ seed: 721, period: 5, octaves: 2 }, a + 1, y) - 0.5) +
        (y > 0.4 ? 0.3 * (fractal({ seed: 722, period: 14, octaves: 1 }, a + 1, 0.3) - 0.5) : 0);
      return [x * k * 1.08 + 0.05 * y * y, y - 0.02 * x, z * k * 0.92];
    };
    form.warped(lumpy, (f) =>
      f.turned(
        [[0, 0], ...Array.from({ length: rows + 1 }, (_, i): [number, number] => [girth(i / rows), 0.015 + (0.6 * i) / rows]), [0, 0.6]],
        sides,
        'sacking',
        { smooth: true },
      ),
    );
    if (lod === 0)
      form.in(moved(0.012, 0.53, 0), (f) =>
        f.rod(
          Array.from({ length: 13 }, (_, k): Vec3 => {
            const [s, c] = sinCosDeg(k * 30);
            return [0.085 * c, 0.004 * s, 0.075 * s];
          }),
          () => 0.009,
          5,
          'sacking',
          { closed: true, along: true },
        ),
      );
    return form;
  });

const timberStack = () =>
  prop({ name: 'timber stack', collider: 'box', tags: ['timber', 'stack'], real: [0.6, 1.2] }, 2, (lod) => {
    const form = new Form();
    if (lod === 1)
      return form
        .box([-1.5, 0.1, -0.62], [1.5, 0.86, 0.62], wood(1, 3))
        .box([-1.1, 0, -0.6], [-0.95, 0.1, 0.6], wood(1, 4))
        .box([0.95, 0, -0.6], [1.1, 0.1, 0.6], wood(1, 5));
    for (const x of [-1.1, 0.95]) form.box([x, 0, -0.6], [x + 0.15, 0.1, 0.6], wood(0, 1));
    for (let row = 0; row < 4; row++) {
      const y = 0.1 + row * 0.19;
      if (row > 0) for (const x of [-1.05, 1]) form.box([x, y - 0.03, -0.58], [x + 0.06, y, 0.58], wood(0, 80 + row));
      const count = row === 3 ? 4 : 6;
      for (let i = 0; i < count; i++) {
        const [a, b] = [(hashUnit(731, row, i) - 0.5) * 0.3, (hashUnit(732, row, i) - 0.5) * 0.3];
        const z = -0.6 + i * 0.2 + 0.005;
        form.box([-1.45 + a, y, z], [1.45 + b, y + 0.16, z + 0.185 + 0.006 * hashUnit(733, i)], wood(0, row * 8 + i, 'timber', 0.01));
      }
    }
    return form;
  });

/** Split slates on edge in a row, leaning on each other between two stops. */
const slateStack = () =>
  prop({ name: 'slate stack', collider: 'box', tags: ['slate', 'stack'], real: [0.4, 0.8] }, 2, (lod) => {
    const form = new Form();
    if (lod === 1) return form.box([-0.9, 0.06, -0.22], [0.9, 0.56, 0.22], { stuff: 'roof slates', bevel: 0 });
    for (const z of [-0.14, 0.1]) form.box([-1, 0, z], [1, 0.06, z + 0.05], wood(0, 2));
    for (let i = 0; i < 46; i++) {
      const k = i / 46;
      const high = 0.44 + 0.1 * hashUnit(741, i);
      const wide = 0.2 + 0.03 * hashUnit(742, i);
      form.in(
        frames(
          moved(-0.9 + k * 1.72, 0.062, (hashUnit(743, i) - 0.5) * 0.03),
          turned('z', -14 - 5 * hashUnit(744, i)),
          turned('y', (hashUnit(745, i) - 0.5) * 3),
        ),
        (f) => f.box([0, 0, -wide], [0.022 + 0.008 * hashUnit(746, i), high, wide], { stuff: 'sawn slate', bevel: 0.004, grain: i, skip: ['bottom'] }),
      );
    }
    return form;
  });

/** A slab that came off the face: leaves of it have split away. */
const fallenSlab = () =>
  prop({ name: 'fallen slab', collider: 'hull', tags: ['slate', 'stone'], real: [0.4, 1.1] }, 2, (lod) => {
    const form = new Form();
    const outline = [
      [-1.1, -0.5],
      [-0.3, -0.72],
      [0.7, -0.6],
      [1.15, -0.1],
      [0.9, 0.55],
      [0.1, 0.72],
      [-0.8, 0.5],
    ] as [number, number][];
    form.in(frames(moved(0, 0.22, 0), turned('z', 9), turned('x', -90 + 6)), (f) => {
      const layers = lod === 0 ? 7 : 2;
      for (let i = 0; i < layers; i++) {
        const [low, high] = [-0.28 + (0.56 * i) / layers, -0.28 + (0.56 * (i + 1)) / layers];
        const cut = i / layers;
        const ring = outline.map(([x, y], k): [number, number] => {
          const s = 1 - 0.05 * hashUnit(751, i, k) - (x > 0.3 ? cut * 0.4 : 0.05 * cut) * (lod === 0 ? 1 : 0.7);
          return [x * s, y * (1 - 0.06 * hashUnit(752, i, k))];
        });
        f.prism(ring, low, high, 'sawn slate');
      }
    });
    return form;
  });

/** A rolled beam to carry the gantry's pulley, 6 m along x. */
const gantryBeam = () =>
  prop({ name: 'gantry beam', collider: 'box', tags: ['beam'], real: [0.4, 1] }, 2, (lod) => {
    const form = new Form();
    form
      .box([-3, 0.3, -0.12], [3, 0.335, 0.12], metal(lod))
      .box([-3, 0, -0.12], [3, 0.035, 0.12], metal(lod))
      .box([-3, 0.035, -0.014], [3, 0.3, 0.014], { ...metal(1), skip: ['top', 'bottom'] });
    if (lod === 1) return form;
    for (const x of [-2.4, -1.2, 0, 1.2, 2.4])
      for (const z of [-0.115, 0.014]) form.box([x - 0.012, 0.035, z], [x + 0.012, 0.3, z + 0.101], { ...metal(1), skip: ['top', 'bottom'] });
    form.box([1.3, -0.12, -0.1], [1.34, 0.0, 0.1], metal(0)).box([1.56, -0.12, -0.1], [1.6, 0.0, 0.1], metal(0));
    form.in(frames(moved(1.45, -0.2, 0), turned('z', 90)), (f) =>
      f.turned(
        [
          [0, -0.05],
          [0.16, -0.05],
          [0.13, 0],
          [0.16, 0.05],
          [0, 0.05],
        ],
        20,
        'iron',
      ),
    );
    form.rod(
      [
        [1.28, -0.2, 0],
        [1.62, -0.2, 0],
      ],
      () => 0.02,
      8,
      'iron',
      { caps: true },
    );
    for (const x of [1.32, 1.58]) form.box([x - 0.01, -0.26, -0.04], [x + 0.01, -0.1, 0.04], metal(0));
    return form;
  });

const sign = () =>
  prop({ name: 'sign', collider: 'box', tags: ['sign'], real: [1.6, 2.4], baked: 64 }, 2, (lod) => {
    const form = new Form().box([-0.05, -0.3, -0.05], [0.05, 2, 0.05], wood(lod, 2, 'timber', 0.012));
    for (let i = 0; i < (lod === 0 ? 3 : 1); i++) {
      const [a, b] = lod === 0 ? [1.35 + i * 0.17, 1.35 + (i + 1) * 0.17 - 0.006] : [1.35, 1.86];
      form.box([-0.5 + 0.02 * i, a, 0.05], [0.5 - 0.015 * i, b, 0.075], wood(lod, 10 + i, 'painted timber'));
    }
    if (lod === 0)
      for (const x of [-0.02, 0.02])
        for (const y of [1.42, 1.6, 1.78])
          form.in(frames(moved(x, y, 0.075), turned('x', 90)), (f) =>
            f.turned(
              [
                [0.008, 0],
                [0.006, 0.004],
                [0, 0.005],
              ],
              6,
              'timber',
            ),
          );
    return form;
  });

/** What lies about the works, in the order of the library. */
export const props = (): (() => Promise<Asset>)[] => [crate, barrel, wagon, ladder, chain, lamp, sack, timberStack, slateStack, fallenSlab, gantryBeam, sign];
