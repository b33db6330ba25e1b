import { BufferAttribute, BufferGeometry, Color, DoubleSide, FrontSide, GLSL3, InstancedBufferAttribute, InstancedMesh, Matrix4, ShaderMaterial, type Group, type IUniform } from 'three';
import type { InstanceCell } from '@rammer/core/cost/instances';
import type { Asset, Primitive } from '@rammer/core/kit/asset';
import type { Assets } from '@rammer/core/kit/placement';
import { INSTANCE_FRAGMENT, INSTANCE_VERTEX } from './shaders';

export function primitiveGeometry(p: Primitive): BufferGeometry {
  const geometry = new BufferGeometry();
  geometry.setAttribute('position', new BufferAttribute(p.positions, 3));
  geometry.setAttribute('normal', new BufferAttribute(p.normals, 3));
  geometry.setAttribute('colour', new BufferAttribute(p.colours, 4));
  geometry.setIndex(new BufferAttribute(p.indices, 1));
  return geometry;
}

/** @param kind stone courses on pieces, place light on plants, turned to the eye on billboards */
export const instanceMaterial = (shared: Record<string, IUniform>, kind: 'piece' | 'plant' | 'billboard', twoSided: boolean): ShaderMaterial =>
  new ShaderMaterial({
    glslVersion: GLSL3, vertexShader: INSTANCE_VERTEX, fragmentShader: INSTANCE_FRAGMENT, side: twoSided ? DoubleSide : FrontSide,
    uniforms: { ...shared, uBillboard: { value: kind === 'billboard' ? 1 : 0 }, uStone: { value: kind === 'piece' ? 1 : 0 } },
  });

interface CellView {
  cell: InstanceCell;
  /** meshes of each LOD, made when first drawn */
  lods: (InstancedMesh[] | undefined)[];
  made: string;
}

/** Pieces and plants as instanced meshes, one for each material of a LOD in a cell: exactly the batch list's draws. */
export class InstanceView {
  private cells = new Map<string, CellView>();
  private readonly geometries = new Map<Asset, BufferGeometry[][]>();
  private readonly materials: Record<'piece' | 'plant' | 'billboard', ShaderMaterial>;
  private assets: Assets = new Map();

  /** @param apart draws every instance by itself: a baseline to measure against */
  constructor(private readonly group: Group, shared: Record<string, IUniform>, private readonly apart = false) {
    this.materials = { piece: instanceMaterial(shared, 'piece', true), plant: instanceMaterial(shared, 'plant', false), billboard: instanceMaterial(shared, 'billboard', true) };
  }

  /** Cells that stayed as they were keep their meshes. @param tints of each owner, by the bytes of the cells */
  update(cells: readonly InstanceCell[], assets: Assets, tints: ReadonlyMap<string, readonly string[]>): void {
    this.assets = assets;
    const wanted = new Map(cells.map((c) => [c.key, c]));
    for (const [key, view] of this.cells) if (!wanted.has(key)) this.drop(key, view);
    for (const cell of cells) {
      const palette = tints.get(cell.owner) ?? [];
      const made = `${palette.join()}|${fingerprint(cell.matrices)}|${fingerprint(cell.tints)}`;
      const old = this.cells.get(cell.key);
      if (old && old.made === made && this.assets.get(cell.asset)) {
        old.cell = cell;
        continue;
      }
      if (old) this.drop(cell.key, old);
      this.cells.set(cell.key, { cell, lods: [], made });
    }
    this.palettes = tints;
  }

  private palettes: ReadonlyMap<string, readonly string[]> = new Map();

  private geometry(asset: Asset): BufferGeometry[][] {
    let found = this.geometries.get(asset);
    if (!found) this.geometries.set(asset, (found = asset.lods.map((lod) => lod.map(primitiveGeometry))));
    return found;
  }

  private make(view: CellView, lod: number): InstancedMesh[] {
    const { cell } = view;
    const asset = this.assets.get(cell.asset)!;
    const kind = asset.role === 'piece' ? 'piece' : lod === asset.lods.length - 1 ? 'billboard' : 'plant';
    const count = cell.matrices.length / 16;
    const palette = this.palettes.get(cell.owner);
    let colours: InstancedBufferAttribute | null = null;
    if (palette && palette.length > 0) {
      const data = new Float32Array(count * 3);
      const parsed = palette.map((hex) => new Color().setStyle(hex, '').toArray());
      for (let i = 0; i < count; i++) data.set(parsed[cell.tints[i]] ?? [1, 1, 1], i * 3);
      colours = new InstancedBufferAttribute(data, 3);
    }
    const draw = (geometry: BufferGeometry, first: number, n: number): InstancedMesh => {
      const mesh = new InstancedMesh(geometry, this.materials[kind], 0);
      mesh.instanceMatrix = new InstancedBufferAttribute(cell.matrices.subarray(first * 16, (first + n) * 16), 16);
      mesh.instanceColor = colours && n < count ? new InstancedBufferAttribute(colours.array.slice(first * 3, (first + n) * 3), 3) : colours;
      mesh.count = n;
      mesh.frustumCulled = false;
      mesh.matrixAutoUpdate = false;
      this.group.add(mesh);
      return mesh;
    };
    return this.geometry(asset)[lod].flatMap((geometry) => (this.apart ? Array.from({ length: count }, (_, i) => draw(geometry, i, 1)) : [draw(geometry, 0, count)]));
  }

  /** Shows exactly the given cells at the given LODs. */
  show(wanted: ReadonlyMap<string, number>): void {
    for (const [key, view] of this.cells) {
      const lod = wanted.get(key);
      if (lod !== undefined) view.lods[lod] ??= this.make(view, lod);
      view.lods.forEach((meshes, i) => { for (const m of meshes ?? []) m.visible = i === lod; });
    }
  }

  private drop(key: string, view: CellView): void {
    for (const meshes of view.lods) {
      for (const m of meshes ?? []) {
        this.group.remove(m);
        m.dispose();
      }
    }
    this.cells.delete(key);
  }

  dispose(): void {
    for (const [key, view] of this.cells) this.drop(key, view);
    for (const lods of this.geometries.values()) for (const g of lods.flat()) g.dispose();
    for (const m of Object.values(this.materials)) m.dispose();
  }
}

/** One piece or plant drawn by itself over the level, where a tool would set it. */
export function ghostMesh(asset: Asset, material: ShaderMaterial, matrix: Matrix4): InstancedMesh[] {
  return asset.lods[0].map((p) => {
    const mesh = new InstancedMesh(primitiveGeometry(p), material, 1);
    mesh.setMatrixAt(0, matrix);
    mesh.frustumCulled = false;
    return mesh;
  });
}

/** A number that changes when the bytes do: enough to tell whether a cell is as it was. */
function fingerprint(data: Float32Array | Uint8Array): number {
  const ints = data instanceof Float32Array ? new Int32Array(data.buffer, data.byteOffset, data.length) : data;
  let h = ints.length | 0;
  for (let i = 0; i < ints.length; i++) h = Math.imul(h ^ ints[i], 0x01000193) ^ (h >>> 15);
  return h;
}
