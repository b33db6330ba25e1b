import type { Asset } from '@rammer/core/kit/asset';
import { boxMesh } from '@rammer/core/kit/assetMesh';
import { KIT_GRID, STOREY, DOOR, STAIR } from '@rammer/core/kit/pieces';
import { hashUnit } from '@rammer/core/num/hash';
import { sinCosDeg } from '@rammer/core/num/trig';
import type { Vec3 } from '@rammer/core/num/vec';
import { assemble } from './form/assemble';
import { Form, type BoxLook } from './form/form';
import { frames, moved, turned } from './form/frame';

/** Half the thickness of a wall, and how far its foot goes under its pivot, so that it stands on uneven ground; metres. */
const T = 0.15;
const FOOT = -0.4;
const WALL: BoxLook = { stuff: 'masonry', bevel: 0 };
const SAWN: BoxLook = { stuff: 'sawn slate', bevel: 0.012 };
const lods = (count: number, build: (lod: number) => Form): Form[] => Array.from({ length: count }, (_, i) => build(i));
/** Bevels are of the finest alone. */
const rough = (look: BoxLook, lod: number): BoxLook => (lod === 0 ? look : { ...look, bevel: 0 });

/** A coping of slabs along the top of a wall, each a little off its neighbour. */
function coping(form: Form, lod: number): void {
  const cuts = lod === 0 ? [-1, -0.34, 0.28, 1] : [-1, 1];
  for (let i = 0; i + 1 < cuts.length; i++) {
    const over = 0.03 + 0.012 * (lod === 0 ? hashUnit(711, i) : 0);
    form.box([cuts[i], STOREY - 0.1, -T - over], [cuts[i + 1], STOREY, T + over], rough(SAWN, lod));
  }
}

const wall = () =>
  assemble({
    name: 'wall',
    role: 'piece',
    collider: 'box',
    tags: ['shed', 'wall'],
    real: [2.7, 3.6],
    lods: lods(2, (lod) => {
      const form = new Form().box([-1, FOOT, -T], [1, STOREY - 0.1, T], { ...WALL, skip: ['bottom', 'top'] });
      coping(form, lod);
      return form;
    }),
  });

/** A quoin of long stones laid crosswise where two walls meet. */
const corner = () =>
  assemble({
    name: 'corner',
    role: 'piece',
    collider: 'box',
    tags: ['shed', 'corner'],
    real: [2.7, 3.6],
    lods: lods(2, (lod) => {
      if (lod === 1) return new Form().box([-0.24, FOOT, -0.24], [0.24, STOREY + 0.015, 0.24], { ...SAWN, bevel: 0, skip: ['bottom'] });
      const form = new Form();
      // Its top lies a hair over the copings, so that no two faces are one.
      const heights = [FOOT, 0.38, 0.8, 1.28, 1.68, 2.16, 2.58, STOREY + 0.015];
      for (let i = 0; i + 1 < heights.length; i++) {
        const [a, b] = i % 2 === 0 ? [0.29, 0.19] : [0.19, 0.29];
        const out = 0.012 * hashUnit(712, i);
        form.box([-a - out, heights[i], -b - out], [a + out, heights[i + 1], b + out], { ...SAWN, bevel: 0.02, grain: i + 3, skip: i === 0 ? ['bottom'] : [] });
      }
      return form;
    }),
  });

/** Masonry about an opening, with long and short stones up its sides. */
function opening(form: Form, lod: number, [x0, x1, y0, y1]: readonly [number, number, number, number]): void {
  form.box([-1, FOOT, -T], [x0, STOREY - 0.1, T], { ...WALL, skip: ['bottom', 'top'] });
  form.box([x1, FOOT, -T], [1, STOREY - 0.1, T], { ...WALL, skip: ['bottom', 'top'] });
  form.box([x0, y1, -T], [x1, STOREY - 0.1, T], { ...WALL, skip: ['top', 'east', 'west'] });
  if (y0 > FOOT) form.box([x0, FOOT, -T], [x1, y0, T], { ...WALL, skip: ['bottom', 'east', 'west'] });
  if (lod > 0) return;
  const from = Math.max(0, y0);
  const count = Math.round((y1 - from) / 0.28);
  for (let i = 0; i < count; i++) {
    const long = i % 2 === 0 ? 0.26 : 0.15;
    const [low, high] = [from + ((y1 - from) * i) / count, from + ((y1 - from) * (i + 1)) / count];
    for (const side of [-1, 1] as const) {
      const edge = side < 0 ? x0 : x1;
      const [a, b] = side < 0 ? [edge - long, edge + 0.004] : [edge - 0.004, edge + long];
      form.box([a, low, -T - 0.018], [b, high, T + 0.018], { ...SAWN, grain: i * 2 + (side < 0 ? 0 : 1) });
    }
  }
}

/** Walls of boxes, as one is stopped by them. */
const around = ([x0, x1, y0, y1]: readonly [number, number, number, number]) => [
  boxMesh([-1, FOOT, -T], [x0, STOREY, T]),
  boxMesh([x1, FOOT, -T], [1, STOREY, T]),
  boxMesh([x0, y1, -T], [x1, STOREY, T]),
  ...(y0 > FOOT ? [boxMesh([x0, FOOT, -T], [x1, y0, T])] : []),
];

const doorWall = () => {
  const w = DOOR.width / 2;
  return assemble({
    name: 'door wall',
    role: 'piece',
    collider: 'parts',
    tags: ['shed', 'wall', 'door'],
    real: [2.7, 3.6],
    colliders: around([-w, w, FOOT, DOOR.height]),
    lods: lods(2, (lod) => {
      const form = new Form();
      opening(form, lod, [-w, w, FOOT, DOOR.height]);
      form.box([-w - 0.22, DOOR.height, -T - 0.025], [w + 0.22, DOOR.height + 0.24, T + 0.025], { ...rough(SAWN, lod), bevel: lod === 0 ? 0.016 : 0 });
      form.box([-w, FOOT, -T - 0.02], [w, 0.02, T + 0.02], { ...rough(SAWN, lod), skip: ['bottom', 'east', 'west'] });
      coping(form, lod);
      return form;
    }),
  });
};

const WINDOW = [-0.45, 0.45, 0.95, 2.05] as const;
const windowWall = () =>
  assemble({
    name: 'window wall',
    role: 'piece',
    collider: 'parts',
    tags: ['shed', 'wall', 'window'],
    real: [2.7, 3.6],
    colliders: [...around(WINDOW), boxMesh([WINDOW[0], WINDOW[2], -0.03], [WINDOW[1], WINDOW[3], 0.03])],
    lods: lods(2, (lod) => {
      const [x0, x1, y0, y1] = WINDOW;
      const form = new Form();
      opening(form, lod, WINDOW);
      form.box([x0 - 0.2, y1, -T - 0.025], [x1 + 0.2, y1 + 0.22, T + 0.025], rough(SAWN, lod));
      form.box([x0 - 0.08, y0 - 0.07, -T - 0.07], [x1 + 0.08, y0, T + 0.07], rough(SAWN, lod));
      const wood: BoxLook = { stuff: 'tarred timber', bevel: lod === 0 ? 0.006 : 0, grain: 5 };
      const bar = (x: number, a: number, y: number, b: number) => form.box([x, y, -0.035], [x + a, y + b, 0.035], wood);
      bar(x0, 0.06, y0, y1 - y0);
      bar(x1 - 0.06, 0.06, y0, y1 - y0);
      bar(x0 + 0.06, x1 - x0 - 0.12, y0, 0.06);
      bar(x0 + 0.06, x1 - x0 - 0.12, y1 - 0.06, 0.06);
      if (lod === 0) {
        for (const k of [1, 2]) bar(x0 + ((x1 - x0) * k) / 3 - 0.015, 0.03, y0 + 0.06, y1 - y0 - 0.12);
        for (const k of [1, 2, 3]) form.box([x0 + 0.06, y0 + ((y1 - y0) * k) / 4 - 0.012, -0.025], [x1 - 0.06, y0 + ((y1 - y0) * k) / 4 + 0.012, 0.025], wood);
      }
      // Two panes are gone: one looks through.
      const [cols, rows] = [3, 4];
      for (let c = 0; c < cols; c++)
        for (let r = 0; r < rows; r++) {
          if (lod === 0 ? (c === 1 && r === 2) || (c === 2 && r === 0) : c + r > 0) continue;
          const at =
            lod === 0
              ? [x0 + ((x1 - x0) * c) / cols, x0 + ((x1 - x0) * (c + 1)) / cols, y0 + ((y1 - y0) * r) / rows, y0 + ((y1 - y0) * (r + 1)) / rows]
              : [x0, x1, y0, y1];
          for (const z of [0.004, -0.004])
            form.face(
              z > 0
                ? [
                    [at[0], at[2], z],
                    [at[1], at[2], z],
                    [at[1], at[3], z],
                    [at[0], at[3], z],
                  ]
                : [
                    [at[1], at[2], z],
                    [at[0], at[2], z],
                    [at[0], at[3], z],
                    [at[1], at[3], z],
                  ],
              'pane',
            );
        }
      coping(form, lod);
      return form;
    }),
  });

/** How far the roof rises over the wall's top at its middle, and how thick it is. */
const RISE = 1.45;
const ROOF = { eave: 1.3, ridge: -1, low: -0.19, thick: 0.14 } as const;

/** Fills the end of a shed two cells deep, up to the underside of its roof. */
const gable = () => {
  const at = (z: number): number => ROOF.low + ((RISE - ROOF.low) * (ROOF.eave + 1 - Math.abs(z))) / (ROOF.eave - ROOF.ridge);
  // Where the roof's underside meets the walls' top.
  const foot = ROOF.eave + 1 + (ROOF.low * (ROOF.eave - ROOF.ridge)) / (RISE - ROOF.low);
  return assemble({
    name: 'gable',
    role: 'piece',
    collider: 'hull',
    tags: ['shed', 'gable'],
    real: [1.2, 1.8],
    lods: lods(2, (lod) => {
      const form = new Form().prism(
        [
          [-foot, 0],
          [foot, 0],
          [0, at(0)],
        ],
        -T,
        T,
        'masonry',
      );
      // A slit that lets air to what is stored under the roof.
      if (lod === 0) {
        for (const z of [-T - 0.02, T - 0.06]) {
          form.box([-0.26, 0.3, z], [-0.12, 0.86, z + 0.08], SAWN);
          form.box([0.12, 0.3, z], [0.26, 0.86, z + 0.08], SAWN);
          form.box([-0.3, 0.86, z], [0.3, 1.0, z + 0.08], SAWN);
          form.box([-0.3, 0.2, z], [0.3, 0.3, z + 0.08], SAWN);
          for (const k of [0, 1, 2, 3])
            form.in(frames(moved(0, 0.37 + k * 0.14, z + 0.04), turned('x', z < 0 ? -32 : 32)), (f) =>
              f.box([-0.12, -0.085, -0.012], [0.12, 0.085, 0.012], { ...SAWN, bevel: 0.004, grain: k }),
            );
        }
      }
      return form;
    }),
  });
};

const lintel = () =>
  assemble({
    name: 'lintel',
    role: 'piece',
    collider: 'box',
    tags: ['shed', 'lintel'],
    real: [0.2, 0.4],
    baked: 64,
    lods: lods(2, (lod) => {
      const form = new Form().box([-0.9, 0, -0.18], [0.9, 0.26, 0.18], { ...SAWN, bevel: lod === 0 ? 0.02 : 0 });
      if (lod === 0) form.box([-0.3, 0.26, -0.16], [0.34, 0.3, 0.16], { ...SAWN, grain: 4 });
      return form;
    }),
  });

/** Half a pitched roof: 2 m along the ridge, from 0.3 m beyond the wall up to the ridge over the far side of the cell. */
const roof = () =>
  assemble({
    name: 'roof',
    role: 'piece',
    collider: 'parts',
    tags: ['shed', 'roof'],
    real: [1.4, 2],
    colliders: [slab()],
    lods: lods(2, (lod) => {
      const form = new Form();
      const { eave, ridge, low, thick } = ROOF;
      const p = (x: number, k: number, up: number): Vec3 => [x, low + (RISE - low) * k + up, eave + (ridge - eave) * k];
      form.face([p(-1, 0, thick), p(1, 0, thick), p(1, 1, thick), p(-1, 1, thick)], 'roof slates');
      form.face([p(1, 0, 0), p(-1, 0, 0), p(-1, 1, 0), p(1, 1, 0)], 'timber');
      form.face([p(-1, 0, 0), p(1, 0, 0), p(1, 0, thick), p(-1, 0, thick)], 'timber');
      for (const x of [-1, 1])
        form.face(x > 0 ? [p(x, 0, 0), p(x, 1, 0), p(x, 1, thick), p(x, 0, thick)] : [p(x, 1, 0), p(x, 0, 0), p(x, 0, thick), p(x, 1, thick)], 'timber');
      if (lod > 0) return form;
      // The lowest slates hang over; rafters lie under the boards.
      const lean = turned('x', 35.5);
      form.in(frames(moved(0, low + thick - 0.012, eave), lean), (f) => {
        for (let i = 0; i < 8; i++) {
          const x = -1 + i * 0.25;
          f.box([x + 0.003, 0, -0.06], [x + 0.247, 0.02, 0.055 + 0.02 * hashUnit(713, i)], {
            stuff: 'roof slates',
            bevel: 0.004,
            grain: i,
            skip: ['bottom', 'north'],
          });
        }
      });
      form.in(frames(moved(0, low, eave), lean), (f) => {
        for (const x of [-0.75, -0.25, 0.25, 0.75])
          f.box([x - 0.04, -0.11, -2.6], [x + 0.04, 0.0, -0.22], { stuff: 'timber', bevel: 0.006, grain: 20 + Math.round(x * 4), skip: ['top', 'north'] });
      });
      return form;
    }),
  });

/** The roof as a slab that stops a body. */
function slab() {
  const { eave, ridge, low, thick } = ROOF;
  const mesh = boxMesh([-1, 0, 0], [1, 1, 1]);
  for (let i = 0; i < 8; i++) {
    const [far, up] = [mesh.positions[i * 3 + 2], mesh.positions[i * 3 + 1]];
    mesh.positions[i * 3 + 2] = far > 0.5 ? eave : ridge;
    mesh.positions[i * 3 + 1] = (far > 0.5 ? low : RISE) + up * thick;
  }
  return mesh;
}

/** Slabs bent over the ridge: hollow below, which is its flaw where it is placed away from a roof. */
const ridge = () =>
  assemble({
    name: 'ridge',
    role: 'piece',
    collider: 'hull',
    tags: ['shed', 'ridge'],
    real: [0.1, 0.4],
    baked: 64,
    lods: lods(2, (lod) => {
      const form = new Form();
      const cuts = lod === 0 ? [-1, -0.5, 0, 0.5, 1] : [-1, 1];
      for (let i = 0; i + 1 < cuts.length; i++)
        for (const side of [1, -1])
          form.in(frames(turned('y', side > 0 ? 0 : 180), moved(0, 0.03, 0), turned('x', 35.5)), (f) =>
            f.box([(side > 0 ? cuts[i] : -cuts[i + 1]) + 0.003, -0.022, -0.004], [(side > 0 ? cuts[i + 1] : -cuts[i]) - 0.003, 0.012 + 0.004 * (i % 2), 0.24], {
              ...rough(SAWN, lod),
              bevel: lod === 0 ? 0.006 : 0,
              grain: i + 9,
              skip: ['bottom', 'north'],
            }),
          );
      if (lod === 0)
        form.rod(
          [
            [-1, 0.045, 0],
            [1, 0.045, 0],
          ],
          () => 0.035,
          8,
          'sawn slate',
          { along: true, caps: true },
        );
      return form;
    }),
  });

const floor = () =>
  assemble({
    name: 'floor',
    role: 'piece',
    collider: 'box',
    tags: ['shed', 'floor'],
    real: [0.12, 0.2],
    lods: lods(2, (lod) => {
      const form = new Form();
      const boards = lod === 0 ? 9 : 1;
      for (let i = 0; i < boards; i++) {
        const [a, b] = [-1 + (2 * i) / boards, -1 + (2 * (i + 1)) / boards];
        form.box([a + 0.003, lod === 0 ? 0.1 : 0, -1], [b - 0.003, 0.15, 1], { stuff: 'timber', bevel: lod === 0 ? 0.006 : 0, grain: i });
      }
      if (lod === 0) for (const z of [-0.7, 0, 0.7]) form.box([-1, 0, z - 0.05], [1, 0.1, z + 0.05], { stuff: 'timber', grain: 30, bevel: 0, skip: ['top'] });
      return form;
    }),
  });

const stair = () => {
  const { steps, riser, going } = STAIR;
  const solid = Array.from({ length: steps }, (_, i) =>
    boxMesh([-2 + i * going, Math.max(0, i * riser - 0.3), -0.6], [-2 + (i + 1) * going, (i + 1) * riser, 0.6]),
  );
  return assemble({
    name: 'stair',
    role: 'piece',
    collider: 'parts',
    tags: ['shed', 'stair'],
    real: [2.7, 3.3],
    colliders: solid,
    lods: lods(2, (lod) => {
      const form = new Form();
      for (let i = 0; i < steps; i++) {
        const x = -2 + i * going;
        form.box([x - 0.02, (i + 1) * riser - 0.05, -0.62], [x + going, (i + 1) * riser, 0.62], {
          ...rough(SAWN, lod),
          bevel: lod === 0 ? 0.01 : 0,
          grain: i,
          skip: lod === 0 ? [] : ['east', 'bottom'],
        });
        form.box([x, Math.max(0, i * riser - 0.12), -0.56], [x + going, (i + 1) * riser - 0.05, 0.56], { ...WALL, skip: ['top'] });
      }
      return form;
    }),
  });
};

const post = () =>
  assemble({
    name: 'post',
    role: 'piece',
    collider: 'box',
    tags: ['post'],
    real: [1.8, 2.8],
    baked: 64,
    lods: lods(2, (lod) => {
      const form = new Form().box([-0.08, FOOT, -0.08], [0.08, 2.2, 0.08], { stuff: 'timber', bevel: lod === 0 ? 0.016 : 0, grain: 2, skip: ['bottom'] });
      if (lod === 0)
        form
          .box([-0.085, 2.05, -0.085], [0.085, 2.1, 0.085], { stuff: 'iron', bevel: 0.004 })
          .box([-0.085, 0.18, -0.085], [0.085, 0.23, 0.085], { stuff: 'iron', bevel: 0.004 });
      return form;
    }),
  });

const railing = () =>
  assemble({
    name: 'railing',
    role: 'piece',
    collider: 'box',
    tags: ['railing'],
    real: [0.9, 1.3],
    baked: 64,
    lods: lods(2, (lod) => {
      const form = new Form();
      const sides = lod === 0 ? 8 : 4;
      for (const x of [-1, 1]) {
        form.rod(
          [
            [x, -0.25, 0],
            [x, 1.1, 0],
          ],
          () => 0.028,
          sides,
          'iron',
          { seed: x + 1 },
        );
        if (lod === 0)
          form.in(moved(x, 1.1, 0), (f) =>
            f.turned(
              [
                [0.028, -0.01],
                [0.045, 0.02],
                [0.04, 0.05],
                [0, 0.07],
              ],
              8,
              'iron',
              { smooth: true },
            ),
          );
      }
      for (const y of [1.04, 0.55])
        form.rod(
          [
            [-1, y, 0],
            [1, y - (y > 1 ? 0 : 0.01), 0],
          ],
          () => 0.019,
          sides,
          'iron',
          { seed: y },
        );
      return form;
    }),
  });

/** Gauge of the tramway, metres. */
const GAUGE = 0.762;
const railTrack = () =>
  assemble({
    name: 'rail track',
    role: 'piece',
    collider: 'none',
    tags: ['track'],
    real: [0.1, 0.35],
    lods: lods(2, (lod) => {
      const form = new Form();
      for (let i = 0; i < 3; i++) sleeperAt(form, lod, -0.667 + i * 0.667, i);
      for (const side of [-1, 1]) {
        const z = (side * GAUGE) / 2;
        if (lod === 0)
          form
            .box([-1, 0.1, z - 0.045], [1, 0.112, z + 0.045], { stuff: 'iron', bevel: 0, skip: ['bottom', 'east', 'west'] })
            .box([-1, 0.112, z - 0.01], [1, 0.16, z + 0.01], { stuff: 'iron', bevel: 0, skip: ['bottom', 'top', 'east', 'west'] });
        form.box([-1, lod === 0 ? 0.155 : 0.1, z - 0.025], [1, 0.19, z + 0.025], { stuff: 'iron', bevel: lod === 0 ? 0.006 : 0, skip: ['east', 'west'] });
        if (lod === 0)
          for (let i = 0; i < 3; i++)
            for (const k of [-1, 1])
              form.box([-0.667 + i * 0.667 - 0.02, 0.1, z + k * 0.05 - 0.016], [-0.667 + i * 0.667 + 0.02, 0.125, z + k * 0.05 + 0.016], {
                stuff: 'iron',
                bevel: 0.004,
                skip: ['bottom'],
              });
      }
      return form;
    }),
  });

function sleeperAt(form: Form, lod: number, x: number, seed: number): void {
  const off = (k: number) => (hashUnit(714, seed, k) - 0.5) * 0.05;
  form.in(moved(x + off(1), -0.08, off(2)), (f) =>
    f.box([-0.11, 0, -0.7], [0.11, 0.18, 0.7], { stuff: 'tarred timber', bevel: lod === 0 ? 0.012 : 0, grain: seed, skip: ['bottom'] }),
  );
}

const sleeper = () =>
  assemble({
    name: 'sleeper',
    role: 'piece',
    collider: 'box',
    tags: ['track', 'sleeper'],
    real: [0.1, 0.25],
    baked: 64,
    lods: lods(2, (lod) => {
      const form = new Form().box([-0.11, 0, -0.7], [0.11, 0.16, 0.7], { stuff: 'tarred timber', bevel: lod === 0 ? 0.012 : 0, grain: 7 });
      if (lod === 0)
        for (const z of [-GAUGE / 2, GAUGE / 2]) form.box([-0.07, 0.16, z - 0.08], [0.07, 0.175, z + 0.08], { stuff: 'iron', bevel: 0.004, skip: ['bottom'] });
      return form;
    }),
  });

/** A spoked wheel in the x-y plane about the origin. */
function spoked(form: Form, lod: number, { r, wide, spokes, rim }: { r: number; wide: number; spokes: number; rim: number }): void {
  const sides = lod === 0 ? 32 : lod === 1 ? 16 : 10;
  form.in(turned('x', 90), (f) => {
    f.turned(
      [
        [r - rim, -wide / 2],
        [r, -wide / 2],
        [r - rim * 0.35, 0],
        [r, wide / 2],
        [r - rim, wide / 2],
        [r - rim, -wide / 2],
      ],
      sides,
      'iron',
    );
    f.turned(
      [
        [0, -wide * 0.8],
        [r * 0.13, -wide * 0.8],
        [r * 0.15, -wide * 0.6],
        [r * 0.15, wide * 0.6],
        [r * 0.13, wide * 0.8],
        [0, wide * 0.8],
      ],
      lod === 0 ? 16 : 8,
      'iron',
    );
  });
  for (let i = 0; i < spokes; i++) {
    const [s, c] = sinCosDeg((i * 360) / spokes);
    form.rod(
      [
        [c * r * 0.12, s * r * 0.12, 0],
        [c * (r - rim * 0.8), s * (r - rim * 0.8), 0],
      ],
      (k) => (k === 0 ? rim * 0.42 : rim * 0.28),
      lod === 0 ? 6 : 4,
      'iron',
      { seed: i },
    );
  }
}

/** The wheel the incline's rope runs over, in its frame. */
const windingWheel = () =>
  assemble({
    name: 'winding wheel',
    role: 'piece',
    collider: 'hull',
    tags: ['wheel'],
    real: [2.4, 4],
    lods: lods(3, (lod) => {
      const form = new Form();
      form.in(moved(0, 1.75, 0), (f) => spoked(f, lod, { r: 1.35, wide: 0.2, spokes: lod === 2 ? 6 : 10, rim: 0.14 }));
      for (const z of [-0.32, 0.32]) {
        for (const side of [-1, 1])
          form.in(frames(moved(side * 0.95, 0, z), turned('z', side * 26)), (f) =>
            f.box([-0.11, -0.2, -0.09], [0.11, 1.98, 0.09], { stuff: 'tarred timber', bevel: lod === 0 ? 0.014 : 0, grain: side + 4 }),
          );
        form.box([-0.95, 0.5, z - 0.07], [0.95, 0.68, z + 0.07], { stuff: 'tarred timber', bevel: lod === 0 ? 0.012 : 0, grain: 8 });
        if (lod < 2) form.box([-0.2, 1.6, z - 0.12], [0.2, 1.9, z + 0.12], { stuff: 'iron', bevel: lod === 0 ? 0.012 : 0 });
      }
      form.rod(
        [
          [0, 1.75, -0.46],
          [0, 1.75, 0.46],
        ],
        () => 0.06,
        lod === 0 ? 12 : 6,
        'iron',
        { caps: true },
      );
      return form;
    }),
  });

/** A lying boiler on two cradles of masonry, with its dome, chimney and fire door. */
const boiler = () =>
  assemble({
    name: 'boiler',
    role: 'piece',
    collider: 'parts',
    tags: ['boiler'],
    real: [1.8, 4.5],
    colliders: [boxMesh([-2, 0, -0.72], [2, 2, 0.72]), boxMesh([1.3, 2, -0.2], [1.7, 3.6, 0.2])],
    lods: lods(3, (lod) => {
      const form = new Form();
      const sides = lod === 0 ? 28 : lod === 1 ? 14 : 8;
      form.in(frames(moved(0, 1.2, 0), turned('z', 90)), (f) =>
        f.turned(
          [
            [0, -2.02],
            [0.5, -2],
            [0.7, -1.93],
            [0.76, -1.86],
            [0.76, 1.86],
            [0.7, 1.93],
            [0.5, 2],
            [0, 2.02],
          ],
          sides,
          'iron',
        ),
      );
      if (lod < 2)
        for (const x of [-1.2, -0.4, 0.4, 1.2])
          form.in(frames(moved(x, 1.2, 0), turned('z', 90)), (f) =>
            f.turned(
              [
                [0.76, -0.05],
                [0.775, -0.045],
                [0.775, 0.045],
                [0.76, 0.05],
              ],
              sides,
              'iron',
              { seed: x + 3 },
            ),
          );
      for (const x of [-1.25, 1.25]) form.box([x - 0.25, -0.3, -0.62], [x + 0.25, 0.72, 0.62], { stuff: 'masonry', bevel: 0, skip: ['bottom'] });
      form.in(moved(-0.3, 1.9, 0), (f) =>
        f.turned(
          [
            [0.32, 0],
            [0.32, 0.32],
            [0.26, 0.42],
            [0.14, 0.48],
            [0, 0.5],
          ],
          Math.max(8, sides / 2),
          'iron',
          { smooth: true },
        ),
      );
      form.in(moved(1.5, 1.85, 0), (f) =>
        f.turned(
          [
            [0.22, 0],
            [0.2, 0.2],
            [0.18, 1.6],
            [0.24, 1.64],
            [0.24, 1.72],
            [0.16, 1.72],
            [0.16, 1.4],
          ],
          Math.max(8, sides / 2),
          'iron',
          { seed: 2 },
        ),
      );
      if (lod === 0) {
        // Rivets in two rows along each seam, the fire door and its hinges.
        for (const x of [-1.2, -0.4, 0.4, 1.2])
          for (let i = 0; i < 18; i++) {
            const [s, c] = sinCosDeg(i * 20);
            form.in(frames(moved(x, 1.2 + 0.775 * s, 0.775 * c), turned('x', 90 - i * 20 - 90)), (f) =>
              f.box([-0.016, -0.016, -0.004], [0.016, 0.016, 0.014], { stuff: 'iron', bevel: 0.006, skip: ['north'] }),
            );
          }
        form.in(moved(-2.01, 1.0, 0), (f) => {
          f.box([-0.06, -0.24, -0.3], [0.04, 0.24, 0.3], { stuff: 'iron', bevel: 0.02 });
          f.box([-0.09, -0.16, -0.36], [-0.05, -0.1, 0.1], { stuff: 'iron', bevel: 0.006 });
          f.box([-0.09, 0.1, -0.36], [-0.05, 0.16, 0.1], { stuff: 'iron', bevel: 0.006 });
        });
      }
      return form;
    }),
  });

/** What drains the pit: a hand wheel on a screw over its gate. */
const sluiceWheel = () =>
  assemble({
    name: 'sluice wheel',
    role: 'piece',
    collider: 'hull',
    tags: ['wheel', 'sluice'],
    real: [1, 1.8],
    lods: lods(3, (lod) => {
      const form = new Form();
      form.box([-0.3, -0.3, -0.22], [0.3, 0.5, 0.22], { stuff: 'sawn slate', bevel: lod === 0 ? 0.025 : 0, skip: ['bottom'] });
      form.in(moved(0, 0.5, 0), (f) =>
        f.turned(
          [
            [0.16, 0],
            [0.16, 0.05],
            [0.1, 0.08],
            [0.07, 0.2],
            [0.07, 0.5],
            [0.1, 0.54],
            [0.1, 0.6],
            [0, 0.6],
          ],
          lod === 0 ? 16 : 8,
          'iron',
        ),
      );
      form.rod(
        [
          [0, 1.0, 0],
          [0, 1.42, 0],
        ],
        () => 0.035,
        lod === 0 ? 10 : 5,
        'iron',
        { caps: true },
      );
      form.in(frames(moved(0, 1.22, 0), turned('x', 90)), (f) => spoked(f, Math.min(2, lod + 0), { r: 0.42, wide: 0.06, spokes: 5, rim: 0.055 }));
      if (lod === 0)
        for (const x of [-0.2, 0.2])
          for (const z of [-0.13, 0.13])
            form.in(moved(x, 0.5, z), (f) =>
              f.turned(
                [
                  [0.03, 0],
                  [0.03, 0.03],
                  [0, 0.035],
                ],
                6,
                'iron',
              ),
            );
      return form;
    }),
  });

/** The kit of the sheds and works: pieces on a grid of `KIT_GRID`, in the order of the library. */
export const pieces = (): (() => Promise<Asset>)[] => [
  wall,
  corner,
  doorWall,
  floor,
  roof,
  stair,
  windowWall,
  gable,
  lintel,
  ridge,
  post,
  railing,
  railTrack,
  sleeper,
  windingWheel,
  boiler,
  sluiceWheel,
];
export { KIT_GRID };
