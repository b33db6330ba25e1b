import { blockSolid } from '../block/solid';
import type { Block } from '../level/objects';

/** Blocks as Wavefront OBJ: metres, Y up, one object a block by its name, faces as polygons. Positions to a tenth of a millimetre. */
export function blocksToObj(blocks: readonly Block[]): string {
  const lines = ['# Rammer, metres, Y up'];
  let base = 1;
  for (const block of blocks) {
    const solid = blockSolid(block);
    // A name ends at a blank in many readers.
    lines.push(`o ${block.name.replace(/\s+/g, '_')}`);
    for (const [x, y, z] of solid.corners) lines.push(`v ${x.toFixed(4)} ${y.toFixed(4)} ${z.toFixed(4)}`);
    for (const face of solid.faces) lines.push(`f ${face.corners.map((i) => base + i).join(' ')}`);
    base += solid.corners.length;
  }
  return `${lines.join('\n')}\n`;
}
