import type { Lift } from '../level/objects';
import type { Tiles } from '../level/tiles';
import { liftRect, type Terrain } from './compose';
import { uniteRects, type Rect } from './rect';

/** What the ground does not depend on. */
const form = ({ name: _name, version: _version, locked: _locked, order: _order, ...rest }: Lift): string =>
  JSON.stringify(rest.lift === 'weather' ? { ...rest, ...UNMADE } : rest);
/** What a weather lift is made with changes nothing until it is made again, which changes its tiles. */
const UNMADE = { seed: 0, droplets: 0, strength: 0, radius: 0, talus: 0, rounds: 0, made: '' };

/**
 * Samples that may differ between two stacks: where a lift that changed, came, went or changed places
 * could reach, before or after. Rasters of their tiles are not looked at.
 */
export function changedRect(before: readonly Lift[], after: readonly Lift[], terrain: Terrain, tiles: Tiles): Rect | undefined {
  const old = new Map(before.map((l) => [l.id, l]));
  const now = new Map(after.map((l) => [l.id, l]));
  const kept = (list: readonly Lift[], other: ReadonlyMap<string, Lift>) => list.filter((l) => other.has(l.id)).map((l) => l.id);
  const [was, is] = [kept(before, now), kept(after, old)];
  let rect: Rect | undefined;
  const touch = (lift: Lift | undefined) => {
    const reach = lift && liftRect(lift, terrain, tiles);
    if (reach) rect = uniteRects(rect, reach);
  };
  for (const id of new Set([...old.keys(), ...now.keys()])) {
    const [a, b] = [old.get(id), now.get(id)];
    if (a && b && form(a) === form(b) && was.indexOf(id) === is.indexOf(id)) continue;
    touch(a);
    touch(b);
  }
  return rect;
}
