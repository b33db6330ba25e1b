import { distance, type Vec3 } from '@rammer/core/num/vec';
import { snapTo, useUi } from '../store/ui';
import { parseQuantity } from '../ui/quantity';
import { nearCorner, placeAt } from './placing';
import { mm } from './things';
import type { Tool, ToolContext, ToolEvent, ToolMark } from './tool';

/** Directions a stretch keeps to while Shift is held, degrees. */
const STEP_DEG = 15;
const CLOSE_PX = 12;

/** What is drawn corner by corner. */
export interface Cornered {
  /** in words */
  what: string;
  /** a click on the first corner closes it */
  closes: boolean;
  /** it closes by itself once there are three corners, and is shown so */
  outline?: boolean;
  /** the level point that the pointer is at, once there is a first corner */
  point(e: ToolEvent, first: Vec3): Vec3 | undefined;
  /** shows what would be made; nothing where there are no corners */
  show(corners: readonly Vec3[], closed: boolean): void;
  /** why it cannot be, in words */
  fault(corners: readonly Vec3[], closed: boolean): string | undefined;
  /** more of what would be made, beside the length */
  told?(corners: readonly Vec3[], closed: boolean): string | undefined;
  /** makes it */
  make(corners: readonly Vec3[], closed: boolean): void;
}

const samePlace = (a: Vec3, b: Vec3): boolean => Math.abs(a[0] - b[0]) < 0.01 && Math.abs(a[2] - b[2]) < 0.01;

/**
 * Draws a line: a click sets each corner, a typed length the next one the way the pointer goes, Backspace takes the last
 * back. Enter or a click on the last corner ends it; a click on the first one closes what can be closed.
 */
export function cornerTool(context: ToolContext, of: Cornered): Tool {
  const { session, view } = context;
  let line: Vec3[] = [];
  let to: Vec3 | undefined;
  let on: string | undefined;
  let closing = false;
  let typed = '';

  const setTyped = (text: string) => {
    typed = text;
    useUi.setState({ typed: text });
  };
  const reset = () => {
    line = [];
    to = undefined;
    closing = false;
    setTyped('');
    of.show([], false);
  };

  const next = (e: ToolEvent): void => {
    on = undefined;
    closing = false;
    if (line.length === 0) {
      const place = placeAt(context, e);
      to = place?.at;
      on = place?.on;
      return;
    }
    const { snap } = useUi.getState();
    const last = line[line.length - 1];
    const first = view.project(line[0]);
    if (of.closes && line.length > 2 && first && Math.hypot(first.x - e.x, first.y - e.y) < CLOSE_PX) {
      closing = true;
      to = line[0];
      return;
    }
    const p = of.point(e, line[0]);
    if (!p) return;
    const corner = e.shift || !e.pick ? undefined : nearCorner({ session, view }, e.pick.point);
    if (corner) {
      on = corner.on;
      to = [corner.at[0], p[1], corner.at[2]];
    } else to = [snapTo(p[0], snap), p[1], snapTo(p[2], snap)];
    let [dx, dz] = [to[0] - last[0], to[2] - last[2]];
    if (e.shift) {
      const a = (Math.round((Math.atan2(dz, dx) * 180) / Math.PI / STEP_DEG) * STEP_DEG * Math.PI) / 180;
      const l = snapTo(Math.hypot(p[0] - last[0], p[2] - last[2]), snap);
      [dx, dz] = [Math.cos(a) * l, Math.sin(a) * l];
    }
    const length = typed ? parseQuantity(typed, 'm') : undefined;
    const l = Math.hypot(dx, dz);
    const k = length && l > 0 ? length / l : 1;
    to = [mm(last[0] + dx * k), to[1], mm(last[2] + dz * k)];
  };

  /** The corners as they would be with the one at the pointer. */
  const coming = (): Vec3[] => (!to || closing || samePlace(to, line[line.length - 1]) ? line : [...line, to]);
  const show = () => of.show(to && line.length > 0 ? coming() : [], closing);

  const finish = (closed: boolean) => {
    const fault = of.fault(line, closed);
    if (fault) {
      session.say(fault, true);
      return;
    }
    const corners = line;
    reset();
    of.make(corners, closed);
  };

  const addCorner = () => {
    if (!to) return;
    line.push(to);
    setTyped('');
    show();
  };

  return {
    begin(e) {
      if (!session.writable) {
        session.say('this level is read only here: take over to edit it', true);
        return true;
      }
      next(e);
      if (!to) return false;
      if (closing) finish(true);
      else if (line.length > 0 && samePlace(to, line[line.length - 1])) finish(false);
      else addCorner();
      return true;
    },
    move() {},
    end() {},
    cancel: reset,
    cursor(e) {
      next(e);
      show();
    },
    key(key) {
      if (line.length === 0) return false;
      if (/^[0-9.,*/+() ]$/.test(key)) setTyped(typed + key);
      else if (key === 'Backspace' && typed) setTyped(typed.slice(0, -1));
      else if (key === 'Backspace') {
        line.pop();
        if (line.length === 0) reset();
      } else if (key === 'Enter' && typed && to) {
        const length = parseQuantity(typed, 'm');
        const last = line[line.length - 1];
        const l = distance(to, last);
        if (!length || length <= 0 || l === 0) session.say(`"${typed}" is no length: move the pointer the way it goes and type metres`, true);
        else {
          to = [mm(last[0] + ((to[0] - last[0]) / l) * length), to[1], mm(last[2] + ((to[2] - last[2]) / l) * length)];
          addCorner();
        }
      } else if (key === 'Enter') finish(false);
      else return false;
      show();
      return true;
    },
    marks(): ToolMark[] {
      if (!to) return [];
      if (line.length === 0) return [{ kind: 'label', at: to, text: `${of.what} from here${on ? `, ${on}` : ''}` }];
      const last = line[line.length - 1];
      const length = distance([to[0], 0, to[2]], [last[0], 0, last[2]]);
      const corners = closing ? [...line, line[0]] : [...line, to];
      const fault = corners.length > (of.outline ? 3 : 2) ? of.fault(closing ? line : corners, closing) : undefined;
      const text = closing ? 'closes' : length === 0 ? 'ends here' : `${typed || length.toFixed(2)} m${on ? `, ${on}` : ''}`;
      const told = fault ?? of.told?.(coming(), closing);
      return [
        { kind: 'ring', points: of.outline && !closing ? [...corners, line[0]] : corners, dashed: false },
        { kind: 'label', at: to, text: told ? `${text}${fault ? ':' : ','} ${told}` : text },
      ];
    },
  };
}
