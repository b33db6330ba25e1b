import { meshGrid, type MeshGrid } from '../block/placedMesh';
import { openness, type Side } from '../kit/openSides';
import { assetOf, meshKey } from '../kit/bentAsset';
import { assetBounds, type Asset } from '../kit/asset';
import type { Piece } from '../level/objects';
import { placer, poseAxes } from '../num/pose';
import type { Vec3 } from '../num/vec';
import { groundAlongGrid } from '../surface/groundAt';
import { Eyes } from './eyes';
import type { Snag } from './finding';
import type { SnagInput } from './input';

/** An open side is looked for from so far, metres. */
const FAR = 24;
/** A side is seen into at less than this off its own direction: the cosine. */
const FACING = 0.3;
/** So many places to stand on are tried for a side, spread over those there are. */
const MOST_EYES = 40;
/** A ray looks at a place so far before the side, metres: its own rim does not hide it. */
const BEFORE = 0.04;

const AXIS: Record<Side, [axis: 0 | 1 | 2, sign: 1 | -1]> = { left: [0, -1], right: [0, 1], below: [1, -1], above: [1, 1], back: [2, -1], front: [2, 1] };

/** The middle of a side of an asset's box, and the way out of it, where a piece stands. */
function sideOf(piece: Piece, asset: Pick<Asset, 'lods'>, side: Side): { at: Vec3; way: Vec3 } {
  const { min, max } = assetBounds(asset);
  const [axis, sign] = AXIS[side];
  const own = [0, 1, 2].map((k) => (k === axis ? (sign > 0 ? max[k] : min[k]) : (min[k] + max[k]) / 2)) as Vec3;
  const axes = poseAxes(piece);
  const way = axes[axis].map((v) => v * sign) as Vec3;
  const at = placer(piece)(...own);
  return { at: [0, 1, 2].map((k) => at[k] + way[k] * BEFORE) as Vec3, way };
}

/**
 * Open sides of pieces that can be looked into from where a body gets to: by rays from its eye. One finding for all pieces of one
 * asset whose same side shows.
 *
 * @param input `by` names the body that looks, where it is not the player's
 */
export function hollowSeen(input: Pick<SnagInput, 'terrain' | 'grid' | 'pieces' | 'placed' | 'assets' | 'body' | 'dots'> & { by?: string }): Snag[] {
  const { terrain, grid, pieces, placed, assets, body, dots, by } = input;
  let meshes: MeshGrid | undefined;
  let eyes: Eyes | undefined;
  const found = new Map<string, { piece: Piece; side: Side; eye: Vec3; count: number }>();
  for (const piece of pieces) {
    const asset = assetOf(assets, piece);
    if (!asset || asset.role === 'background' || piece.hidden) continue;
    for (const side of openness(asset).hollow) {
      const key = `${meshKey(piece)}/${side}`;
      const { at, way } = sideOf(piece, asset, side);
      eyes ??= new Eyes(dots);
      const facing = eyes.near({ min: at, max: at }, FAR).flatMap((i): Vec3[] => {
        const eye: Vec3 = [dots[i], dots[i + 1] + body.eye, dots[i + 2]];
        const [dx, dy, dz] = [eye[0] - at[0], eye[1] - at[1], eye[2] - at[2]];
        const far = Math.sqrt(dx * dx + dy * dy + dz * dz);
        return far <= FAR && far > 0.05 && (dx * way[0] + dy * way[1] + dz * way[2]) / far >= FACING ? [eye] : [];
      });
      const step = Math.max(1, Math.ceil(facing.length / MOST_EYES));
      meshes ??= meshGrid(placed);
      for (let i = 0; i < facing.length; i += step) {
        const eye = facing[i];
        const [dx, dy, dz] = [at[0] - eye[0], at[1] - eye[1], at[2] - eye[2]];
        const far = Math.sqrt(dx * dx + dy * dy + dz * dz);
        if (groundAlongGrid(terrain, { blocks: grid, meshes }, { origin: eye, direction: [dx / far, dy / far, dz / far], far: far - 1e-3 })) continue;
        const known = found.get(key);
        if (known) known.count++;
        else found.set(key, { piece, side, eye, count: 1 });
        break;
      }
    }
  }
  return [...found.values()].map(({ piece, side, eye, count }) => ({
    code: 'hollow-seen',
    severity: 'warning',
    message:
      `${piece.name}${count > 1 ? ` and ${count - 1} more of it` : ''}: ` +
      `from ${eye[0].toFixed(1)}, ${eye[2].toFixed(1)} ${by ?? 'one'} sees into the open side (${side})`,
    mend: 'turn the open side away, set something before it, or close the mesh',
    at: piece.at,
    object: piece.id,
  }));
}
