import type { GrowthInput } from './grow';
import { onGround } from './masks';
import { judgeOf, readyPass } from './passChance';
import { parentsOf, type Grown } from './passes';
import { spotAt } from './spot';
import { inBand } from '../num/band';
import type { WhyPart } from '../surface/why';

/** So many places of a level are looked at, along each side. */
const PLACES = 96;

/**
 * What of a rule keeps it from growing anything anywhere, in words: the condition that holds nowhere, or those that hold
 * nowhere together.
 *
 * @param parts all that grew, pass by pass
 * @param at which of them
 * @returns nothing where its rule would let something grow
 */
export function ruleFault(input: GrowthInput, parts: readonly Grown[], at: number): string | undefined {
  const { pass } = parts[at];
  const { species } = pass;
  if (!species.rule.on) return undefined;
  const { about } = species;
  const before = parts.slice(0, at);
  if (about && !parentsOf(pass, before).some((g) => g.count > 0))
    return `nothing stands that it could grow about: ${input.species.find((s) => s.id === about.species)?.name ?? 'its species is gone'}`;
  const { width, depth } = input.terrain.grid;
  const judge = judgeOf(
    input,
    before.map((g) => g.plants),
  );
  const { masks, where } = readyPass(judge, pass);
  const { hosts } = judge;
  const spot = { height: 0, gradient: 0, top: false };
  /** places where each holds at all */
  const held: [what: string, places: number][] = [];
  for (let k = 0; k < PLACES * PLACES; k++) {
    const [x, z] = [(((k % PLACES) + 0.5) * width) / PLACES, ((Math.floor(k / PLACES) + 0.5) * depth) / PLACES];
    spotAt(input, hosts, x, z, spot);
    const shares: [string, number][] = [
      ['slope', inBand(masks.slope, spot.gradient)],
      ['height', inBand(masks.height, spot.height)],
      ['ground', onGround(masks, input.ground, x, z, spot.top)],
      ...groupsOf(where?.parts(x, z) ?? []),
    ];
    if (shares.every(([, share]) => share > 0)) return undefined;
    shares.forEach(([what, share], i) => {
      (held[i] ??= [what, 0])[1] += share > 0 ? 1 : 0;
    });
  }
  const never = held.filter(([, places]) => places === 0).map(([what]) => what);
  if (never.length > 0) return `${list(never)} ${never.length > 1 ? 'hold' : 'holds'} nowhere`;
  return `${list(
    [...held]
      .sort((a, b) => a[1] - b[1])
      .slice(0, 2)
      .map(([what]) => what),
  )} hold nowhere together`;
}

/** Conditions joined by "or" as one: it holds where any of them does. */
function groupsOf(parts: readonly WhyPart[]): [string, number][] {
  const out: [string, number][] = [];
  for (const { what: name, value, factor = 0 } of parts) {
    // Two of a kind are told apart by their bands.
    const what = `${name} ${value.split(', in ').pop()}`;
    const last = out[out.length - 1];
    if (what.startsWith('or ') && last) out[out.length - 1] = [`${last[0]} ${what}`, Math.max(last[1], factor)];
    else out.push([what, factor]);
  }
  return out;
}

const list = (words: readonly string[]): string => (words.length < 2 ? words.join('') : `${words.slice(0, -1).join(', ')} and ${words[words.length - 1]}`);
