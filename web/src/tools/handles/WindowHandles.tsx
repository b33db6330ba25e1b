import type { PointerEvent, RefObject } from 'react';
import { heightAt } from '@rammer/core/earth/sample';
import type { Point2 } from '@rammer/core/num/outline';
import type { Vec3 } from '@rammer/core/num/vec';
import type { Session } from '../../store/session';
import { useEarth, type WorkWindow } from '../../store/earthDraft';
import { CornerHandles } from './CornerHandles';
import { drapedPath } from '../../view/draped';
import type { LevelView } from '../../view/LevelView';
import { rayPlane } from '../../view/project';

/** The work window: a rectangle on the ground, dragged by its two corners. */
export function WindowHandles({
  session,
  view,
  frame,
  work,
}: {
  session: Session;
  view: LevelView;
  frame: RefObject<HTMLDivElement | null>;
  work: WorkWindow;
}) {
  const { x0, z0, x1, z1 } = work.area;
  const { width, depth } = session.terrain.grid;
  const corners: Point2[] = [
    [x0, z0],
    [x1, z0],
    [x1, z1],
    [x0, z1],
  ];
  const d = drapedPath(view, session.terrain, corners, true);
  const held = (v: number, most: number) => Math.round(Math.min(most, Math.max(0, v)));
  const ground = ([x, z]: Point2): Vec3 => [x, heightAt(session.terrain, x, z) + 0.1, z];
  return (
    <g fill="none">
      <path d={d} stroke="var(--raised)" strokeWidth={6} />
      <path d={d} stroke="var(--ink)" strokeWidth={2} strokeDasharray="8 4" />
      <CornerHandles
        view={view}
        corners={[ground(corners[0]), ground(corners[2])]}
        loop={false}
        fixed
        what="work window"
        refuse={() => {}}
        at={(e: PointerEvent) => {
          const box = frame.current!.getBoundingClientRect();
          return [e.clientX - box.left, e.clientY - box.top];
        }}
        place={(x, y, from) => rayPlane(view.ray(x, y), from, [0, 1, 0])}
        preview={(line) => {
          if (!line) return;
          const [[ax, , az], [bx, , bz]] = line;
          const area = {
            x0: held(Math.min(ax, bx), width),
            z0: held(Math.min(az, bz), depth),
            x1: held(Math.max(ax, bx), width),
            z1: held(Math.max(az, bz), depth),
          };
          if (area.x1 - area.x0 >= 2 && area.z1 - area.z0 >= 2) useEarth.setState({ workWindow: { ...work, area } });
        }}
        commit={() => {}}
      />
    </g>
  );
}
