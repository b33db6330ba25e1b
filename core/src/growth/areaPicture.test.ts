import { describe, expect, it } from 'vitest';
import { addRasters } from '../num/fixed';
import { gridOf, TILE_SIDE, tileKey } from '../level/tiles';
import { areaOfPicture } from './areaPicture';

const grid = gridOf({ tilesX: 2, tilesZ: 1, spacing: 1 });
const picture = (width: number, height: number, of: (x: number, y: number) => number) => ({
  width,
  height,
  grey: Uint8Array.from({ length: width * height }, (_, i) => of(i % width, Math.floor(i / width))),
});
/** The raster as it is once the change is made. */
function painted(given: ReturnType<typeof picture>, was: ReadonlyMap<string, Int32Array> = new Map()): Map<string, Int32Array> {
  const deltas = areaOfPicture(given, grid, was, 'wood');
  if (typeof deltas === 'string') throw new Error(deltas);
  const out = new Map(was);
  for (const { key, delta } of deltas) out.set(key, out.has(key) ? addRasters(out.get(key)!, delta) : delta);
  return out;
}

describe('a habitat painted from a picture', () => {
  it('is all of it where it is white and none where it is black, with the edge between pixels, by hand', () => {
    // Four pixels by two over 128 by 64 m: the edge between the second and the third lies at 64 m, mixed over 32 m.
    const tiles = painted(picture(4, 2, (x) => (x < 2 ? 255 : 0)));
    const west = tiles.get(tileKey('wood', 'area', 0, 0))!;
    expect(west[30 * TILE_SIDE + 10]).toBe(1024);
    expect(west[30 * TILE_SIDE + 64]).toBe(512);
    // At 56 m: a quarter of a pixel before the middle of the edge.
    expect(west[30 * TILE_SIDE + 56]).toBe(768);
    const east = tiles.get(tileKey('wood', 'area', 1, 0));
    expect(east?.[30 * TILE_SIDE + 60] ?? 0).toBe(0);
    // The edge two tiles share is of the first of them alone.
    expect(east?.[30 * TILE_SIDE] ?? 0).toBe(0);
  });

  it('takes the place of what was painted, and painted again changes nothing', () => {
    const first = painted(picture(64, 32, () => 255));
    expect(new Set(first.get(tileKey('wood', 'area', 0, 0)))).toEqual(new Set([1024]));
    const second = painted(
      picture(64, 32, (_, y) => y * 8),
      first,
    );
    expect(second.get(tileKey('wood', 'area', 0, 0))![20 * TILE_SIDE + 20]).toBeLessThan(400);
    expect(
      areaOfPicture(
        picture(64, 32, (_, y) => y * 8),
        grid,
        second,
        'wood',
      ),
    ).toEqual([]);
  });

  it('of another shape than the level is refused, and told how to crop it', () => {
    expect(
      areaOfPicture(
        picture(100, 100, () => 9),
        grid,
        new Map(),
        'wood',
      ),
    ).toBe('the picture is 100 x 100 pixels, the level 128 x 64 m: crop it to 100 x 50, so that it lies over the whole level');
    // One that is too wide is cropped at its sides.
    expect(
      areaOfPicture(
        picture(300, 100, () => 9),
        grid,
        new Map(),
        'wood',
      ),
    ).toMatch(/crop it to 200 x 100,/);
    expect(
      typeof areaOfPicture(
        picture(101, 50, () => 9),
        grid,
        new Map(),
        'wood',
      ),
    ).toBe('object');
  });
});
