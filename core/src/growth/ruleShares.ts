import { wholeRect, type Rect } from '../earth/rect';
import { spotAt, hostsOf, ruleAt } from './spot';
import type { GrowthInput } from './grow';
import { masksOf } from './masks';
import type { Plants } from './plants';
import { hasWhere, readyWhere, whereSource } from './where';

/** How much a species' rule lets grow, sample by sample. */
export interface RuleShares {
  name: string;
  /** 0 to 255, one byte a sample of the level, row by row; 0 everywhere where the rule is off */
  shares: Uint8Array;
  /** plants of it that stand */
  count: number;
}

/**
 * The product of all a rule goes by over the whole level; what is sown by hand and what stands in the way are no part of it.
 *
 * @param grown the plants as they are, in the species' order
 * @param rect samples that are looked at; the others are 0. The whole level where it is left out
 * @returns nothing where there is no such species
 */
export function ruleShares(
  input: GrowthInput,
  grown: readonly Plants[],
  speciesId: string,
  rect: Rect = wholeRect(input.terrain.grid),
): RuleShares | undefined {
  const index = input.species.findIndex((s) => s.id === speciesId);
  const species = input.species[index];
  if (!species) return undefined;
  const { nx, nz, spacing } = input.terrain.grid;
  const masks = masksOf(
    species,
    input.ground.surfaces.map((s) => s.id),
  );
  const where = hasWhere(species) ? readyWhere(species.rule.where!, whereSource(input, grown.slice(0, index)), rect) : undefined;
  const hosts = hostsOf(input);
  const spot = { height: 0, gradient: 0, top: false };
  const shares = new Uint8Array(nx * nz);
  for (let z = rect.z0; z <= rect.z1; z++)
    for (let x = rect.x0; x <= rect.x1; x++) {
      const [px, pz] = [Math.min(x * spacing, input.terrain.grid.width - 1e-6), Math.min(z * spacing, input.terrain.grid.depth - 1e-6)];
      const share = ruleAt(input, masks, spotAt(input, hosts, px, pz, spot), px, pz);
      shares[z * nx + x] = share === 0 ? 0 : Math.round(share * (where?.share(px, pz) ?? 1) * 255);
    }
  return { name: species.name, shares, count: grown[index]?.count ?? 0 };
}
