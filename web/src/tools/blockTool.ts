import { thicknessAt } from '@rammer/core/block/placedMesh';
import { DEFAULT_WALL, MIN_BLOCK, type Block } from '@rammer/core/level/objects';
import { sinCosDeg } from '@rammer/core/num/trig';
import type { Vec3 } from '@rammer/core/num/vec';
import { blockToLevel, levelToBlock } from '@rammer/core/block/solid';
import { rayAlongAxis, rayPlane } from '../view/project';
import { useBlockDraft } from '../store/blockDraft';
import { snapTo, useUi } from '../store/ui';
import { newId, nextName } from '../store/names';
import { placeAt } from './placing';
import { mm } from './things';
import type { Tool, ToolContext, ToolEvent, ToolMark } from './tool';

/** Height of a step that a new stair keeps to, metres: with 0.28 m of going it is comfortable. */
const RISER = 0.18;
/** Height of a terrace that new ones come near to, metres. */
const TERRACE = 1.2;
/** How far a void in a wall stands out of it on either side, metres. */
const THROUGH = 0.1;

/** Axes a footprint is drawn in: the level's, or those of what it stands on. */
type Frame = Pick<Block, 'at' | 'turn'>;
const LEVEL: Frame = { at: [0, 0, 0], turn: 0 };

/**
 * Sets a block: drag its footprint on whatever is under the pointer, then move up for the height and
 * click, or type the height and press Enter. A click without a drag sets the typed size. On a block or a
 * piece it takes its direction; on an upright face it stands with its back to it. A void on a wall goes
 * straight through it: low down with its foot at the wall's, a door; higher up about the pointer, a window.
 */
export function blockTool(shape: Block['shape'], context: ToolContext): Tool {
  const { session, view } = context;
  /** in the frame's axes, metres; y in the level */
  let from: Vec3 | undefined;
  let frame = LEVEL;
  let on: string | undefined;
  let pressed: [number, number] = [0, 0];
  let base: { min: [number, number]; max: [number, number]; y: number; turn: number } | undefined;
  let phase: 'idle' | 'footprint' | 'height' = 'idle';
  let height = 0;
  let typed = '';

  const draft = (): Block | undefined => {
    if (!base) return undefined;
    const along = [base.max[0] - base.min[0], base.max[1] - base.min[1]];
    const turn = shape === 'ramp' || shape === 'stair' || shape === 'terraces' ? base.turn : shape === 'wedge' && along[1] > along[0] ? 90 : 0;
    const quarter = turn % 180 !== 0;
    const size: Block['size'] = quarter ? [along[1], Math.max(height, MIN_BLOCK), along[0]] : [along[0], Math.max(height, MIN_BLOCK), along[1]];
    return {
      id: 'draft',
      version: 0,
      kind: 'block',
      name: 'draft',
      shape,
      size,
      turn: mm(frame.turn + turn),
      hidden: false,
      out: false,
      ...own(size),
      at: atLevel((base.min[0] + base.max[0]) / 2, base.y, (base.min[1] + base.max[1]) / 2),
    };
  };

  const atLevel = (x: number, y: number, z: number): Vec3 => {
    const p = blockToLevel({ at: [frame.at[0], 0, frame.at[2]], turn: frame.turn }, x, y, z);
    return [mm(p[0]), y, mm(p[2])];
  };
  const inFrame = (p: Vec3): Vec3 => {
    const q = levelToBlock({ at: [frame.at[0], 0, frame.at[2]], turn: frame.turn }, p);
    return [q[0], p[1], q[2]];
  };

  /** The axes of what is under the pointer: a turned block's or piece's, or those of an upright face. */
  const frameOf = ({ pick }: ToolEvent): Frame => {
    if (!pick || pick.host.kind === 'terrain' || useUi.getState().workPlane !== undefined) return LEVEL;
    if (Math.abs(pick.normal[1]) < 0.3) return { at: pick.point, turn: mm((Math.atan2(pick.normal[0], pick.normal[2]) * 180) / Math.PI) };
    const host = session.level.object(pick.host.id);
    return (host?.kind === 'block' || host?.kind === 'piece') && host.turn % 90 !== 0 ? host : LEVEL;
  };

  /** What the shape and the choice of solid or void add to a block of a size. */
  const own = ([l, h, w]: Block['size']): Partial<Block> => ({
    ...(useBlockDraft.getState().blockOp === 'void' ? { op: 'void' as const } : {}),
    ...(shape === 'stair'
      ? { steps: Math.max(1, Math.ceil(h / RISER)) }
      : shape === 'terraces'
        ? { steps: Math.max(1, Math.min(Math.round(h / TERRACE), Math.floor(l / 0.5))) }
        : {}),
    // Thin enough for an opening to be left, whatever the size.
    ...(shape === 'arch' || shape === 'ring' ? { wall: Math.min(DEFAULT_WALL, Math.round(Math.min(l, shape === 'arch' ? h : w) * 200) / 1000) } : {}),
  });

  /** A void through the wall that was clicked, or `undefined` where it is no wall. */
  const throughWall = (e: ToolEvent): Block | undefined => {
    const host = e.pick?.host;
    const wall = host?.kind === 'block' ? session.level.object(host.id) : undefined;
    if (useBlockDraft.getState().blockOp !== 'void' || wall?.kind !== 'block' || Math.abs(e.pick!.normal[1]) > 0.3) return undefined;
    const { point, normal } = e.pick!;
    const [sin, cos] = sinCosDeg(wall.turn);
    // How far the wall goes in along the face's normal: as its mesh is there, else its length or its width.
    const alongLength = Math.abs(normal[0] * cos - normal[2] * sin);
    const mesh = session.scene.solids.built.get(wall.id);
    const thick = (mesh && thicknessAt(mesh, point, [-normal[0], -normal[1], -normal[2]])) ?? (alongLength > 0.7 ? wall.size[0] : wall.size[2]);
    const [l, h] = useBlockDraft.getState().blockSize;
    const size: Block['size'] = [l, h, mm(thick + 2 * THROUGH)];
    const low = point[1] - wall.at[1] < h;
    return {
      id: 'draft',
      version: 0,
      kind: 'block',
      name: 'draft',
      shape,
      size,
      turn: mm((Math.atan2(normal[0], normal[2]) * 180) / Math.PI),
      hidden: false,
      out: false,
      ...own(size),
      at: [mm(point[0] - (normal[0] * thick) / 2), mm(low ? wall.at[1] : point[1] - h / 2), mm(point[2] - (normal[2] * thick) / 2)],
    };
  };

  const set = (b: Block) => {
    const block: Block = { ...b, id: newId('block'), name: nextName(session.level, b.op === 'void' ? `${shape} void` : shape) };
    if (session.commit({ kind: 'add', objects: [block] }, `set ${block.name}`)) useUi.getState().select([block.id]);
  };

  const show = () => {
    const b = draft();
    view.aids.setGhost(b && b.size[0] >= MIN_BLOCK && b.size[2] >= MIN_BLOCK ? b : undefined);
  };

  const finish = () => {
    const b = draft();
    reset();
    if (!b || b.size.some((s) => s < MIN_BLOCK)) return;
    set(b);
  };

  /** The pointer is on an upright face of a block or a piece. */
  const upright = (e: ToolEvent): boolean =>
    e.pick !== undefined && e.pick.host.kind !== 'terrain' && Math.abs(e.pick.normal[1]) < 0.3 && useUi.getState().workPlane === undefined;

  const reset = () => {
    frame = LEVEL;
    on = undefined;
    from = undefined;
    base = undefined;
    phase = 'idle';
    height = 0;
    typed = '';
    useUi.setState({ typed: '' });
    view.aids.setGhost(undefined);
  };

  const footprint = (e: ToolEvent) => {
    const { snap } = useUi.getState();
    const p = rayPlane(view.ray(e.x, e.y), [0, from![1], 0], [0, 1, 0]);
    if (!p) return;
    // A corner or an edge under the pointer is taken in plan, whatever its height.
    const place = placeAt(context, e);
    const [x, , z] = inFrame(place?.on ? place.at : p);
    on = place?.on;
    const to: [number, number] = place?.on || e.shift ? [x, z] : [snapTo(x, snap), snapTo(z, snap)];
    const min: [number, number] = [Math.min(from![0], to[0]), Math.min(from![2], to[1])];
    const max: [number, number] = [Math.max(from![0], to[0]), Math.max(from![2], to[1])];
    // A ramp rises the way it was dragged, along its longer side.
    const dx = to[0] - from![0];
    const dz = to[1] - from![2];
    const turn = Math.abs(dx) >= Math.abs(dz) ? (dx >= 0 ? 0 : 180) : dz >= 0 ? -90 : 90;
    base = { min, max, y: from![1], turn };
  };

  const rise = (e: ToolEvent) => {
    const b = base!;
    const corner: Vec3 = atLevel(b.max[0], b.y, b.max[1]);
    const up = rayAlongAxis(view.ray(e.x, e.y), corner, [0, 1, 0]);
    if (up === undefined) return;
    height = Math.max(MIN_BLOCK, snapTo(Math.max(0, up), useUi.getState().snap));
  };

  return {
    begin(e) {
      if (phase === 'height') return true;
      if (!session.writable) {
        session.say('this level is read only here: take over to edit it', true);
        return e.pick !== undefined;
      }
      frame = frameOf(e);
      const place = placeAt(context, e);
      if (!place) return false;
      const { snap } = useUi.getState();
      const own = inFrame(place.on || frame === LEVEL || e.shift ? place.at : e.pick!.point);
      from = frame === LEVEL || place.on || e.shift ? own : [snapTo(own[0], snap), own[1], snapTo(own[2], snap)];
      on = place.on;
      pressed = [e.x, e.y];
      phase = 'footprint';
      return true;
    },
    move(e) {
      if (phase !== 'footprint') return;
      footprint(e);
      height = MIN_BLOCK;
      show();
    },
    end(e) {
      if (phase === 'footprint') {
        const moved = Math.hypot(e.x - pressed[0], e.y - pressed[1]);
        if (moved < 5) {
          const opening = throughWall(e);
          if (opening) {
            reset();
            set(opening);
            return;
          }
          const [l, h, w] = useBlockDraft.getState().blockSize;
          const back = upright(e) ? w / 2 : 0;
          base = {
            min: [from![0] - l / 2, from![2] - w / 2 + back],
            max: [from![0] + l / 2, from![2] + w / 2 + back],
            y: back ? snapTo(from![1], useUi.getState().snap) : from![1],
            turn: 0,
          };
          height = h;
          finish();
          return;
        }
        footprint(e);
        if (!base || base.max[0] - base.min[0] < MIN_BLOCK || base.max[1] - base.min[1] < MIN_BLOCK) {
          reset();
          return;
        }
        on = undefined;
        height = useBlockDraft.getState().blockSize[1];
        phase = 'height';
        show();
      } else if (phase === 'height') {
        rise(e);
        finish();
      }
    },
    cancel: reset,
    cursor(e) {
      if (phase !== 'height' || typed) return;
      rise(e);
      show();
    },
    key(key) {
      if (phase !== 'height') return false;
      if (/^[0-9.,]$/.test(key)) typed += key === ',' ? '.' : key;
      else if (key === 'Backspace') typed = typed.slice(0, -1);
      else if (key === 'Enter') {
        finish();
        return true;
      } else return false;
      const value = Number(typed);
      if (typed && Number.isFinite(value) && value >= MIN_BLOCK) height = value;
      useUi.setState({ typed });
      show();
      return true;
    },
    marks(): ToolMark[] {
      const b = draft();
      if (!b || phase === 'idle') return [];
      const [l, h, w] = b.size;
      const label = phase === 'height' ? `${l.toFixed(2)} x ${w.toFixed(2)}, height ${typed || h.toFixed(2)} m` : `${l.toFixed(2)} x ${w.toFixed(2)} m`;
      return [
        { kind: 'label', at: [b.at[0], b.at[1] + (phase === 'height' ? h : 0), b.at[2]], text: phase === 'footprint' && on ? `${label}, to the ${on}` : label },
      ];
    },
  };
}
