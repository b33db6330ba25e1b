import { useRef, useState, type PointerEvent } from 'react';
import { resized, resizedTo } from '@rammer/core/block/drawn';
import { blockSolid, blockToLevel } from '@rammer/core/block/solid';
import { isDrawn } from '@rammer/core/level/drawn';
import { MIN_BLOCK, type Block } from '@rammer/core/level/objects';
import { isMaker } from '@rammer/core/level/present';
import { poseAxes, rotatedAbout, tiltAngles } from '@rammer/core/num/pose';
import { add, cross, dot, normalize, scale, sub, type Vec3 } from '@rammer/core/num/vec';
import type { Session } from '../../store/session';
import { snapTo, useUi } from '../../store/ui';
import { setBlocks } from '../blockActions';
import { asBlock, followBlock, poseFields, thingsOfCopy } from '../asBlock';
import { isLocked, mm, setThings, things } from '../things';
import { NumberField } from '../../ui/NumberField';
import { useSession } from '../../store/useSession';
import { edgePath } from '../../view/blockMesh';
import { layoutDimensions, type Dimension } from '../../view/dimensions';
import { LineHandles } from './LineHandles';
import { Metrics } from './Metrics';
import { Relations } from './Relations';
import type { LevelView } from '../../view/LevelView';
import { rayAlongAxis, rayPlane } from '../../view/project';
import { useDrawnFrame } from '../../view/useFrame';

const UNSIZED = ['marker', 'people', 'laidLine'];
const BLUE = 'var(--blue)';
const PAPER = 'var(--raised)';
/** More than these are shown by one bracket around them with their count. */
const MOST_OUTLINED = 40;

/** Outlines of what is selected; on the first its dimension lines and handles. A piece shows as the box around it. */
export function Selection({ session, view }: { session: Session; view: LevelView }) {
  useDrawnFrame(view);
  useSession(session);
  useUi((s) => s.selection);
  const handle = useUi((s) => s.handle);
  const tool = useUi((s) => s.tool);
  const [typing, setTyping] = useState<Dimension['field']>();
  const [draft, setDraft] = useState<Map<string, Block>>();
  const chosen = things(session);
  const blocks = chosen.map((t) => draft?.get(t.id) ?? asBlock(session, t));
  if (blocks.length === 0) return null;
  const [first, ...others] = blocks;

  const preview = (next?: Map<string, Block>) => {
    setDraft(next);
    const moved = chosen.flatMap((t) => {
      const b = next?.get(t.id);
      return b ? [followBlock(session, t, b)] : [];
    });
    const all = moved.flatMap((t) => (isMaker(t) ? thingsOfCopy(session, t) : [t]));
    const blocksMoved = all.filter((t) => t.kind === 'block');
    const piecesMoved = all.filter((t) => t.kind === 'piece');
    view.blocks.preview(blocksMoved.length > 0 ? new Map(blocksMoved.map((t) => [t.id, t])) : undefined);
    view.setPiecePreview(piecesMoved.length > 0 ? new Map(piecesMoved.map((t) => [t.id, t])) : undefined);
  };
  const isBlock = chosen[0].kind === 'block';
  // While it is turned, the rings with their degrees take the room of the dimensions.
  const isLine = chosen[0].kind === 'laidLine';
  const dims = (handle === 'turn' && tool === 'select') || isLine ? [] : layoutDimensions(first, (p) => view.project(p), view.width, view.height);

  return (
    <div className="pointer-events-none absolute inset-0" data-testid="selection">
      <svg className="absolute inset-0 h-full w-full" aria-hidden>
        {others.length > MOST_OUTLINED ? <Bracket view={view} blocks={blocks} /> : others.map((b) => <Outline key={b.id} view={view} block={b} width={2} />)}
        {/* A laid line is drawn as the line it is. */}
        {!isLine && <Outline view={view} block={first} width={3} />}
        {dims.map((d) => (
          <g key={d.field} fill="none">
            <path d={d.path} stroke={PAPER} strokeWidth={4} />
            <path d={d.path} stroke={BLUE} strokeWidth={1.5} />
          </g>
        ))}
      </svg>
      {dims.map((d) => (
        <div
          key={d.field}
          className={isBlock ? 'pointer-events-auto absolute' : 'absolute'}
          style={{ left: d.label[0], top: d.label[1], transform: 'translate(-50%, -50%)' }}
          onPointerDown={(e) => e.stopPropagation()}
          onPointerMove={(e) => e.stopPropagation()}
          onPointerUp={(e) => e.stopPropagation()}
        >
          {typing === d.field && isBlock ? (
            <NumberField
              label={d.name}
              hideLabel
              autoFocus
              value={d.value}
              unit="m"
              min={MIN_BLOCK}
              max={4096}
              digits={3}
              className=""
              onLeave={() => setTyping(undefined)}
              onCommit={(v) => {
                setTyping(undefined);
                setSize(session, first, d.field, v);
              }}
            />
          ) : (
            <button
              className="fig border px-1 leading-5"
              style={{ background: 'var(--field)', borderColor: BLUE, color: BLUE, fontWeight: 600, fontSize: 13 }}
              aria-label={isBlock ? `${d.name} ${d.value.toFixed(2)} m: type another` : `${d.name} ${d.value.toFixed(2)} m`}
              title={isBlock ? `${d.name}: click and type` : `${d.name}: a piece keeps its real size`}
              disabled={!isBlock}
              onClick={() => setTyping(d.field)}
            >
              {d.value.toFixed(2)}
            </button>
          )}
        </div>
      ))}
      {isBlock && <Relations session={session} view={view} block={first} still={draft === undefined} />}
      {tool === 'select' && session.writable && !isLocked(session, chosen[0]) && (
        <Handles
          session={session}
          view={view}
          blocks={blocks}
          mode={handle === 'size' && UNSIZED.includes(chosen[0].kind) ? 'move' : handle}
          preview={preview}
        />
      )}
      {isBlock && <Metrics session={session} view={view} block={first} />}
    </div>
  );
}

function setSize(session: Session, block: Block, field: Dimension['field'], value: number): void {
  setBlocks(session, [block], (b) => resized(b, ({ length: 0, height: 1, width: 2 } as const)[field], value), 'size');
}

function Outline({ view, block, width }: { view: LevelView; block: Block; width: number }) {
  const d = edgePath(view, block);
  const dashed = block.hidden || block.out ? '4 4' : undefined;
  return (
    <g fill="none" strokeLinecap="square">
      <path d={d} stroke={PAPER} strokeWidth={width + 2} opacity={0.85} />
      <path d={d} stroke={BLUE} strokeWidth={width} strokeDasharray={dashed} />
    </g>
  );
}

/** One bracket around many: corners of the box they take on the screen, and how many they are. */
function Bracket({ view, blocks }: { view: LevelView; blocks: readonly Block[] }) {
  let [x0, y0, x1, y1] = [Infinity, Infinity, -Infinity, -Infinity];
  for (const b of blocks) {
    const r = Math.hypot(b.size[0], b.size[2]) / 2;
    for (const [dx, dy, dz] of [
      [-r, 0, 0],
      [r, 0, 0],
      [0, 0, -r],
      [0, 0, r],
      [0, b.size[1], 0],
    ]) {
      const p = view.project([b.at[0] + dx, b.at[1] + dy, b.at[2] + dz]);
      if (!p) continue;
      x0 = Math.min(x0, p.x);
      y0 = Math.min(y0, p.y);
      x1 = Math.max(x1, p.x);
      y1 = Math.max(y1, p.y);
    }
  }
  if (x1 < x0) return null;
  const [l, t, r, b] = [Math.max(6, x0 - 6), Math.max(24, y0 - 6), Math.min(view.width - 6, x1 + 6), Math.min(view.height - 6, y1 + 6)];
  const d = `M${l} ${t + 18}V${t}H${l + 18}M${r - 18} ${t}H${r}V${t + 18}M${r} ${b - 18}V${b}H${r - 18}M${l + 18} ${b}H${l}V${b - 18}`;
  return (
    <g fill="none">
      <path d={d} stroke={PAPER} strokeWidth={5} />
      <path d={d} stroke={BLUE} strokeWidth={2.5} />
      <text x={l + 24} y={t + 5} className="fig" fontSize={14} fontWeight={600} fill={BLUE} stroke={PAPER} strokeWidth={4} paintOrder="stroke">
        {blocks.length} selected
      </text>
    </g>
  );
}

interface HandleProps {
  session: Session;
  view: LevelView;
  blocks: Block[];
  mode: 'move' | 'turn' | 'size';
  preview(next?: Map<string, Block>): void;
}

/** Handles of the first selected block: dimension lines out of its faces to move and to size, a ring to turn. Letters name the axes. */
function Handles({ session, view, blocks, mode, preview }: HandleProps) {
  const drag = useRef<{ start: number; from: Block[]; changed?: Map<string, Block> }>(undefined);
  const [first] = blocks;
  const centre = blockToLevel(first, 0, first.size[1] / 2, 0);
  const reach = 70 / view.pixelsPerMetre(centre);
  const own = (x: number, y: number, z: number): Vec3 => normalize(sub(blockToLevel(first, x, y, z), first.at));
  const axes: { key: string; axis: Vec3; label: string }[] = [
    { key: 'x', axis: [1, 0, 0], label: 'X' },
    { key: 'y', axis: [0, 1, 0], label: 'Y' },
    { key: 'z', axis: [0, 0, 1], label: 'Z' },
  ];

  const drive = (measure: (e: PointerEvent) => number | undefined, apply: (from: Block, by: number) => Block, verb: string) => ({
    onPointerDown: (e: PointerEvent<SVGElement>) => {
      e.stopPropagation();
      e.currentTarget.setPointerCapture(e.pointerId);
      const start = measure(e);
      if (start !== undefined) drag.current = { start, from: blocks };
    },
    onPointerMove: (e: PointerEvent<SVGElement>) => {
      e.stopPropagation();
      if (!drag.current) return;
      const now = measure(e);
      if (now === undefined) return;
      const by = now - drag.current.start;
      const changed = new Map(drag.current.from.map((b) => [b.id, apply(b, by)]));
      drag.current.changed = changed;
      preview(changed);
    },
    onPointerUp: (e: PointerEvent<SVGElement>) => {
      e.stopPropagation();
      const done = drag.current;
      drag.current = undefined;
      preview(undefined);
      if (!done?.changed) return;
      const before = new Map(done.from.map((b) => [b.id, b]));
      const list = [...done.changed.values()].filter((b) => JSON.stringify(b) !== JSON.stringify(before.get(b.id)));
      setThings(
        session,
        things(
          session,
          list.map((b) => b.id),
        ),
        (t) => {
          const n = followBlock(session, t, done.changed!.get(t.id)!);
          return {
            ...poseFields(t, n),
            ...(n.kind !== 'block' ? {} : isDrawn(n.shape) ? { size: n.size, line: n.line, tall: n.tall, wide: n.wide } : { size: n.size.map(mm) as Vec3 }),
          };
        },
        verb,
      );
    },
  });

  const at = (e: PointerEvent): [number, number] => {
    const box = (e.currentTarget as SVGElement).closest('[data-testid=selection]')!.getBoundingClientRect();
    return [e.clientX - box.left, e.clientY - box.top];
  };
  const snap = useUi.getState().snap;
  const line = isDrawn(first.shape) && blocks.length === 1;
  const upright = onlyTurns(session, first.id);

  return (
    <svg className="absolute inset-0 h-full w-full" style={{ pointerEvents: 'none' }} data-testid="handles">
      {mode === 'move' &&
        axes.map(({ key, axis, label }) => {
          const origin = add(centre, scale(axis, boxReach(first, axis)));
          return (
            <Arm
              key={key}
              view={view}
              from={origin}
              to={add(origin, scale(axis, reach * 0.6))}
              label={label}
              name={`move along ${label}`}
              {...drive(
                (e) => rayAlongAxis(view.ray(...at(e)), origin, axis),
                (b, by) => {
                  const s = snapTo(by, snap);
                  return { ...b, at: [b.at[0] + axis[0] * s, b.at[1] + axis[1] * s, b.at[2] + axis[2] * s] };
                },
                'move',
              )}
            />
          );
        })}
      {mode === 'size' && line && <LineHandles session={session} view={view} block={first} at={at} preview={preview} />}
      {mode === 'size' &&
        (
          [
            ['x', 0, 1],
            ['x', 0, -1],
            ['y', 1, 1],
            ['z', 2, 1],
            ['z', 2, -1],
          ] as const
        )
          .filter(([letter]) => letter === 'y' || !line)
          .map(([letter, index, sign]) => {
            const local: Vec3 = [0, first.size[1] / 2, 0];
            local[index] = index === 1 ? first.size[1] : (sign * first.size[index]) / 2;
            const axis = own(index === 0 ? sign : 0, index === 1 ? 1 : 0, index === 2 ? sign : 0);
            const from = blockToLevel(first, ...local);
            return (
              <Arm
                key={`${letter}${sign}`}
                view={view}
                from={from}
                to={add(from, scale(axis, reach * 0.45))}
                label={letter.toUpperCase()}
                straight
                name={`size along ${letter.toUpperCase()}${sign < 0 ? ', other side' : ''}`}
                {...drive(
                  (e) => rayAlongAxis(view.ray(...at(e)), from, axis),
                  (b, by) => {
                    const size: Block['size'] = [...b.size];
                    size[index] = Math.max(MIN_BLOCK, snapTo(b.size[index] + by, snap) || MIN_BLOCK);
                    const grown = size[index] - b.size[index];
                    return resizedTo({ ...b, at: index === 1 ? b.at : add(b.at, scale(axis, grown / 2)) }, size);
                  },
                  'size',
                )}
              />
            );
          })}
      {mode === 'turn' &&
        turnRings(first, upright).map(({ letter, axis, from }) => (
          <TurnRing
            key={letter}
            view={view}
            block={first}
            radius={reach}
            letter={letter}
            axis={axis}
            from={from}
            {...drive(
              (e) => {
                const p = rayPlane(view.ray(...at(e)), first.at, axis);
                return p && angleAbout(axis, from, sub(p, first.at));
              },
              (b, by) => {
                const step = snap > 0 ? 15 : 1;
                const { tilt: _, ...own } = b;
                return { ...own, ...rotatedAbout(b, axis, Math.round(by / step) * step) };
              },
              letter === 'Y' ? 'turn' : 'tilt',
            )}
          />
        ))}
    </svg>
  );
}

type DragProps = Pick<React.SVGProps<SVGGElement>, 'onPointerDown' | 'onPointerMove' | 'onPointerUp'>;

/** The oblique stroke that ends a dimension line, at a point of the screen; `along` is the line's direction there. */
function Tick({ x, y, along, straight }: { x: number; y: number; along: [number, number]; straight?: boolean }) {
  const l = Math.hypot(...along) || 1;
  const [ux, uy] = [along[0] / l, along[1] / l];
  // Across the line, or across and forward at once.
  const [tx, ty] = straight ? [-uy * 10, ux * 10] : [(ux - uy) * 7.5, (uy + ux) * 7.5];
  const d = `M${x - tx} ${y - ty}L${x + tx} ${y + ty}`;
  return (
    <>
      <path d={d} stroke={PAPER} strokeWidth={7.5} />
      <path d={d} stroke={BLUE} strokeWidth={3.5} />
    </>
  );
}

/** A handle drawn as a dimension line: out of the thing, ended by a tick, its letter beyond. `straight` ends it as a face that is pushed. */
function Arm({
  view,
  from,
  to,
  label,
  name,
  straight,
  ...drag
}: { view: LevelView; from: Vec3; to: Vec3; label: string; name: string; straight?: boolean } & DragProps) {
  const a = view.project(from);
  const b = view.project(to);
  if (!a || !b || Math.hypot(b.x - a.x, b.y - a.y) < 6) return null;
  const along: [number, number] = [b.x - a.x, b.y - a.y];
  const l = Math.hypot(...along);
  return (
    <g style={{ pointerEvents: 'auto', cursor: 'grab' }} data-handle={name} {...drag}>
      <title>{name}</title>
      <path d={`M${a.x} ${a.y}L${b.x} ${b.y}`} stroke={PAPER} strokeWidth={5} />
      <path d={`M${a.x} ${a.y}L${b.x} ${b.y}`} stroke={BLUE} strokeWidth={1.75} />
      <Tick x={b.x} y={b.y} along={along} straight={straight} />
      <circle cx={b.x} cy={b.y} r={15} fill="transparent" />
      <text
        x={b.x + (along[0] / l) * 17}
        y={b.y + (along[1] / l) * 17 + 4.5}
        textAnchor="middle"
        className="fig"
        fontSize={14}
        fontWeight={600}
        fill={BLUE}
        stroke={PAPER}
        strokeWidth={4}
        paintOrder="stroke"
      >
        {label}
      </text>
    </g>
  );
}

/** How far along an axis of the level the box of a thing reaches from its middle, metres. */
function boxReach(block: Block, axis: Vec3): number {
  const [x, y, z] = poseAxes(block).map((own, k) => {
    const share = Math.abs(dot(axis, own));
    return share < 1e-6 ? Infinity : block.size[k] / 2 / share;
  });
  return Math.min(x, y, z);
}

/** Markers, people and lines stand upright and have no size of their own: they only turn. */
const onlyTurns = (session: Session, id: string): boolean => {
  const [t] = things(session, [id]);
  return t !== undefined && UNSIZED.includes(t.kind);
};

/** The axes a thing is turned about: upright in the level, and its own length and width. */
function turnRings(block: Block, upright: boolean): { letter: 'X' | 'Y' | 'Z'; axis: Vec3; from: Vec3 }[] {
  const [x, , z] = poseAxes(block);
  const [heading] = poseAxes({ turn: block.turn });
  const [ax, , az] = poseAxes(block);
  const about = { letter: 'Y' as const, axis: [0, 1, 0] as Vec3, from: heading };
  // The upright one last: it is drawn over the others and taken first.
  return upright ? [about] : [{ letter: 'X', axis: ax, from: z }, { letter: 'Z', axis: az, from: x }, about];
}

/** Degrees about an axis from one direction to another. */
const angleAbout = (axis: Vec3, from: Vec3, to: Vec3): number => (Math.atan2(dot(cross(axis, from), to), dot(from, to)) * 180) / Math.PI;

function TurnRing({
  view,
  block,
  radius,
  letter,
  axis,
  from,
  ...drag
}: { view: LevelView; block: Block; radius: number; letter: 'X' | 'Y' | 'Z'; axis: Vec3; from: Vec3 } & DragProps) {
  const corners = blockSolid(block).corners;
  const about = (c: Vec3) => {
    const to = sub(c, block.at);
    return Math.hypot(...sub(to, scale(axis, dot(axis, to))));
  };
  // Those that tilt keep their size on the screen: about a long wall they would fill it.
  const r = letter === 'Y' ? Math.max(radius, ...corners.map((c) => about(c) * 1.1)) : radius * 1.1;
  const side = cross(axis, from);
  const point = (deg: number): Vec3 => {
    const a = (deg * Math.PI) / 180;
    return add(block.at, add(scale(from, Math.cos(a) * r), scale(side, Math.sin(a) * r)));
  };
  let d = '';
  for (let i = 0; i <= 48; i++) {
    const p = view.project(point((i / 48) * 360));
    if (p) d += `${d ? 'L' : 'M'}${p.x.toFixed(1)} ${p.y.toFixed(1)}`;
  }
  const g = view.project(point(0));
  const beside = view.project(point(4));
  const [tiltX, tiltZ] = tiltAngles(block.tilt);
  const degrees = letter === 'Y' ? block.turn : letter === 'X' ? tiltX : tiltZ;
  const name = letter === 'Y' ? 'turn' : `tilt ${letter}`;
  const thin = letter !== 'Y';
  return (
    <g style={{ cursor: 'grab' }} data-handle={name} {...drag}>
      <title>{name}, 15 degrees a step while the grid is on</title>
      <path d={d} fill="none" stroke={PAPER} strokeWidth={thin ? 3.5 : 5} />
      <path d={d} fill="none" stroke={BLUE} strokeWidth={thin ? 1.1 : 1.75} strokeDasharray={thin ? '6 3' : undefined} style={{ pointerEvents: 'stroke' }} />
      {g && beside && (
        <g style={{ pointerEvents: 'auto' }}>
          <Tick x={g.x} y={g.y} along={[beside.x - g.x, beside.y - g.y]} straight />
          <circle cx={g.x} cy={g.y} r={15} fill="transparent" />
          <text
            x={g.x + 14}
            y={g.y + 5}
            className="fig"
            fontSize={14}
            fontWeight={600}
            fill={BLUE}
            stroke={PAPER}
            strokeWidth={4}
            paintOrder="stroke"
          >{`${letter} ${degrees.toFixed(0)}°`}</text>
        </g>
      )}
    </g>
  );
}
