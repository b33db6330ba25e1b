import type { PlacedMesh } from '../block/placedMesh';
import { blockSolid } from '../block/solid';
import type { Asset } from '../kit/asset';
import type { Block } from '../level/objects';

/** A name ends at a blank in many readers. */
const bare = (name: string): string => name.replace(/\s+/g, '_');

/** Groups by the id of their blocks, for `blocksToObj`. */
export const groupsOf = (blocks: Iterable<Block>): Map<string, string> =>
  new Map([...blocks].flatMap((b): [string, string][] => (b.group ? [[b.id, b.group]] : [])));

/**
 * Blocks as Wavefront OBJ: metres, Y up, one object a block by its name, of a group in its `g`, faces as polygons, or as triangles
 * where its shape or a void made it a mesh. Positions to a tenth of a millimetre.
 */
export function blocksToObj(blocks: readonly Block[], built: readonly PlacedMesh[] = [], groups: ReadonlyMap<string, string> = new Map()): string {
  const lines = ['# Rammer, metres, Y up'];
  let base = 1;
  const open = (id: string, name: string) => {
    const group = groups.get(id);
    lines.push(...(groups.size > 0 ? [`g ${group ? bare(group) : 'ungrouped'}`] : []), `o ${bare(name)}`);
  };
  for (const block of blocks) {
    const solid = blockSolid(block);
    open(block.id, block.name);
    for (const [x, y, z] of solid.corners) lines.push(`v ${x.toFixed(4)} ${y.toFixed(4)} ${z.toFixed(4)}`);
    for (const face of solid.faces) lines.push(`f ${face.corners.map((i) => base + i).join(' ')}`);
    base += solid.corners.length;
  }
  for (const { id, name, positions, indices } of built) {
    open(id, name);
    for (let i = 0; i < positions.length; i += 3) lines.push(`v ${positions[i].toFixed(4)} ${positions[i + 1].toFixed(4)} ${positions[i + 2].toFixed(4)}`);
    for (let i = 0; i < indices.length; i += 3) lines.push(`f ${base + indices[i]} ${base + indices[i + 1]} ${base + indices[i + 2]}`);
    base += positions.length / 3;
  }
  return `${lines.join('\n')}\n`;
}

/** A mesh asset's finest level of detail as Wavefront OBJ with normals and texture coordinates: metres, Y up. */
export function assetToObj(asset: Asset): string {
  const lines = ['# Rammer, metres, Y up', `o ${bare(asset.name)}`];
  let base = 1;
  for (const { positions: p, normals: n, uvs, indices, material } of asset.lods[0]) {
    lines.push(`g ${bare(material)}`);
    for (let i = 0; i < p.length; i += 3) lines.push(`v ${p[i].toFixed(4)} ${p[i + 1].toFixed(4)} ${p[i + 2].toFixed(4)}`);
    // OBJ counts v upwards from the picture's foot, glTF downwards from its head.
    if (uvs) for (let i = 0; i < uvs.length; i += 2) lines.push(`vt ${uvs[i].toFixed(5)} ${(1 - uvs[i + 1]).toFixed(5)}`);
    for (let i = 0; i < n.length; i += 3) lines.push(`vn ${n[i].toFixed(4)} ${n[i + 1].toFixed(4)} ${n[i + 2].toFixed(4)}`);
    for (let i = 0; i < indices.length; i += 3)
      lines.push(
        `f ${[0, 1, 2]
          .map((k) => {
            const v = base + indices[i + k];
            return uvs ? `${v}/${v}/${v}` : `${v}//${v}`;
          })
          .join(' ')}`,
      );
    base += p.length / 3;
  }
  return `${lines.join('\n')}\n`;
}
