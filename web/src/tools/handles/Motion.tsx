import { useState, type PointerEvent } from 'react';
import { moverPeriod } from '@rammer/core/block/mover';
import type { Block, Stop } from '@rammer/core/level/objects';
import { add, sub, type Vec3 } from '@rammer/core/num/vec';
import type { Session } from '../../store/session';
import { useSession } from '../../store/useSession';
import { snapTo, useUi } from '../../store/ui';
import { setBlocks } from '../blockActions';
import { edgePath } from '../../view/blockMesh';
import { CornerHandles } from './CornerHandles';
import type { LevelView } from '../../view/LevelView';
import { rayAlongAxis, rayPlane } from '../../view/project';
import { useDrawnFrame } from '../../view/useFrame';

const UP: Vec3 = [0, 1, 0];
/** Pixels between the times of two stops, below which only the first is written. */
const APART = 26;

/** The ways of movers in Block: dashed from stop to stop, an outline and the second at each; the stops of a selected one are dragged. */
export function Motion({ session, view }: { session: Session; view: LevelView }) {
  useDrawnFrame(view);
  useSession(session);
  const selection = useUi((s) => s.selection);
  const [dragged, setDragged] = useState<{ id: string; stops: Stop[] }>();
  if (useUi((s) => s.stage) !== 'block') return null;
  const movers = [...session.scene.solids.movers.values()].filter((b) => !b.hidden);
  if (movers.length === 0) return null;
  const written: { x: number; y: number }[] = [];
  return (
    <svg className="pointer-events-none absolute inset-0 h-full w-full" data-testid="movers" aria-hidden>
      {movers.map((block) => {
        const stops = dragged?.id === block.id ? dragged.stops : block.stops!;
        const middle = (by: Vec3) => view.project(add(add(block.at, by), [0, block.size[1] / 2, 0]));
        const points = stops.flatMap((s) => middle(s.by) ?? []);
        const d = points.map((p, i) => `${i === 0 ? 'M' : 'L'}${p.x.toFixed(1)} ${p.y.toFixed(1)}`).join('');
        const chosen = selection.includes(block.id);
        let at = 0;
        return (
          <g key={block.id} fill="none">
            <path d={d} stroke="var(--raised)" strokeWidth={4} />
            <path d={d} stroke="var(--ink)" strokeWidth={1.5} strokeDasharray="2 4" />
            {stops.map((s, i) => {
              at += i === 0 ? 0 : stops[i - 1].wait + s.travel;
              const p = middle(s.by);
              const outline = i > 0 ? edgePath(view, { ...block, at: add(block.at, s.by) }) : '';
              // Wagons side by side end side by side: one time is read, two over each other are not.
              const free = p && i > 0 && !written.some((w) => Math.abs(w.x - p.x) < 3 * APART && Math.abs(w.y - p.y) < APART / 2);
              if (free) written.push(p);
              return (
                p && (
                  <g key={i}>
                    {chosen && outline && (
                      <>
                        <path d={outline} stroke="var(--raised)" strokeWidth={3} opacity={0.6} />
                        <path d={outline} stroke="var(--ink)" strokeWidth={1} strokeDasharray="4 4" />
                      </>
                    )}
                    <circle cx={p.x} cy={p.y} r={4} fill="var(--raised)" stroke="var(--ink)" strokeWidth={1.5} />
                    {free && (
                      <text
                        x={p.x + 12}
                        y={p.y + 4}
                        className="fig"
                        fontSize={13}
                        fill="var(--ink)"
                        stroke="var(--raised)"
                        strokeWidth={3}
                        paintOrder="stroke"
                      >{`${at.toFixed(1)} s of ${moverPeriod(stops).toFixed(1)}`}</text>
                    )}
                  </g>
                )
              );
            })}
          </g>
        );
      })}
      {movers
        .filter((b) => selection.length === 1 && selection[0] === b.id && !b.locked)
        .map((block) => (
          <StopHandles
            key={block.id}
            session={session}
            view={view}
            block={block}
            stops={dragged?.id === block.id ? dragged.stops : block.stops!}
            preview={(stops) => setDragged(stops && { id: block.id, stops })}
          />
        ))}
    </svg>
  );
}

interface StopProps {
  session: Session;
  view: LevelView;
  block: Block;
  stops: readonly Stop[];
  preview(stops?: Stop[]): void;
}

/** The stops of a mover but the first, which is where it stands: dragged level by the grid, with Shift up and down. @param stops as they are shown */
function StopHandles({ session, view, block, stops: [first, ...others], preview }: StopProps) {
  const home = add(block.at, [0, block.size[1] / 2, 0]);
  const moved = (line: readonly Vec3[]): Stop[] => [first, ...others.map((s, i) => ({ ...s, by: sub(line[i], home) }))];
  const at = (e: PointerEvent): [number, number] => {
    const box = (e.currentTarget as SVGElement).closest('[data-testid=movers]')!.getBoundingClientRect();
    return [e.clientX - box.left, e.clientY - box.top];
  };
  return (
    <CornerHandles
      view={view}
      corners={others.map((s) => add(home, s.by))}
      loop={false}
      what="mover"
      at={at}
      fixed
      name={(i) => `stop ${i + 2}`}
      hint="drag it, with Shift up and down"
      refuse={(why) => session.say(why, true)}
      place={(x, y, from, upright) => {
        const { snap } = useUi.getState();
        if (upright) {
          const up = rayAlongAxis(view.ray(x, y), from, UP);
          return up === undefined ? undefined : [from[0], home[1] + snapTo(from[1] + up - home[1], snap), from[2]];
        }
        const p = rayPlane(view.ray(x, y), from, UP);
        return p && [home[0] + snapTo(p[0] - home[0], snap), from[1], home[2] + snapTo(p[2] - home[2], snap)];
      }}
      preview={(line) => preview(line && moved(line))}
      commit={(line) => setBlocks(session, [block], () => ({ stops: moved(line) }), 'move a stop of')}
    />
  );
}
