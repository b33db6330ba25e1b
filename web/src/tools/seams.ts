import { shoreLines } from '@rammer/core/earth/shoreLine';
import { blockSolid } from '@rammer/core/block/solid';
import { heightAt } from '@rammer/core/earth/sample';
import { assetBounds } from '@rammer/core/kit/asset';
import { betweenGaps, type Gap } from '@rammer/core/kit/betweenGaps';
import { footprint } from '@rammer/core/kit/footprint';
import { seamOffers, type Hiding } from '@rammer/core/kit/seamOffers';
import { ownerOf } from '@rammer/core/level/instance';
import { ofKind } from '@rammer/core/level/level';
import type { Block, LaidLine, LineDressing, Species } from '@rammer/core/level/objects';
import { presentOf } from '@rammer/core/level/present';
import { offsetLine, signedArea, type Point2 } from '@rammer/core/num/outline';
import type { Vec3 } from '@rammer/core/num/vec';
import { groundNameAt } from '@rammer/core/surface/ground';
import { useLaying } from '../store/laying';
import type { Session } from '../store/session';
import type { Pick } from '../view/LevelView';
import { addLine, addLines, lineThrough, placesOf } from './laidLines';
import { thing } from './things';

/** How far outside a thing its seam runs, metres. */
const OFF = 0.05;
/** Before the middle of a door so much is kept free to either side, metres. */
const DOOR = 0.9;
/** So many kinds of things dress a seam that was given none. */
const TAKEN = 3;

/** Something of the level that can hide a seam. */
export interface Hider extends Hiding {
  name: string;
  /** the species it is, or the mesh */
  species?: string;
  asset: string;
  /** of a plant: what makes its usual height of the mesh's own */
  scale: number;
}

/** What of the level can hide a seam: its meshes, and what grows in it. */
export function hidersOf(session: Session): Hider[] {
  const { assets } = session.scene.placed;
  const species = ofKind(session.level, 'species');
  return ofKind(session.level, 'asset').flatMap((o): Hider[] => {
    const asset = assets.get(o.id);
    if (!asset) return [];
    const { min, max } = assetBounds(asset);
    const size: Vec3 = [max[0] - min[0], max[1] - min[1], max[2] - min[2]];
    const grounds = o.facts?.grounds ?? asset.grounds;
    const of = { role: o.role, size, ...(grounds ? { grounds } : {}), asset: o.id };
    if (o.role !== 'plant') return [{ ...of, name: o.name, scale: 1 }];
    return species
      .filter((s) => s.asset === o.id)
      .map((s): Hider => {
        const scale = (s.height[0] + s.height[1]) / 2 / Math.max(0.01, size[1]);
        return { ...of, name: s.name, species: s.id, scale, size: size.map((v) => v * scale) as Vec3 };
      });
  });
}

/** Name of the ground at a place. */
export const groundAtPlace = (session: Session, [x, , z]: Vec3): string => groundNameAt(session.scene.ground.raster, x, z, false);

/** Has the next line set the plants of some species, as far apart as the widest of them stand. */
export function dressWith(session: Session, species: readonly Species[]): void {
  const ids = new Set(species.map((s) => s.id));
  const own = hidersOf(session).filter((h) => h.species !== undefined && ids.has(h.species));
  const empty = { ...useLaying.getState().seam, pieces: [], plants: [], spacing: Math.max(0.1, ...species.map((s) => s.spacing)) };
  useLaying.setState({ seam: own.reduce<LineDressing>(toggled, empty) });
}

/** A dressing with one more in its list, or without it where it is there. */
export function toggled(dress: LineDressing, { species, asset, scale }: Omit<Hider, keyof Hiding | 'name'>): LineDressing {
  if (species !== undefined) {
    const others = dress.plants.filter((p) => p.species !== species);
    return { ...dress, plants: others.length < dress.plants.length ? others : [...others, { species, weight: 1, scale }] };
  }
  const others = dress.pieces.filter((p) => p.asset !== asset);
  return { ...dress, pieces: others.length < dress.pieces.length ? others : [...others, { asset, weight: 1 }] };
}

/** What a seam that begins at a place is dressed with: the draft's list, or what fits the ground there. */
export function seamAt(session: Session, at: Vec3): LineDressing {
  const { seam } = useLaying.getState();
  if (seam.pieces.length + seam.plants.length > 0) return seam;
  const fit = seamOffers(hidersOf(session), groundAtPlace(session, at), seam.spacing);
  // What belongs on that ground hides a seam; what stands anywhere only where nothing belongs there.
  const own = fit.filter((f) => f.grounds);
  return (own.length > 0 ? own : fit).slice(0, TAKEN).reduce(toggled, seam);
}

/** Adds a seam line through places of the level. One edit. */
export function addSeam(session: Session, places: readonly Vec3[], closed: boolean, curved = false): boolean {
  const line = lineThrough(session, seamAt(session, places[0]), places, closed);
  return addLine(session, 'seam', curved ? { ...line, curved } : line);
}

/** A seam that can be picked: closed, with what is outside to the right. */
export interface PickedSeam {
  name: string;
  places: Vec3[];
  closed: boolean;
  curved?: boolean;
  /** doors that are kept free */
  gaps?: Gap[];
}

/** Adds what is picked, in stretches between the doors it keeps free. One edit. */
export function addPicked(session: Session, { places, closed, curved, gaps = [] }: PickedSeam): boolean {
  const dress = seamAt(session, places[0]);
  const lines = betweenGaps(places, closed, gaps).map((s): LaidLine => ({ ...lineThrough(session, dress, s.places, s.closed), ...(curved ? { curved } : {}) }));
  if (lines.length === 0) session.say('doors take all of this seam', true);
  return lines.length > 0 && addLines(session, 'seam', lines);
}

/** The seam at what is pointed at: the foot of a thing, the foot of a whole laid line, or the shore of a water near the place. */
export function seamUnder(session: Session, pick: Pick): PickedSeam | undefined {
  const { host, point } = pick;
  if (host.kind === 'piece' || host.kind === 'block') {
    const line = session.level.object(ownerOf(host.id));
    if (line?.kind === 'laidLine' && line.kit !== undefined) return alongLaid(session, line);
    const foot = footOf(session, host.id, OFF);
    // A foot that is let into the ground shows where the ground is.
    const places = foot?.map(([x, y, z]): Vec3 => [x, Math.max(y, heightAt(session.terrain, x, z)), z]);
    return places && { name: `foot of ${thing(session, host.id)?.name ?? 'it'}`, places, closed: true };
  }
  return shoreNear(session, point);
}

/** The outline of the foot of a block or a piece, so far outside it, metres; nothing of what has none. */
export function footOf(session: Session, id: string, off: number): Vec3[] | undefined {
  const { solids, placed } = session.scene;
  const built = solids.built.get(id) ?? placed.scene.get(id);
  const block = built ? undefined : solids.all.find((b) => b.id === id);
  const mesh = built ?? (block && cornersOf(block));
  return mesh && footprint(mesh, off);
}

/** Corners of a plain block as a mesh without triangles. */
function cornersOf(block: Block): Parameters<typeof footprint>[0] {
  const { corners } = blockSolid(block);
  const over = (of: (...v: number[]) => number) => [0, 1, 2].map((k) => of(...corners.map((c) => c[k]))) as Vec3;
  return { positions: Float32Array.from(corners.flat()), min: over(Math.min), max: over(Math.max) };
}

/** Beside the wall of a laid line, on its outer side. */
function alongLaid(session: Session, line: LaidLine): PickedSeam {
  const kit = line.kit === undefined ? undefined : session.level.object(line.kit);
  const wall = kit?.kind === 'kit' ? kit.parts.find((p) => p.use === 'wall') : undefined;
  const half = wall ? Math.max(wall.box[1][2], -wall.box[0][2]) : 0.15;
  const places = placesOf(line);
  const closed = line.closed === true;
  const plan = places.map(([x, , z]): Point2 => [x, -z]);
  const turn = closed && signedArea(plan) < 0;
  const ordered = turn ? places.slice().reverse() : places;
  const off = offsetLine(turn ? plan.slice().reverse() : plan, half + OFF, closed);
  const doors = new Set(kit?.kind === 'kit' ? kit.parts.filter((p) => p.use === 'door').map((p) => p.asset) : []);
  const gaps = presentOf(session.level.objects)
    .inCopy(line.id)
    .flatMap((t): Gap[] => (t.kind === 'piece' && doors.has(t.asset) ? [{ at: t.at, half: DOOR }] : []));
  return { name: `foot of ${line.name}`, gaps, places: off.map(([x, y], i): Vec3 => [x, ordered[i][1], -y]), closed, ...(line.curved ? { curved: true } : {}) };
}

/** The nearest shore of a water within 6 m of a place. */
function shoreNear(session: Session, [x, , z]: Vec3): PickedSeam | undefined {
  let best: { far: number; seam: PickedSeam } | undefined;
  for (const body of session.scene.waters.bodies) {
    if (body.hidden) continue;
    for (const line of shoreLines(body)) {
      const far = Math.min(...line.map(([px, pz]) => Math.sqrt((px - x) ** 2 + (pz - z) ** 2)));
      if (far > 6 || (best && best.far <= far)) continue;
      best = { far, seam: { name: `shore of ${body.name}`, places: line.map(([px, pz]): Vec3 => [px, body.height, pz]), closed: true } };
    }
  }
  return best?.seam;
}
