import type { Kit, Part } from '../level/kinds/kit';

const sides = ({ box }: Part): number[] => [0, 1, 2].map((k) => Math.max(1e-3, box[1][k] - box[0][k]));

/** How unlike in size two parts are: the sum of how many times each side is longer, as logarithms. */
function unlike(a: Part, b: Part): number {
  const [p, q] = [sides(a), sides(b)];
  return p.reduce((sum, v, k) => sum + Math.abs(Math.log(v / q[k])), 0);
}

/** The part of another kit that does what a part does: of the same use, and of these the one nearest in size. */
export function counterpart(part: Part, kit: Kit): Part | undefined {
  const same = kit.parts.filter((p) => p.use === part.use);
  return same.length === 0 ? undefined : same.reduce((best, p) => (unlike(part, p) < unlike(part, best) ? p : best));
}

/** The next part of a kit that may stand in the place of one: of the same use and as long, the first after the last. */
export function variantOf(part: Part, kit: Kit): Part | undefined {
  const alike = kit.parts.filter((p) => p.use === part.use && Math.abs(sides(p)[0] - sides(part)[0]) < 1e-3 && p.weight > 0);
  const at = alike.findIndex((p) => p.asset === part.asset);
  return alike.length > 1 ? alike[(at + 1) % alike.length] : undefined;
}
