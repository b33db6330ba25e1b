import { bentJoin } from '@rammer/core/kit/bend';
import { straightOf } from '@rammer/core/kit/bentAsset';
import type { Join } from '@rammer/core/level/kinds/kit';
import { Data3DTexture, LinearFilter, Vector2, Vector3, Vector4, type IUniform, type Mesh, type ShaderMaterial } from 'three';
import { bendsOf } from '@rammer/core/coat/bends';
import { liesOn } from '@rammer/core/coat/coats';
import { coatGrid } from '@rammer/core/coat/grid';
import { BARE, paintOn } from '@rammer/core/coat/paint';
import type { ReadyCoat } from '@rammer/core/coat/shares';
import type { InstanceCell } from '@rammer/core/cost/instances';
import type { Asset } from '@rammer/core/kit/asset';
import { partsByAsset } from '@rammer/core/kit/joinGrid';
import { MOST_COATS, type CoatConditionKind, type Kit, type Paint } from '@rammer/core/level/objects';
import { rgb } from '@rammer/core/level/lighting';

/** Sides of the picture of cells in points; it grows upward. */
const SIDE = 128;
const FIRST_DEPTH = 16;
const MOST_DEPTH = 512;
/** Stands for a band without an end. */
const NO_END = 1e9;

const BANDS = {
  facing: 'uCoatFacing',
  side: 'uCoatSide',
  foot: 'uCoatFoot',
  height: 'uCoatHeight',
  sky: 'uCoatSky',
  bend: 'uCoatBend',
  noise: 'uCoatNoise',
} as const satisfies Record<CoatConditionKind, string>;

const list = <T>(make: () => T): { value: T[] } => ({ value: Array.from({ length: MOST_COATS }, make) });

/** What the shaders know of coats, see `COATS_FRAGMENT`. */
export const coatUniforms = () =>
  ({
    ...Object.fromEntries(Object.values(BANDS).map((name) => [name, list(() => new Vector4(-NO_END, -NO_END, NO_END, NO_END))])),
    uCoatTowards: list(() => new Vector3()),
    uCoatPer: list(() => 1),
    uCoatSeed: list(() => 0),
    uCoatColour: list(() => new Vector4()),
    uCoatStuff: list(() => new Vector4()),
    uCoatWorn: list(() => new Vector2()),
    uCoatCells: { value: cellsTexture(new Uint8Array(4).fill(BARE), [1, 1, 1]) },
    uCoatBlock: { value: new Vector3() },
    uCoatGrid: { value: new Vector4() },
  }) as Record<string, IUniform>;

type Size = readonly [number, number, number];

function cellsTexture(data: Uint8Array, [x, y, z]: Size): Data3DTexture {
  const texture = new Data3DTexture(data, x, y, z);
  texture.magFilter = texture.minFilter = LinearFilter;
  texture.unpackAlignment = 1;
  texture.needsUpdate = true;
  return texture;
}

interface Block {
  at: Vector3;
  size: Size;
  /** what was last written to it */
  of?: unknown;
}

/** The coats of a level as the shaders have them, and the picture of all their cells. */
export class Coats {
  /** how many there are */
  count = 0;
  /** those that wear a surface that is there, a bit each */
  private worn = 0;
  /** whether any goes by how a mesh bends */
  private bent = false;
  /** goes up when what was made with coats is to be made anew */
  revision = 0;
  private ready: readonly ReadyCoat[] = [];
  private kits: readonly Kit[] = [];
  private parts: ReturnType<typeof partsByAsset> = new Map();
  private data = new Uint8Array(0);
  private depth = 0;
  private readonly blocks = new Map<unknown, Block>();
  /** where the next block goes: along x, shelves along y, slabs along z */
  private next = { x: 0, y: 0, z: 0, shelf: 0, slab: 0 };

  constructor(private readonly shared: Record<string, IUniform>) {}

  /** Kits of the level: where their parts join they have no edges. */
  setKits(kits: readonly Kit[]): void {
    if (kits.length === this.kits.length && kits.every((k, i) => k === this.kits[i])) return;
    this.kits = kits;
    this.parts = partsByAsset(kits);
    if (this.bent) this.reset();
  }

  /** @param layerOf where the texture of a surface lies and how large its tile is; `undefined` where there is none */
  set(ready: readonly ReadyCoat[], layerOf: (surface: string) => { layer: number; tile: number } | undefined): void {
    const bent = ready.some(({ ends }) => ends.bend !== undefined);
    const key = (of: readonly ReadyCoat[]) => of.map(({ coat: { id, on, share, assets } }) => `${id} ${on} ${share > 0} ${assets?.join()}`).join('|');
    if (bent !== this.bent || key(ready) !== key(this.ready)) this.reset();
    [this.ready, this.count, this.bent] = [ready, ready.length, bent];
    this.worn = 0;
    ready.forEach(({ coat, ends, towards, per, seed }, i) => {
      for (const [by, name] of Object.entries(BANDS)) {
        const of = ends[by as CoatConditionKind] ?? [-Infinity, -Infinity, Infinity, Infinity];
        (this.shared[name].value as Vector4[])[i].fromArray(of.map((v) => Math.max(-NO_END, Math.min(NO_END, v))));
      }
      (this.shared.uCoatTowards.value as Vector3[])[i].fromArray(towards);
      (this.shared.uCoatPer.value as number[])[i] = per;
      (this.shared.uCoatSeed.value as number[])[i] = seed;
      (this.shared.uCoatColour.value as Vector4[])[i].set(...rgb(coat.colour), coat.ground ? 0 : coat.varied);
      (this.shared.uCoatStuff.value as Vector4[])[i].set(coat.roughness, coat.metalness, coat.levels, coat.on ? coat.share : 0);
      const worn = coat.surface === undefined ? undefined : layerOf(coat.surface);
      (this.shared.uCoatWorn.value as Vector2[])[i].set(worn?.layer ?? 0, worn?.tile ?? 1);
      if (worn) this.worn |= 1 << i;
    });
  }

  /** What the shaders of a cell of pieces are compiled with, see `COATS_FRAGMENT`; nothing where it wears none. */
  defines(cell: InstanceCell, asset: Asset | undefined): Record<string, number> | undefined {
    if (this.count === 0 || !asset || asset.role === 'plant') return undefined;
    const bits = (has: (ready: ReadyCoat) => boolean) => this.ready.reduce((sum, r, i) => sum | (has(r) ? 1 << i : 0), 0);
    const rule = bits(({ coat }) => liesOn(coat, cell.asset));
    const paint = cell.paint?.some(Boolean) === true;
    if (rule === 0 && !paint) return undefined;
    return {
      COATED: this.count,
      COATS_RULE: rule,
      COATS_PAINT: paint ? 1 : 0,
      COATS_BEND: rule & bits(({ ends }) => ends.bend !== undefined),
      COATS_SIDE: rule & bits(({ ends }) => ends.side !== undefined),
      COATS_NOISE: rule & bits(({ ends }) => ends.noise !== undefined),
      COATS_GROUND: bits(({ coat }) => coat.ground === true),
      COATS_WORN: this.worn,
      COATS_VARIED: bits(({ coat }) => coat.varied > 0),
    };
  }

  /** What a cell of pieces wears, in a few letters; nothing where it wears none. */
  keyOf(cell: InstanceCell, asset: Asset | undefined): string {
    const defines = this.defines(cell, asset);
    return defines ? `${Object.values(defines).join()} ${this.revision} ${cell.paint?.map(serial).join() ?? ''}` : '';
  }

  /** Places of the paint of each instance of a cell, three numbers each; below 0 it has none. */
  painted(cell: InstanceCell, asset: Asset): Float32Array {
    const out = new Float32Array((cell.matrices.length / 16) * 3).fill(-1);
    cell.paint?.forEach((paint, n) => {
      if (paint) this.paintBlock(cell.ids[n], asset, paint)?.toArray(out, n * 3);
    });
    return out;
  }

  /** A mesh of an asset's that is drawn with coats. */
  wear(mesh: Mesh, asset: Asset, id: string): void {
    const { min, cell } = coatGrid(asset);
    const grid = new Vector4(...min, 1 / cell);
    const block = this.bendBlock(asset, id);
    const before = mesh.onBeforeRender;
    mesh.onBeforeRender = (...args) => {
      before.apply(mesh, args);
      const material = args[4] as ShaderMaterial;
      if (!material.uniforms?.uCoatGrid) return;
      (material.uniforms.uCoatGrid.value as Vector4).copy(grid);
      (material.uniforms.uCoatBlock.value as Vector3).copy(block);
      material.uniformsNeedUpdate = true;
    };
  }

  private bendBlock(asset: Asset, id: string): Vector3 {
    const { size } = coatGrid(asset);
    // All that is not asked for is flat; one point of the first block would do, but few levels have no edges that wear.
    const block = this.block(asset, size);
    if (block && block.of !== asset) {
      const bends = this.bent ? bendsOf(asset, joinsOf(asset, this.parts.get(id)?.part.joins)) : undefined;
      this.write(block, (point) => [bends?.[point] ?? BARE, BARE, BARE, BARE]);
      block.of = asset;
    }
    return block?.at ?? new Vector3();
  }

  private paintBlock(id: string, asset: Asset, paint: Paint): Vector3 | undefined {
    const { size } = coatGrid(asset);
    const block = this.block(`${id} ${size.join()}`, size);
    if (block && block.of !== paint) {
      const painted = paintOn(asset, paint);
      const of = [0, 1, 2, 3].map((i) => (this.ready[i]?.coat.on ? painted.get(this.ready[i].coat.id) : undefined));
      this.write(block, (point) => of.map((cells) => cells?.[point] ?? BARE));
      block.of = paint;
    }
    return block?.at;
  }

  private write({ at, size: [nx, ny, nz] }: Block, byteOf: (point: number) => readonly number[]): void {
    for (let z = 0, point = 0; z < nz; z++)
      for (let y = 0; y < ny; y++) for (let x = 0; x < nx; x++, point++) this.data.set(byteOf(point), (at.x + x + SIDE * (at.y + y + SIDE * (at.z + z))) * 4);
    (this.shared.uCoatCells.value as Data3DTexture).needsUpdate = true;
  }

  /** Room for a grid, the same one for the same key; none where the picture is full. */
  private block(key: unknown, size: Size): Block | undefined {
    const known = this.blocks.get(key);
    if (known) return known;
    const n = this.next;
    if (n.x + size[0] > SIDE) Object.assign(n, { x: 0, y: n.y + n.shelf, shelf: 0 });
    if (n.y + size[1] > SIDE) Object.assign(n, { x: 0, y: 0, z: n.z + n.slab, shelf: 0, slab: 0 });
    if (n.z + size[2] > MOST_DEPTH) {
      this.full = true;
      return undefined;
    }
    if (n.z + size[2] > this.depth) this.grow(n.z + size[2]);
    const made: Block = { at: new Vector3(n.x, n.y, n.z), size };
    n.x += size[0];
    n.shelf = Math.max(n.shelf, size[1]);
    n.slab = Math.max(n.slab, size[2]);
    this.blocks.set(key, made);
    return made;
  }

  private grow(depth: number): void {
    let next = Math.max(this.depth, FIRST_DEPTH);
    while (next < depth) next *= 2;
    const data = new Uint8Array(SIDE * SIDE * next * 4);
    data.set(this.data);
    this.data = data;
    this.depth = next;
    (this.shared.uCoatCells.value as Data3DTexture).dispose();
    this.shared.uCoatCells.value = cellsTexture(data, [SIDE, SIDE, next]);
  }

  /** Bytes its cells take on the GPU. */
  get bytes(): number {
    return this.data.length;
  }

  /** Before cells are looked at: a picture that is full of what is gone is begun anew. */
  tidy(): void {
    if (this.full) this.reset();
  }
  private full = false;

  private reset(): void {
    this.full = false;
    this.revision++;
    this.blocks.clear();
    this.next = { x: 0, y: 0, z: 0, shelf: 0, slab: 0 };
  }

  dispose(): void {
    (this.shared.uCoatCells.value as Data3DTexture).dispose();
  }
}

/** Joins of a part as its mesh is bent. */
function joinsOf(asset: Asset, joins: readonly Join[] = []): readonly Join[] {
  const bend = straightOf(asset)?.bend;
  return bend ? joins.map((j) => bentJoin(bend, j)) : joins;
}

const serials = new WeakMap<object, number>();
let last = 0;

/** A number for each paint, the same for the same. */
function serial(paint: Paint | undefined): number {
  if (!paint) return 0;
  let found = serials.get(paint);
  if (found === undefined) serials.set(paint, (found = ++last));
  return found;
}
