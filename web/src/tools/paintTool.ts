import { MOST_SURFACES } from '@rammer/core/level/objects';
import { paintDab, replaceDab, smudgeDab } from '@rammer/core/surface/paint';
import { surfacesOf } from '@rammer/core/surface/surfaces';
import { whyGround } from '@rammer/core/surface/why';
import { useGround } from '../store/groundDraft';
import { strokeTool, withStroke } from './strokeTool';
import type { Tool, ToolContext, ToolEvent } from './tool';

export type PaintKind = 'paint' | 'unpaint' | 'smudge' | 'replace';

/**
 * The brushes of the ground, on the terrain or on the top of a block or piece: paint a surface, erase back to
 * the rules (Shift as well), drag ground along, make one surface another. Alt takes the ground under the
 * pointer; with `replace` the one that goes.
 */
export function paintTool(which: PaintKind, context: ToolContext): Tool {
  const { session, view } = context;
  const onTop = (e: ToolEvent) => e.pick !== undefined && e.pick.host.kind !== 'terrain';
  const erases = (e?: ToolEvent) => which === 'unpaint' || (which === 'paint' && e?.shift);
  const target = (e: ToolEvent) => (erases(e) ? undefined : useGround.getState().surface);
  const name = (id: string | undefined) => session.level.object(id ?? '')?.name ?? '';
  let load = new Float64Array(MOST_SURFACES);
  return strokeTool(context, {
    refuse(e) {
      load = new Float64Array(MOST_SURFACES);
      const { surfaces, own } = surfacesOf(session.level);
      const has = (id: string | undefined) => surfaces.some((s) => s.id === id);
      if (!own) return 'this level has no surfaces of its own yet: add them in stage Surface';
      if (which !== 'smudge' && target(e) !== undefined && !has(target(e))) return 'pick a surface to paint';
      if (which === 'replace' && !has(useGround.getState().replaced)) return 'pick the surface that goes, or take it from the ground with Alt';
      if (which === 'replace' && useGround.getState().replaced === target(e)) return 'the surface that goes and the one that comes are the same: pick another';
      if (onTop(e) && e.pick!.normal[1] < 0.5) return 'only what looks up can be painted: point at the top of it';
      return undefined;
    },
    take(e) {
      const found = surfacesOf(session.level).surfaces.find((s) => s.name === e.pick!.ground);
      if (found) useGround.setState(which === 'replace' ? { replaced: found.id } : { surface: found.id });
    },
    dab(stroke, [x, z], e) {
      const {
        groundBrush: { radius, hardness, strength },
        replaced,
      } = useGround.getState();
      const ground = session.scene.ground.raster;
      const brush = { radius, hardness, strength };
      if (which === 'smudge') return smudgeDab(stroke, session.level.tiles, ground, { ...brush, load: load }, { x, z, top: onTop(e) });
      if (which === 'replace')
        return replaceDab(stroke, session.level.tiles, ground, { ...brush, surface: useGround.getState().surface, from: replaced! }, { x, z, top: onTop(e) });
      return paintDab(
        stroke,
        session.level.tiles,
        ground.surfaces.map((s) => s.id),
        { ...brush, surface: target(e) },
        { x, z, top: onTop(e) },
      );
    },
    preview(stroke, rect) {
      view.groundPreview(session.scene.ground.update(rect, stroke ? withStroke(stroke, session.level.tiles) : session.level.tiles));
      session.scene.plants.regrow();
    },
    label: (e) =>
      which === 'smudge'
        ? 'smudge ground'
        : which === 'replace'
          ? `${name(useGround.getState().replaced)} becomes ${name(useGround.getState().surface)}`
          : erases(e)
            ? 'erase paint'
            : `paint ${name(useGround.getState().surface)}`,
    word: () =>
      which === 'smudge'
        ? 'drags ground along'
        : which === 'replace'
          ? `${name(useGround.getState().replaced) || '?'} becomes ${name(useGround.getState().surface)}`
          : which === 'unpaint'
            ? 'to the rules'
            : name(useGround.getState().surface),
  });
}

/** Tells why the ground is what it is where it is clicked. */
export function whyGroundTool({ session }: ToolContext): Tool {
  return {
    begin(e) {
      if (!e.pick) return false;
      const [x, , z] = e.pick.point;
      useGround.setState({ whyGround: whyGround(session.scene.ground.raster, session.scene.ground.source(), x, z, e.pick.host.kind !== 'terrain') });
      return true;
    },
    move() {},
    end() {},
    cancel() {},
    cursor() {},
  };
}
