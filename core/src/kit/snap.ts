import { sinCosDeg } from '../num/trig';
import { KIT_GRID } from './pieces';

/** How a piece lies on the kit's grid along one of its own axes: on the lines, or in the middle of a cell. */
type Lie = 'line' | 'middle';

const LIES: Record<string, [along: Lie, across: Lie]> = {
  wall: ['middle', 'line'],
  corner: ['line', 'line'],
  floor: ['middle', 'middle'],
  roof: ['middle', 'middle'],
  stair: ['line', 'middle'],
};

const nearest = (v: number, lie: Lie): number => (lie === 'line' ? Math.round(v / KIT_GRID) * KIT_GRID : (Math.floor(v / KIT_GRID) + 0.5) * KIT_GRID);

/**
 * Where a piece joins its neighbours: the nearest place of its kind on the 2 m grid, metres. Turned by
 * a quarter, the axes change places; a piece that lies askew, or is of no known kind, goes to half cells.
 */
export function snapPiece(tags: readonly string[], turn: number, x: number, z: number): [x: number, z: number] {
  const kind = Object.keys(LIES).find((k) => tags.includes(k));
  const [s] = sinCosDeg(turn);
  const quarter = Math.abs(Math.abs(s) - 1) < 1e-9;
  if (!kind || (!quarter && Math.abs(s) > 1e-9)) return [Math.round(x), Math.round(z)];
  const [along, across] = LIES[kind];
  return quarter ? [nearest(x, across), nearest(z, along)] : [nearest(x, along), nearest(z, across)];
}
