import type { Surface } from '@rammer/core/level/lay/dressed';
import { cross, normalize, type Vec3 } from '@rammer/core/num/vec';
import { useDressing } from '../store/dressing';

/** How far a ring stands off what it lies on, metres. */
const OFF = 0.05;

/** A ring on a surface, its first point also its last. */
export function ringAt({ at, normal }: Surface, radius: number): Vec3[] {
  const u = normalize(Math.abs(normal[1]) < 0.9 ? cross([0, 1, 0], normal) : cross([1, 0, 0], normal));
  const v = cross(normal, u);
  return Array.from({ length: 49 }, (_, i): Vec3 => {
    const a = (i / 48) * 2 * Math.PI;
    return [0, 1, 2].map((k) => at[k] + normal[k] * OFF + (u[k] * Math.cos(a) + v[k] * Math.sin(a)) * radius) as Vec3;
  });
}

/** [ and ] set the radius. @returns whether the key is one of them */
export function brushRadius(key: string, most = 50): boolean {
  if (key !== '[' && key !== ']') return false;
  const { radius } = useDressing.getState();
  useDressing.setState({ radius: Math.min(most, Math.max(0.25, Math.round(radius * (key === ']' ? 1.25 : 0.8) * 100) / 100)) });
  return true;
}
