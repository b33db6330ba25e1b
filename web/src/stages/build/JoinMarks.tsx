import { useState, type PointerEvent } from 'react';
import type { Join, Part } from '@rammer/core/level/objects';
import { sinCosDeg } from '@rammer/core/num/trig';
import type { Vec3 } from '@rammer/core/num/vec';
import { draggedBy, snapped, turnedTo, type Project } from './joinDrag';

interface Props {
  part: Part;
  project: Project;
  width: number;
  /** the one that is pointed at */
  at?: number;
  onHover(i: number | undefined): void;
  onSet(i: number, fields: Partial<Join>): void;
}

interface Drag {
  i: number;
  what: 'place' | 'way';
  from: [number, number];
  join: Join;
}

/** How far its arrow reaches out of a join, metres. */
const REACH = 0.45;

/**
 * Joins over a picture: a frame as wide as the join, and the way out of the part with its number. The dot at its foot moves it,
 * level, or with Shift upright; the one at the tip of its arrow turns it, with Shift exactly.
 */
export function JoinMarks({ part, project, width, at, onHover, onSet }: Props) {
  const [drag, setDrag] = useState<Drag>();
  const height = part.box[1][1];
  const joins = part.joins.map((j, i) => (drag?.i === i ? drag.join : j));

  const begin = (e: PointerEvent, i: number, what: Drag['what']) => {
    e.stopPropagation();
    e.currentTarget.setPointerCapture(e.pointerId);
    setDrag({ i, what, from: [e.clientX, e.clientY], join: part.joins[i] });
  };
  const move = (e: PointerEvent) => {
    if (!drag) return;
    e.stopPropagation();
    const by: [number, number] = [e.clientX - drag.from[0], e.clientY - drag.from[1]];
    const own = part.joins[drag.i];
    if (drag.what === 'place') {
      const d = draggedBy(project, own.at, by, e.shiftKey);
      setDrag({ ...drag, join: { ...own, at: snapped(part, own.at.map((v, k) => v + d[k]) as Vec3) } });
      return;
    }
    const tip = tipOf(own);
    const d = draggedBy(project, tip, by, false);
    setDrag({ ...drag, join: { ...own, turn: turnedTo(own, tip.map((v, k) => v + d[k]) as Vec3, e.shiftKey) } });
  };
  const end = (e: PointerEvent) => {
    if (!drag) return;
    e.stopPropagation();
    const { i, join } = drag;
    const own = part.joins[i];
    setDrag(undefined);
    if (join.turn !== own.turn || join.at.some((v, k) => v !== own.at[k])) onSet(i, { at: join.at, turn: join.turn });
  };

  return (
    <svg className="pointer-events-none absolute inset-0 h-full w-full" aria-hidden data-testid="join-marks">
      {joins.map((j, i) => {
        const [s, c] = sinCosDeg(j.turn);
        const place = (across: number, out: number, up: number): [number, number] =>
          project([j.at[0] + c * out + s * across, j.at[1] + up, j.at[2] - s * out + c * across]);
        const on = (across: number, out: number, up: number): string =>
          place(across, out, up)
            .map((v) => v.toFixed(1))
            .join(' ');
        const half = Math.max(0.05, j.width / 2);
        const top = Math.max(0.2, height - j.at[1]);
        const frame = `M${on(-half, 0, 0)}L${on(half, 0, 0)}L${on(half, 0, top)}L${on(-half, 0, top)}Z`;
        const way = `M${on(0, 0, 0)}L${on(0, REACH, 0)}M${on(-0.09, 0.33, 0)}L${on(0, REACH, 0)}L${on(0.09, 0.33, 0)}`;
        const [x, y] = place(0, 0.6, 0);
        const inside = Math.min(Math.max(x, 34), Math.max(34, width - 34));
        const dot = (what: Drag['what'], [cx, cy]: [number, number]) => (
          <circle
            cx={cx}
            cy={cy}
            r={drag?.i === i && drag.what === what ? 7 : 5.5}
            fill="var(--raised)"
            stroke="var(--ink)"
            strokeWidth={2}
            className="pointer-events-auto"
            style={{ cursor: what === 'place' ? 'move' : 'grab', touchAction: 'none' }}
            data-join={`${what} ${i + 1}`}
            onPointerDown={(e) => begin(e, i, what)}
            onPointerMove={move}
            onPointerUp={end}
            onPointerCancel={() => setDrag(undefined)}
            onPointerEnter={() => onHover(i)}
            onPointerLeave={() => onHover(undefined)}
          />
        );
        return (
          <g key={i} fill="none">
            <path d={frame + way} stroke="var(--raised)" strokeWidth={at === i ? 6 : 4.5} opacity={0.9} />
            <path d={frame} stroke="var(--ink)" strokeWidth={at === i ? 2.5 : 1.25} strokeDasharray="5 3" />
            <path d={way} stroke="var(--ink)" strokeWidth={at === i ? 3 : 2} />
            {dot('place', place(0, 0, 0))}
            {dot('way', place(0, REACH, 0))}
            <text
              x={inside}
              y={y + 4}
              textAnchor="middle"
              className="fig"
              fontSize={14}
              fontWeight={600}
              fill="var(--ink)"
              stroke="var(--raised)"
              strokeWidth={4}
              paintOrder="stroke"
            >
              {i + 1} {j.kind}
            </text>
          </g>
        );
      })}
    </svg>
  );
}

/** Where the arrow of a join ends. */
function tipOf({ at, turn }: Join): Vec3 {
  const [s, c] = sinCosDeg(turn);
  return [at[0] + c * REACH, at[1], at[2] - s * REACH];
}
