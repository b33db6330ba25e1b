import type { GrowthInput } from '../growth/grow';
import { assetsOfSpecies } from '../growth/meshes';
import { grownParts, passesOf, ruleKey, ruleOf, type Grown } from '../growth/passes';
import type { Plants } from '../growth/plants';
import { ruleFault } from '../growth/ruleFault';
import { openness } from '../kit/openSides';
import type { Assets } from '../kit/placement';
import type { Snag } from './finding';

/** What leans by more than this shows what is under it, degrees. */
const SHOWS = 8;

/**
 * Species that grow nothing, and what keeps them from it; that nobody uses; that lean so far that their open side below shows.
 *
 * @param grown in the species' order; those that have not grown yet are left alone
 */
export function speciesSnags(input: GrowthInput & { assets: Assets }, grown: readonly Plants[]): Snag[] {
  const { species, assets } = input;
  const parts = grownParts(passesOf(species, input.habitats), grown);
  // Stale plants are of other species: they grow again in a moment.
  if (species.some((s, i) => grown[i]?.species !== s.id)) return [];
  return [
    ...ruleSnags(input, parts),
    ...species.flatMap((s, i): Snag[] => {
      const here = grown[i];
      const open = assetsOfSpecies(s, assets).some((asset) => asset && asset.role !== 'plant' && openness(asset).hollow.includes('below'));
      const out: Snag[] = [];
      const tell = (code: string, message: string, mend: string) => out.push({ code, severity: 'warning', message, mend, object: s.id });
      const ruled = parts.some((g) => g.pass.index === i && g.pass.key !== '');
      // What was set by hand stands whatever the rule says.
      if (here.count === here.hand.length && (here.over ?? 0) === 0) {
        const at = parts.findIndex((g) => g.pass.index === i && g.pass.key === '');
        const fault = s.density > 0 && s.ceiling !== 0 ? ruleFault(input, parts, at) : 'its density is 0';
        if (s.rule.on && fault)
          tell('species-idle', `${s.name} grows nowhere by its rule: ${fault}`, 'look at its conditions with the overlay growth rule, or turn its rule off');
        else if (!s.rule.on && !ruled && here.count === 0)
          tell('species-unused', `${s.name} grows nowhere: its rule is off and none is set or sown by hand`, 'turn its rule on, sow it, or delete it');
      }
      if (here.count > 0 && s.lean > SHOWS && open)
        tell(
          'plants-tipped',
          `${s.name} leans by up to ${s.lean}° and is open below: one sees into it`,
          `let it lean by ${SHOWS}° at most, sink it, or close the mesh`,
        );
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
