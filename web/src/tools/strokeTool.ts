import { beginStroke, dabsAlong, endStroke, type StrokeBuffer } from '@rammer/core/earth/brush';
import { uniteRects, type Rect } from '@rammer/core/earth/compose';
import { packRaster, toBase64 } from '@rammer/core/num/fixed';
import type { Vec3 } from '@rammer/core/num/vec';
import { groundAt } from '@rammer/core/surface/groundAt';
import { useGround } from '../store/groundDraft';
import type { Tool, ToolContext, ToolEvent, ToolMark } from './tool';

const RING = 48;

/** What a stroke over the ground does; the rest is the same for paint and plants. */
export interface StrokeKind {
  /** why it cannot begin, or nothing */
  refuse(e: ToolEvent): string | undefined;
  /** Alt: takes over what is under the pointer */
  take?(e: ToolEvent): void;
  dab(stroke: StrokeBuffer, at: [number, number], e: ToolEvent): Rect | undefined;
  /** shows the stroke so far; `undefined` puts the picture back */
  preview(stroke: StrokeBuffer | undefined, rect: Rect): void;
  label(e: ToolEvent | undefined): string;
  /** written beside the ring */
  word?(): string;
}

/** Drags dabs over whatever is under the pointer; the whole stroke is one edit. */
export function strokeTool({ session }: ToolContext, kind: StrokeKind): Tool {
  let stroke: StrokeBuffer | undefined;
  let last: [number, number] | undefined;
  let touched: Rect | undefined;
  let over: Vec3 | undefined;
  let event: ToolEvent | undefined;

  const put = (points: [number, number][], e: ToolEvent) => {
    for (const at of points) {
      const rect = kind.dab(stroke!, at, e);
      if (rect) touched = uniteRects(touched, rect);
    }
    if (touched) kind.preview(stroke, touched);
  };
  const stop = () => {
    stroke = undefined;
    last = undefined;
    touched = undefined;
  };

  return {
    begin(e) {
      if (!e.pick) return false;
      if (e.alt && kind.take) {
        kind.take(e);
        return true;
      }
      const no = !session.writable ? 'this level is read only here: take over to edit it' : kind.refuse(e);
      if (no) {
        session.say(no, true);
        return true;
      }
      stroke = beginStroke('', session.terrain.grid);
      event = e;
      last = [e.pick.point[0], e.pick.point[2]];
      put([last], e);
      return true;
    },
    move(e) {
      over = e.pick?.point;
      if (!stroke || !last || !e.pick) return;
      const points = dabsAlong(last, [e.pick.point[0], e.pick.point[2]], useGround.getState().groundBrush.radius);
      if (points.length === 0) return;
      last = points[points.length - 1];
      put(points, e);
    },
    end() {
      if (!stroke) return;
      const deltas = endStroke(stroke);
      const rect = touched;
      const label = kind.label(event);
      stop();
      const done =
        deltas.length > 0 && session.commit({ kind: 'stroke', tiles: deltas.map(({ key, delta }) => ({ key, delta: toBase64(packRaster(delta)) })) }, label);
      if (!done && rect) kind.preview(undefined, rect);
    },
    cancel() {
      const rect = touched;
      const drawing = stroke !== undefined;
      stop();
      if (drawing && rect) kind.preview(undefined, rect);
    },
    cursor(e) {
      over = e.pick?.point;
    },
    marks(): ToolMark[] {
      if (!over) return [];
      const { radius } = useGround.getState().groundBrush;
      const draped: Vec3[] = [];
      const flat: Vec3[] = [];
      for (let i = 0; i <= RING; i++) {
        const a = (i / RING) * 2 * Math.PI;
        const x = over[0] + Math.cos(a) * radius;
        const z = over[2] + Math.sin(a) * radius;
        draped.push([x, groundAt(session.terrain, session.grid, [x, over[1] + 3, z], { meshes: session.scene.placed.scene.grid }).height + 0.05, z]);
        flat.push([x, over[1], z]);
      }
      const word = kind.word?.();
      return [
        { kind: 'ring', points: flat, dashed: true },
        { kind: 'ring', points: draped, dashed: false },
        { kind: 'label', at: draped[0], text: `${radius.toFixed(1)} m${word ? `, ${word}` : ''}` },
      ];
    },
  };
}

/** The tiles as the stroke has them, over the level's own. */
export const withStroke = (stroke: StrokeBuffer, tiles: ReadonlyMap<string, Int32Array>): ReadonlyMap<string, Int32Array> =>
  ({
    get: (key: string) => stroke.work.get(key) ?? tiles.get(key),
    keys: () => new Set([...tiles.keys(), ...stroke.work.keys()]).values(),
  }) as ReadonlyMap<string, Int32Array>;
