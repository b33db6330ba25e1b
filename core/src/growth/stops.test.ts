import { expect, it } from 'vitest';
import type { Asset } from '../kit/asset';
import { Shape } from '../kit/shape';
import { instanceMatrix } from '../cost/instances';
import { plantsInWay } from '../snag/plantsInWay';
import { testAssets } from '../testing/assets';
import { testSpecies } from '../testing/growth';
import type { Plants } from './plants';
import { trunkColliders } from './trunks';

const boulder: Asset = {
  ...testAssets().get('gorse')!,
  name: 'boulder',
  role: 'prop',
  collider: 'box',
  trunk: 0,
  lods: [[new Shape().box([-0.5, 0, -1], [0.5, 1, 1], [0.5, 0.5, 0.5], []).done('x')]],
};
const assets = new Map([...testAssets(), ['boulder', boulder] as const]);
const rows: [number[], number][] = [
  [[10, 2, 20, 30, 1.5, 2, 25, 70, 0.8], 0],
  [[14, 2, 20, 0, 0.25, 1, 0, 0, 1], 0],
];
const stood = (species: string): Plants => ({
  species,
  count: rows.length,
  place: Float32Array.from(rows.flatMap(([p]) => p)),
  look: new Uint8Array(rows.length),
  id: new Int32Array(rows.length * 3),
  hand: [],
});
const stops = (asset: string, how?: 'none' | 'trunk' | 'shape') => {
  const s = testSpecies('rock', 0, { asset, ...(how ? { stops: how } : {}) });
  return trunkColliders([stood('rock')], new Map([['rock', s]]), assets);
};

it('by its shape a plant stops a body just where it is drawn, and what is stepped over stops nobody', () => {
  const [one, ...more] = stops('boulder', 'shape');
  // The second is 0.25 m high.
  expect(more).toEqual([]);
  const m = new Float32Array(16);
  const [x, y, z, turn, tall, wide, lean, leanTo, deep] = rows[0][0];
  instanceMatrix(m, 0, { at: [x, y, z], turn, tall, wide, lean, leanTo, deep });
  const corners = [-0.5, 0.5].flatMap((a) =>
    [0, 1].flatMap((b) => [-1, 1].map((c) => [0, 1, 2].map((k) => m[k] * a + m[4 + k] * b + m[8 + k] * c + m[12 + k]))),
  );
  for (let k = 0; k < 3; k++) {
    expect(one.min[k]).toBeCloseTo(Math.min(...corners.map((p) => p[k])), 4);
    expect(one.max[k]).toBeCloseTo(Math.max(...corners.map((p) => p[k])), 4);
  }
});

it('by its trunk it needs one, and not at all it stops nobody', () => {
  expect(stops('boulder')).toEqual([]);
  expect(stops('birch')).toHaveLength(2);
  expect(stops('birch', 'none')).toEqual([]);
  expect(stops('boulder', 'none')).toEqual([]);
});

it('what stops a body by its shape is told on an objective, what stops nobody is not', () => {
  const markers = [{ id: 'm', at: [10.5, 2, 20] as [number, number, number], name: 'the wheel', marker: 'objective' as const }];
  const told = (how?: 'none' | 'shape') => {
    const s = testSpecies('rock', 0, { asset: 'boulder', ...(how ? { stops: how } : {}) });
    return plantsInWay({ grown: [stood('rock')], species: new Map([['rock', s]]), assets, stack: [], markers, body: { radius: 0.35 } }).map((f) => f.code);
  };
  expect(told('shape')).toEqual(['plant-on-marker']);
  expect([told(), told('none')]).toEqual([[], []]);
});
