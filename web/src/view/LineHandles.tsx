import { useRef, type PointerEvent } from 'react';
import { levelLine, relined } from '@rammer/core/block/drawn';
import { levelToBlock } from '@rammer/core/block/solid';
import { lineFault } from '@rammer/core/level/drawn';
import type { Block } from '@rammer/core/level/objects';
import type { Vec3 } from '@rammer/core/num/vec';
import type { Session } from '../store/session';
import { snapTo, useUi } from '../store/ui';
import { setBlocks } from '../tools/blockActions';
import { nearCorner } from '../tools/placing';
import type { LevelView } from './LevelView';
import { rayPlane } from './project';

interface Props { session: Session; view: LevelView; block: Block; at(e: PointerEvent): [number, number]; preview(next?: Map<string, Block>): void }

/** Corners of a drawn block: dragged in plan; the small marks between them become corners; Alt and a click takes one out. */
export function LineHandles({ session, view, block, at, preview }: Props) {
  const drag = useRef<{ index: number; from: Vec3[]; line: Vec3[]; added: boolean; moved: boolean }>(undefined);
  const corners = levelLine(block);
  const loop = block.closed || block.shape === 'slab';
  const middles = corners.flatMap((p, i) => {
    if (i === corners.length - 1 && !loop) return [];
    const q = corners[(i + 1) % corners.length];
    return [{ after: i, p: [0, 1, 2].map((k) => (p[k] + q[k]) / 2) as Vec3 }];
  });

  const shaped = (line: readonly Vec3[]): Block | undefined => {
    const own = line.map((p) => levelToBlock(block, p));
    const next = { ...block, line: own };
    return lineFault(next) ? undefined : { ...next, ...relined(next, own) };
  };
  const commit = (line: readonly Vec3[], verb: string) => {
    const own = line.map((p) => levelToBlock(block, p));
    const fault = lineFault({ ...block, line: own });
    if (fault) session.say(`${fault}; its last shape is kept`, true);
    else setBlocks(session, [block], () => relined(block, own), verb);
  };

  const start = (index: number, from: Vec3[], added = false) => (e: PointerEvent<SVGElement>) => {
    e.stopPropagation();
    if (e.altKey && !added) {
      const least = loop ? 3 : 2;
      if (corners.length <= least) session.say(`a ${block.shape} keeps at least ${least} corners`, true);
      else commit(corners.filter((_, i) => i !== index), 'take a corner out of');
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
    const p = rayPlane(view.ray(x, y), d.from[d.index], [0, 1, 0]);
    if (!p) return;
    const { snap } = useUi.getState();
    const under = view.pick(x, y, new Set([block.id]));
    const near = e.shiftKey || !under ? undefined : nearCorner({ session, view }, under.point);
    const to: Vec3 = near ? [near.at[0], p[1], near.at[2]] : [snapTo(p[0], snap), p[1], snapTo(p[2], snap)];
    d.moved = true;
    d.line = d.from.map((c, i) => (i === d.index ? to : c));
    const next = shaped(d.line);
    if (next) preview(new Map([[block.id, next]]));
  };
  const end = (e: PointerEvent<SVGElement>) => {
    e.stopPropagation();
    const d = drag.current;
    drag.current = undefined;
    preview(undefined);
    if (d?.moved) commit(d.line, d.added ? 'add a corner to' : 'move a corner of');
  };

  return (
    <g>
      {middles.map(({ after, p }) => {
        const s = view.project(p);
        const from = [...corners.slice(0, after + 1), p, ...corners.slice(after + 1)];
        return s && <circle key={`m${after}`} cx={s.x} cy={s.y} r={5} fill="var(--raised)" stroke="var(--blue)" strokeWidth={1.5} style={{ pointerEvents: 'auto', cursor: 'copy' }} data-handle={`new corner after ${after + 1}`} onPointerDown={start(after + 1, from, true)} onPointerMove={move} onPointerUp={end}><title>drag: a new corner here</title></circle>;
      })}
      {corners.map((p, i) => {
        const s = view.project(p);
        return s && <rect key={i} x={s.x - 7} y={s.y - 7} width={14} height={14} fill="var(--raised)" stroke="var(--blue)" strokeWidth={2} style={{ pointerEvents: 'auto', cursor: 'grab' }} data-handle={`corner ${i + 1}`} onPointerDown={start(i, corners)} onPointerMove={move} onPointerUp={end}><title>{`corner ${i + 1}: drag it, Alt and a click takes it out`}</title></rect>;
      })}
    </g>
  );
}
