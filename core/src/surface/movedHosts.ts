import { blockBounds } from '../block/solid';
import type { PlacedMesh } from '../block/placedMesh';
import { uniteRects, type Rect } from '../earth/rect';
import type { Grid } from '../level/tiles';
import { hostRect, type Hosts } from './tops';

/** Samples over which a top came, went or moved between two lists of hosts. */
export function movedHosts(grid: Grid, before: Hosts, after: Hosts): Rect | undefined {
  let rect: Rect | undefined;
  const moved = ({ min, max }: Pick<PlacedMesh, 'min' | 'max'>) => {
    const at = hostRect(grid, min, max);
    if (at) rect = uniteRects(rect, at);
  };
  // A block is another object once it is changed; meshes are placed anew with every change of any.
  const [old, now] = [new Set(before.blocks), new Set(after.blocks)];
  for (const b of before.blocks) if (!now.has(b)) moved(blockBounds(b));
  for (const b of after.blocks) if (!old.has(b)) moved(blockBounds(b));
  const known = new Map(before.meshes.map((m) => [m.id, m]));
  for (const m of after.meshes) {
    const was = known.get(m.id);
    known.delete(m.id);
    if (was && sameShape(was, m)) continue;
    moved(m);
    if (was) moved(was);
  }
  for (const gone of known.values()) moved(gone);
  return rect;
}

function sameShape(a: PlacedMesh, b: PlacedMesh): boolean {
  if (a === b) return true;
  if (a.positions.length !== b.positions.length || a.indices.length !== b.indices.length) return false;
  for (let i = 0; i < a.positions.length; i++) if (a.positions[i] !== b.positions[i]) return false;
  for (let i = 0; i < a.indices.length; i++) if (a.indices[i] !== b.indices[i]) return false;
  return true;
}
