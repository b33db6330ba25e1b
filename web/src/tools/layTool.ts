import type { Vec3 } from '@rammer/core/num/vec';
import { layLine } from '@rammer/core/level/lay/layLine';
import type { LaidLine } from '@rammer/core/level/objects';
import { cornerTool } from './cornerTool';
import { addLine, asPieces, kitAtHand, lineThrough } from './laidLines';
import type { Tool, ToolContext } from './tool';

/** Lays a kit along a line that is drawn corner by corner on what is under the pointer; the pieces stand there while it is drawn. */
export function layTool(context: ToolContext): Tool {
  const { session, view } = context;
  /** the line through some corners; nothing where there is no kit or fewer than two corners */
  const lineOf = (corners: readonly Vec3[], closed: boolean): LaidLine | undefined => {
    const kit = kitAtHand(session);
    return kit && corners.length > 1 ? lineThrough(session, kit, corners, closed) : undefined;
  };
  return cornerTool(context, {
    what: 'lay',
    closes: true,
    point: (e) => e.pick?.point,
    show: (corners, closed) => {
      const line = lineOf(corners, closed);
      view.setPiecePreview(line && asPieces(session, line));
    },
    fault: (corners) => {
      if (!kitAtHand(session)) return 'there is no kit to lay: make one in the bench first';
      return corners.length < 2 ? 'a line has at least two corners: click a second one' : undefined;
    },
    told: (corners, closed) => {
      const line = lineOf(corners, closed);
      if (!line) return undefined;
      const { pieces, stretches } = layLine(line, kitAtHand(session)!);
      const left = stretches[closed ? stretches.length - 1 : Math.max(0, stretches.length - 1)]?.left ?? 0;
      return `${pieces.size} piece${pieces.size === 1 ? '' : 's'}${left > 1e-3 ? `, ${left.toFixed(2)} m left` : ''}`;
    },
    make: (corners, closed) => {
      const line = lineOf(corners, closed);
      if (line) addLine(session, kitAtHand(session)!.name, line);
    },
  });
}
