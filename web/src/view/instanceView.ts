import { assetOf } from '@rammer/core/kit/bentAsset';
import {
  BufferAttribute,
  BufferGeometry,
  Color,
  DoubleSide,
  FrontSide,
  GLSL3,
  InstancedBufferAttribute,
  InstancedMesh,
  Matrix4,
  Mesh,
  ShaderMaterial,
  type Group,
  type IUniform,
} from 'three';
import type { InstanceCell } from '@rammer/core/cost/instances';
import { assetBounds, hasBillboard, type Asset, type Primitive } from '@rammer/core/kit/asset';
import type { Assets } from '@rammer/core/kit/placement';
import type { Vec3 } from '@rammer/core/num/vec';
import type { AuthoredMaterials } from './authoredMaterials';
import type { Coats } from './coats';
import { farthestFirst, orderable } from './farthestFirst';
import { SEE_THROUGH } from './layers';
import { paintTops } from './look';
import { INSTANCE_FRAGMENT, INSTANCE_VERTEX } from './shaders/instance';

export function primitiveGeometry(p: Primitive): BufferGeometry {
  const geometry = new BufferGeometry();
  geometry.setAttribute('position', new BufferAttribute(p.positions, 3));
  geometry.setAttribute('normal', new BufferAttribute(p.normals, 3));
  if (p.colours) geometry.setAttribute('colour', new BufferAttribute(p.colours, 4));
  if (p.look !== undefined) {
    geometry.setAttribute('uv', new BufferAttribute(p.uvs ?? new Float32Array((p.positions.length / 3) * 2), 2));
    if (p.uvs1) geometry.setAttribute('second', new BufferAttribute(p.uvs1, 2));
  }
  geometry.setIndex(new BufferAttribute(p.indices, 1));
  return geometry;
}

type Kind = 'piece' | 'plant' | 'billboard';

interface How {
  /** instances are merged into one mesh */
  merged?: boolean;
  /** coats lie over it: what it is compiled with, see `Coats.defines` */
  coated?: Record<string, number>;
  /** its foot takes on the colour of the ground */
  rooted?: boolean;
}

/** @param kind stone courses on pieces, place light on plants, turned to the eye on billboards */
export const instanceMaterial = (
  shared: Record<string, IUniform>,
  kind: Kind,
  twoSided: boolean,
  { merged = false, coated, rooted }: How = {},
): ShaderMaterial =>
  new ShaderMaterial({
    // Apart by defines and not by a uniform: a software renderer walks both sides of a branch.
    defines: { ...(merged ? { MERGED: '' } : {}), ...(kind === 'piece' ? { STONE: '' } : {}), ...(rooted ? { ROOTS: '' } : {}), ...coated },
    glslVersion: GLSL3,
    vertexShader: INSTANCE_VERTEX,
    fragmentShader: INSTANCE_FRAGMENT,
    side: twoSided ? DoubleSide : FrontSide,
    uniforms: { ...shared, uBillboard: { value: kind === 'billboard' ? 1 : 0 } },
  });

interface CellView {
  cell: InstanceCell;
  /** meshes of each LOD, made when first drawn */
  lods: (Mesh[] | undefined)[];
  made: string;
  /** tints of its owner, and how it is drawn besides */
  palette: string;
  /** coats it wears, see `Coats.keyOf` */
  coats: string;
  /** the mesh they were made from: one that is cast again is another */
  asset?: Asset;
  /** LOD it was last seen at, and since when the one before gives way to it, milliseconds */
  seen?: number;
  fading?: { from: number; since: number };
}

/** So long one LOD gives way to the next, milliseconds. */
const FADE_MS = 250;

/** How the instances of an owner are drawn: their tints, and of plants how they go with the wind and take on the ground's colour. */
export interface OwnerLook {
  tints: readonly string[];
  /** 1 as others do */
  sway?: number;
  /** share of the ground's colour at the foot */
  roots?: number;
}
const PLAIN: OwnerLook = { tints: [] };

/** How much of a mesh is drawn, pixel by pixel: 1 all, less while it comes, less than 0 while it goes. */
function fadeTo(mesh: Mesh, share: number): void {
  mesh.userData.fade = share;
}

/** Whether a mesh is of plants. */
export const isGrown = (mesh: { userData: Record<string, unknown> }): boolean => mesh.userData.grown === true;

/**
 * What a mesh is drawn with of its own is set as it is drawn: its material is that of many. Only what its shader has is set: where
 * anything is another all of a material's numbers are sent again. @param tall height of its asset, metres
 */
function asOwn(mesh: Mesh, { sway = 1, roots = 0 }: OwnerLook, tall: number): void {
  const rootsTo = Math.min(ROOTS_TO * tall, ROOTS_HIGH);
  mesh.onBeforeRender = (_renderer, _scene, _camera, _geometry, material) => {
    const { uniforms, defines } = material as ShaderMaterial;
    if (!uniforms || !defines) return;
    let other = false;
    const set = (name: string, value: number) => {
      const uniform = uniforms[name];
      if (!uniform || uniform.value === value) return;
      uniform.value = value;
      other = true;
    };
    set('uFade', (mesh.userData.fade as number | undefined) ?? 1);
    if (mesh.userData.grown === true && ('FULL' in defines || 'SHADOW' in defines)) set('uSway', sway);
    if ('ROOTS' in defines && 'FULL' in defines) {
      set('uRoots', roots);
      set('uRootsTo', rootsTo);
    }
    if (other) (material as ShaderMaterial).uniformsNeedUpdate = true;
  };
}

/** Up to this share of its height a plant takes on the colour of the ground. */
const ROOTS_TO = 0.45;
/** And no higher than this, metres. */
const ROOTS_HIGH = 0.6;

/**
 * A software renderer works through instances one by one, about 50 us each (measured): up to this many
 * vertices a cell's instances are merged into one plain mesh instead. Draws and triangles are the same.
 */
const MERGE_VERTICES = 24_000;

/** Pieces and plants, one draw for each material of a LOD in a cell: exactly the batch list's draws. */
export class InstanceView {
  /** whether any of what is shown is seen through */
  seeThrough = false;
  private cells = new Map<string, CellView>();
  private readonly geometries = new Map<Asset, BufferGeometry[][]>();
  private readonly materials: Record<Kind, ShaderMaterial>;
  private readonly merged: Record<Kind, ShaderMaterial>;
  /** of pieces under coats, by how they are made; compiled when first drawn */
  private readonly coated = new Map<string, ShaderMaterial>();
  /** of plants whose foot takes on the colour of the ground, likewise */
  private readonly rooted = new Map<string, ShaderMaterial>();
  private pictures = 0;
  private assets: Assets = new Map();

  /** @param options `apart` draws every instance by itself: a baseline to measure against */
  constructor(
    private readonly group: Group,
    private readonly shared: Record<string, IUniform>,
    private readonly authored: AuthoredMaterials,
    private readonly coats: Coats,
    { apart = false }: { apart?: boolean } = {},
  ) {
    this.apart = apart;
    const all = (merged: boolean): Record<Kind, ShaderMaterial> => ({
      piece: instanceMaterial(shared, 'piece', true, { merged }),
      plant: instanceMaterial(shared, 'plant', false, { merged }),
      billboard: instanceMaterial(shared, 'billboard', true, { merged }),
    });
    this.materials = all(false);
    this.merged = all(true);
  }

  /** Its author's material where it has one, else that of Rammer's own kit. */
  private materialOf(asset: Asset, p: Primitive, kind: Kind, how: How & { merged: boolean; shifted: boolean }): ShaderMaterial {
    if (p.look !== undefined) return this.authored.of(asset, p, { ...how, sways: asset.role === 'plant' });
    if (how.coated) {
      const key = `${how.merged} ${Object.values(how.coated).join()}`;
      let found = this.coated.get(key);
      if (!found) {
        this.coated.set(key, (found = instanceMaterial(this.shared, 'piece', true, how)));
        paintTops(found, this.pictures);
      }
      return found;
    }
    if (how.rooted) {
      const key = `${how.merged} ${kind}`;
      let found = this.rooted.get(key);
      if (!found) this.rooted.set(key, (found = instanceMaterial(this.shared, kind, kind === 'billboard', how)));
      return found;
    }
    return (how.merged ? this.merged : this.materials)[kind];
  }

  /** Cells that stayed as they were keep their meshes. @param looks of each owner; tints by the bytes of the cells */
  update(cells: readonly InstanceCell[], assets: Assets, looks: ReadonlyMap<string, OwnerLook>): void {
    this.assets = assets;
    this.coats.tidy();
    const wanted = new Map(cells.map((c) => [c.key, c]));
    for (const [key, view] of this.cells) if (!wanted.has(key)) this.drop(key, view);
    for (const cell of cells) {
      const known = this.cells.get(cell.key);
      const look = looks.get(cell.owner);
      const palette = `${(cell.palette ?? look?.tints ?? []).join()}|${look?.sway ?? 1},${look?.roots ?? 0}`;
      const asset = assetOf(assets, cell);
      // Of a plant there is no more to look at: most cells of a large level are done with here.
      if (known?.cell === cell && known.asset === asset && asset?.role === 'plant' && look === this.looks.get(cell.owner)) continue;
      const coats = this.coats.keyOf(cell, asset);
      if (known && known.cell === cell && known.asset === asset && known.palette === palette && known.coats === coats) continue;
      const made = `${palette}|${cell.count} ${cell.print ?? `${fingerprint(cell.matrices)} ${fingerprint(cell.tints)}`}|${coats}`;
      const old = this.cells.get(cell.key);
      if (old && old.made === made && old.asset === asset) {
        old.cell = cell;
        continue;
      }
      if (old) this.drop(cell.key, old);
      this.cells.set(cell.key, { cell, lods: [], made, palette, coats, asset });
    }
    this.looks = looks;
  }

  private readonly apart: boolean;
  private looks: ReadonlyMap<string, OwnerLook> = new Map();

  private geometry(asset: Asset): BufferGeometry[][] {
    let found = this.geometries.get(asset);
    if (!found) this.geometries.set(asset, (found = asset.lods.map((lod) => lod.map(primitiveGeometry))));
    return found;
  }

  private make(view: CellView, lod: number): Mesh[] {
    const { cell } = view;
    const asset = assetOf(this.assets, cell)!;
    const card = lod > 0 && lod === asset.lods.length - 1 && (asset.distant !== undefined || hasBillboard(asset));
    const kind = card ? 'billboard' : asset.role !== 'plant' ? 'piece' : 'plant';
    const { count } = cell;
    const coated = kind === 'piece' ? this.coats.defines(cell, asset) : undefined;
    const painted = coated && this.coats.painted(cell, asset);
    const look = this.looks.get(cell.owner) ?? PLAIN;
    const grown = look !== PLAIN;
    const palette = cell.palette ?? look.tints;
    const tall = assetBounds(asset).max[1];
    const rooted = kind !== 'piece' && (look.roots ?? 0) > 0;
    const tints = new Float32Array(count * 3).fill(1);
    if (palette.length > 0) {
      const parsed = palette.map((entry) => new Color().setStyle(entry.split(' ')[0], '').toArray());
      for (let i = 0; i < count; i++) tints.set(parsed[cell.tints[i]] ?? [1, 1, 1], i * 3);
    }
    const shifts = shiftsOf(palette, cell.tints, count);
    const vertices = asset.lods[lod].reduce((s, p) => s + p.positions.length / 3, 0);
    // What one sees through is drawn one by one, the farthest first: merged it could not be put in order.
    const through = asset.lods[lod].some((p) => p.look !== undefined && asset.materials?.[p.look].alpha === 'blend');
    if (!this.apart && !through && vertices * count <= MERGE_VERTICES) {
      return asset.lods[lod].map((p) => {
        const mesh = new Mesh(
          mergedGeometry(p, cell.matrices, { tints, shifts, painted }, kind === 'billboard'),
          this.materialOf(asset, p, kind, { merged: true, shifted: shifts !== undefined, coated, rooted }),
        );
        mesh.frustumCulled = false;
        mesh.matrixAutoUpdate = false;
        asOwn(mesh, look, tall);
        mesh.userData.grown = grown;
        if (coated) this.coats.wear(mesh, asset, cell.asset);
        this.group.add(mesh);
        return mesh;
      });
    }
    const colours = new InstancedBufferAttribute(tints, 3);
    const draw = (geometry: BufferGeometry, p: Primitive, first: number, n: number): InstancedMesh<BufferGeometry, ShaderMaterial> => {
      const mesh = new InstancedMesh(
        ownGeometry(geometry, { shift: p.look === undefined ? undefined : shifts, painted }, [first, n]),
        this.materialOf(asset, p, kind, { merged: false, shifted: shifts !== undefined, coated, rooted }),
        0,
      );
      mesh.instanceMatrix = new InstancedBufferAttribute(cell.matrices.subarray(first * 16, (first + n) * 16), 16);
      mesh.instanceColor = n < count ? new InstancedBufferAttribute(tints.slice(first * 3, (first + n) * 3), 3) : colours;
      mesh.count = n;
      mesh.frustumCulled = false;
      mesh.matrixAutoUpdate = false;
      asOwn(mesh, look, tall);
      mesh.userData.grown = grown;
      if (coated) this.coats.wear(mesh, asset, cell.asset);
      if (mesh.material.transparent) {
        mesh.layers.set(SEE_THROUGH);
        orderable(mesh);
      }
      this.group.add(mesh);
      return mesh;
    };
    return this.geometry(asset)[lod].flatMap((geometry, i) => {
      const p = asset.lods[lod][i];
      return this.apart ? Array.from({ length: count }, (_, n) => draw(geometry, p, n, 1)) : [draw(geometry, p, 0, count)];
    });
  }

  setPainted(pictures: number): void {
    this.pictures = pictures;
    for (const m of this.coated.values()) paintTops(m, pictures);
    for (const materials of [this.materials, this.merged]) paintTops(materials.piece, pictures);
  }

  /** Shows exactly the given cells at the given LODs; what one sees through the farthest first, cells and those within each. */
  show(wanted: ReadonlyMap<string, number>, eye: Vec3): void {
    this.seeThrough = false;
    for (const [key, view] of this.cells) {
      const lod = wanted.get(key);
      if (lod !== undefined) {
        view.lods[lod] ??= this.make(view, lod);
        for (const m of view.lods[lod]) {
          if (!m.layers.isEnabled(SEE_THROUGH)) continue;
          this.seeThrough = true;
          const { matrices } = view.cell;
          m.renderOrder = -Math.hypot(matrices[12] - eye[0], matrices[13] - eye[1], matrices[14] - eye[2]);
          if (m instanceof InstancedMesh) farthestFirst(m, eye);
        }
      }
      view.lods.forEach((meshes, i) => {
        for (const m of meshes ?? []) m.visible = i === lod;
      });
    }
  }

  /**
   * After `show`: cells that changed their LOD are drawn at both, one giving way to the other pixel by pixel.
   *
   * @param now milliseconds; without, every cell is whole at its own
   * @returns whether any is under way
   */
  fade(wanted: ReadonlyMap<string, number>, now?: number): boolean {
    let any = false;
    for (const [key, view] of this.cells) {
      const lod = wanted.get(key);
      if (lod === undefined) {
        view.seen = view.fading = undefined;
        continue;
      }
      if (now !== undefined && view.seen !== undefined && view.seen !== lod) view.fading = { from: view.seen, since: now };
      view.seen = lod;
      const share = view.fading && now !== undefined ? (now - view.fading.since) / FADE_MS : 1;
      if (share >= 1) view.fading = undefined;
      else any = true;
      for (const m of view.lods[lod] ?? []) fadeTo(m, Math.max(0.001, Math.min(1, share)));
      if (!view.fading || view.fading.from === lod) continue;
      for (const m of view.lods[view.fading.from] ?? []) {
        m.visible = true;
        fadeTo(m, -Math.max(0.001, share));
      }
    }
    return any;
  }

  private drop(key: string, view: CellView): void {
    for (const meshes of view.lods) {
      for (const m of meshes ?? []) {
        this.group.remove(m);
        if (m instanceof InstancedMesh) m.dispose();
        else m.geometry.dispose();
      }
    }
    this.cells.delete(key);
  }

  dispose(): void {
    for (const [key, view] of this.cells) this.drop(key, view);
    for (const lods of this.geometries.values()) for (const g of lods.flat()) g.dispose();
    for (const m of [...Object.values(this.materials), ...Object.values(this.merged), ...this.coated.values(), ...this.rooted.values()]) m.dispose();
  }
}

/** How each instance's materials are shifted: saturation, contrast, roughness; `undefined` where none is. */
function shiftsOf(palette: readonly string[], tints: Uint8Array, count: number): Float32Array | undefined {
  if (!palette.some((entry) => entry.includes(' '))) return undefined;
  const parsed = palette.map((entry) => entry.split(' ').slice(1).map(Number));
  const out = new Float32Array(count * 3);
  for (let i = 0; i < count; i++) out.set(parsed[tints[i]] ?? [], i * 3);
  return out;
}

/** The same geometry, its streams shared, with numbers of some instances' own, three each. */
function ownGeometry(geometry: BufferGeometry, own: Record<string, Float32Array | undefined>, [first, n]: readonly [number, number]): BufferGeometry {
  if (Object.values(own).every((data) => data === undefined)) return geometry;
  const out = new BufferGeometry();
  for (const [name, attribute] of Object.entries(geometry.attributes)) out.setAttribute(name, attribute);
  out.setIndex(geometry.index);
  for (const [name, data] of Object.entries(own)) if (data) out.setAttribute(name, new InstancedBufferAttribute(data.slice(first * 3, (first + n) * 3), 3));
  return out;
}

/** Instances of a primitive as one plain geometry: positions and normals in the level, of billboards scaled about the foot. */
function mergedGeometry(
  p: Primitive,
  matrices: Float32Array,
  { tints, shifts, painted }: { tints: Float32Array; shifts?: Float32Array; painted?: Float32Array },
  billboard: boolean,
): BufferGeometry {
  const count = matrices.length / 16;
  const n = p.positions.length / 3;
  const position = new Float32Array(count * n * 3);
  const normal = new Float32Array(count * n * 3);
  const colour = new Float32Array(p.colours ? count * n * 4 : 0);
  // Which way its own +x lies in plan: of a card that knows its sides.
  const across = billboard && p.look !== undefined ? new Float32Array(count * n * 2) : undefined;
  const shift = shifts && p.look !== undefined ? new Float32Array(count * n * 3) : undefined;
  const local = painted ? new Float32Array(count * n * 3) : undefined;
  const paintAt = painted ? new Float32Array(count * n * 3) : undefined;
  const uv = p.look === undefined ? undefined : new Float32Array(count * n * 2);
  const uv1 = p.uvs1 && p.look !== undefined ? new Float32Array(count * n * 2) : undefined;
  const foot = new Float32Array(count * n * 3);
  const tint = new Float32Array(count * n * 3);
  const index = new Uint32Array(count * p.indices.length);
  for (let c = 0; c < count; c++) {
    const m = matrices.subarray(c * 16, c * 16 + 16);
    const wide = Math.hypot(m[0], m[1], m[2]);
    const tall = Math.hypot(m[4], m[5], m[6]);
    const [sx, sy, sz] = [wide * wide || 1, tall * tall || 1, m[8] * m[8] + m[9] * m[9] + m[10] * m[10] || 1];
    if (p.colours) colour.set(p.colours, c * n * 4);
    if (across) {
      const l = Math.hypot(m[0], m[2]) || 1;
      for (let v = 0; v < n; v++) across.set([m[0] / l, m[2] / l], (c * n + v) * 2);
    }
    if (shift) for (let v = 0; v < n; v++) shift.set(shifts!.subarray(c * 3, c * 3 + 3), (c * n + v) * 3);
    if (local) local.set(p.positions, c * n * 3);
    if (paintAt) for (let v = 0; v < n; v++) paintAt.set(painted!.subarray(c * 3, c * 3 + 3), (c * n + v) * 3);
    if (uv) uv.set(p.uvs ?? [], c * n * 2);
    if (uv1) uv1.set(p.uvs1!, c * n * 2);
    for (let v = 0; v < n; v++) {
      const o = (c * n + v) * 3;
      const [x, y, z] = p.positions.subarray(v * 3, v * 3 + 3);
      const [a, b, d] = p.normals.subarray(v * 3, v * 3 + 3);
      let length = 0;
      for (let k = 0; k < 3; k++) {
        position[o + k] = billboard ? (k === 0 ? x * wide : k === 1 ? y * tall : 0) : m[k] * x + m[4 + k] * y + m[8 + k] * z + m[12 + k];
        // By the inverse transpose, for sizes differ along the axes; a billboard has its stem there.
        normal[o + k] = billboard ? m[4 + k] : (m[k] * a) / sx + (m[4 + k] * b) / sy + (m[8 + k] * d) / sz;
        length += normal[o + k] * normal[o + k];
        foot[o + k] = m[12 + k];
        tint[o + k] = tints[c * 3 + k];
      }
      length = Math.sqrt(length) || 1;
      for (let k = 0; k < 3; k++) normal[o + k] /= length;
    }
    for (let i = 0; i < p.indices.length; i++) index[c * p.indices.length + i] = p.indices[i] + c * n;
  }
  const geometry = new BufferGeometry();
  for (const [name, data, size] of [
    ['position', position, 3],
    ['normal', normal, 3],
    ['colour', p.colours && colour, 4],
    ['foot', foot, 3],
    ['tintOf', tint, 3],
    ['uv', uv, 2],
    ['second', uv1, 2],
    ['across', across, 2],
    ['shift', shift, 3],
    ['local', local, 3],
    ['painted', paintAt, 3],
  ] as const)
    if (data) geometry.setAttribute(name, new BufferAttribute(data, size));
  geometry.setIndex(new BufferAttribute(index, 1));
  return geometry;
}

/** One piece or plant drawn by itself over the level, where a tool would set it. @param materialOf of each of its primitives */
export function ghostMesh(asset: Asset, materialOf: (p: Primitive) => ShaderMaterial, matrix: Matrix4): InstancedMesh[] {
  return asset.lods[0].map((p) => {
    const mesh = new InstancedMesh(primitiveGeometry(p), materialOf(p), 1);
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
