import { describe, expect, it } from 'vitest';
import { wantedTexels } from '../body/texel';
import { wholeRect } from '../earth/compose';
import type { GroundRule, Surface } from '../level/objects';
import { terrainOf } from '../testing/levels';
import { composeGround, makeGround, type GroundRaster } from './ground';
import { repeats } from './overlays/repeats';
import { texelRatio } from './overlays/texels';
import { groundDefaults } from './surfaces';

const shipped = groundDefaults().filter((o): o is Surface => o.kind === 'surface');
const flat = terrainOf(() => 0);

/** Turf, with slate where x is under some metres. */
function halved(x: number, more: Partial<Surface> = {}): GroundRaster {
  const tilted = terrainOf((px) => px);
  const surfaces = shipped.map((s) => ({ ...s, ...more }));
  const ground = makeGround(tilted.grid, surfaces);
  const rule: GroundRule = {
    id: 'r',
    version: 1,
    kind: 'groundRule',
    name: 'west',
    order: 0,
    surface: 'slate',
    share: 1,
    where: [{ by: 'height', band: [-1, x], soft: 0 }],
    wins: false,
    on: true,
  };
  composeGround(ground, { terrain: tilted, stack: [], tiles: new Map(), waters: [], rules: [rule] }, wholeRect(tilted.grid));
  return ground;
}

describe('where the eye catches a repeat', () => {
  it('by hand: a patch 16 m wide of an 8 m tile shows two, the rest of 48 m by a 6 m tile eight', () => {
    const { of, surfaces } = repeats(halved(16));
    expect(of[64 * 129 + 10]).toBeCloseTo(16 / 8, 0);
    expect(of[64 * 129 + 100]).toBeCloseTo(48 / 6, 0);
    expect(surfaces[1].most).toBeCloseTo(2, 0);
    expect([surfaces[1].area, Math.abs(surfaces[0].area - 48 * 64) < 100]).toEqual([0, true]);
  });

  it('two scales hide it for longer, scattered pieces longest, but not for good', () => {
    const [plain, two, scattered] = (['plain', 'two scales', 'scattered'] as const).map((laying) => repeats(halved(16, { laying })).surfaces[0].most);
    expect(plain / two).toBeCloseTo(2.5, 5);
    expect(plain / scattered).toBeCloseTo(19, 5);
  });
});

describe('texel density of the ground', () => {
  it('wanted falls with the distance, between its ends', () => {
    expect([wantedTexels(0.5), wantedTexels(3), wantedTexels(6), wantedTexels(1000)]).toEqual([512, 512, 256, 64]);
  });

  it('is what a surface has against what the nearest eye wants', () => {
    const ground = makeGround(flat.grid, shipped);
    composeGround(ground, { terrain: flat, stack: [], tiles: new Map(), waters: [], rules: [] }, wholeRect(flat.grid));
    // All can be walked: the eye is 1.65 m off, turf has 2048 pixels on 6 m.
    expect(texelRatio(ground, flat, { maxSlope: 45, eye: 1.65 })[64 * 129 + 64]).toBeCloseTo(2048 / 6 / 512, 5);
    // A wall of 80 degrees that cannot be climbed, 12 m up it: seen from its foot.
    const wall = terrainOf((x) => Math.max(0, x - 32) * 5.67);
    const ratio = texelRatio(ground, wall, { maxSlope: 45, eye: 1.65 }, [10, 32]);
    expect(ratio[64 * 129 + 60]).toBeCloseTo(2048 / 6 / 512, 5);
    expect(ratio[64 * 129 + 64 + 40]).toBeCloseTo(2048 / 6 / wantedTexels(Math.hypot(20.5, 1.65)), 1);
  });
});
