import type { GrowthInput } from '../growth/grow';
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
  return species.flatMap((s, i): Snag[] => {
    const here = grown[i];
    const asset = assets.get(s.asset);
    const out: Snag[] = [];
    const tell = (code: string, message: string, mend: string) => out.push({ code, severity: 'warning', message, mend, object: s.id });
    // What was set by hand stands whatever the rule says.
    if (here?.species === s.id && here.count === here.hand.length && (here.over ?? 0) === 0) {
      const fault = s.density > 0 && s.ceiling !== 0 ? ruleFault(input, grown, s.id) : 'its density is 0';
      if (s.rule.on && fault)
        tell('species-idle', `${s.name} grows nowhere by its rule: ${fault}`, 'look at its conditions with the overlay growth rule, or turn its rule off');
      else if (!s.rule.on && here.count === 0)
        tell('species-unused', `${s.name} grows nowhere: its rule is off and none is set or sown by hand`, 'turn its rule on, sow it, or delete it');
    }
    if (here?.species === s.id && here.count > 0 && asset && s.lean > SHOWS && asset.role !== 'plant' && openness(asset).hollow.includes('below'))
      tell(
        'plants-tipped',
        `${s.name} leans by up to ${s.lean}° and is open below: one sees into it`,
        `let it lean by ${SHOWS}° at most, sink it, or close the mesh`,
      );
    return out;
  });
}
