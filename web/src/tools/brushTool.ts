import { beginStroke, dabsAlong, endStroke, mirrored, strokeTiles, type BrushSettings, type StrokeBuffer } from '@rammer/core/earth/brush';
import { brushOf, reversed } from '@rammer/core/earth/brushes/index';
import { dab } from '@rammer/core/earth/dab';
import { composeRect, uniteRects, type Rect, type Terrain } from '@rammer/core/earth/compose';
import { shippedPrint } from '@rammer/core/earth/prints';
import { heightAt } from '@rammer/core/earth/sample';
import type { HeightPicture } from '@rammer/core/earth/survey';
import { sinCosDeg } from '@rammer/core/num/trig';
import { packRaster, toBase64 } from '@rammer/core/num/fixed';
import type { Vec3 } from '@rammer/core/num/vec';
import { useEarth } from '../store/earthDraft';
import { sculptedLift } from './sculptedLift';
import type { Tool, ToolContext, ToolEvent, ToolMark } from './tool';

const RING = 56;

/**
 * Sculpts the hand lift. Each dab is in the next drawn frame; the whole stroke is one edit. Shift
 * reverses raise and lower, smooth and sharpen, and presses a print in; Alt picks the height that `level` goes to.
 */
export function brushTool({ session, view }: ToolContext): Tool {
  let stroke: StrokeBuffer | undefined;
  let last: [number, number] | undefined;
  let touched: Rect | undefined;
  let over: Vec3 | undefined;

  const put = (points: [number, number][], e: Pick<ToolEvent, 'shift' | 'pressure'>) => {
    if (!stroke) return;
    const brush = { ...useEarth.getState().brush };
    if (e.shift) brush.kind = reversed(brush.kind);
    // A pen presses; a mouse always presses fully.
    brush.strength *= e.pressure ?? 1;
    if (brush.kind === 'print' && e.shift) brush.tall = -brush.tall;
    const print = brush.kind === 'print' ? printAtHand() : undefined;
    let area: Rect | undefined;
    for (const [x, z] of points.flatMap((p) => mirrored(p, brush.mirror, session.terrain.grid))) {
      const rect = dab(stroke, session.level.tiles, session.terrain, brush, { x, z, print });
      if (!rect) continue;
      // Composed after each dab: smooth looks at the ground the one before left.
      area = uniteRects(area, composeRect(session.terrain, session.stack, strokeTiles(stroke, session.level.tiles), rect));
    }
    if (!area) return;
    touched = uniteRects(touched, area);
    view.terrainPreview(area);
  };

  const undoPreview = () => {
    if (touched) {
      composeRect(session.terrain, session.stack, session.level.tiles, touched);
      view.terrainPreview(touched);
    }
    stroke = undefined;
    last = undefined;
    touched = undefined;
  };

  return {
    begin(e) {
      if (!e.pick) return false;
      const earth = useEarth.getState();
      if (e.alt) {
        earth.setBrush({ levelTo: Math.round(e.pick.point[1] * 100) / 100 });
        return true;
      }
      const lift = sculptedLift(session);
      if (!lift) return true;
      stroke = beginStroke(lift.id, session.terrain.grid);
      last = [e.pick.point[0], e.pick.point[2]];
      put([last], e);
      return true;
    },
    move(e) {
      over = e.pick?.point;
      // A print is set once a press.
      if (!stroke || !last || !e.pick || useEarth.getState().brush.kind === 'print') return;
      const points = dabsAlong(last, [e.pick.point[0], e.pick.point[2]], useEarth.getState().brush.radius, useEarth.getState().brush.spacing);
      if (points.length === 0) return;
      last = points[points.length - 1];
      put(points, e);
    },
    end() {
      if (!stroke) return;
      const deltas = endStroke(stroke);
      const kind = useEarth.getState().brush.kind;
      const done =
        deltas.length > 0 &&
        session.commit(
          { kind: 'stroke', tiles: deltas.map(({ key, delta }) => ({ key, delta: toBase64(packRaster(delta)) })) },
          kind === 'level' ? 'level ground' : `${kind} ground`,
        );
      if (done) {
        stroke = undefined;
        last = undefined;
        touched = undefined;
      } else undoPreview();
    },
    cancel: undoPreview,
    cursor(e) {
      over = e.pick?.point;
    },
    marks(): ToolMark[] {
      if (!over) return [];
      const { brush } = useEarth.getState();
      const draped: Vec3[] = [];
      const flat: Vec3[] = [];
      for (let i = 0; i <= RING; i++) {
        const a = (i / RING) * 2 * Math.PI;
        const x = over[0] + Math.cos(a) * brush.radius;
        const z = over[2] + Math.sin(a) * brush.radius;
        draped.push([x, heightAt(session.terrain, x, z) + 0.05, z]);
        flat.push([x, over[1], z]);
      }
      if (brush.kind === 'print') {
        const frame = printFrame(over, brush, session.terrain);
        return [
          { kind: 'ring', points: draped, dashed: true },
          { kind: 'ring', points: frame, dashed: false },
          { kind: 'label', at: frame[0], text: `${(brush.radius * 2).toFixed(1)} m` },
        ];
      }
      const marks: ToolMark[] = [
        { kind: 'ring', points: flat, dashed: true },
        { kind: 'ring', points: draped, dashed: false },
        { kind: 'label', at: draped[0], text: `${brush.radius.toFixed(1)} m` },
      ];
      const label = brushOf(brush.kind).label?.(brush);
      if (label) marks.push({ kind: 'label', at: [over[0], over[1], over[2]], text: label });
      return marks;
    },
  };
}

/** The picture the print brush lays down. */
function printAtHand(): HeightPicture {
  const { print, ownPrint } = useEarth.getState();
  return print === 'own' && ownPrint ? ownPrint.picture : shippedPrint(print === 'own' ? 'outcrop' : print);
}

/** The edge of the print on the ground, and a tick at the middle of its upper edge: it shows how it is turned. */
function printFrame([x, , z]: Vec3, { radius, turn }: BrushSettings, terrain: Terrain): Vec3[] {
  const { width, height } = printAtHand();
  const long = Math.max(width, height) - 1;
  const [w, d] = [(radius * (width - 1)) / long, (radius * (height - 1)) / long];
  const [sin, cos] = sinCosDeg(turn);
  const corners = [
    [0, -d * 1.2],
    [0, -d],
    [w, -d],
    [w, d],
    [-w, d],
    [-w, -d],
    [0, -d],
  ];
  return corners.map(([u, v]) => {
    const [px, pz] = [x + u * cos - v * sin, z + u * sin + v * cos];
    return [px, heightAt(terrain, px, pz) + 0.05, pz];
  });
}
