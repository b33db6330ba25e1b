import { meshGrid } from '../block/placedMesh';
import { blockBounds, type Bounds } from '../block/solid';
import { assetOf } from '../kit/bentAsset';
import { assetBounds } from '../kit/asset';
import { isMade, ownerOf } from '../level/instance';
import { placer } from '../num/pose';
import { distance, sub, type Vec3 } from '../num/vec';
import { groundAlongGrid } from '../surface/groundAt';
import { BoxIndex } from './boxIndex';
import type { Snag } from './finding';
import type { SnagInput } from './input';

/** What comes out on the far side by less than this is not seen, metres. */
const SEEN = 0.1;
/** What is thicker than this is ground or a massif: what is in it comes out somewhere else, metres. */
const THICK = 3;

/**
 * Things that stand through a wall or a floor and come out on its far side, and how far: by rays from their middle to the
 * middles of their sides, and back. Parts of kits and what is laid go through each other by design.
 */
export function poking(input: Pick<SnagInput, 'terrain' | 'blocks' | 'grid' | 'pieces' | 'placed' | 'assets' | 'kits'>): Snag[] {
  const { terrain, blocks, grid, pieces, placed, assets, kits } = input;
  const parts = new Set(kits.flatMap((k) => k.parts.map((p) => p.asset)));
  const loose = pieces.filter((p) => !parts.has(p.asset) && !p.hidden && assets.get(p.asset)?.role !== 'background');
  if (loose.length === 0) return [];
  const things = [...blocks.map((b) => ({ id: b.id, ...blockBounds(b) })), ...placed];
  const index = new BoxIndex(things);
  const boxes = new Map(placed.map((m) => [m.id, m]));
  const byId = new Map(things.map((t) => [t.id, t]));
  let meshes: ReturnType<typeof meshGrid> | undefined;
  return loose.flatMap((piece): Snag[] => {
    const box = boxes.get(piece.id);
    if (!box) return [];
    const related = (id: string) => id === piece.id || (isMade(piece.id) && ownerOf(id) === ownerOf(piece.id));
    const others = new Set(index.touching(box).flatMap((i) => (related(things[i].id) ? [] : [things[i].id])));
    if (others.size === 0) return [];
    meshes ??= meshGrid(placed);
    const on = { blocks: grid, meshes };
    const { min, max } = assetBounds(assetOf(assets, piece)!);
    const place = placer(piece);
    const middle = [0, 1, 2].map((k) => (min[k] + max[k]) / 2) as Vec3;
    const from = place(...middle);
    const size = [0, 1, 2].map((k) => (max[k] - min[k]) * (piece.scale?.[k] ?? 1));
    let worst: { depth: number; name: string } | undefined;
    for (const axis of [0, 1, 2]) {
      const across = size.filter((_, k) => k !== axis);
      const wide = new Set([...others].filter((id) => covers(byId.get(id)!, across)));
      if (wide.size === 0) continue;
      for (const side of [min, max]) {
        const end = place(...(middle.map((v, k) => (k === axis ? side[k] : v)) as Vec3));
        const length = distance(from, end);
        if (length < SEEN) continue;
        const way = sub(end, from).map((v) => v / length) as Vec3;
        // Into something on the way out, and into the same on the way back: it lies between.
        const into = groundAlongGrid(terrain, { ...on, skip: (id) => !wide.has(id) }, { origin: from, direction: way, far: length });
        if (!into || into.host.kind === 'terrain') continue;
        const { id, name } = into.host;
        const back = groundAlongGrid(terrain, { ...on, skip: (o) => o !== id }, { origin: end, direction: way.map((v) => -v) as Vec3, far: length });
        if (!back || back.host.kind === 'terrain' || back.host.id !== id) continue;
        const thick = length - into.distance - back.distance;
        if (thick < 0 || thick > THICK || back.distance < SEEN || (worst && worst.depth >= back.distance)) continue;
        worst = { depth: back.distance, name };
      }
    }
    return worst
      ? [
          {
            code: 'piece-poking',
            severity: 'warning',
            message: `${piece.name} comes out ${worst.depth.toFixed(2)} m on the far side of ${worst.name}`,
            mend: 'move it back, turn it along, or size it down',
            at: piece.at,
            object: piece.id,
          },
        ]
      : [];
  });
}

/** Whether something is wide enough that what has such measures across goes through it, and not the other way round. */
function covers({ min, max }: Bounds, across: readonly number[]): boolean {
  const sides = [0, 1, 2].map((k) => max[k] - min[k]).sort((a, b) => b - a);
  const own = [...across].sort((a, b) => b - a);
  return sides[0] >= own[0] && sides[1] >= own[1];
}
