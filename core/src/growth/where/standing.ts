import { nearestMarked } from '../../num/nearest';
import type { PlaceKind, WhereOf, WhereSource } from './field';
import { markInPlan, meshesOf } from './inPlan';

/** Of each source what was reckoned: a rule may ask for it twice. */
const known = new WeakMap<WhereSource, Map<'block' | 'piece', Int32Array | undefined>>();

/** For every sample the nearest one that a block or a piece lies over or under, as `nearestMarked` tells it. */
function nearestOf(source: WhereSource, what: 'block' | 'piece'): Int32Array | undefined {
  const of = known.get(source) ?? known.set(source, new Map()).get(source)!;
  if (!of.has(what)) {
    const { grid } = source.terrain;
    const marked = new Uint8Array(grid.nx * grid.nz);
    for (const mesh of meshesOf(source, what)) markInPlan(marked, grid, mesh);
    const near = marked.includes(1) ? nearestMarked(marked, grid.nx, grid.nz) : undefined;
    of.set(what, near);
  }
  return of.get(what);
}

const kindOf = (what: 'block' | 'piece', name: string): PlaceKind<WhereOf<'block'> | WhereOf<'piece'>> => ({
  name,
  unit: 'm',
  make(_, source) {
    const { nx, nz, spacing } = source.terrain.grid;
    const near = nearestOf(source, what);
    return {
      at(x, z) {
        if (!near) return NaN;
        const [fx, fz] = [x / spacing, z / spacing];
        const [ix, iz] = [Math.min(nx - 1, Math.max(0, Math.round(fx))), Math.min(nz - 1, Math.max(0, Math.round(fz)))];
        const of = near[iz * nx + ix];
        const [dx, dz] = [(of % nx) - fx, Math.floor(of / nx) - fz];
        // A marked sample stands for half a step about it.
        return Math.max(0, Math.sqrt(dx * dx + dz * dz) - 0.5) * spacing;
      },
      open: { below: 0, above: 200 },
    };
  },
});

/** Metres in plan from the nearest block, to the distance between samples: rather nearer than farther. */
export const block = kindOf('block', 'from block');
/** The same from the nearest piece. */
export const piece = kindOf('piece', 'from piece');
