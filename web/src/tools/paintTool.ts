import { paintDab } from '@rammer/core/surface/paint';
import { surfacesOf } from '@rammer/core/surface/surfaces';
import { useUi } from '../store/ui';
import { strokeTool, withStroke } from './strokeTool';
import type { Tool, ToolContext, ToolEvent } from './tool';

/** Paints a surface on the terrain, or on the top of a block or piece, or erases back to the rule (Shift as well). Alt takes the ground under the pointer. */
export function paintTool(which: 'paint' | 'unpaint', context: ToolContext): Tool {
  const { session, view } = context;
  const onTop = (e: ToolEvent) => e.pick !== undefined && e.pick.host.kind !== 'terrain';
  const target = (e: ToolEvent) => (which === 'unpaint' || e.shift ? undefined : useUi.getState().surface);
  return strokeTool(context, {
    refuse(e) {
      const { surfaces, own } = surfacesOf(session.level);
      if (!own) return 'this level has no surfaces of its own yet: add them in stage Surface';
      if (target(e) !== undefined && !surfaces.some((s) => s.id === target(e))) return 'pick a surface to paint';
      if (onTop(e) && e.pick!.normal[1] < 0.5) return 'only what looks up can be painted: point at the top of it';
      return undefined;
    },
    take(e) {
      const found = surfacesOf(session.level).surfaces.find((s) => s.name === e.pick!.ground);
      if (found) useUi.getState().set({ surface: found.id });
    },
    dab(stroke, [x, z], e) {
      const { radius, hardness, strength } = useUi.getState().groundBrush;
      return paintDab(stroke, session.level.tiles, surfacesOf(session.level).surfaces.map((s) => s.id), { surface: target(e), radius, hardness, strength }, onTop(e), x, z);
    },
    preview(stroke, rect) {
      view.groundPreview(session.made.updateGround(rect, stroke ? withStroke(stroke, session.level.tiles) : session.level.tiles));
      session.made.regrow(undefined, 200);
    },
    label: (e) => (e && target(e) ? `paint ${session.level.object(target(e)!)?.name ?? ''}` : 'erase paint'),
    word: () => (which === 'unpaint' ? 'to the rule' : session.level.object(useUi.getState().surface)?.name ?? ''),
  });
}
