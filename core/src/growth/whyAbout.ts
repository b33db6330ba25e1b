import { underWater } from '../earth/water';
import type { Species } from '../level/objects';
import type { WhyPart } from '../surface/why';
import { reachAbout } from './growAbout';
import type { GrowthInput } from './grow';
import { PLANT_STRIDE, type Plants } from './plants';
import type { Why } from './why';

interface Asked {
  x: number;
  z: number;
  height: number;
  /** what the rule goes by there, and how much it lets grow with what is sown */
  parts: readonly WhyPart[];
  likely: number;
}

/** Metres in plan from a place to the nearest of some plants. */
function nearest({ place, count }: Plants, x: number, z: number): number {
  let least = Infinity;
  for (let i = 0; i < count; i++) {
    const [dx, dz] = [place[i * PLANT_STRIDE] - x, place[i * PLANT_STRIDE + 2] - z];
    least = Math.min(least, dx * dx + dz * dz);
  }
  return Math.sqrt(least);
}

const percent = (v: number) => `${Math.round(v * 100)} %`;

/** Why a species that grows about another does or does not at a point: how far that is, and what its rule says. */
export function whyAbout(
  input: GrowthInput,
  species: Species,
  stand: { parents: readonly Plants[]; own: Plants },
  { x, z, height, parts, likely }: Asked,
): Why {
  const about = species.about!;
  const parent = input.species.find((s) => s.id === about.species);
  const { parents } = stand;
  const [near, far] = reachAbout(species, parent);
  const off = Math.min(Infinity, ...parents.map((p) => nearest(p, x, z)));
  const own = nearest(stand.own, x, z);
  const name = parent?.name ?? 'what is gone';
  const wet = underWater(input.waters, x, height, z);
  const here = own <= species.spacing / 2;
  const no =
    parents.length === 0
      ? `${parent ? `${name} does not take its place before it` : 'the species it grows about is not in the level'}`
      : near >= far
        ? `it keeps ${near} m from ${name} and stands ${far} m from it at most`
        : off > far
          ? `no ${name} within ${far} m`
          : off < near
            ? `too near to ${name}`
            : likely <= 0
              ? `${
                  parts
                    .filter((p) => p.factor === 0)
                    .map((p) => `${p.what} (${p.value})`)
                    .join(' and ') || 'its rule is off'
                } says no`
              : wet
                ? 'under water'
                : `this ${name} has none here`;
  return {
    here,
    verdict: here ? `${species.name} grows here, about ${name}` : `no ${species.name}: ${no}`,
    parts: [
      {
        what: 'about',
        value: Number.isFinite(off) ? `${name} ${off.toFixed(1)} m away, ${near} to ${far} m let it in` : `no ${name}`,
        factor: off >= near && off <= far ? 1 : 0,
      },
      { what: 'has any', value: `${percent(about.chance)} of them, ${about.count[0]} to ${about.count[1]} each`, factor: about.chance },
      ...parts,
      { what: 'each of them', value: `stands by ${percent(Math.min(1, likely))}`, factor: Math.min(1, likely) },
      ...(wet ? [{ what: 'water', value: 'under water', factor: 0 }] : []),
    ],
  };
}
