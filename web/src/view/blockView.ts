import { Color, GLSL3, Mesh, ShaderMaterial, type BufferGeometry, type Group, type IUniform } from 'three';
import { blocksByCell } from '@rammer/core/cost/batches';
import type { BuiltBlock } from '@rammer/core/block/build';
import type { Block } from '@rammer/core/level/objects';
import { blockGeometry } from './blockMesh';
import { paintTops } from './look';
import { BLOCK_FRAGMENT, BLOCK_VERTEX } from './shaders/block';

export const blockMaterial = (shared: Record<string, IUniform>, colour: string): ShaderMaterial =>
  new ShaderMaterial({
    glslVersion: GLSL3,
    vertexShader: BLOCK_VERTEX,
    fragmentShader: BLOCK_FRAGMENT,
    uniforms: { ...shared, uColour: { value: new Color(colour) } },
  });

/** Blocks as one mesh a cell; only cells whose blocks changed are made again. */
export class BlockView {
  private cells = new Map<string, { mesh: Mesh<BufferGeometry, ShaderMaterial>; made: string }>();
  private readonly material: ShaderMaterial;

  constructor(
    private readonly group: Group,
    shared: Record<string, IUniform>,
  ) {
    this.material = blockMaterial(shared, '#b9b09c');
  }

  /** @returns the blocks as they are drawn, by cell */
  update(blocks: Iterable<Block>, built: ReadonlyMap<string, BuiltBlock>): Map<string, Block[]> {
    const cells = blocksByCell(blocks, 'seen');
    for (const [cell, view] of this.cells) {
      if (cells.has(cell)) continue;
      this.group.remove(view.mesh);
      view.mesh.geometry.dispose();
      this.cells.delete(cell);
    }
    for (const [cell, list] of cells) {
      const made = JSON.stringify(list.map((b) => built.get(b.id)?.key ?? [b.shape, b.size, b.at, b.turn, b.tilt]));
      let view = this.cells.get(cell);
      if (view?.made === made) continue;
      if (!view) {
        view = { mesh: new Mesh(undefined, this.material), made };
        view.mesh.frustumCulled = false;
        view.mesh.visible = false;
        this.group.add(view.mesh);
        this.cells.set(cell, view);
      } else view.mesh.geometry.dispose();
      view.mesh.geometry = blockGeometry(list, built);
      view.made = made;
    }
    return cells;
  }

  /** Marks every block as still blockout. */
  setStill(still: boolean): void {
    if ((this.material.defines.STILL !== undefined) === still) return;
    if (still) this.material.defines.STILL = '';
    else delete this.material.defines.STILL;
    this.material.needsUpdate = true;
  }

  setPainted(pictures: number): void {
    paintTops(this.material, pictures);
  }

  show(wanted: ReadonlySet<string>): void {
    for (const [cell, { mesh }] of this.cells) mesh.visible = wanted.has(`blocks/${cell}`);
  }

  dispose(): void {
    for (const { mesh } of this.cells.values()) {
      this.group.remove(mesh);
      mesh.geometry.dispose();
    }
    this.cells.clear();
    this.material.dispose();
  }
}
