import { CELL } from '../block/grid';
import { underWater, type WaterBody } from '../earth/water';
import type { Species } from '../level/objects';
import { inBand } from '../num/band';
import { hashInts } from '../num/hash';
import type { Candidates } from './candidates';
import type { GrowthInput } from './grow';
import type { Growing } from './growing';
import type { Masks } from './masks';
import type { MeshShares } from './meshes';
import type { Pattern } from './pattern';
import { MOST_SOWN, sownAt, type Sown } from './sown';
import type { SlopeUnder } from './slopeUnder';
import { ruleAt, spotAt, type Hosts } from './spot';
import { apart, type Standing } from './standing';
import type { GrowthRoom } from './growthRoom';
import { terrainHeights, terrainSpots } from './terrainSpots';
import { ASK, OPEN } from './verdicts';
import type { ReadyWhere } from './where';

/** What all copies of the pattern of a species share while it grows. */
export interface Sowing {
  input: GrowthInput;
  /** of whoever grows */
  room: GrowthRoom;
  species: Species;
  pattern: Pattern;
  masks: Masks;
  sown: Sown;
  hosts: Hosts;
  /** what the rule says of each 16 m cell; see `verdictsOf` */
  verdicts: Uint8Array;
  /** what the rule goes by besides */
  where: ReadyWhere | undefined;
  /** where plants are wanted, metres */
  part: { x0: number; z0: number; x1: number; z1: number };
  /** chance of a candidate where just the species' density is wanted */
  scale: number;
  /** chance of a candidate where the species' ceiling is reached */
  most: number;
  /** the meshes it has */
  meshes: MeshShares;
  /** where it leans with the ground */
  slopeAt?: SlopeUnder;
  /** names of its plants that a hand has moved or removed */
  gone: ReadonlySet<string> | undefined;
  /** what has its place already, and the distance it keeps to these, metres */
  others: readonly { standing: Standing; keep: number }[];
  /** of a rule of a habitat: what chance earlier rules of the same species give a place, and the most that is anywhere */
  before?: { at(x: number, z: number): number; most: number };
  /** no place outside is of its habitat, metres */
  box?: { x0: number; z0: number; x1: number; z1: number };
  /** see `Pass.salt` */
  salt: number;
  /** these cover so much of the level that to look for room is the quickest way to rule out candidates */
  crowded: boolean;
}

/**
 * The number a candidate drew for itself, 0 to 1: fixed by its copy of the pattern and its rank there.
 *
 * Drawn without replacement, so to speak: of candidates beside each other one draws low, one high (a van der Corput
 * sequence along the Z-order curve, scrambled by the copy; Owen 1995, by the hash of Laine and Karras 2011). So a
 * density is met in small areas too, not only in the mean, and no clump or hole comes by mere chance.
 */
export function drawOf(copy: number, rank: number): number {
  let v = (rank + copy) | 0;
  v ^= Math.imul(v, 0x6c50b47c);
  v ^= Math.imul(v, 0xb82f1e52);
  v ^= Math.imul(v, 0xc7afe638);
  v ^= Math.imul(v, 0x8d22f6e6);
  v = ((v >>> 1) & 0x55555555) | ((v & 0x55555555) << 1);
  v = ((v >>> 2) & 0x33333333) | ((v & 0x33333333) << 2);
  v = ((v >>> 4) & 0x0f0f0f0f) | ((v & 0x0f0f0f0f) << 4);
  v = ((v >>> 8) & 0x00ff00ff) | ((v & 0x00ff00ff) << 8);
  return (((v >>> 16) | (v << 16)) >>> 0) / 4294967296;
}

/** Hash of a copy of a species' pattern, which its candidates draw from. */
export const copyOf = (seed: number, cx: number, cz: number): number => hashInts(seed, cx, cz, 5);

/**
 * Grows the candidates of one copy of a species' pattern. What holds for the whole copy (no block in
 * it, no water, all of it inside the part) is asked once.
 */
export function growCopy(sowing: Sowing, cx: number, cz: number, out: Growing): void {
  const { input, species, pattern, sown, part } = sowing;
  const { ox, oz } = input.terrain.grid;
  const period = pattern.side * species.spacing;
  const copy = copyOf(species.seed, cx, cz);
  const box = { x0: cx * period - ox, z0: cz * period - oz, x1: (cx + 1) * period - ox, z1: (cz + 1) * period - oz };
  if (sowing.box && !(sowing.box.x1 >= box.x0 && sowing.box.x0 <= box.x1 && sowing.box.z1 >= box.z0 && sowing.box.z0 <= box.z1)) return;
  const c = sowing.room.candidates(pattern.count);
  draw(c, sowing, copy, cx, cz);
  if (!(box.x0 >= part.x0 && box.z0 >= part.z0 && box.x1 < part.x1 && box.z1 < part.z1)) insideOf(c, part);
  // What rules out most goes first: no order changes what is left.
  if (sowing.crowded) for (const o of sowing.others) apart(c, o.standing, o.keep);
  if (sown.any) addSown(c, sowing);
  if (c.count === 0) return;
  judge(c, sowing);
  terrainSpots(input.terrain, input.ground, sowing.masks, c);
  rule(c, sowing.masks);
  if (anyBuilt(sowing.hosts, box)) ruleOnTops(c, sowing);
  if (sowing.where) conditioned(c, sowing, sowing.where);
  if (sowing.before) afterOthers(c, sowing, sowing.before);
  chosen(c, sowing);
  terrainHeights(input.terrain, c);
  if (sowing.gone) notByHand(c, sowing.gone, cx, cz);
  const waters = input.waters.filter((w) => touches(w, box));
  if (waters.length > 0) dry(c, waters);
  if (!sowing.crowded) for (const o of sowing.others) apart(c, o.standing, o.keep);
  out.addAll(c, { copy, s: species, meshes: sowing.meshes, slopeAt: sowing.slopeAt, cx, cz, origin: [ox, oz] });
}

/** Where the candidates stand, those whose number any density could be over. */
function draw(c: Candidates, { input, species, pattern, masks, sown, scale, before, most: ceiling }: Sowing, copy: number, cx: number, cz: number): void {
  const { ox, oz } = input.terrain.grid;
  const r = species.spacing;
  const period = pattern.side * r;
  const most = Math.min(ceiling, scale * ((masks.on ? 1 : 0) + (sown.any ? MOST_SOWN : 0)) + (before?.most ?? 0));
  let n = 0;
  for (let slot = 0; slot < pattern.count; slot++) {
    const drew = drawOf(copy, pattern.rank[slot]);
    c.drew[slot] = drew;
    c.x[slot] = cx * period + pattern.x[slot] * r - ox;
    c.z[slot] = cz * period + pattern.z[slot] * r - oz;
    c.sown[slot] = 0;
    if (drew < most) c.live[n++] = slot;
  }
  c.count = n;
}

/**
 * A species' rules share one pattern and one number a place: each of them lets in those that drew above what the ones before it
 * let in and below that and its own chance together, so that densities add up where rules meet and none goes over the ceiling.
 */
function afterOthers(c: Candidates, { scale }: Sowing, before: NonNullable<Sowing['before']>): void {
  for (let i = 0; i < c.count; i++) {
    const s = c.live[i];
    const own = scale * c.rule[s];
    // What others let in is asked for only where it decides: that looks at each of their rules.
    if (own > 0 && c.drew[s] >= own && c.drew[s] - before.most < own) c.drew[s] = Math.max(0, c.drew[s] - before.at(c.x[s], c.z[s]));
  }
}

/** Whether a place lies in a part, as it is kept: in single precision. */
export function isIn(part: Sowing['part'], x: number, z: number): boolean {
  const [px, pz] = [Math.fround(x), Math.fround(z)];
  return px >= part.x0 && pz >= part.z0 && px < part.x1 && pz < part.z1;
}

function insideOf(c: Candidates, part: Sowing['part']): void {
  let n = 0;
  for (let i = 0; i < c.count; i++) {
    const s = c.live[i];
    if (isIn(part, c.x[s], c.z[s])) c.live[n++] = s;
  }
  c.count = n;
}

/** What a hand has sown; drops those that even a rule in full would not let grow with it. */
function addSown(c: Candidates, { sown, masks, scale }: Sowing): void {
  const byRule = masks.on ? 1 : 0;
  let n = 0;
  for (let i = 0; i < c.count; i++) {
    const s = c.live[i];
    const here = sownAt(sown, c.x[s], c.z[s]);
    c.sown[s] = here;
    const chance = byRule + here;
    if (c.drew[s] < scale * Math.min(chance, MOST_SOWN)) c.live[n++] = s;
  }
  c.count = n;
}

/** What the rule says where a whole cell is alike; the others are asked. */
function judge(c: Candidates, { verdicts, hosts: { across } }: Sowing): void {
  const { live, x, z, asked, rule, known } = c;
  const perMetre = 1 / CELL;
  let n = 0;
  for (let i = 0; i < c.count; i++) {
    const s = live[i];
    const verdict = verdicts[((z[s] * perMetre) | 0) * across + ((x[s] * perMetre) | 0)];
    // 1 where all is let in, else 0.
    rule[s] = verdict & OPEN;
    known[s] = verdict === ASK ? 0 : 1;
    if (verdict === ASK) asked[n++] = s;
  }
  c.askedCount = n;
}

function rule(c: Candidates, { slope, height }: Masks): void {
  for (let i = 0; i < c.askedCount; i++) {
    const s = c.asked[i];
    c.rule[s] = inBand(slope, c.steep[s]) * inBand(height, c.height[s]) * c.share[s];
  }
}

/** The same where a block or a piece may be the host. */
function ruleOnTops(c: Candidates, { input, masks, hosts, room }: Sowing): void {
  for (let i = 0; i < c.count; i++) {
    const s = c.live[i];
    if (hosts.built[Math.floor(c.z[s] / CELL) * hosts.across + Math.floor(c.x[s] / CELL)] === 0) continue;
    c.rule[s] = ruleAt(input, masks, spotAt(input, hosts, c.x[s], c.z[s], room.spot), c.x[s], c.z[s]);
    c.height[s] = room.spot.height;
  }
}

/** The same by what the rule goes by besides, of those that would grow. */
function conditioned(c: Candidates, { scale, before }: Sowing, where: ReadyWhere): void {
  const others = before?.most ?? 0;
  for (let i = 0; i < c.count; i++) {
    const s = c.live[i];
    if (c.rule[s] > 0 && c.drew[s] - others < scale * (c.rule[s] + c.sown[s])) c.rule[s] *= where.share(c.x[s], c.z[s]);
  }
}

function chosen(c: Candidates, { scale, most }: Sowing): void {
  let n = 0;
  for (let i = 0; i < c.count; i++) {
    const s = c.live[i];
    // Not over the most there can be: `addSown` has seen to it.
    if (c.drew[s] < Math.min(most, scale * (c.rule[s] + c.sown[s]))) c.live[n++] = s;
  }
  c.count = n;
}

function notByHand(c: Candidates, gone: ReadonlySet<string>, cx: number, cz: number): void {
  let n = 0;
  for (let i = 0; i < c.count; i++) if (!gone.has(`${cx},${cz}:${c.live[i]}`)) c.live[n++] = c.live[i];
  c.count = n;
}

function dry(c: Candidates, waters: readonly WaterBody[]): void {
  let n = 0;
  for (let i = 0; i < c.count; i++) {
    const s = c.live[i];
    if (!underWater(waters, c.x[s], c.height[s], c.z[s])) c.live[n++] = s;
  }
  c.count = n;
}

/** A water covers the quads around its wet samples. */
const touches = ({ rect, spacing }: WaterBody, box: Sowing['part']): boolean =>
  (rect.x0 - 1) * spacing <= box.x1 && (rect.x1 + 1) * spacing >= box.x0 && (rect.z0 - 1) * spacing <= box.z1 && (rect.z1 + 1) * spacing >= box.z0;

function anyBuilt(hosts: Hosts, box: Sowing['part']): boolean {
  const x1 = Math.min(Math.floor(box.x1 / CELL), hosts.across - 1);
  const z1 = Math.min(Math.floor(box.z1 / CELL), hosts.down - 1);
  for (let z = Math.max(0, Math.floor(box.z0 / CELL)); z <= z1; z++)
    for (let x = Math.max(0, Math.floor(box.x0 / CELL)); x <= x1; x++) if (hosts.built[z * hosts.across + x] === 1) return true;
  return false;
}
