import type { Rect } from '../earth/rect';
import type { Habitat } from '../level/objects';
import { TILE_QUADS, TILE_SIDE, ownerTile, tileKey, type Grid, type Tiles } from '../level/tiles';
import { clamp } from '../num/vec';
import type { WhyPart } from '../surface/why';
import { drawnOutlines, type Box } from './drawnOutlines';
import { readyWhere, type WhereSource } from './where';

/** Where a habitat lies, made ready. */
export interface HabitatArea {
  /** how much of the ground at a place is of it, 0 to 1, with what earlier ones take */
  share(x: number, z: number): number;
  /** nothing of it lies outside, metres; the whole level where absent */
  box?: Box;
  /** its conditions with their values at a place */
  parts(x: number, z: number): WhyPart[];
}

/**
 * Where each habitat lies: drawn, painted and by its conditions, with soft borders; what earlier ones have is not of later ones.
 *
 * @param habitats those that are on, in their order
 * @param rect samples that may be asked
 */
export function habitatAreas(habitats: readonly Habitat[], source: WhereSource, rect: Rect): HabitatArea[] {
  const before: ((x: number, z: number) => number)[] = [];
  return habitats.map((habitat) => {
    const drawn = habitat.area === 'drawn' ? drawnArea(habitat, source) : undefined;
    const where = habitat.where && habitat.where.length > 0 ? readyWhere(habitat.where, source, rect) : undefined;
    const alone = (x: number, z: number): number => {
      const share = drawn ? drawn.share(x, z) : 1;
      return share > 0 && where ? share * where.share(x, z) : share;
    };
    const earlier = [...before];
    before.push(alone);
    return {
      share(x, z) {
        let share = alone(x, z);
        for (let i = 0; i < earlier.length && share > 0; i++) share *= 1 - earlier[i](x, z);
        return share;
      },
      ...(drawn ? { box: drawn.box } : {}),
      parts: (x, z) => where?.parts(x, z) ?? [],
    };
  });
}

/** Beyond this nothing is looked for, metres: a border is no wider than it. */
const LEAST_REACH = 0.01;

function drawnArea({ id, outlines, soft }: Habitat, { terrain: { grid }, tiles }: WhereSource): { share(x: number, z: number): number; box: Box } {
  const half = soft / 2;
  const reach = Math.max(half, LEAST_REACH);
  const drawn = drawnOutlines(outlines, reach);
  const painted = paintedArea(tiles, grid, id);
  const boxes = [...drawn.boxes, ...painted.boxes];
  return {
    share(x, z) {
      const most = edge(drawn.inside(x, z), half);
      return painted.boxes.length === 0 ? most : clamp(most + painted.at(x, z), 0, 1);
    },
    // Empty where nothing is drawn or painted: from infinity back to its other end.
    box: boxes.reduce((a, b) => ({ x0: Math.min(a.x0, b.x0), z0: Math.min(a.z0, b.z0), x1: Math.max(a.x1, b.x1), z1: Math.max(a.z1, b.z1) }), {
      x0: Infinity,
      z0: Infinity,
      x1: -Infinity,
      z1: -Infinity,
    }),
  };
}

const edge = (distance: number, half: number): number => (half <= 0 ? (distance >= 0 ? 1 : 0) : clamp(0.5 + distance / (2 * half), 0, 1));

/** What is painted of a habitat: how much more or less there is of it at a place, -1 to 1, the nearest sample; and where tiles of it lie. */
function paintedArea(tiles: Tiles, grid: Grid, id: string): { at(x: number, z: number): number; boxes: Box[] } {
  const { tilesX, tilesZ, spacing, nx, nz } = grid;
  const of = Array.from({ length: tilesX * tilesZ }, (_, i) => tiles.get(tileKey(id, 'area', i % tilesX, Math.floor(i / tilesX))));
  const side = TILE_QUADS * spacing;
  const boxes = of.flatMap((tile, i) => {
    const [x0, z0] = [(i % tilesX) * side - spacing, Math.floor(i / tilesX) * side - spacing];
    return tile ? [{ x0, z0, x1: x0 + side + 2 * spacing, z1: z0 + side + 2 * spacing }] : [];
  });
  return {
    boxes,
    at(x, z) {
      const sx = clamp(Math.round(x / spacing), 0, nx - 1);
      const sz = clamp(Math.round(z / spacing), 0, nz - 1);
      const [tx, tz] = [ownerTile(sx), ownerTile(sz)];
      const tile = of[tz * tilesX + tx];
      return tile ? tile[(sz - tz * TILE_QUADS) * TILE_SIDE + sx - tx * TILE_QUADS] / 1024 : 0;
    },
  };
}
