import type { PlacedMesh } from '../block/placedMesh';
import { blockSolid } from '../block/solid';
import type { Block } from '../level/objects';

/**
 * Blocks as Wavefront OBJ: metres, Y up, one object a block by its name, faces as polygons, or as triangles
 * where its shape or a void made it a mesh. Positions to a tenth of a millimetre.
 */
export function blocksToObj(blocks: readonly Block[], built: readonly PlacedMesh[] = []): string {
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
  for (const { name, positions, indices } of built) {
    lines.push(`o ${name.replace(/\s+/g, '_')}`);
    for (let i = 0; i < positions.length; i += 3) lines.push(`v ${positions[i].toFixed(4)} ${positions[i + 1].toFixed(4)} ${positions[i + 2].toFixed(4)}`);
    for (let i = 0; i < indices.length; i += 3) lines.push(`f ${base + indices[i]} ${base + indices[i + 1]} ${base + indices[i + 2]}`);
    base += positions.length / 3;
  }
  return `${lines.join('\n')}\n`;
}
