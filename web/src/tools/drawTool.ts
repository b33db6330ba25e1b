import type { Vec3 } from '@rammer/core/num/vec';
import { useUi } from '../store/ui';
import { parseQuantity } from '../ui/quantity';
import { placeAt } from './placing';
import { mm } from './things';
import type { Tool, ToolContext, ToolEvent, ToolMark } from './tool';

const CLOSE_PX = 12;

/** What is drawn by corners on the ground; the tool knows clicks and keys, this what comes of them. */
export interface Drawing {
  /** in words: `play bounds`, `route` */
  what: string;
  /** an outline that comes back to its first corner, or a line */
  closed: boolean;
  /** makes it of its corners; false, having said why, keeps them to be mended */
  done(corners: Vec3[]): boolean;
  /** a drag from its middle, where that means something */
  round?(middle: Vec3, radius: number): boolean;
  /** written beside the pointer besides the length */
  word?(corners: readonly Vec3[], to: Vec3): string | undefined;
}

/**
 * Draws an outline or a line on the ground: a click sets each corner, a typed length the next one the
 * way the pointer goes, Backspace takes the last back. An outline closes on its first corner, a line ends
 * on its last; Enter does either.
 */
export function drawTool(context: ToolContext, drawing: Drawing): Tool {
  const { session, view } = context;
  let line: Vec3[] = [];
  let to: Vec3 | undefined;
  let middle: Vec3 | undefined;
  let radius = 0;
  let typed = '';
  const setTyped = (text: string) => {
    typed = text;
    useUi.setState({ typed: text });
  };
  const reset = () => {
    line = [];
    to = middle = undefined;
    radius = 0;
    setTyped('');
  };
  const least = drawing.closed ? 3 : 2;
  const finish = () => {
    if (line.length < least) session.say(`${drawing.what}: at least ${least === 3 ? 'three corners are' : 'two points are'} needed`, true);
    else if (drawing.done(line.map(([x, y, z]): Vec3 => [mm(x), mm(y), mm(z)]))) reset();
  };
  const over = (p: Vec3, e: ToolEvent): boolean => {
    const s = view.project(p);
    return s !== undefined && Math.hypot(s.x - e.x, s.y - e.y) < CLOSE_PX;
  };
  const next = (e: ToolEvent) => {
    to = placeAt(context, e)?.at;
    const last = line[line.length - 1];
    const length = typed ? parseQuantity(typed, 'm') : undefined;
    if (!to || !last || !length || length <= 0) return;
    const l = Math.hypot(to[0] - last[0], to[2] - last[2]);
    if (l > 0) to = [last[0] + ((to[0] - last[0]) / l) * length, to[1], last[2] + ((to[2] - last[2]) / l) * length];
  };
  const addCorner = () => {
    if (!to) return;
    line.push(to);
    setTyped('');
  };
  return {
    begin(e) {
      if (!session.writable) {
        session.say('this level is read only here: take over to edit it', true);
        return true;
      }
      next(e);
      if (!to) return false;
      if (line.length >= least && over(line[drawing.closed ? 0 : line.length - 1], e)) finish();
      else if (line.length === 0 && drawing.round) middle = to;
      else addCorner();
      return true;
    },
    move(e) {
      if (!middle) return;
      to = placeAt(context, e)?.at ?? to;
      radius = to ? Math.hypot(to[0] - middle[0], to[2] - middle[2]) : 0;
    },
    end() {
      if (!middle) return;
      const [at, r] = [middle, mm(radius)];
      middle = undefined;
      radius = 0;
      // A press that did not move is the first corner of an outline.
      if (r < 0.5) line.push(at);
      else if (drawing.round!([mm(at[0]), mm(at[1]), mm(at[2])], r)) reset();
    },
    cancel: reset,
    cursor: next,
    key(key) {
      if (line.length === 0) return false;
      if (/^[0-9.,*/+() ]$/.test(key)) setTyped(typed + key);
      else if (key === 'Backspace' && typed) setTyped(typed.slice(0, -1));
      else if (key === 'Backspace') line.pop();
      else if (key === 'Enter' && typed && to) {
        const length = parseQuantity(typed, 'm');
        const last = line[line.length - 1];
        const l = Math.hypot(to[0] - last[0], to[2] - last[2]);
        if (!length || length <= 0 || l === 0) session.say(`"${typed}" is no length: move the pointer the way it goes and type metres`, true);
        else {
          to = [last[0] + ((to[0] - last[0]) / l) * length, to[1], last[2] + ((to[2] - last[2]) / l) * length];
          addCorner();
        }
      } else if (key === 'Enter') finish();
      else return false;
      return true;
    },
    marks(): ToolMark[] {
      if (middle && to)
        return [
          { kind: 'ring', points: circle(middle, radius), dashed: false },
          { kind: 'label', at: to, text: `${radius.toFixed(2)} m round` },
        ];
      if (!to) return [];
      if (line.length === 0) return [{ kind: 'label', at: to, text: `${drawing.what} from here${drawing.round ? ': drag for a round one' : ''}` }];
      const last = line[line.length - 1];
      const word = drawing.word?.(line, to);
      return [
        { kind: 'ring', points: drawing.closed ? [...line, to, line[0]] : [...line, to], dashed: true },
        { kind: 'label', at: to, text: `${typed || Math.hypot(to[0] - last[0], to[2] - last[2]).toFixed(2)} m${word ? `, ${word}` : ''}` },
      ];
    },
  };
}

const circle = (middle: Vec3, radius: number): Vec3[] =>
  Array.from({ length: 49 }, (_, i) => [middle[0] + Math.cos((i / 24) * Math.PI) * radius, middle[1], middle[2] + Math.sin((i / 24) * Math.PI) * radius]);
