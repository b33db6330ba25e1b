import { expect, it, vi } from 'vitest';
import { gridOf } from '@rammer/core/level/tiles';
import { makeGround } from '@rammer/core/surface/ground';
import type { Surface } from '@rammer/core/level/objects';
import { OVERLAYS } from '../../store/ui';
import { overlayPicture } from '../overlayPicture';
import { pictureOf, type Pictured } from './index';
import { HATCH, type OverlayInput } from './paint';

vi.hoisted(() => {
  globalThis.localStorage ??= { getItem: () => null, setItem: () => {} } as never;
});

const grid = gridOf({ tilesX: 2, tilesZ: 2, spacing: 0.5 });
const input = (height: (x: number, z: number) => number, more: Partial<OverlayInput> = {}): OverlayInput => {
  const heights = Float32Array.from({ length: grid.nx * grid.nz }, (_, i) => height((i % grid.nx) * 0.5, Math.floor(i / grid.nx) * 0.5));
  return {
    terrain: { grid, heights, noise: new Map() },
    ground: makeGround(grid, [{ name: 'turf' }, { name: 'slate' }] as Surface[]),
    waters: [],
    wade: 0.9,
    maxSlope: 45,
    eye: 1.65,
    ...more,
  };
};
const pictures = OVERLAYS.filter((name) => pictureOf(name));

it('pictures are a file each, by the name that is chosen; what is none has no picture', () => {
  expect(Object.keys(import.meta.glob('./*.ts')).filter((f) => !/\/(index|paint|overlays\.test)\.ts$/.test(f))).toHaveLength(pictures.length);
  expect(pictures).toEqual([
    'height',
    'curvature',
    'islands',
    'water depth',
    'ground',
    'cut and fill',
    'runoff',
    'growth rule',
    'plant density',
    'repeat',
    'texels',
  ]);
  expect([pictureOf('none'), pictureOf('wireframe'), pictureOf('toString')]).toEqual([undefined, undefined, undefined]);
  for (const name of pictures) {
    const { picture, keys } = overlayPicture(
      name as Pictured,
      input((x) => x / 20),
    );
    expect([name, picture.length, keys.length > 0]).toEqual([name, grid.nx * grid.nz * 4, true]);
  }
});

it('cut and fill by hand: 40 samples of a quarter square metre a metre up, 8 of them two down', () => {
  const now = input((x, z) => (z === 10 && x < 20 ? 1 : z === 20 && x < 4 ? -2 : 0), { before: new Float32Array(grid.nx * grid.nz) });
  const { keys, picture } = overlayPicture('cut and fill', now);
  expect(keys.map((k) => k.text)).toEqual(['filled 10 m³', 'cut 4 m³']);
  expect([picture[20 * grid.nx * 4 + 3], picture[40 * grid.nx * 4 + 3], picture[3]]).toEqual([105, HATCH, 0]);
});

it('height tells its range and draws about a dozen contours over it', () => {
  const { keys, step, labels } = overlayPicture(
    'height',
    input((x) => x / 4),
  );
  // 16 m from end to end: a contour each metre.
  expect([step, keys.map((k) => k.text)]).toEqual([1, ['0.0 m', '16 m, contours each 1 m']]);
  expect(labels.length % 3).toBe(0);
  expect(
    overlayPicture(
      'water depth',
      input(() => 0),
    ).keys[0].text,
  ).toBe('no water stands in the level');
});

it('what grows is told with its figures: where a rule lets it, how densely plants stand, and where the ceiling is reached', () => {
  const of = (kind: Pictured, more: Partial<OverlayInput>) =>
    overlayPicture(
      kind,
      input(() => 0, more),
    );
  const count = grid.nx * grid.nz;
  const half = Uint8Array.from({ length: count }, (_, i) => (i % 2 ? 255 : 0));
  const rule = of('growth rule', { rule: { name: 'gorse', shares: half, most: 2, count: 12 } });
  expect(rule.keys.map((k) => k.text)).toEqual(['gorse in full, 2 on 100 m²; all of it is worth 2\u202f080 m²', 'a little', '12 stand']);
  expect([rule.picture[3], rule.picture[7]]).toEqual([0, 190]);
  expect(of('growth rule', {}).keys[0].text).toBe('no species is at hand: pick one at Grow');
  const density = { across: grid.width, down: grid.depth, of: new Uint16Array(grid.width * grid.depth).fill(7) };
  const held = of('plant density', { density, ceiling: 7 });
  expect(held.picture[3]).toBe(HATCH);
  expect(held.keys[2]).toMatchObject({ hatched: true, text: `at the ceiling of 7: ${Math.round(count * 0.25)} m²` });
  expect(of('plant density', { density }).keys[1].text).toBe('60 and more; 7 at the densest');
});
