import { layDressed } from '@rammer/core/level/lay/layDressed';
import type { LaidLine } from '@rammer/core/level/objects';
import type { Vec3 } from '@rammer/core/num/vec';
import { cornerTool } from './cornerTool';
import { asPieces, lineThrough } from './laidLines';
import { addSeam, seamAt } from './seams';
import type { Tool, ToolContext } from './tool';

/** Draws a seam line corner by corner: what hides the seam stands along it while it is drawn. */
export function seamTool(context: ToolContext): Tool {
  const { session, view } = context;
  const lineOf = (corners: readonly Vec3[], closed: boolean): LaidLine | undefined =>
    corners.length > 1 ? lineThrough(session, seamAt(session, corners[0]), corners, closed) : undefined;
  return cornerTool(context, {
    what: 'seam line',
    closes: true,
    point: (e) => e.pick?.point,
    show: (corners, closed) => {
      const line = lineOf(corners, closed);
      view.setPiecePreview(line && asPieces(session, line));
    },
    fault: (corners) => (corners.length < 2 ? 'a seam line has at least two corners: click a second one' : undefined),
    told: (corners, closed) => {
      const line = lineOf(corners, closed);
      if (!line?.dress) return undefined;
      const { pieces, faults } = layDressed({ ...line, dress: line.dress });
      return faults[0] ?? `${pieces.size} along it`;
    },
    make: (corners, closed) => void addSeam(session, corners, closed),
  });
}
