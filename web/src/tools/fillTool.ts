import { beginStroke, endStroke } from '@rammer/core/earth/brush';
import { rectAround, wholeRect } from '@rammer/core/earth/rect';
import { gradientAtSample } from '@rammer/core/earth/sample';
import { outlineRow, stretchesOf } from '@rammer/core/earth/stretches';
import { outlineFault } from '@rammer/core/level/objects';
import { inBand } from '@rammer/core/num/band';
import { packRaster, toBase64 } from '@rammer/core/num/fixed';
import type { Point2 } from '@rammer/core/num/outline';
import { tanDeg } from '@rammer/core/num/trig';
import { smoothstep } from '@rammer/core/num/vec';
import { fillPaint } from '@rammer/core/surface/paint';
import { surfacesOf } from '@rammer/core/surface/surfaces';
import type { Session } from '../store/session';
import { useGround } from '../store/groundDraft';
import { drawTool } from './drawTool';
import type { Tool, ToolContext } from './tool';

/** Draws an outline and fills what is in it with the surface at hand. */
export const fillTool = (context: ToolContext): Tool =>
  drawTool(context, {
    what: 'outline',
    closed: true,
    done(corners) {
      const line = corners.map(([x, , z]): Point2 => [x, z]);
      const fault = outlineFault(line);
      if (fault) {
        context.session.say(fault, true);
        return false;
      }
      return fillGround(context.session, line);
    },
  });

/**
 * Fills an outline, or the whole level, with the surface at hand; only between two slopes where that is asked for.
 * Soft edges lie half inside the outline, half outside.
 */
export function fillGround(session: Session, outline?: Point2[]): boolean {
  const { fill, surface } = useGround.getState();
  const { surfaces, own } = surfacesOf(session.level);
  const chosen = surfaces.find((s) => s.id === surface) ?? surfaces[0];
  if (!own) {
    session.say('this level has no surfaces of its own yet: add them in stage Surface', true);
    return false;
  }
  const { terrain } = session;
  const { grid } = terrain;
  const half = Math.max(fill.soft / 2, 0.001);
  const rect = outline ? rectAround(outline, half, grid) : wholeRect(grid);
  if (!rect) {
    session.say('the outline lies outside the level', true);
    return false;
  }
  const sides = outline && stretchesOf(outline, true, half);
  const row = new Float64Array(rect.x1 - rect.x0 + 1);
  let rowOf = -1;
  const tan = (deg: number) => tanDeg(Math.min(89.5, Math.max(0, deg)));
  const band =
    fill.slope &&
    ([
      fill.slope[0] <= 0 ? -1 : tan(fill.slope[0] - 2),
      fill.slope[0] <= 0 ? -1 : tan(fill.slope[0] + 2),
      fill.slope[1] >= 90 ? Infinity : tan(fill.slope[1] - 2),
      fill.slope[1] >= 90 ? Infinity : tan(fill.slope[1] + 2),
    ] as const);
  const stroke = beginStroke('', grid);
  fillPaint(
    stroke,
    session.level.tiles,
    surfaces.map((s) => s.id),
    rect,
    {
      surface: chosen.id,
      share: (x, z) => {
        let share = 1;
        if (outline) {
          if (rowOf !== z) outlineRow(outline, sides!, { z: z * grid.spacing, x0: rect.x0, count: row.length, spacing: grid.spacing }, row);
          rowOf = z;
          share = smoothstep(-half, half, row[x - rect.x0]);
        }
        if (band && share > 0) {
          const [gx, gz] = gradientAtSample(terrain, x, z);
          share *= inBand(band, Math.sqrt(gx * gx + gz * gz));
        }
        return share;
      },
    },
  );
  const deltas = endStroke(stroke);
  if (deltas.length === 0) {
    session.say(`nothing to fill: it is ${chosen.name} already${band ? ', or no ground there has that slope' : ''}`);
    return true;
  }
  return session.commit({ kind: 'stroke', tiles: deltas.map(({ key, delta }) => ({ key, delta: toBase64(packRaster(delta)) })) }, `fill with ${chosen.name}`);
}
