import { Color, GLSL3, Mesh, ShaderMaterial, type BufferGeometry, type Group, type IUniform } from 'three';
import type { BuiltBlock } from '@rammer/core/block/build';
import type { Block } from '@rammer/core/level/objects';
import { blockGeometry } from './blockMesh';
import { paintTops } from './look';
import { BLOCK_FRAGMENT, BLOCK_VERTEX } from './shaders/block';

/** Of blocks that are meshes, by id. */
export type Meshes = Pick<ReadonlyMap<string, BuiltBlock>, 'get'>;

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

  /** @param changed cells with the blocks that are drawn in them now, none where it is empty @param built of those that are meshes */
  update(changed: ReadonlyMap<string, readonly Block[]>, built: Meshes): void {
    for (const [cell, list] of changed) {
      let view = this.cells.get(cell);
      if (list.length === 0) {
        if (view) this.remove(cell, view.mesh);
        continue;
      }
      const made = JSON.stringify(list.map((b) => built.get(b.id)?.key ?? [b.shape, b.size, b.at, b.turn, b.tilt]));
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
  }

  private remove(cell: string, mesh: Mesh): void {
    this.group.remove(mesh);
    mesh.geometry.dispose();
    this.cells.delete(cell);
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

  show(wanted: { has(key: string): boolean }): void {
    for (const [cell, { mesh }] of this.cells) mesh.visible = wanted.has(`blocks/${cell}`);
  }

  dispose(): void {
    for (const [cell, { mesh }] of this.cells) this.remove(cell, mesh);
    this.material.dispose();
  }
}
