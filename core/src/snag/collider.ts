import { assetBounds, type Asset, type Collider } from '../kit/asset';
import { colliderShapes } from '../kit/mend/colliders';
import { assetOf, meshKey } from '../kit/bentAsset';
import { colliderOf } from '../kit/placement';
import type { Piece } from '../level/objects';
import { Eyes } from './eyes';
import type { Snag } from './finding';
import type { SnagInput } from './input';

/** A body that gets this near to a thing touches it, metres over its own radius. */
const ARM = 0.4;
/** What is thinner than this in plan stops nobody who is not looking for it, metres. */
const THIN = 0.3;
/** Nobody who gets no nearer than this to a thing is stopped by it, metres. */
const UNREACHED = 6;
/** A mesh that stops a body costs from this many triangles on; parts of it have about so many each, and there are at most so many. */
const DEAR = { triangles: 400, ofPart: 24, parts: 8 };
/** A collider may stand out over what is seen by this: metres, and as a share of the side. */
const OVER = { metres: 0.1, share: 0.15 };

interface Use {
  asset: Asset;
  kind: Collider;
  pieces: Piece[];
}

const many = (pieces: readonly Piece[]): string => (pieces.length > 1 ? `${pieces[0].name} and ${pieces.length - 1} more of it` : pieces[0].name);
const trianglesOf = (asset: Asset, kind: Collider): number => colliderShapes(asset, kind).reduce((n, s) => n + s.indices.length / 3, 0);

/** Pieces by their asset and what stops a body at them. */
function usesOf({ pieces, assets }: Pick<SnagInput, 'pieces' | 'assets'>): Use[] {
  const uses = new Map<string, Use>();
  for (const piece of pieces) {
    const asset = assetOf(assets, piece);
    if (!asset || piece.hidden) continue;
    const kind = colliderOf(piece, asset);
    const key = `${meshKey(piece)}/${kind}`;
    const use = uses.get(key);
    if (use) use.pieces.push(piece);
    else uses.set(key, { asset, kind, pieces: [piece] });
  }
  return [...uses.values()];
}

/**
 * What stops a body wrongly, one finding for all pieces of one mesh: things one touches and walks through, colliders that
 * nobody gets to, meshes where parts would do, and shapes larger than what is seen.
 */
export function colliders(input: Pick<SnagInput, 'pieces' | 'assets' | 'placed' | 'body' | 'dots'>): Snag[] {
  const { placed, body, dots } = input;
  const eyes = new Eyes(dots);
  const boxes = new Map(placed.map((m) => [m.id, m]));
  const near = (p: Piece, by: number) => {
    const box = boxes.get(p.id);
    return box !== undefined && eyes.nearest(box, body.height, by) !== undefined;
  };
  return usesOf(input).flatMap(({ asset, kind, pieces }): Snag[] => {
    const about = (p: Piece) => ({ at: p.at, object: p.id });
    if (kind === 'none') {
      if (asset.role === 'background' || asset.role === 'board' || asset.role === 'plant') return [];
      const touched = pieces.filter((p) => {
        // By its own measures: a rail on a slope is no higher than on the flat.
        const { min, max } = assetBounds(asset);
        const [w, h, d] = (p.scale ?? [1, 1, 1]).map((v, k) => v * (max[k] - min[k]));
        if (h <= body.step || Math.min(w, d) < THIN) return false;
        return near(p, body.radius + ARM);
      });
      return touched.length === 0
        ? []
        : [
            {
              code: 'collider-missing',
              severity: 'warning',
              message: `${many(touched)} can be touched and is walked through: it has no collider`,
              mend: 'give the mesh a collider in its card, or the piece one of its own; what is background says so by its role',
              ...about(touched[0]),
            },
          ];
    }
    const out: Snag[] = [];
    const triangles = trianglesOf(asset, kind);
    const unreached = eyes.size === 0 ? [] : pieces.filter((p) => boxes.has(p.id) && !near(p, UNREACHED));
    if (unreached.length > 0)
      out.push({
        code: 'collider-unreached',
        severity: 'warning',
        message: `nobody gets nearer than ${UNREACHED} m to ${many(unreached)}: ${triangles * unreached.length} triangles of colliders stop nobody`,
        mend: 'take the collider away, or lead the player there',
        ...about(unreached[0]),
      });
    if (kind === 'mesh' && triangles >= DEAR.triangles)
      out.push({
        code: 'collider-dear',
        severity: 'warning',
        message:
          `${many(pieces)} stops a body with all its ${triangles} triangles, ${triangles * pieces.length} together: ` +
          `parts would be about ${Math.min(triangles, DEAR.parts * DEAR.ofPart) * pieces.length}`,
        mend: 'make its collider of parts or a hull in its card',
        ...about(pieces[0]),
      });
    const over = standsOut(asset, kind);
    if (over)
      out.push({
        code: 'collider-large',
        severity: 'warning',
        message: `${many(pieces)} stops a body ${over.toFixed(2)} m beside what is seen of it: its ${kind} is larger than the mesh`,
        mend: 'take another collider for it: a box, a hull or parts',
        ...about(pieces[0]),
      });
    return out;
  });
}

/** How far a collider stands out over what is seen of an asset, metres; nothing where that is little. */
function standsOut(asset: Asset, kind: Collider): number | undefined {
  const { min, max } = assetBounds(asset);
  let most = 0;
  for (const { positions } of colliderShapes(asset, kind))
    for (let i = 0; i < positions.length; i++) {
      const k = i % 3;
      const over = Math.max(positions[i] - max[k], min[k] - positions[i]);
      if (over > OVER.metres && over > (max[k] - min[k]) * OVER.share) most = Math.max(most, over);
    }
  return most > 0 ? most : undefined;
}
