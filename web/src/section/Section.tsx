import { useEffect, useMemo, useRef, useState } from 'react';
import { playerBody } from '@rammer/core/level/level';
import { directionOf } from '@rammer/core/cost/camera';
import { cutLoops } from '@rammer/core/block/cutLoops';
import { cutMesh } from '@rammer/core/block/cutMesh';
import { plantsAlong } from '@rammer/core/growth/plantsAlong';
import { heightAt } from '@rammer/core/earth/sample';
import { waterAlong } from '@rammer/core/earth/water';
import { surfaceUnder, walkLine } from '@rammer/core/surface/walkLine';
import { sectionAlong } from '@rammer/core/surface/section';
import type { Vec3 } from '@rammer/core/num/vec';
import type { Session } from '../store/session';
import { useSession } from '../store/useSession';
import { usePointer } from '../store/pointer';
import { useUi } from '../store/ui';
import type { LevelView } from '../view/LevelView';
import { FOLLOW_FRAMES, useDrawnFrame } from '../view/useFrame';
import { SectionLines } from './SectionLines';
import { paintSection, scaleOf, threadOf, type SectionPicture } from './paint';

const WINDOW_M = 60;
const WALK_BEHIND = 10;
const WALK_AHEAD = 30;

/** The true-scale cross-section along the view direction, with the figure in it. Follows what is drawn. */
export function Section({ session, view, width, height }: { session: Session; view: LevelView; width: number; height: number }) {
  useDrawnFrame(view, FOLLOW_FRAMES);
  const revision = useSession(session);
  const mode = useUi((s) => s.mode);
  // Painted with the theme's colours, so painted again when it changes.
  useUi((s) => s.sheet);
  const hover = usePointer((s) => s.hover);
  const canvas = useRef<HTMLCanvasElement>(null);
  const [pointer, setPointer] = useState<number>();
  const [shift, setShift] = useState(0);
  const drag = useRef<number>(undefined);
  const body = playerBody(session.level);
  const { pose } = view;
  const walking = mode === 'walk';
  const kept = useUi((s) => s.sectionLine);
  const found = kept && !walking ? session.level.object(kept) : undefined;
  const own = found?.kind === 'section' ? found : undefined;
  // Along a kept line the middle of it is the section's zero.
  const long = own ? Math.hypot(own.to[0] - own.from[0], own.to[1] - own.from[1]) : 0;
  const target: Vec3 = own ? [(own.from[0] + own.to[0]) / 2, 0, (own.from[1] + own.to[1]) / 2] : pose.target;
  const forward = own ? [(own.to[0] - own.from[0]) / long, 0, (own.to[1] - own.from[1]) / long] : pose.view === 'plan' ? [0, 0, -1] : directionOf(pose.yaw, 0);
  const from = walking ? -WALK_BEHIND : shift - WINDOW_M / 2;
  const to = walking ? WALK_AHEAD : from + WINDOW_M;
  const px = width / (to - from);
  const key = [revision, forward.map((v) => v.toFixed(4)), target.map((v) => v.toFixed(2)), from.toFixed(2), to].join();

  const { fine, whole, pieces, built, plants, water } = useMemo(() => {
    const line = { x0: target[0], z0: target[2], dx: forward[0], dz: forward[2] };
    const far = Math.hypot(session.terrain.grid.width, session.terrain.grid.depth) * 1.5;
    const { scene } = session;
    return {
      pieces: scene.placed.list.filter((m) => m.of !== 'block').flatMap((m) => cutMesh(m, line)),
      built: [...scene.solids.built.values()].map((m) => cutLoops(m, line)).filter((loops) => loops.length > 0),
      plants: plantsAlong({ grown: scene.plants.grown, species: scene.plants.byId, assets: scene.placed.assets }, line, [from, to]),
      water: scene.waters.bodies.flatMap((w) => waterAlong(w, line, from, to)),
      fine: sectionAlong(session.terrain, session.blocks, line, [from, to], body.figures.maxSlope),
      whole: sectionAlong(session.terrain, [], line, [-far, far], 90),
    };
    // `key` holds all of it; the arrays are made anew each time.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [key]);

  const things = { solids: built, segments: pieces };
  // The figure stands on what is there near the point looked at, not inside it.
  const stood = walking ? undefined : (surfaceUnder(fine, things, 0, target[1] + 1) ?? surfaceUnder(fine, things, 0, Infinity));
  const feet = stood?.height ?? (walking ? target[1] : heightAt(session.terrain, target[0], target[2]));
  // eslint-disable-next-line react-hooks/exhaustive-deps
  const walked = useMemo(() => walkLine(fine, things, feet, body.figures), [fine, built, pieces, feet, body]);
  const { room } = scaleOf({ from, to, width, height, middle: 0 });
  // The profile is kept inside its window: centred on its own middle where it fits, on the figure where not.
  const middle =
    (fine.high - fine.low) * px < room * 0.92
      ? (fine.low + fine.high + body.figures.height * 0.5) / 2
      : Math.min(Math.max(feet + 1, fine.low + room / px / 2 - 1), fine.high - room / px / 2 + 2);
  const across = hover ? (hover.point[0] - target[0]) * -forward[2] + (hover.point[2] - target[2]) * forward[0] : Infinity;
  const near = hover && Math.abs(across) < 4 ? (hover.point[0] - target[0]) * forward[0] + (hover.point[2] - target[2]) * forward[2] : undefined;
  const picture: SectionPicture = {
    fine,
    whole,
    from,
    to,
    width,
    height,
    middle,
    body: body.figures,
    feet,
    pieces,
    built,
    plants,
    water,
    walked,
    near,
    loupe: pointer === undefined ? undefined : from + pointer / px,
  };

  useEffect(() => {
    const el = canvas.current;
    if (!el || width < 2) return;
    const ratio = devicePixelRatio || 1;
    if (el.width !== Math.round(width * ratio) || el.height !== Math.round(height * ratio)) {
      el.width = Math.round(width * ratio);
      el.height = Math.round(height * ratio);
    }
    const ctx = el.getContext('2d', { willReadFrequently: true })!;
    ctx.setTransform(ratio, 0, 0, ratio, 0, 0);
    paintSection(ctx, picture);
  });

  return (
    <div
      className="own-layer relative overflow-hidden"
      style={{ height, background: 'var(--raised)' }}
      data-testid="section"
      data-too-steep={fine.tooSteep.length}
      data-blocks={fine.blocks.length + built.length}
      data-plants={plants.length}
      data-pieces={pieces.length / 4}
      data-gaps={walked.gaps.map((g) => `${Math.abs(g.to - g.from).toFixed(2)} ${g.verdict}`).join(', ')}
      data-low={walked.low.map((l) => `${l.clearance.toFixed(2)} ${l.verdict}`).join(', ')}
      onPointerMove={(e) => {
        if (drag.current !== undefined) {
          const by = (e.clientX - drag.current) / px;
          setShift((s) => s - by);
          drag.current = e.clientX;
        }
        setPointer(e.clientX - e.currentTarget.getBoundingClientRect().left);
      }}
      onPointerDown={(e) => {
        if (walking) return;
        const box = e.currentTarget.getBoundingClientRect();
        const thread = threadOf(picture);
        if (thread && e.clientY - box.top < 24 && e.clientX - box.left > thread.x0 - 4) {
          setShift(thread.first + (e.clientX - box.left - thread.x0) / thread.k);
          return;
        }
        e.currentTarget.setPointerCapture(e.pointerId);
        drag.current = e.clientX;
      }}
      onPointerUp={() => {
        drag.current = undefined;
      }}
      onPointerLeave={() => setPointer(undefined)}
      onDoubleClick={() => setShift(0)}
    >
      <canvas
        ref={canvas}
        style={{ width, height, display: 'block' }}
        role="img"
        aria-label={
          `Section along ${own ? own.name : 'the view'}, ${to - from} m wide, ` +
          `same scale both ways. ${fine.tooSteep.length} stretches too steep for ${body.name}.`
        }
      />
      <h2 className="absolute left-3 top-1 m-0 text-[13px] font-semibold">
        Section <span className="label font-normal">{walking ? `${WALK_BEHIND} m behind, ${WALK_AHEAD} m ahead, same scale both ways` : ''}</span>
      </h2>
      {!walking && (
        <SectionLines
          session={session}
          own={own}
          metres={WINDOW_M}
          current={() => ({
            from: [target[0] + forward[0] * from, target[2] + forward[2] * from],
            to: [target[0] + forward[0] * to, target[2] + forward[2] * to],
          })}
        />
      )}
    </div>
  );
}
