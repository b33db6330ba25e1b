import { slopeDeg } from '../num/trig';
import { clamp } from '../num/vec';
import { groundNameAt } from '../surface/ground';
import type { WhyPart } from '../surface/why';
import { underWater } from '../earth/water';
import type { GrowthInput } from './grow';
import { copyOf, drawOf } from './growCopy';
import { PLANT_STRIDE, type Plants } from './plants';
import { chanceOf, judgeOf, readyPass } from './passChance';
import { grownParts, parentsOf, passesOf, type Grown } from './passes';
import { MOST_SOWN, sownAt } from './sown';
import { spotAt } from './spot';
import { inBand } from '../num/band';
import { onGround } from './masks';
import { holeOf } from './holes';
import { pattern } from './pattern';
import { whyAbout } from './whyAbout';

export interface Why {
  here: boolean;
  /** in one line */
  verdict: string;
  parts: WhyPart[];
}

/**
 * Why a species grows at a point, or why not: every mask with its value, the chance they make, the
 * nearest place of the pattern with its own number, and what stands in the way. Where it grows by several rules the one
 * that lets it, or that comes nearest to letting it, is told in full, and each of the others in a line.
 *
 * @param grown the plants as they are, in the species' order
 */
export function whyHere(input: GrowthInput, grown: readonly Plants[], speciesId: string, px: number, pz: number): Why | undefined {
  const index = input.species.findIndex((s) => s.id === speciesId);
  if (index < 0) return undefined;
  const parts = grownParts(passesOf(input.species, input.habitats), grown);
  const mine = parts.flatMap(({ pass }, at) => (pass.index === index ? [{ pass, ...whyPass(input, parts, at, [px, pz]) }] : []));
  // Its own rule says nothing where it is off and nothing is sown, and others grow it.
  const asked = mine.filter((m) => m.pass.key !== '' || m.pass.species.rule.on || m.wanted > 0);
  const list = asked.length > 0 ? asked : mine;
  const best = list.reduce((a, b) => (b.here !== a.here ? (b.here ? b : a) : b.wanted > a.wanted ? b : a));
  const named = ({ pass: { habitat, rule } }: (typeof mine)[number]) => (habitat ? `${habitat.name}, ${rule!.name}` : 'its own rule');
  return {
    here: best.here,
    verdict: list.length > 1 || best.pass.habitat ? `${best.verdict} (${named(best)})` : best.verdict,
    parts: [...best.parts, ...list.filter((m) => m !== best).map((m) => ({ what: named(m), value: m.verdict }))],
  };
}

/** Why a species grows at a point in one of its passes, and how much of it that wants there, plants on 100 m2. */
function whyPass(input: GrowthInput, grown: readonly Grown[], at: number, [px, pz]: readonly [number, number]): Why & { wanted: number } {
  const { pass, plants: mine } = grown[at];
  const { species } = pass;
  const judge = judgeOf(
    input,
    grown.slice(0, at).map((g) => g.plants),
  );
  const ready = readyPass(judge, pass);
  const p = pattern(species.seed);
  const period = p.side * species.spacing;
  const { ox, oz } = input.terrain.grid;
  // The candidate nearest to the point: one of the pattern's points within a spacing or so.
  let best = { d: Infinity, x: px, z: pz, cx: 0, cz: 0, slot: -1 };
  for (const cz of [-1, 0, 1].map((k) => Math.floor((pz + oz) / period) + k)) {
    for (const cx of [-1, 0, 1].map((k) => Math.floor((px + ox) / period) + k)) {
      for (let slot = 0; slot < p.count; slot++) {
        const x = cx * period + p.x[slot] * species.spacing - ox;
        const z = cz * period + p.z[slot] * species.spacing - oz;
        const d = (x - px) * (x - px) + (z - pz) * (z - pz);
        if (d < best.d) best = { d, x, z, cx, cz, slot };
      }
    }
  }
  // Those that grow about others have no places of a pattern: the point itself is asked.
  const { x, z } = species.about ? { x: px, z: pz } : best;
  const { masks, where } = ready;
  const spot = spotAt(input, judge.hosts, x, z, { height: 0, gradient: 0, top: false });
  const bySlope = inBand(masks.slope, spot.gradient);
  const byHeight = inBand(masks.height, spot.height);
  const byGround = masks.anyGround && !spot.top ? 1 : onGround(masks, input.ground, x, z, spot.top);
  const conditions = where?.parts(x, z) ?? [];
  const rule = masks.on ? bySlope * byHeight * byGround * (where?.share(x, z) ?? 1) : 0;
  const sown = ready.sown.any ? sownAt(ready.sown, x, z) : 0;
  const byMasks: WhyPart[] = masks.on
    ? [
        { what: 'slope', value: `${slopeDeg(spot.gradient).toFixed(1)}° in ${species.rule.slope[0]} to ${species.rule.slope[1]}°`, factor: bySlope },
        { what: 'height', value: `${spot.height.toFixed(1)} m in ${species.rule.height[0]} to ${species.rule.height[1]} m`, factor: byHeight },
        { what: 'ground', value: groundNameAt(input.ground, x, z, spot.top), factor: byGround },
        ...conditions,
      ]
    : [{ what: 'rule', value: 'off', factor: 0 }];
  if (species.about) {
    const asked = { x, z, height: spot.height, parts: byMasks, likely: rule + sown };
    return { ...whyAbout(input, species, { parents: parentsOf(pass, grown.slice(0, at)), own: mine }, asked), wanted: rule + sown };
  }
  const wanted = clamp(rule + sown, 0, MOST_SOWN);
  const most = (p.count / (period * period)) * 100;
  const held = species.ceiling !== undefined && species.density * wanted > species.ceiling;
  const chance = Math.min(1, (held ? species.ceiling! : species.density * wanted) / most);
  // Rules of one species share its number: what earlier ones let in is theirs.
  const others = grown.slice(0, at).filter((g) => g.pass.index === pass.index && !g.pass.species.about);
  const before = others.reduce((sum, g) => sum + chanceOf(judge, readyPass(judge, g.pass)).at(x, z), 0);
  const own = Math.max(0, drawOf(copyOf(species.seed, best.cx, best.cz), p.rank[best.slot]) - before);
  const name = `${best.cx},${best.cz}:${best.slot}`;
  const edited = input.plants.find((h) => {
    if (h.species !== species.id) return false;
    const hole = holeOf(h, species);
    return hole ? (hole.x - x) ** 2 + (hole.z - z) ** 2 < hole.radius ** 2 : h.from === name;
  });
  const wet = underWater(input.waters, x, spot.height, z);
  const rival = nearest(input, grown, at, x, z);
  const parts: WhyPart[] = [
    ...byMasks,
    { what: 'by brush', value: sown === 0 ? 'nothing' : `${sown > 0 ? '+' : '−'}${Math.abs(sown).toFixed(2)} of its density` },
    { what: 'wanted', value: `${(species.density * wanted).toFixed(1)} of ${species.density} per 100 m²`, factor: wanted },
    { what: 'chance', value: `${(chance * 100).toFixed(0)} %, the place ${Math.sqrt(best.d).toFixed(2)} m off drew ${(own * 100).toFixed(0)}`, factor: chance },
  ];
  if (held) parts.push({ what: 'ceiling', value: `no more than ${species.ceiling} of it on 100 m²`, factor: species.ceiling! / (species.density * wanted) });
  // All says yes and it does not stand: the square was full.
  const full = input.ceiling !== undefined && !stands(mine, [best.cx, best.cz, best.slot]);
  if (wet) parts.push({ what: 'water', value: 'under water', factor: 0 });
  if (rival)
    parts.push({ what: 'clearance', value: `${rival.name} stands ${rival.distance.toFixed(2)} m away, ${rival.keep.toFixed(2)} m are kept`, factor: 0 });
  if (edited) parts.push({ what: 'by hand', value: edited.gone ? 'removed' : 'moved', factor: 0 });
  const missing =
    wanted === 0
      ? masks.on && rule === 0
        ? `no ${species.name}: ${
            [
              ['the slope', bySlope],
              ['the height', byHeight],
              ['the ground', byGround],
              ...conditions.map(({ what, value, factor }) => [`${what} (${value})`, factor] as const),
            ]
              .filter(([, v]) => v === 0)
              .map(([n]) => n)
              .join(' and ') || 'the brush'
          } says no`
        : `no ${species.name} is sown here`
      : wet
        ? `no ${species.name}: under water`
        : edited
          ? `no ${species.name}: ${edited.gone ? 'removed' : 'moved'} by hand`
          : own >= chance
            ? `no ${species.name}: its number ${(own * 100).toFixed(0)} is not under ${(chance * 100).toFixed(0)}`
            : rival
              ? `no ${species.name}: too near to ${rival.name}`
              : full
                ? `no ${species.name}: these 100 m² hold ${input.ceiling} plants already`
                : undefined;
  return { here: missing === undefined, verdict: missing ?? `${species.name} grows here`, parts, wanted: species.density * wanted };
}

/** Whether one grown from a place of the pattern stands. */
function stands({ id, count }: Plants, name: readonly [number, number, number]): boolean {
  for (let i = 0; i < count; i++) if (name.every((v, k) => id[i * 3 + k] === v)) return true;
  return false;
}

/** The plant of an earlier species, or one set by hand, that keeps a candidate away. */
function nearest(input: GrowthInput, grown: readonly Grown[], at: number, x: number, z: number): { name: string; distance: number; keep: number } | undefined {
  const { index } = grown[at].pass;
  const mine = input.species[index];
  for (const [i, { pass, plants }] of grown.entries()) {
    const other = input.species[pass.index];
    for (let k = 0; k < plants.count; k++) {
      const byHand = plants.id[k * 3 + 2] < 0;
      if (!byHand && i >= at) continue;
      const keep = pass.index === index ? mine.spacing : Math.max(mine.clearance, other.clearance);
      const dx = plants.place[k * PLANT_STRIDE] - x;
      const dz = plants.place[k * PLANT_STRIDE + 2] - z;
      if (dx * dx + dz * dz < keep * keep)
        return { name: byHand ? `a ${other.name} set by hand` : `a ${other.name}`, distance: Math.sqrt(dx * dx + dz * dz), keep };
    }
  }
  return undefined;
}
