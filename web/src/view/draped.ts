import type { Terrain } from '@rammer/core/earth/compose';
import { heightAt } from '@rammer/core/earth/sample';
import type { Point2 } from '@rammer/core/num/outline';
import type { LevelView } from './LevelView';

/** Points along a side this far apart are laid on the ground, metres. */
const APART = 2;
/** Points of a side at most. */
const MOST = 120;

/** A line or outline in plan as it lies on the ground, in pixels of the view: an SVG path, broken where it is out of sight. */
export function drapedPath(view: LevelView, terrain: Terrain, points: readonly Point2[], closed: boolean): string {
  let d = '';
  let pen = 'M';
  const sides = closed ? points.length : points.length - 1;
  for (let i = 0; i < sides; i++) {
    const [a, b] = [points[i], points[(i + 1) % points.length]];
    const n = Math.max(1, Math.min(MOST, Math.ceil(Math.hypot(b[0] - a[0], b[1] - a[1]) / APART)));
    for (let k = i === 0 ? 0 : 1; k <= n; k++) {
      const [x, z] = [a[0] + ((b[0] - a[0]) * k) / n, a[1] + ((b[1] - a[1]) * k) / n];
      const p = view.project([x, heightAt(terrain, x, z) + 0.1, z]);
      if (!p) {
        pen = 'M';
        continue;
      }
      d += `${pen}${p.x.toFixed(1)} ${p.y.toFixed(1)}`;
      pen = 'L';
    }
  }
  return d;
}
