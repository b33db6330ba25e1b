import type { Manifold } from 'manifold-3d';
import { isDrawn } from '../level/drawn';
import type { Block } from '../level/objects';
import type { Mesh } from '../num/mesh';
import { placer } from '../num/pose';
import type { Vec3 } from '../num/vec';
import type { SolidKernel } from './kernel';
import type { PlacedMesh } from './placedMesh';
import { isPlain, shapeMesh } from './shapes';
import { blockBounds, boundsMeet, type Bounds } from './solid';

/** A block as a mesh in the level: its shape less the voids that cut it. */
export interface BuiltBlock extends PlacedMesh {
  of: 'block';
  /** the inputs it was made from: equal keys, equal solids */
  key: string;
  /** metres cubed */
  volume: number;
  cutBy: Uint16Array;
  voids: string[];
}

/** Blocks told apart by what they need. */
export interface Split {
  /** boxes and ramps that nothing cuts: their solid is known without the kernel */
  plain: Block[];
  /** the other solids, each with the voids that cut it, by id */
  special: { block: Block; voids: Block[] }[];
}

/**
 * Which blocks are to be built. A void cuts every solid its bounds meet, or, where it says so, those of
 * its own group only.
 *
 * @param blocks that are in the level
 */
export function splitBlocks(blocks: readonly Block[]): Split {
  const voids = blocks
    .filter((b) => b.op === 'void')
    .sort((a, b) => (a.id < b.id ? -1 : 1))
    .map(bounded);
  const out: Split = { plain: [], special: [] };
  for (const block of blocks) {
    if (block.op === 'void') continue;
    const cuts = cutters(bounded(block), voids);
    if (cuts.length === 0 && isPlain(block)) out.plain.push(block);
    else out.special.push({ block, voids: cuts });
  }
  return out;
}

/** A block with its bounds in the level. */
export interface Bounded {
  id: string;
  block: Block;
  bounds: Bounds;
}

/** A block with its bounds, metres; what `cutters` looks at. */
export const bounded = (block: Block): Bounded => ({ id: block.id, block, bounds: blockBounds(block) });

/** Of some voids, those that cut a solid, in their order, see `splitBlocks`. */
export const cutters = ({ block, bounds }: Bounded, voids: readonly Bounded[]): Block[] =>
  voids
    .filter((v) => (v.block.cuts !== 'group' || (block.group !== undefined && v.block.group === block.group)) && boundsMeet(v.bounds, bounds))
    .map((v) => v.block);

const shapeKey = (b: Block): string =>
  JSON.stringify([
    b.id,
    b.shape,
    b.size,
    b.at,
    b.turn,
    b.tilt,
    b.steps,
    b.wall,
    b.batter,
    b.line,
    b.closed,
    b.tall,
    b.wide,
    isDrawn(b.shape) ? b.op : undefined,
  ]);

/** What a built block is made from, as text. */
export const builtKey = (block: Block, voids: readonly Block[]): string => [block, ...voids].map(shapeKey).join('|');

export interface BuildAsked {
  /** ids of blocks that are being dragged; none */
  moving?: ReadonlySet<string>;
  /** told after each solid, with the share done; false stops: what was built is kept, and there is no result */
  onBuilt?: (share: number) => boolean;
}

const NONE: ReadonlySet<string> = new Set();

/** A solid of the kernel and what cut it. */
interface Cut {
  solid: Manifold;
  cutters: { id: string; original: number }[];
}

/** Kept from earlier builds, newest last: the solid and its voids that hold still while one is dragged. */
const KEPT = 64;

/**
 * Builds solids with their voids. It keeps what it built, and while voids are dragged the solid less
 * those that hold still, so that a step of a drag cuts the moving ones only.
 *
 * A drag's steps differ from a build from nothing in the order of cuts; results that are kept come from
 * `build` without `moving`, whose operands always stand in the order of their ids.
 */
export class BlockBuilder {
  private readonly bases = new Map<string, Cut>();
  private readonly built = new Map<string, BuiltBlock>();

  constructor(private readonly kernel: SolidKernel) {}

  build(blocks: readonly Block[]): BuiltBlock[];
  build(blocks: readonly Block[], asked: BuildAsked): BuiltBlock[] | undefined;
  build(blocks: readonly Block[], { moving = NONE, onBuilt }: BuildAsked = {}): BuiltBlock[] | undefined {
    const { special } = splitBlocks(blocks);
    const out: BuiltBlock[] = [];
    for (const { block, voids } of special) {
      out.push(this.one(block, voids, moving));
      if (onBuilt?.(out.length / special.length) === false) return undefined;
    }
    for (const map of [this.built, this.bases] as Map<string, unknown>[]) {
      const room = map === this.bases ? KEPT : special.length + KEPT;
      for (const key of [...map.keys()].slice(0, Math.max(0, map.size - room))) {
        if (map === this.bases) this.bases.get(key)!.solid.delete();
        map.delete(key);
      }
    }
    return out;
  }

  /**
   * Several solids, each less the voids that cut it, as one closed mesh in the level: what is cast.
   *
   * @param ids of the solids among the blocks
   */
  joined(blocks: readonly Block[], ids: ReadonlySet<string>): Mesh {
    const { plain, special } = splitBlocks(blocks);
    const wanted = [...special, ...plain.map((block) => ({ block, voids: [] as Block[] }))]
      .filter(({ block }) => ids.has(block.id))
      .sort((a, b) => (a.block.id < b.block.id ? -1 : 1));
    if (wanted.length === 0) return { positions: new Float32Array(), indices: new Uint32Array() };
    const about = wanted[0].block;
    const solids = wanted.map(
      ({ block, voids }) => this.cut({ solid: this.solid(block, about, this.kernel.Manifold.reserveIDs(1)), cutters: [] }, voids, about).solid,
    );
    const all = solids.length === 1 ? solids[0] : this.kernel.Manifold.union(solids);
    const mesh = all.getMesh();
    const out = { positions: toLevel(mesh.vertProperties, mesh.numProp, mesh.numVert, about.at), indices: Uint32Array.from(mesh.triVerts) };
    for (const s of new Set([...solids, all])) s.delete();
    return out;
  }

  dispose(): void {
    for (const { solid } of this.bases.values()) solid.delete();
    this.bases.clear();
    this.built.clear();
  }

  private one(block: Block, voids: readonly Block[], moving: ReadonlySet<string>): BuiltBlock {
    const still = voids.filter((v) => !moving.has(v.id));
    const dragged = voids.filter((v) => moving.has(v.id));
    const key = `${builtKey(block, still)}${dragged.length > 0 ? `||${dragged.map(shapeKey).join('|')}` : ''}`;
    const known = this.built.get(key);
    if (known) {
      this.built.delete(key);
      this.built.set(key, known);
      return known;
    }
    let result: Cut;
    if (dragged.length === 0) result = this.cut(this.whole(block), still, block);
    else {
      const baseKey = builtKey(block, still);
      let base = this.bases.get(baseKey);
      if (!base) this.bases.set(baseKey, (base = this.cut(this.whole(block), still, block)));
      result = this.cut(base, dragged, block, true);
    }
    const made = this.describe(result, block, key);
    result.solid.delete();
    this.built.set(key, made);
    return made;
  }

  private whole(block: Block): Cut {
    return { solid: this.solid(block, block, this.kernel.Manifold.reserveIDs(1)), cutters: [] };
  }

  /**
   * Less the voids, all at once. Original ids are reserved in the order of the operands, because the
   * kernel's triangles come in the order of their ids: equal inputs, equal bytes.
   *
   * @param keep whether the operand lives on
   */
  private cut(from: Cut, voids: readonly Block[], about: Block, keep = false): Cut {
    if (voids.length === 0) return from;
    const first = this.kernel.Manifold.reserveIDs(voids.length);
    const cutters = voids.map((v, i) => this.solid(v, about, first + i));
    const all = cutters.length === 1 ? cutters[0] : this.kernel.Manifold.union(cutters);
    const solid = from.solid.subtract(all);
    solid.numTri();
    for (const c of new Set([...cutters, all])) c.delete();
    if (!keep) from.solid.delete();
    return { solid, cutters: [...from.cutters, ...voids.map((v, i) => ({ id: v.id, original: first + i }))] };
  }

  /** A block's own shape in the kernel's axes (z up), about another block's place, so that float32 stays fine. */
  private solid(block: Block, about: Block, original: number): Manifold {
    const { positions, indices } = shapeMesh(block);
    // To the micrometre: faces that differ by less would leave slivers that float32 cannot hold.
    const d = [0, 1, 2].map((k) => Math.round((block.at[k] - about.at[k]) * 1e6) / 1e6);
    const place = placer({ at: d as Vec3, turn: block.turn, tilt: block.tilt });
    const vertProperties = new Float32Array(positions.length);
    for (let i = 0; i < positions.length; i += 3) {
      const p = place(positions[i], positions[i + 1], positions[i + 2]);
      vertProperties[i] = p[0];
      vertProperties[i + 1] = -p[2];
      vertProperties[i + 2] = p[1];
    }
    return new this.kernel.Manifold(
      new this.kernel.Mesh({
        numProp: 3,
        vertProperties,
        triVerts: Uint32Array.from(indices),
        runIndex: Uint32Array.of(0, indices.length),
        runOriginalID: Uint32Array.of(original),
      }),
    );
  }

  private describe({ solid, cutters }: Cut, block: Block, key: string): BuiltBlock {
    const mesh = solid.getMesh();
    const ids = cutters.map((c) => c.original);
    const cutBy = new Uint16Array(mesh.numTri);
    for (let r = 0; r < mesh.numRun; r++) {
      const which = ids.indexOf(mesh.runOriginalID[r]) + 1;
      if (which > 0) cutBy.fill(which, mesh.runIndex[r] / 3, mesh.runIndex[r + 1] / 3);
    }
    const positions = toLevel(mesh.vertProperties, mesh.numProp, mesh.numVert, block.at);
    const min: Vec3 = [Infinity, Infinity, Infinity];
    const max: Vec3 = [-Infinity, -Infinity, -Infinity];
    for (let i = 0; i < positions.length; i++) {
      min[i % 3] = Math.min(min[i % 3], positions[i]);
      max[i % 3] = Math.max(max[i % 3], positions[i]);
    }
    return {
      of: 'block',
      id: block.id,
      name: block.name,
      key,
      positions,
      indices: Uint32Array.from(mesh.triVerts),
      min,
      max,
      volume: solid.volume(),
      cutBy,
      voids: cutters.map((c) => c.id),
    };
  }
}

/** The kernel's vertices (z up, about a place) as points of the level. */
function toLevel(from: ArrayLike<number>, stride: number, count: number, about: Vec3): Float32Array {
  const out = new Float32Array(count * 3);
  for (let i = 0; i < count; i++) {
    out[i * 3] = about[0] + from[i * stride];
    out[i * 3 + 1] = about[1] + from[i * stride + 2];
    out[i * 3 + 2] = about[2] - from[i * stride + 1];
  }
  return out;
}
