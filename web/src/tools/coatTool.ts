import { assetOf } from '@rammer/core/kit/bentAsset';
import { meshesWithin } from '@rammer/core/block/placedMesh';
import { dabbed, loosePaint, type Painted } from '@rammer/core/coat/paint';
import { dabsBetween } from '@rammer/core/kit/dress';
import type { Surface } from '@rammer/core/level/lay/dressed';
import type { Coat, Piece } from '@rammer/core/level/objects';
import { toOwn } from '@rammer/core/num/pose';
import { normalize, type Vec3 } from '@rammer/core/num/vec';
import { presentOf } from '@rammer/core/level/present';
import { useCoating } from '../store/coating';
import { useDressing } from '../store/dressing';
import { brushRadius, ringAt } from './brushRing';
import { coatInHand, paintedOn, setPainted } from './coats';
import { isLocked, many } from './things';
import type { Tool, ToolContext, ToolEvent, ToolMark } from './tool';

/** Touches that are laid between two places of the pointer at most. */
const MOST_BETWEEN = 24;

/**
 * Paints a coat on the pieces under the pointer, on the sides that look as the one touched does; strokes pass over the joins
 * between pieces. Shift takes it away, [ and ] set the radius.
 */
export function coatTool({ session, view }: ToolContext): Tool {
  let at: Surface | undefined;
  let stroke: { coat: Coat; strength: number; painted: Map<Piece, Painted>; locked: boolean } | undefined;

  const under = (e: ToolEvent): Surface | undefined => (e.pick ? { at: e.pick.point, normal: e.pick.normal } : undefined);
  const radiusNow = () => Math.min(useDressing.getState().radius, 10);

  /** Pieces whose bounds a touch reaches. */
  const near = (place: Vec3, radius: number): Piece[] => {
    const present = presentOf(session.level.objects);
    const out = new Set<Piece>();
    const box = { min: place.map((v) => v - radius) as Vec3, max: place.map((v) => v + radius) as Vec3 };
    for (const mesh of meshesWithin(session.scene.placed.scene.grid, box)) {
      const piece = present.get(mesh.id);
      if (piece?.kind === 'piece' && !piece.hidden) out.add(piece);
    }
    return [...out];
  };

  const dab = ({ at: place, normal }: Surface) => {
    if (!stroke) return;
    const radius = radiusNow();
    for (const piece of near(place, radius)) {
      const asset = assetOf(session.scene.placed.assets, piece);
      if (!asset) continue;
      if (isLocked(session, piece)) {
        stroke.locked = true;
        continue;
      }
      const scale = piece.scale ?? [1, 1, 1];
      const own = toOwn(piece, place).map((v, k) => v / scale[k]) as Vec3;
      // A way and not a place: as it looks in the piece's own axes, before it was sized.
      const way = normalize(toOwn({ ...piece, at: [0, 0, 0] }, normal).map((v, k) => v * scale[k]) as Vec3);
      const before = stroke.painted.get(piece) ?? paintedOn(asset, piece);
      const cells = dabbed(asset, before.get(stroke.coat.id), {
        at: own,
        normal: way,
        radius: radius / Math.cbrt(scale[0] * scale[1] * scale[2]),
        strength: stroke.strength * (useCoating.getState().away ? -1 : 1),
      });
      if (cells !== before.get(stroke.coat.id)) stroke.painted.set(piece, new Map([...before, [stroke.coat.id, cells]]));
    }
  };

  const show = () =>
    view.setPiecePreview(
      stroke &&
        new Map(
          [...stroke.painted].map(([piece, painted]) => [piece.id, { ...piece, paint: loosePaint(assetOf(session.scene.placed.assets, piece)!, painted) }]),
        ),
    );

  const stop = () => {
    stroke = undefined;
    show();
  };

  return {
    begin(e) {
      at = under(e);
      if (!at) return false;
      if (!session.writable) {
        session.say('this level is read only here: take over to edit it', true);
        return true;
      }
      const coat = coatInHand(session);
      if (!coat) {
        session.say('there is no coat to paint with yet: add one in the list', true);
        return true;
      }
      const { strength } = useCoating.getState();
      stroke = { coat, strength: e.shift ? -strength : strength, painted: new Map(), locked: false };
      dab(at);
      show();
      return true;
    },
    move(e) {
      const next = under(e);
      if (!stroke || !next || !at) return;
      const radius = radiusNow();
      const steps = dabsBetween(at.at, next.at, radius);
      if (steps < 1) return;
      // A quick stroke has no gaps, but for one that leaps from one thing to another.
      const from = at.at;
      const between = steps > MOST_BETWEEN ? 1 : steps;
      for (let i = 1; i <= between; i++) dab({ at: from.map((v, k) => v + ((next.at[k] - v) * i) / between) as Vec3, normal: next.normal });
      at = next;
      show();
    },
    end() {
      const done = stroke;
      stop();
      if (!done) return;
      if (done.painted.size > 0) setPainted(session, done.painted, `paint ${done.coat.name} on ${many([...done.painted.keys()])}`);
      else
        session.say(
          done.locked ? 'what is under the brush is locked: unlock first to paint it' : 'a coat is painted on pieces: there is none under the brush',
          true,
        );
    },
    cancel: stop,
    cursor(e) {
      at = under(e);
    },
    key: (key) => brushRadius(key, 10),
    marks(): ToolMark[] {
      if (!at) return [];
      const ring = ringAt(at, radiusNow());
      const coat = coatInHand(session);
      return [
        { kind: 'ring', points: ring, dashed: useCoating.getState().away },
        { kind: 'label', at: ring[12], text: coat ? `${coat.name} ${radiusNow().toFixed(2)} m` : 'no coat yet' },
      ];
    },
  };
}
