import { graded, relined } from '@rammer/core/block/drawn';
import { lineFault, type DrawnShape } from '@rammer/core/level/drawn';
import type { Block } from '@rammer/core/level/objects';
import type { Vec3 } from '@rammer/core/num/vec';
import { nextOp, useBlockDraft } from '../store/blockDraft';
import { newId, nextName } from '../store/names';
import { useUi } from '../store/ui';
import { rayPlane } from '../view/project';
import { cornerTool } from './cornerTool';
import type { Tool, ToolContext } from './tool';

/** Draws a wall, a slab or a tunnel corner by corner, see `cornerTool`. */
export function lineTool(shape: DrawnShape, context: ToolContext): Tool {
  const { session, view } = context;

  /** The block along some corners, and why it cannot be. */
  const blockOf = (corners: readonly Vec3[], closed: boolean): { block?: Block; fault?: string } => {
    const { drawn, grade } = useBlockDraft.getState();
    const { tall, wide } = drawn[shape];
    const own: Block = {
      id: 'draft',
      version: 0,
      kind: 'block',
      name: 'draft',
      shape,
      size: [1, 1, 1],
      at: [0, 0, 0],
      turn: 0,
      hidden: false,
      out: false,
      tall,
      ...(shape === 'slab' ? {} : { wide }),
      ...(nextOp(useUi.getState().tool) === 'void' ? { op: 'void' } : {}),
      ...(closed && shape === 'wall' ? { closed: true } : {}),
      line: shape === 'tunnel' ? graded([...corners], grade / 100) : [...corners],
    };
    const fault = lineFault(own);
    return fault ? { fault } : { block: { ...own, ...relined(own, own.line!) } };
  };

  return cornerTool(context, {
    what: shape,
    closes: shape !== 'tunnel',
    outline: shape === 'slab',
    point: (e, first) => (shape === 'wall' && useBlockDraft.getState().followGround && e.pick ? e.pick.point : rayPlane(view.ray(e.x, e.y), first, [0, 1, 0])),
    show: (corners, closed) => view.aids.setGhost(corners.length > 0 ? blockOf(corners, closed).block : undefined),
    fault: (corners, closed) => blockOf(corners, closed).fault,
    make: (corners, closed) => {
      const { block } = blockOf(corners, closed);
      if (!block) return;
      const named: Block = { ...block, id: newId('block'), version: 1, name: nextName(session.level, block.op === 'void' ? `${shape} void` : shape) };
      if (session.commit({ kind: 'add', objects: [named] }, `set ${named.name}`)) useUi.getState().select([named.id]);
    },
  });
}
