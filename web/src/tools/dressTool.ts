import { Apart, dabsBetween, dressDab, type Cast, type Dressed, type Dressing, type Surface } from '@rammer/core/kit/dress';
import { isMade } from '@rammer/core/level/instance';
import type { Piece } from '@rammer/core/level/objects';
import { presentOf } from '@rammer/core/level/present';
import { cross, distance, normalize, type Vec3 } from '@rammer/core/num/vec';
import { groundAlongGrid } from '@rammer/core/surface/groundAt';
import { useDressing } from '../store/dressing';
import { newId, nextName } from '../store/names';
import type { Session } from '../store/session';
import type { Tool, ToolContext, ToolEvent, ToolMark } from './tool';

interface Dab extends Surface {
  radius: number;
}

/** The last stroke of this page: it can be rolled again. */
let last: { level: string; ids: string[]; dabs: Dab[]; dressing: Dressing; stroke: number } | undefined;

/** Pieces of the level that are of a brush's list, those made for copies and lines too. */
const ofList = (session: Session, { list }: Dressing): Piece[] => {
  const assets = new Set(list.map((l) => l.asset));
  return presentOf(session.level.objects)
    .of('piece')
    .filter((p) => assets.has(p.asset));
};

/** What a ray meets in the level; pieces of some ids are looked through. */
function castIn(session: Session, through: ReadonlySet<string>): Cast {
  const { terrain, scene } = session;
  const pickable = { blocks: scene.solids.plain.grid, meshes: scene.placed.scene.grid, skip: (id: string) => through.has(id) };
  return (origin, direction, far) => {
    const hit = groundAlongGrid(terrain, pickable, { origin, direction, far });
    return hit && { at: hit.point, normal: hit.normal };
  };
}

/** What some dabs set, kept apart from what stands. @param without ids of pieces that are as if they were not there */
function dressed(session: Session, dressing: Dressing, dabs: readonly Dab[], stroke: number, without: ReadonlySet<string> = new Set()): Dressed[] {
  const there = ofList(session, dressing);
  const apart = new Apart(dressing.spacing);
  for (const p of there) if (!without.has(p.id)) apart.put(p.at);
  const cast = castIn(session, new Set(there.map((p) => p.id)));
  return dabs.flatMap((dab, i) => dressDab(dressing, dab, [stroke, i], apart, cast));
}

const asPiece = (d: Dressed, id: string, name: string): Piece => ({
  id,
  version: 1,
  kind: 'piece',
  name,
  collider: 'asset',
  hidden: false,
  out: false,
  ...d,
});

/** What was dressed as objects of the level, with names that follow. */
function asObjects(session: Session, list: readonly Dressed[]): Piece[] {
  const next = new Map<string, number>();
  return list.map((d) => {
    const word = session.level.object(d.asset)?.name ?? 'piece';
    const n = next.get(word) ?? Number(/\d+$/.exec(nextName(session.level, word))![0]);
    next.set(word, n + 1);
    return asPiece(d, newId('piece'), `${word} ${n}`);
  });
}

/** Draws the last stroke anew: other places, turns and sizes. One edit. */
export function rollAgain(session: Session): void {
  const { level } = session;
  const known = last && last.level === session.id && last.ids.every((id) => level.object(id)?.kind === 'piece') ? last : undefined;
  if (!known || !session.writable) {
    session.say('there is no stroke to roll again: draw one with the brush of pieces first', true);
    return;
  }
  const dressing = { ...known.dressing, seed: known.dressing.seed + 1 };
  const objects = asObjects(session, dressed(session, dressing, known.dabs, known.stroke, new Set(known.ids)));
  const done = session.commit(
    { kind: 'together', parts: [{ kind: 'remove', ids: known.ids }, ...(objects.length > 0 ? [{ kind: 'add' as const, objects }] : [])] },
    `roll ${objects.length} pieces again`,
  );
  if (done) last = { ...known, dressing, ids: objects.map((o) => o.id) };
}

/**
 * Brushes pieces over whatever is under the pointer: floors, flanks, undersides; they keep their spacing across strokes. Shift takes
 * those of its list away, [ and ] set its radius, R rolls the last stroke again.
 */
export function dressTool({ session, view }: ToolContext): Tool {
  let at: Surface | undefined;
  let stroke: { dabs: Dab[]; apart: Apart; cast: Cast; number: number; set: Dressed[]; taken?: Map<string, Piece> } | undefined;

  const under = (e: ToolEvent): Surface | undefined => (e.pick ? { at: e.pick.point, normal: e.pick.normal } : undefined);

  const show = () => {
    if (!stroke) view.setPiecePreview(undefined);
    else if (stroke.taken) view.setPiecePreview(new Map([...stroke.taken].map(([id, p]) => [id, { ...p, hidden: true }])));
    else view.setPiecePreview(new Map(stroke.set.map((d, i) => [`brush-${i}`, asPiece(d, `brush-${i}`, 'brushed')])));
  };

  const dab = (place: Surface) => {
    const { of, radius } = useDressing.getState();
    if (!stroke) return;
    if (stroke.taken) {
      for (const p of ofList(session, of)) if (!isMade(p.id) && !p.locked && distance(p.at, place.at) <= radius) stroke.taken.set(p.id, p);
      return;
    }
    const one: Dab = { ...place, radius };
    stroke.set.push(...dressDab(of, one, [stroke.number, stroke.dabs.length], stroke.apart, stroke.cast));
    stroke.dabs.push(one);
  };

  const stop = () => {
    stroke = undefined;
    show();
  };

  return {
    begin(e) {
      at = under(e);
      const { of, strokes } = useDressing.getState();
      if (!at) return false;
      if (!session.writable) {
        session.say('this level is read only here: take over to edit it', true);
        return true;
      }
      if (of.list.length === 0) {
        session.say('the brush has no pieces yet: click some in the library', true);
        return true;
      }
      const there = ofList(session, of);
      const apart = new Apart(of.spacing);
      for (const p of there) apart.put(p.at);
      stroke = {
        dabs: [],
        set: [],
        apart,
        cast: castIn(session, new Set(there.map((p) => p.id))),
        number: strokes,
        ...(e.shift ? { taken: new Map() } : {}),
      };
      useDressing.setState({ strokes: strokes + 1 });
      dab(at);
      show();
      return true;
    },
    move(e) {
      const next = under(e);
      if (!stroke || !next || !at) return;
      const steps = dabsBetween(at.at, next.at, useDressing.getState().radius);
      if (steps < 1) return;
      at = next;
      dab(next);
      show();
    },
    end() {
      const done = stroke;
      stop();
      if (!done) return;
      if (done.taken) {
        if (done.taken.size > 0) session.commit({ kind: 'remove', ids: [...done.taken.keys()] }, `brush ${done.taken.size} pieces away`);
        return;
      }
      const objects = asObjects(session, done.set);
      if (objects.length === 0) session.say('no room for another: what stands keeps its spacing', true);
      else if (session.commit({ kind: 'add', objects }, `brush ${objects.length} pieces`))
        last = { level: session.id, ids: objects.map((o) => o.id), dabs: done.dabs, dressing: useDressing.getState().of, stroke: done.number };
    },
    cancel: stop,
    cursor(e) {
      at = under(e);
    },
    key(key) {
      const { radius } = useDressing.getState();
      if (key === '[' || key === ']')
        useDressing.setState({ radius: Math.min(50, Math.max(0.25, Math.round(radius * (key === ']' ? 1.25 : 0.8) * 100) / 100)) });
      else if (key.toLowerCase() === 'r') rollAgain(session);
      else return false;
      return true;
    },
    marks(): ToolMark[] {
      if (!at) return [];
      const { radius, of } = useDressing.getState();
      const { normal } = at;
      const u = normalize(Math.abs(normal[1]) < 0.9 ? cross([0, 1, 0], normal) : cross([1, 0, 0], normal));
      const v = cross(normal, u);
      const ring = Array.from({ length: 49 }, (_, i): Vec3 => {
        const a = (i / 48) * 2 * Math.PI;
        return [0, 1, 2].map((k) => at!.at[k] + normal[k] * 0.05 + (u[k] * Math.cos(a) + v[k] * Math.sin(a)) * radius) as Vec3;
      });
      const set = stroke?.taken
        ? `${stroke.taken.size} away`
        : stroke
          ? `${stroke.set.length} pieces`
          : of.list.length === 0
            ? 'no pieces in the brush'
            : `${radius.toFixed(2)} m`;
      return [
        { kind: 'ring', points: ring, dashed: true },
        { kind: 'label', at: ring[12], text: set },
      ];
    },
  };
}
