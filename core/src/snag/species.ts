import type { GrowthInput } from '../growth/grow';
import { grownParts, passesOf, ruleKey, ruleOf, type Grown } from '../growth/passes';
import type { Plants } from '../growth/plants';
import { ruleFault } from '../growth/ruleFault';
import type { Assets } from '../kit/placement';
import type { Cover } from '../level/objects';
import type { GroundRaster } from '../surface/ground';
import type { Snag } from './finding';

/**
 * Species that grow nothing, and what keeps them from it; and that nobody uses.
 *
 * @param grown in the species' order; those that have not grown yet are left alone
 */
export function speciesSnags(input: GrowthInput & { assets: Assets; covers?: readonly Cover[] }, grown: readonly Plants[]): Snag[] {
  const { species } = input;
  const parts = grownParts(passesOf(species, input.habitats), grown);
  // Stale plants are of other species: they grow again in a moment.
  if (species.some((s, i) => grown[i]?.species !== s.id)) return [];
  return [
    ...ruleSnags(input, parts),
    ...coverSnags(input),
    ...species.flatMap((s, i): Snag[] => {
      const here = grown[i];
      const out: Snag[] = [];
      const tell = (code: string, message: string, mend: string) => out.push({ code, severity: 'warning', message, mend, object: s.id });
      const ruled = parts.some((g) => g.pass.index === i && g.pass.key !== '');
      // What was set by hand stands whatever the rule says.
      if (here.count === here.hand.length && (here.over ?? 0) === 0) {
        const at = parts.findIndex((g) => g.pass.index === i && g.pass.key === '');
        const fault = s.density > 0 && s.ceiling !== 0 ? ruleFault(input, parts, at) : 'its density is 0';
        if (s.rule.on && fault)
          tell('species-idle', `${s.name} grows nowhere by its rule: ${fault}`, 'look at its conditions with the overlay growth rule, or turn its rule off');
        else if (!s.rule.on && !ruled && here.count === 0 && !input.covers?.some((c) => c.species === s.id))
          tell(
            'species-unused',
            `${s.name} grows nowhere: its rule is off, it covers no ground, and none is set or sown by hand`,
            'turn its rule on, sow it, or delete it',
          );
      }
      return out;
    }),
  ];
}

/** Rules of habitats that grow nothing, and what keeps each of their species from it. */
function ruleSnags(input: GrowthInput, parts: readonly Grown[]): Snag[] {
  return (input.habitats ?? []).flatMap((habitat) =>
    habitat.rules.flatMap((rule): Snag[] => {
      const mine = parts.flatMap((g, at) => (ruleOf(g.pass) === ruleKey(habitat, rule) ? [{ ...g, at }] : []));
      if (!rule.on || mine.some((g) => g.plants.count > 0 || (g.plants.over ?? 0) > 0)) return [];
      const mixed = mine.filter((g) => !g.pass.species.about);
      const faults = mixed.map((g) => `${g.pass.species.name}: ${ruleFault(input, parts, g.at) ?? 'what stands there leaves it no room'}`);
      const why = mixed.length === 0 ? 'none of its species is in the level' : rule.density === 0 ? 'its density is 0' : faults.join('; ');
      return [
        {
          code: 'rule-idle',
          severity: 'warning',
          message: `${rule.name} of ${habitat.name} grows nothing: ${why}`,
          mend: 'look at its conditions with the overlay growth rule, or turn the rule off',
          object: habitat.id,
        },
      ];
    }),
  );
}

/** Ground cover that is nowhere: its surface or its species is gone, or its surface lies nowhere. */
function coverSnags({ covers = [], ground, species }: Pick<GrowthInput, 'ground' | 'species'> & { covers?: readonly Cover[] }): Snag[] {
  const idle = covers.filter((c) => c.on);
  if (idle.length === 0) return [];
  const lies = surfacesThatLie(ground);
  return idle.flatMap((c): Snag[] => {
    const at = ground.surfaces.findIndex((s) => s.id === c.surface);
    const why =
      at < 0
        ? 'its surface is gone'
        : !species.some((s) => s.id === c.species)
          ? 'its species is gone'
          : lies[at]
            ? undefined
            : `${ground.surfaces[at].name} lies nowhere`;
    if (why === undefined) return [];
    const mend = 'pick another under cover in Grow, paint its surface, or delete it';
    return [{ code: 'cover-idle', severity: 'warning', message: `${c.name} covers nothing: ${why}`, mend, object: c.id }];
  });
}

/** Which of the level's surfaces the ground has any of. */
function surfacesThatLie({ surfaces, of, weights }: GroundRaster): boolean[] {
  const lies = surfaces.map(() => false);
  for (let i = 0; i < weights.length; i++) if (weights[i] > 0) lies[of[i]] = true;
  return lies;
}
