import { wholeRect, type Rect } from '../earth/rect';
import type { GrowthInput } from './grow';
import { judgeOf, readyPass } from './passChance';
import { grownParts, passesOf, ruleOf, type Grown } from './passes';
import type { Plants } from './plants';
import { ruleAt, spotAt } from './spot';

/** How much a species' rules, or a rule of a habitat, let grow, sample by sample. */
export interface RuleShares {
  name: string;
  /** 0 to 255 of the most there is anywhere, one byte a sample of the level, row by row; 0 everywhere where no rule is on */
  shares: Uint8Array;
  /** what 255 stands for, plants on 100 m2; 0 of a habitat as a whole, where it stands for all of the ground */
  most: number;
  /** plants of it that stand */
  count: number;
}

/**
 * The product of all that a rule goes by over the whole level; what is sown by hand and what stands in the way are no part of it.
 *
 * @param grown the plants as they are, in the species' order
 * @param of id of a species, all of its rules together; of a rule of a habitat, as `ruleKey` tells it, all of its mix; or of a
 *   habitat: how much of the ground is of it, and what stands by its rules
 * @returns nothing where there is no such species or rule
 */
export function ruleShares(input: GrowthInput, grown: readonly Plants[], of: string): RuleShares | undefined {
  const index = input.species.findIndex((s) => s.id === of);
  const parts = grownParts(passesOf(input.species, input.habitats), grown);
  const mine = parts.filter(({ pass }) => (index >= 0 ? pass.index === index : ruleOf(pass) === of));
  if (mine.length === 0) return areaShares(input, parts, of);
  const wanted = wantedDensity(input, parts, mine);
  let most = 0;
  for (const v of wanted) most = Math.max(most, v);
  const whole = Math.max(most, ...mine.map(({ pass }) => (pass.species.rule.on ? pass.species.density : 0)));
  const { rule, habitat } = mine[0].pass;
  return {
    name: index >= 0 ? input.species[index].name : `${habitat!.name}, ${rule!.name}`,
    shares: Uint8Array.from(wanted, (v) => (whole > 0 ? Math.round((v / whole) * 255) : 0)),
    most: whole,
    count: mine.reduce((n, g) => n + g.plants.count, 0),
  };
}

function areaShares(input: GrowthInput, parts: readonly Grown[], id: string): RuleShares | undefined {
  const habitat = input.habitats?.find((h) => h.id === id);
  if (!habitat) return undefined;
  const { nx, nz, spacing } = input.terrain.grid;
  const area = judgeOf(input, []).areas.get(id)!;
  return {
    name: habitat.name,
    shares: Uint8Array.from({ length: nx * nz }, (_, i) => Math.round(area.share((i % nx) * spacing, Math.floor(i / nx) * spacing) * 255)),
    most: 0,
    count: parts.reduce((n, g) => n + (g.pass.habitat === habitat ? g.plants.count : 0), 0),
  };
}

/**
 * How many plants on 100 m2 some passes ask for together, sample by sample; those that grow about others count as their rules lets them.
 *
 * @param parts all that grew
 * @param rect samples that are looked at; the others are 0. The whole level where it is left out
 */
export function wantedDensity(input: GrowthInput, parts: readonly Grown[], mine: readonly Grown[], rect?: Rect): Float32Array {
  const { nx, nz, spacing, width, depth } = input.terrain.grid;
  const { x0, z0, x1, z1 } = rect ?? wholeRect(input.terrain.grid);
  const spot = { height: 0, gradient: 0, top: false };
  const out = new Float32Array(nx * nz);
  for (const of of mine) {
    const judge = judgeOf(
      input,
      parts.slice(0, parts.indexOf(of)).map((g) => g.plants),
      rect,
    );
    const { masks, where, box } = readyPass(judge, of.pass);
    if (!masks.on) continue;
    for (let z = z0; z <= z1; z++)
      for (let x = x0; x <= x1; x++) {
        const [px, pz] = [Math.min(x * spacing, width - 1e-6), Math.min(z * spacing, depth - 1e-6)];
        if (box && (px < box.x0 || px > box.x1 || pz < box.z0 || pz > box.z1)) continue;
        const share = ruleAt(input, masks, spotAt(input, judge.hosts, px, pz, spot), px, pz);
        if (share > 0) out[z * nx + x] += of.pass.species.density * share * (where?.share(px, pz) ?? 1);
      }
  }
  return out;
}
