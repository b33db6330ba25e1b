import { graded, relined } from '@rammer/core/block/drawn';
import { lineFault, type DrawnShape } from '@rammer/core/level/drawn';
import type { Block } from '@rammer/core/level/objects';
import { distance, type Vec3 } from '@rammer/core/num/vec';
import { nextOp, useBlockDraft } from '../store/blockDraft';
import { snapTo, useUi } from '../store/ui';
import { parseQuantity } from '../ui/quantity';
import { rayPlane } from '../view/project';
import { newId, nextName } from '../store/names';
import { nearCorner, placeAt } from './placing';
import { mm } from './things';
import type { Tool, ToolContext, ToolEvent, ToolMark } from './tool';

/** Directions a stretch keeps to while Shift is held, degrees. */
const STEP_DEG = 15;
const CLOSE_PX = 12;

/**
 * Draws a wall, a slab or a tunnel: a click sets each corner, a typed length the next one the way the
 * pointer goes, Backspace takes the last back. Enter or a click on the last corner ends it; a click on
 * the first one closes a wall or a slab.
 */
export function lineTool(shape: DrawnShape, context: ToolContext): Tool {
  const { session, view } = context;
  let line: Vec3[] = [];
  let to: Vec3 | undefined;
  let on: string | undefined;
  let closing = false;
  let typed = '';

  const reset = () => {
    line = [];
    to = undefined;
    closing = false;
    setTyped('');
    view.aids.setGhost(undefined);
  };
  const setTyped = (text: string) => {
    typed = text;
    useUi.setState({ typed: text });
  };

  /** The block along some corners, and why it cannot be. */
  const blockOf = (corners: Vec3[], closed: boolean): { block?: Block; fault?: string } => {
    const { drawn, grade } = useBlockDraft.getState();
    const { tall, wide } = drawn[shape];
    const own: Block = {
      id: 'draft',
      version: 0,
      kind: 'block',
      name: 'draft',
      shape,
      size: [1, 1, 1],
      at: [0, 0, 0],
      turn: 0,
      hidden: false,
      out: false,
      tall,
      ...(shape === 'slab' ? {} : { wide }),
      ...(nextOp(useUi.getState().tool) === 'void' ? { op: 'void' } : {}),
      ...(closed && shape === 'wall' ? { closed: true } : {}),
      line: shape === 'tunnel' ? graded(corners, grade / 100) : corners,
    };
    const fault = lineFault(own);
    return fault ? { fault } : { block: { ...own, ...relined(own, own.line!) } };
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
    const { followGround } = useBlockDraft.getState();
    const last = line[line.length - 1];
    const first = view.project(line[0]);
    if (shape !== 'tunnel' && line.length > 2 && first && Math.hypot(first.x - e.x, first.y - e.y) < CLOSE_PX) {
      closing = true;
      to = line[0];
      return;
    }
    const p = shape === 'wall' && followGround && e.pick ? e.pick.point : rayPlane(view.ray(e.x, e.y), line[0], [0, 1, 0]);
    if (!p) return;
    const corner = e.shift || !e.pick ? undefined : nearCorner(context, e.pick.point);
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

  const show = () => {
    const { block } = to && line.length > 0 ? blockOf(closing || samePlace(to, line[line.length - 1]) ? line : [...line, to], closing) : {};
    view.aids.setGhost(block);
  };

  const finish = (closed: boolean) => {
    const { block, fault } = blockOf(line, closed);
    if (!block) {
      session.say(fault!, true);
      return;
    }
    const named: Block = { ...block, id: newId('block'), version: 1, name: nextName(session.level, block.op === 'void' ? `${shape} void` : shape) };
    reset();
    if (session.commit({ kind: 'add', objects: [named] }, `set ${named.name}`)) useUi.getState().select([named.id]);
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
      if (line.length === 0) return [{ kind: 'label', at: to, text: `${shape} from here${on ? `, ${on}` : ''}` }];
      const last = line[line.length - 1];
      const length = distance([to[0], 0, to[2]], [last[0], 0, last[2]]);
      const corners = closing ? [...line, line[0]] : [...line, to];
      const { fault } = corners.length > (shape === 'slab' ? 3 : 2) ? blockOf(closing ? line : corners, closing) : {};
      const text = closing ? 'closes' : length === 0 ? 'ends here' : `${typed || length.toFixed(2)} m${on ? `, ${on}` : ''}`;
      return [
        { kind: 'ring', points: shape === 'slab' && !closing ? [...corners, line[0]] : corners, dashed: false },
        { kind: 'label', at: to, text: fault ? `${text}: ${fault}` : text },
      ];
    },
  };
}

const samePlace = (a: Vec3, b: Vec3): boolean => Math.abs(a[0] - b[0]) < 0.01 && Math.abs(a[2] - b[2]) < 0.01;
