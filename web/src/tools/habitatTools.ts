import { areaDab } from '@rammer/core/growth/sow';
import { outlineFault, type Habitat } from '@rammer/core/level/objects';
import type { Point2 } from '@rammer/core/num/outline';
import type { Vec3 } from '@rammer/core/num/vec';
import { groundAt } from '@rammer/core/surface/groundAt';
import { useGround } from '../store/groundDraft';
import { habitatAtHand } from '../store/planting';
import { addHabitat, setHabitat } from './habitats';
import { drawTool } from './drawTool';
import { strokeTool, withStroke } from './strokeTool';
import type { Session } from '../store/session';
import type { Tool, ToolContext, ToolMark } from './tool';

/** Draws an outline that is of the habitat at hand; without one, it begins a habitat. */
export function habitatTool(context: ToolContext): Tool {
  const { session } = context;
  const drawing = drawTool(context, {
    what: 'outline of a habitat',
    closed: true,
    done(corners) {
      const outline = corners.map(([x, , z]): Point2 => [x, z]);
      const fault = outlineFault(outline);
      if (fault) {
        session.say(fault, true);
        return false;
      }
      const habitat = habitatAtHand(session.level);
      if (!habitat) return addHabitat(session, undefined, outline);
      return setHabitat(session, habitat, { area: 'drawn', outlines: [...habitat.outlines, outline] }, `outline of ${habitat.name}`);
    },
  });
  return { ...drawing, marks: () => [...outlinesOf(session), ...(drawing.marks?.() ?? [])] };
}

/** The outlines of the habitat at hand, on the ground. */
function outlinesOf(session: Session): ToolMark[] {
  const habitat = habitatAtHand(session.level);
  if (habitat?.area !== 'drawn') return [];
  const meshes = session.scene.placed.scene.grid;
  return habitat.outlines.map((outline): ToolMark => {
    const points = [...outline, outline[0]].flatMap(([x, z], i, list): Vec3[] => {
      const [nx, nz] = list[i + 1] ?? [x, z];
      // So many points a side that it lies on the ground between corners too.
      const steps = i + 1 < list.length ? Math.max(1, Math.ceil(Math.hypot(nx - x, nz - z) / 3)) : 1;
      return Array.from({ length: steps }, (_, k): Vec3 => {
        const [px, pz] = [x + ((nx - x) * k) / steps, z + ((nz - z) * k) / steps];
        return [px, groundAt(session.terrain, session.grid, [px, 1e6, pz], { meshes }).height + 0.05, pz];
      });
    });
    return { kind: 'ring', points, dashed: false };
  });
}

/** Paints where the habitat at hand lies; Shift takes away. */
export function habitatBrush(context: ToolContext): Tool {
  const { session } = context;
  const at = (): Habitat | undefined => habitatAtHand(session.level);
  const brush = strokeTool(context, {
    refuse() {
      const habitat = at();
      if (!habitat) return 'add a habitat first';
      return habitat.area === 'rest' ? `${habitat.name} lies wherever no earlier one does: let it lie where it is drawn first` : undefined;
    },
    dab(stroke, [x, z], e) {
      const { radius, hardness, strength } = useGround.getState().groundBrush;
      return areaDab(stroke, session.level.tiles, at()!.id, { radius, hardness, strength, target: e.shift ? -1 : 1 }, { x, z });
    },
    preview(stroke) {
      session.scene.plants.regrow(stroke && withStroke(stroke, session.level.tiles));
    },
    label: (e) => (e?.shift ? `less of ${at()?.name}` : `paint ${at()?.name}`),
    word: () => at()?.name ?? 'no habitat',
  });
  return { ...brush, marks: () => [...outlinesOf(session), ...(brush.marks?.() ?? [])] };
}
