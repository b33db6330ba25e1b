import { Apart, dabsBetween, dressDab, type Cast } from '@rammer/core/kit/dress';
import type { Dressed, Dressing, Surface } from '@rammer/core/level/lay/dressed';
import { isMade } from '@rammer/core/level/instance';
import type { Piece } from '@rammer/core/level/objects';
import { distance } from '@rammer/core/num/vec';
import { groundAlongGrid } from '@rammer/core/surface/groundAt';
import { useDressing } from '../store/dressing';
import type { Session } from '../store/session';
import { brushRadius, ringAt } from './brushRing';
import { addDressed, asPiece, keepLast, ofList, rollAgain } from './dressed';
import type { Tool, ToolContext, ToolEvent, ToolMark } from './tool';

interface Dab extends Surface {
  radius: number;
}

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

/** Keeps a stroke to be rolled again. */
function keepStroke(session: Session, ids: readonly string[], dabs: readonly Dab[], dressing: Dressing, stroke: number): void {
  keepLast(session, ids, (seed) => {
    const next = { ...dressing, seed };
    const made = addDressed(session, dressed(session, next, dabs, stroke, new Set(ids)), 'roll again', ids);
    if (made) keepStroke(session, made, dabs, next, stroke);
  });
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
      if (done.set.length === 0) {
        session.say('no room for another: what stands keeps its spacing', true);
        return;
      }
      const ids = addDressed(session, done.set, 'brush');
      if (ids) keepStroke(session, ids, done.dabs, useDressing.getState().of, done.number);
    },
    cancel: stop,
    cursor(e) {
      at = under(e);
    },
    key(key) {
      if (brushRadius(key)) return true;
      if (key.toLowerCase() !== 'r') return false;
      rollAgain(session);
      return true;
    },
    marks(): ToolMark[] {
      if (!at) return [];
      const { radius, of } = useDressing.getState();
      const ring = ringAt(at, radius);
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
