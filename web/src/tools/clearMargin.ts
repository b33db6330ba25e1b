import { clearAround } from '@rammer/core/growth/clearAround';
import { speciesOf } from '@rammer/core/level/level';
import type { Point2 } from '@rammer/core/num/outline';
import { packRaster, toBase64 } from '@rammer/core/num/fixed';
import { usePlanting } from '../store/planting';
import type { Session } from '../store/session';
import { footOf } from './seams';
import { things } from './things';

/** What has no foot of its own takes so much room about its place, metres. */
const POINT = 0.25;

/** Clears what grows about the things that are selected, as wide as the margin: of the species that are picked, or of all. One edit. */
export function clearMargin(session: Session): boolean {
  const { species, also, clearAll, margin } = usePlanting.getState();
  const list = speciesOf(session.level);
  const chosen = clearAll ? list : list.filter((s) => s.id === (species ?? list[0]?.id) || also.includes(s.id));
  const selected = things(session);
  const outlines = selected.map((t): Point2[] => {
    const foot = footOf(session, t.id, 0.01);
    if (foot) return foot.map(([x, , z]): Point2 => [x, z]);
    const [x, , z] = t.at;
    return [
      [x - POINT, z - POINT],
      [x + POINT, z - POINT],
      [x + POINT, z + POINT],
      [x - POINT, z + POINT],
    ];
  });
  const deltas = clearAround(
    { grid: session.terrain.grid, tiles: session.level.tiles },
    chosen.map((s) => s.id),
    outlines,
    margin,
  );
  if (deltas.length === 0) {
    session.say('it is clear about them already', true);
    return false;
  }
  const what = `clear ${margin} m about ${selected.length === 1 ? selected[0].name : `${selected.length} things`}`;
  return session.commit({ kind: 'stroke', tiles: deltas.map(({ key, delta }) => ({ key, delta: toBase64(packRaster(delta)) })) }, what);
}
