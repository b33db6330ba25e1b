import { blockGrid } from '@rammer/core/block/grid';
import { levelLine } from '@rammer/core/block/drawn';
import { heightAt } from '@rammer/core/earth/sample';
import { meshGrid } from '@rammer/core/block/placedMesh';
import { blockToLevel } from '@rammer/core/block/solid';
import { isMade, MARK, memberOf, ownerOf, poseOf } from '@rammer/core/level/instance';
import { ofKind } from '@rammer/core/level/level';
import type { Block, Kit, LaidCorner, LaidLine, LaidOpening, LevelObject, LineDressing, Piece } from '@rammer/core/level/objects';
import { squared } from '@rammer/core/level/lay/squared';
import { presentOf } from '@rammer/core/level/present';
import { placer, toOwn } from '@rammer/core/num/pose';
import { distance, type Vec3 } from '@rammer/core/num/vec';
import { groundAt } from '@rammer/core/surface/groundAt';
import { useLaying } from '../store/laying';
import { newId, nextName } from '../store/names';
import type { Session } from '../store/session';
import { useUi } from '../store/ui';
import { mm, setThings, thing } from './things';

/** Heights of what a line stands on are taken this far apart, metres, and no more of them a stretch. */
const STEP = 0.5;
const MOST_HEIGHTS = 800;
/** How far over the line what it stands on is looked for, metres: a kerb, not the storey above. */
const ABOVE = 0.6;

export const kitsOf = (session: Session): Kit[] => ofKind(session.level, 'kit').sort((a, b) => a.name.localeCompare(b.name));

/** The kit that is laid next. */
export const kitAtHand = (session: Session): Kit | undefined => {
  const kits = kitsOf(session);
  return kits.find((k) => k.id === useLaying.getState().kit) ?? kits[0];
};

/** The grids heights were taken from last: a drag asks for them at each step. */
let felt: { of: readonly unknown[]; under(p: Vec3): number } | undefined;

/** Heights of what is under places, pieces of a line left out. */
export function heightsUnder(session: Session, line?: string): (p: Vec3) => number {
  const { terrain, scene } = session;
  const of = [terrain, scene.solids.plain.list, scene.placed.scene.revision, session.level.version, line];
  if (felt?.of.every((v, i) => v === of[i])) return felt.under;
  const grid = blockGrid(scene.solids.plain.list);
  const meshes = meshGrid(scene.placed.list.filter((m) => line === undefined || ownerOf(m.id) !== line));
  const under = (p: Vec3) => groundAt(terrain, grid, [p[0], p[1] + ABOVE, p[2]], { meshes }).height;
  felt = { of, under };
  return under;
}

/**
 * Corners of a line's own axes from places in the level, each with the heights of what lies under the stretch after it, and
 * of a line that is dressed at the borders of what is dressed.
 */
function grounded(line: Pick<LaidLine, 'at' | 'turn' | 'closed' | 'corners' | 'dress'>, places: readonly Vec3[], under: (p: Vec3) => number): LaidCorner[] {
  const own = (p: Vec3): Vec3 => toOwn(line, p).map(mm) as Vec3;
  return line.corners.map(({ n }, i): LaidCorner => {
    const next = places[i + 1] ?? (line.closed ? places[0] : undefined);
    if (!next) return { n, at: own(places[i]) };
    const from = places[i];
    const length = distance([from[0], 0, from[2]], [next[0], 0, next[2]]);
    const steps = Math.min(MOST_HEIGHTS, Math.max(1, Math.ceil(length / STEP)));
    // To the right hand of the way from one to the next, z running south.
    const right = length > 0 ? [-(next[2] - from[2]) / length, (next[0] - from[0]) / length] : [0, 0];
    const heights = (aside: number) =>
      Array.from({ length: steps + 1 }, (_, k) => {
        const t = k / steps;
        const p = [0, 1, 2].map((axis) => from[axis] + (next[axis] - from[axis]) * t) as Vec3;
        return mm(under([p[0] + right[0] * aside, p[1], p[2] + right[1] * aside]) - line.at[1]);
      });
    const aside = line.dress?.aside;
    return { n, at: own(places[i]), ground: heights(0), ...(aside ? { beside: [heights(aside[0]), heights(aside[1])] as LaidCorner['beside'] } : {}) };
  });
}

/** Corners of a line where they are in the level. */
export const placesOf = (line: LaidLine): Vec3[] => {
  const place = placer(poseOf(line));
  return line.corners.map((c) => place(...c.at));
};

/** A line at the ground under it, its corners at other places where they are given. */
export function onGround(session: Session, line: LaidLine, places: readonly Vec3[] = placesOf(line)): LaidLine {
  const under = heightsUnder(session, line.id);
  const stood = places.map((p): Vec3 => [p[0], under(p), p[2]]);
  return { ...line, corners: grounded(line, stood, under) };
}

/** A line through places of the level, of a kit as the draft has it or dressed, on the ground there. */
export function lineThrough(session: Session, of: Kit | LineDressing, places: readonly Vec3[], closed: boolean): LaidLine {
  const { as } = useLaying.getState();
  const kit = 'parts' in of ? of : undefined;
  const at = places[0].map(mm) as Vec3;
  const drawn: LaidLine = {
    id: 'draft',
    version: 0,
    kind: 'laidLine',
    name: 'draft',
    ...(kit ? { kit: kit.id } : { dress: of as LineDressing }),
    at,
    turn: 0,
    corners: places.map((_, n) => ({ n, at: [0, 0, 0] })),
    ...(closed ? { closed: true } : {}),
    ...(kit ? given(as) : { slope: 'lean' as const, remainder: 'leave' as const, storeys: 1 }),
    seed: 1,
    hidden: false,
    out: false,
  };
  return onGround(session, drawn, places);
}

/** The draft's fields without those that say nothing. */
const given = (as: ReturnType<typeof useLaying.getState>['as']) => {
  const { slope, remainder, storeys, ...rest } = as;
  return { slope, remainder, storeys, ...(Object.fromEntries(Object.entries(rest).filter(([, v]) => v !== undefined && v !== false)) as typeof rest) };
};

type Patch = { id: string; set: Record<string, unknown> };

/** Adds lines; a seed of its own for each, so that two do not have the same variants. One edit. */
export function addLines(session: Session, word: string, lines: readonly LaidLine[], more: readonly Patch[] = []): boolean {
  const from = Number(/\d+$/.exec(nextName(session.level, word))![0]);
  const made = lines.map((line, i): LaidLine => ({
    ...line,
    id: newId('line'),
    version: 1,
    name: `${word} ${from + i}`,
    seed: Math.floor(Math.random() * 1e6),
  }));
  const add = { kind: 'add' as const, objects: made as LevelObject[] };
  const what = made.length === 1 ? made[0].name : `${made.length} lines`;
  const done = session.commit(more.length > 0 ? { kind: 'together', parts: [add, { kind: 'set', patches: [...more] }] } : add, `lay ${what}`);
  if (done) useUi.getState().select(made.map((m) => m.id));
  return done;
}

/** Adds a line. One edit. */
export const addLine = (session: Session, word: string, line: LaidLine, more: readonly Patch[] = []): boolean => addLines(session, word, [line], more);

/** Gives lines other fields; `null` takes an optional one away. One edit. */
export const setLines = (session: Session, lines: readonly LaidLine[], set: (line: LaidLine) => Record<string, unknown>, verb: string): boolean =>
  setThings(session, lines, (t) => set(t as LaidLine), verb);

/** Puts lines on the ground as it is now. One edit. */
export const dropLines = (session: Session, lines: readonly LaidLine[]): boolean =>
  setLines(session, lines, (l) => ({ corners: onGround(session, l).corners }), 'drop');

/** Gives lines right angles. One edit. */
export const squareLines = (session: Session, lines: readonly LaidLine[]): boolean =>
  setLines(
    session,
    lines.filter((l) => l.corners.length > 2 && !l.curved),
    (l) => ({ corners: onGround(session, l, squared(placesOf(l), l.closed === true)).corners }),
    'square',
  );

/** Whether the ground under a line is another than it was laid on, by more than a centimetre somewhere. */
export function groundMoved(session: Session, line: LaidLine): boolean {
  const now = onGround(session, line).corners;
  return line.corners.some((c, i) => {
    const [a, b] = [c.ground ?? [c.at[1]], now[i].ground ?? [now[i].at[1]]];
    return a.length === b.length && a.some((v, k) => Math.abs(v - b[k]) > 0.01);
  });
}

/** Numbers of corners after one came, went or moved: those there were keep theirs. */
export function renumbered(line: LaidLine, places: readonly Vec3[]): LaidLine['corners'] {
  const before = placesOf(line);
  const same = (a: Vec3 | undefined, b: Vec3 | undefined) => a !== undefined && b !== undefined && distance(a, b) < 2e-3;
  const numbers = line.corners.map((c) => c.n);
  if (places.length > before.length) {
    const at = places.findIndex((p, i) => !same(p, before[i]));
    numbers.splice(at < 0 ? places.length - 1 : at, 0, Math.max(...numbers) + 1);
  } else if (places.length < before.length) {
    const at = before.findIndex((p, i) => !same(p, places[i]));
    numbers.splice(at < 0 ? before.length - 1 : at, 1);
  }
  return numbers.map((n) => ({ n, at: [0, 0, 0] }));
}

/** A line with its corners at places of the level. */
export const withPlaces = (session: Session, line: LaidLine, places: readonly Vec3[]): LaidLine =>
  onGround(session, { ...line, corners: renumbered(line, places) }, places);

/** A line as it would stand, as pieces for the view; those of before that it has no more are hidden. */
export function asPieces(session: Session, line: LaidLine): Map<string, Piece> {
  const present = presentOf(session.level.objects);
  const out = new Map(present.would(line).flatMap((t): [string, Piece][] => (t.kind === 'piece' ? [[t.id, t]] : [])));
  for (const t of present.inCopy(line.id)) if (t.kind === 'piece' && !out.has(t.id)) out.set(t.id, { ...t, hidden: true });
  return out;
}

/** The place of a laid wall or opening in its line: corner, storey and metres along, by its name there. */
function slotOf(session: Session, id: string): { line: LaidLine; corner: number; storey: number; piece: Piece } | undefined {
  if (!isMade(id) || memberOf(id).includes(MARK)) return undefined;
  const line = session.level.object(ownerOf(id));
  const named = /^c(\d+)-(\d+)-\d+$/.exec(memberOf(id));
  const piece = thing(session, id);
  return line?.kind === 'laidLine' && named && piece?.kind === 'piece' ? { line, corner: Number(named[1]), storey: Number(named[2]), piece } : undefined;
}

/** What a laid piece is: a wall, an opening, or nothing that can be another. */
export function laidUse(session: Session, id: string): LaidOpening['use'] | 'wall' | undefined {
  const slot = slotOf(session, id);
  const laid = slot && presentOf(session.level.objects).masterIn(slot.line.id, memberOf(id));
  const kit = slot?.line.kit === undefined ? undefined : session.level.object(slot.line.kit);
  const use = kit?.kind === 'kit' ? kit.parts.find((p) => p.asset === (laid as Piece | undefined)?.asset)?.use : undefined;
  return use === 'wall' || use === 'door' || use === 'window' ? use : undefined;
}

/** Makes a laid wall an opening, or a wall again. One edit. */
export function setOpening(session: Session, ids: readonly string[], use: LaidOpening['use'] | 'wall'): boolean {
  const patches = new Map<string, LaidOpening[]>();
  for (const id of ids) {
    const slot = slotOf(session, id);
    if (!slot) continue;
    const { line, corner, storey, piece } = slot;
    const own = toOwn(poseOf(line), piece.at);
    const i = line.corners.findIndex((c) => c.n === corner);
    const start = presentOf(session.level.objects).laidOf(line.id)?.corners[i] ?? line.corners[i].at;
    const along = mm(Math.sqrt((own[0] - start[0]) ** 2 + (own[2] - start[2]) ** 2));
    const half = 0.45 * lengthOf(session, line);
    const list = patches.get(line.id) ?? line.openings ?? [];
    const others = list.filter((o) => o.corner !== corner || o.storey !== storey || Math.abs(o.along - along) > half);
    patches.set(line.id, use === 'wall' ? others : [...others, { corner, along, storey, use }]);
  }
  if (patches.size === 0) {
    session.say('an opening is made in a laid wall: point at one', true);
    return false;
  }
  return session.commit(
    { kind: 'set', patches: [...patches].map(([id, openings]) => ({ id, set: { openings: openings.length > 0 ? openings : null } })) },
    use === 'wall' ? 'wall up an opening' : `${use} in a laid wall`,
  );
}

const lengthOf = (session: Session, line: LaidLine): number => {
  const kit = line.kit === undefined ? undefined : session.level.object(line.kit);
  const wall = kit?.kind === 'kit' ? kit.parts.find((p) => p.use === 'wall') : undefined;
  return wall ? wall.box[1][0] - wall.box[0][0] : 2;
};

/** Something a line can be laid along: places of the level, and whether they close. */
export interface Along {
  name: string;
  places: Vec3[];
  closed: boolean;
  /** the block it is along: taken out of the level when it is laid */
  block?: Block;
}

/** What lines can be laid along: the selected blocks' outlines, routes, pads and measures. */
export function alongOf(session: Session): Along[] {
  const selected = useUi.getState().selection.flatMap((id): Along[] => {
    const b = session.level.object(id);
    return b?.kind === 'block' ? [alongBlock(b)] : [];
  });
  const routes = ofKind(session.level, 'lift').flatMap((l): Along[] =>
    l.lift === 'route' ? [{ name: l.name, places: l.line.map((p) => [p[0], p[1], p[2]] as Vec3), closed: false }] : [],
  );
  const pads = ofKind(session.level, 'lift').flatMap((l): Along[] =>
    l.lift === 'pad' ? [{ name: l.name, places: l.outline.map(([x, z]): Vec3 => [x, heightAt(session.terrain, x, z), z]), closed: true }] : [],
  );
  const measures = ofKind(session.level, 'measure').map((m): Along => ({ name: m.name, places: [m.from, m.to], closed: false }));
  return [...selected, ...routes, ...pads, ...measures];
}

/** The foot of a block: the line it was drawn along, or the outline of its base. */
function alongBlock(block: Block): Along {
  if (block.line) return { name: block.name, places: levelLine(block), closed: block.closed === true || block.shape === 'slab', block };
  const [x, , z] = block.size.map((s) => s / 2);
  const corners: [number, number][] = [
    [-x, z],
    [x, z],
    [x, -z],
    [-x, -z],
  ];
  return { name: block.name, places: corners.map(([a, b]) => blockToLevel(block, a, 0, b)), closed: true, block };
}

/** Lays the kit along something; a block it stands for is taken out of the level, and gives it its storeys. One edit. */
export function layAlong(session: Session, kit: Kit, along: Along): boolean {
  const line = lineThrough(session, kit, along.places, along.closed);
  const { block } = along;
  const tall = block ? (block.tall ?? block.size[1]) : 0;
  const storeys = block ? Math.max(1, Math.round(tall / kit.storey)) : line.storeys;
  return addLine(session, kit.name, { ...line, storeys }, block ? [{ id: block.id, set: { out: true } }] : []);
}
