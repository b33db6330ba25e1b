import { useState } from 'react';
import { nearestNeighbour, overHost } from '@rammer/core/block/relations';
import { blockGrid } from '@rammer/core/block/grid';
import { meshGrid } from '@rammer/core/block/placedMesh';
import type { Block } from '@rammer/core/level/objects';
import { normalize, scale, sub, type Vec3 } from '@rammer/core/num/vec';
import { groundAt } from '@rammer/core/surface/groundAt';
import type { Session } from '../../store/session';
import { moveThings } from '../things';
import { NumberField } from '../../ui/NumberField';
import type { LevelView } from '../../view/LevelView';

/** Neighbours farther than this are no matter, metres. */
const FAR = 30;

interface Measure {
  key: 'over' | 'beside';
  name: string;
  value: number;
  from: Vec3;
  to: Vec3;
  set(value: number): void;
}

/** How far the first selected block is over its host and from the nearest block beside it: dimension lines that can be typed on. */
export function Relations({ session, view, block, still }: { session: Session; view: LevelView; block: Block; still: boolean }) {
  const [typing, setTyping] = useState<Measure['key']>();
  const measures: Measure[] = [];
  // The level is measured, not what is just being dragged: that has its own label.
  if (still && block.op !== 'void') {
    const grid = blockGrid(session.blocks.filter((b) => b.id !== block.id));
    const meshes = meshGrid(session.scene.placed.list.filter((m) => m.id !== block.id));
    const over = overHost(block, (p) => groundAt(session.terrain, grid, [p[0], p[1] + 0.001, p[2]], { meshes }).height);
    if (over > 0.005)
      measures.push({
        key: 'over',
        name: 'height over its host',
        value: over,
        from: block.at,
        to: [block.at[0], block.at[1] - over, block.at[2]],
        set: (v) => moveThings(session, [block.id], [0, v - over, 0]),
      });
    const beside = nearestNeighbour(
      block,
      session.scene.solids.all.filter((b) => !b.hidden),
      FAR,
    );
    if (beside)
      measures.push({
        key: 'beside',
        name: `distance to ${beside.to.name}`,
        value: beside.distance,
        from: beside.from,
        to: beside.at,
        set: (v) => moveThings(session, [block.id], scale(normalize(sub(beside.from, beside.at)), v - beside.distance)),
      });
  }
  return (
    <>
      <svg className="absolute inset-0 h-full w-full" aria-hidden>
        {measures.map(({ key, from, to }) => {
          const [a, b] = [view.project(from), view.project(to)];
          if (!a || !b) return null;
          const l = Math.hypot(b.x - a.x, b.y - a.y) || 1;
          const [nx, ny] = [(-(b.y - a.y) / l) * 5, ((b.x - a.x) / l) * 5];
          const d = `M${a.x} ${a.y}L${b.x} ${b.y}M${a.x - nx} ${a.y - ny}L${a.x + nx} ${a.y + ny}M${b.x - nx} ${b.y - ny}L${b.x + nx} ${b.y + ny}`;
          return (
            <g key={key} fill="none">
              <path d={d} stroke="var(--raised)" strokeWidth={4} />
              <path d={d} stroke="var(--blue)" strokeWidth={1.5} strokeDasharray="6 3" />
            </g>
          );
        })}
      </svg>
      {measures.map(({ key, name, value, from, to, set }) => {
        const middle = view.project([0, 1, 2].map((k) => (from[k] + to[k]) / 2) as Vec3);
        if (!middle || middle.x < 30 || middle.y < 14 || middle.x > view.width - 30 || middle.y > view.height - 14) return null;
        return (
          <div
            key={key}
            className="pointer-events-auto absolute"
            style={{ left: middle.x, top: middle.y, transform: 'translate(-50%, -50%)' }}
            onPointerDown={(e) => e.stopPropagation()}
            onPointerMove={(e) => e.stopPropagation()}
            onPointerUp={(e) => e.stopPropagation()}
          >
            {typing === key ? (
              <NumberField
                label={name}
                hideLabel
                autoFocus
                value={value}
                unit="m"
                min={0}
                max={4096}
                digits={3}
                className=""
                onLeave={() => setTyping(undefined)}
                onCommit={(v) => {
                  setTyping(undefined);
                  set(v);
                }}
              />
            ) : (
              <button
                className="fig border border-dashed px-1 leading-5"
                style={{ background: 'var(--field)', borderColor: 'var(--blue)', color: 'var(--blue)', fontWeight: 600, fontSize: 13 }}
                aria-label={`${name} ${value.toFixed(2)} m: type another`}
                title={`${name}: click and type`}
                onClick={() => setTyping(key)}
              >
                {value.toFixed(2)}
              </button>
            )}
          </div>
        );
      })}
    </>
  );
}
