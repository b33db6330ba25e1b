import { assetTexelDensity } from '../kit/texelDensity';
import type { Piece } from '../level/objects';
import { Eyes } from './eyes';
import type { Snag } from './finding';
import type { SnagInput } from './input';

/** Pixels a metre that are wanted of what an eye gets as near to as this, metres; farther off in proportion, and never fewer than the least. */
const WANTED = { pixels: 512, near: 3, least: 64 };
/** Outside of these shares of what is wanted it is told. */
const SHARES = [0.5, 2] as const;
/** Farther than this all are alike, metres. */
const FAR = 120;
/** A picture this high is looked at, upright over so many degrees, as the budget has it. */
const PICTURE = { pixels: 1080, tan: 1 / Math.sqrt(3) };
/** Triangles of the finest LOD that are smaller than so many pixels where an eye gets nearest cost more than they show. */
const LEAST_PIXELS = 4;
/** What has fewer triangles is never too fine. */
const FEW = 300;
/** More materials than this on a piece are a draw more each. */
export const ADVISED_MATERIALS = 4;

/** Pixels a metre wanted of a thing that a reachable eye can get so near to (numbers, texel density). @param near metres */
export const wantedTexels = (near: number): number => Math.max(WANTED.least, (WANTED.pixels * WANTED.near) / Math.max(WANTED.near, near));

/**
 * How fine pictures and triangles of meshes are for the nearest eye that gets to one of their pieces, and meshes of more
 * materials than advised. One finding a mesh.
 */
export function nearDetail({ pieces, assets, placed, body, dots }: Pick<SnagInput, 'pieces' | 'assets' | 'placed' | 'body' | 'dots'>): Snag[] {
  const eyes = new Eyes(dots);
  const boxes = new Map(placed.map((m) => [m.id, m]));
  const byAsset = new Map<string, Piece[]>();
  for (const p of pieces) if (!p.hidden) (byAsset.get(p.asset) ?? byAsset.set(p.asset, []).get(p.asset)!).push(p);
  return [...byAsset].flatMap(([id, list]): Snag[] => {
    const asset = assets.get(id);
    if (!asset || asset.role === 'plant') return [];
    const out: Snag[] = [];
    const about = (p: Piece) => ({ severity: 'warning' as const, at: p.at, object: p.id });
    const materials = asset.materials?.length ?? 1;
    if (materials > ADVISED_MATERIALS)
      out.push({
        code: 'materials-many',
        message:
          `${asset.name} wears ${materials} materials, ${ADVISED_MATERIALS} are advised: ` +
          `${(materials - ADVISED_MATERIALS) * list.length} draws more for its ${list.length}`,
        mend: 'merge its materials in its card',
        ...about(list[0]),
      });
    let nearest: { piece: Piece; far: number } | undefined;
    for (const piece of list) {
      const box = boxes.get(piece.id);
      const far = box && eyes.nearest(box, body.eye, nearest?.far ?? FAR);
      if (far !== undefined && (!nearest || far < nearest.far)) nearest = { piece, far };
    }
    if (!nearest) return out;
    const { piece, far } = nearest;
    const size = Math.max(...(piece.scale ?? [1, 1, 1]));
    const density = assetTexelDensity(asset)?.mean;
    const wanted = wantedTexels(far);
    if (density !== undefined) {
      const share = density / size / wanted;
      const figures = `${(density / size).toFixed(0)} pixels a metre where ${wanted.toFixed(0)} are wanted: an eye gets as near as ${far.toFixed(1)} m`;
      if (share < SHARES[0])
        out.push({
          code: 'texels-coarse',
          message: `${piece.name} has ${figures}`,
          mend: 'give it a larger picture, or repeat it more often',
          ...about(piece),
        });
      else if (share > SHARES[1])
        out.push({
          code: 'texels-fine',
          message: `${piece.name} has ${figures}`,
          mend: 'make its pictures smaller in its card: they take memory for nothing',
          ...about(piece),
        });
    }
    const triangles = asset.lods[0].reduce((n, p) => n + p.indices.length / 3, 0);
    const box = boxes.get(piece.id)!;
    const [w, h, d] = [0, 1, 2].map((k) => box.max[k] - box.min[k]);
    // Half of its faces look at an eye, over about the area of its largest side.
    const side = Math.max(w * h, d * h, w * d);
    const pixels = (PICTURE.pixels / 2 / PICTURE.tan / Math.max(1, far)) ** 2;
    const each = (side * pixels) / (triangles / 2);
    if (triangles > FEW && each < LEAST_PIXELS)
      out.push({
        code: 'triangles-fine',
        message: `${piece.name} has ${triangles} triangles of ${each.toFixed(1)} pixels each at ${far.toFixed(1)} m, the nearest an eye gets`,
        mend: 'give it a coarser first LOD in its card',
        ...about(piece),
      });
    return out;
  });
}
