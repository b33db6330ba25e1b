import { useRef, type PointerEvent } from 'react';
import type { Vec3 } from '@rammer/core/num/vec';
import type { LevelView } from '../../view/LevelView';

interface Props {
  view: LevelView;
  /** in level space */
  corners: readonly Vec3[];
  /** the last leads back to the first */
  loop: boolean;
  /** what has these corners, in words */
  what: string;
  /** pixels of an event in the view */
  at(e: PointerEvent): [number, number];
  /** where a corner goes that is dragged to a pixel; `undefined` where that is nowhere */
  place(x: number, y: number, from: Vec3, free: boolean): Vec3 | undefined;
  preview(line?: readonly Vec3[]): void;
  commit(line: readonly Vec3[], verb: string): void;
  refuse(why: string): void;
  /** its corners are as many as they are */
  fixed?: boolean;
  /** what one of them is called, and how it is dragged, where that is not a corner's */
  name?(index: number): string;
  hint?: string;
}

/** Corners of a line or outline: dragged; the small marks between them become corners; Alt and a click takes one out. */
export function CornerHandles({
  view,
  corners,
  loop,
  what,
  at,
  place,
  preview,
  commit,
  refuse,
  fixed = false,
  name = (i) => `corner ${i + 1}`,
  hint = fixed ? 'drag it' : 'drag it, Alt and a click takes it out',
}: Props) {
  const drag = useRef<{ index: number; from: Vec3[]; line: Vec3[]; added: boolean; moved: boolean }>(undefined);
  const middles = corners.flatMap((p, i) => {
    if (fixed || corners.length < 2 || (i === corners.length - 1 && !loop)) return [];
    const q = corners[(i + 1) % corners.length];
    return [{ after: i, p: [0, 1, 2].map((k) => (p[k] + q[k]) / 2) as Vec3 }];
  });
  const start =
    (index: number, from: Vec3[], added = false) =>
    (e: PointerEvent<SVGElement>) => {
      e.stopPropagation();
      if (e.altKey && !added && !fixed) {
        const least = loop ? 3 : 2;
        if (corners.length <= least) refuse(`a ${what} keeps at least ${least} corners`);
        else
          commit(
            corners.filter((_, i) => i !== index),
            'take a corner out of',
          );
        return;
      }
      e.currentTarget.setPointerCapture(e.pointerId);
      drag.current = { index, from, line: from, added, moved: false };
    };
  const move = (e: PointerEvent<SVGElement>) => {
    e.stopPropagation();
    const d = drag.current;
    if (!d) return;
    const [x, y] = at(e);
    const to = place(x, y, d.from[d.index], e.shiftKey);
    if (!to) return;
    d.moved = true;
    d.line = d.from.map((c, i) => (i === d.index ? to : c));
    preview(d.line);
  };
  const end = (e: PointerEvent<SVGElement>) => {
    e.stopPropagation();
    const d = drag.current;
    drag.current = undefined;
    if (d?.moved) commit(d.line, d.added ? 'add a corner to' : 'move a corner of');
    preview(undefined);
  };
  return (
    <g>
      {middles.map(({ after, p }) => {
        const s = view.project(p);
        const from = [...corners.slice(0, after + 1), p, ...corners.slice(after + 1)];
        return (
          s && (
            <circle
              key={`m${after}`}
              cx={s.x}
              cy={s.y}
              r={5}
              fill="var(--raised)"
              stroke="var(--blue)"
              strokeWidth={1.5}
              style={{ pointerEvents: 'auto', cursor: 'copy' }}
              data-handle={`new corner after ${after + 1}`}
              onPointerDown={start(after + 1, from, true)}
              onPointerMove={move}
              onPointerUp={end}
            >
              <title>drag: a new corner here</title>
            </circle>
          )
        );
      })}
      {corners.map((p, i) => {
        const s = view.project(p);
        return (
          s && (
            <rect
              key={i}
              x={s.x - 7}
              y={s.y - 7}
              width={14}
              height={14}
              fill="var(--raised)"
              stroke="var(--blue)"
              strokeWidth={2}
              style={{ pointerEvents: 'auto', cursor: 'grab' }}
              data-handle={name(i)}
              onPointerDown={start(i, [...corners])}
              onPointerMove={move}
              onPointerUp={end}
            >
              <title>{`${name(i)}: ${hint}`}</title>
            </rect>
          )
        );
      })}
    </g>
  );
}
