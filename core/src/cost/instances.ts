import { liesOn } from '../coat/coats';
import { coatGrid, pointsOf } from '../coat/grid';
import { assetBounds, assetFacts, meshArea, type Asset } from '../kit/asset';
import { assetOf, meshKey } from '../kit/bentAsset';
import { pictureKey } from '../kit/pictureKey';
import type { Assets } from '../kit/placement';
import { surfaceRange, type WaterBody } from '../earth/water';
import { SHADE } from './sheet';
import type { AssetObject, Coat, Paint, Piece, Species } from '../level/objects';
import type { Bend } from '../level/kinds/piece';
import { KeyedList } from '../num/keyedList';
import { poseAxes, type Pose } from '../num/pose';
import { sinCosDeg } from '../num/trig';
import type { Vec3 } from '../num/vec';
import { INSTANCE_BYTES, type Drawable, type Listed, type Shared } from './drawable';

/**
 * Side of a cell of instances, metres. Twice that of blocks: a draw costs about half a millisecond in
 * software and 11 us of the modelled CPU, and a plant of a coarser cell no more than some triangles.
 */
export const INSTANCE_CELL = 32;

/**
 * Instances of one asset in one cell. `matrices` holds 16 float32 an instance (columns first, as
 * glTF and WebGL have it), `tints` one byte each: which of the species' tints.
 */
export interface InstanceCell {
  key: string;
  /** id of the asset object */
  asset: string;
  /** how it is bent */
  bend?: Bend;
  /** species or asset object it counts for */
  owner: string;
  matrices: Float32Array;
  tints: Uint8Array;
  /** of pieces that are tinted: colours by the bytes of `tints`, white first */
  palette?: string[];
  /** of pieces that are painted with coats */
  paint?: (Paint | undefined)[];
  /** ids of pieces; empty for plants */
  ids: string[];
  count: number;
  min: Vec3;
  max: Vec3;
  radius: number;
  /** not drawn beyond, metres: where that is nearer than its owner's */
  cutoff?: number;
  /** keys of the cells it holds: drawn in their place, or not at all, see `batchList` */
  holds?: readonly string[];
  /** mean square of its instances' height against their asset's */
  size?: number;
  /** a number that changes when the plants of a cell do */
  print?: number;
}

const cellOf = (x: number, z: number): string => `${Math.floor(x / INSTANCE_CELL)},${Math.floor(z / INSTANCE_CELL)}`;

/** How a plant stands: metres, degrees, sizes as shares of its asset's own. */
export interface InstancePose {
  at: Vec3;
  turn: number;
  tall: number;
  wide: number;
  /** along z; as wide */
  deep?: number;
  /** from upright, and towards where in plan */
  lean: number;
  leanTo: number;
}

/** Writes the matrix of a turn about Y, a lean, a scale and a place; columns first. */
export function instanceMatrix(out: Float32Array, o: number, { at, turn, tall, wide, lean, leanTo, deep = wide }: InstancePose): void {
  const [s, c] = sinCosDeg(turn);
  // Lean about a level axis: Rodrigues' formula with axis (ax, 0, az).
  const [as, ac] = sinCosDeg(leanTo);
  const [ls, lc] = sinCosDeg(lean);
  const ax = ac,
    az = as,
    k = 1 - lc;
  const r = [lc + ax * ax * k, az * ls, ax * az * k, -az * ls, lc, ax * ls, ax * az * k, -ax * ls, lc + az * az * k];
  // r is columns first; turned = r * turnY, scaled by (wide, tall, deep).
  const col = (x: number, y: number, z: number, scale: number, to: number) => {
    for (let i = 0; i < 3; i++) out[o + to + i] = (r[i] * x + r[3 + i] * y + r[6 + i] * z) * scale;
    out[o + to + 3] = 0;
  };
  col(c, 0, -s, wide, 0);
  col(0, 1, 0, tall, 4);
  col(s, 0, c, deep, 8);
  out[o + 12] = at[0];
  out[o + 13] = at[1];
  out[o + 14] = at[2];
  out[o + 15] = 1;
}

/** Writes the matrix of a pose; columns first. */
export function poseMatrix(out: Float32Array, o: number, pose: Pose): void {
  poseAxes(pose).forEach((axis, k) => {
    const by = pose.scale?.[k] ?? 1;
    for (let i = 0; i < 3; i++) out[o + k * 4 + i] = axis[i] * by;
    out[o + k * 4 + 3] = 0;
  });
  out.set(pose.at, o + 12);
  out[o + 15] = 1;
}

/** A cell with room for so many instances. */
function emptyCell(key: string, asset: string, owner: string, count: number): InstanceCell {
  return {
    key,
    asset,
    owner,
    matrices: new Float32Array(count * 16),
    tints: new Uint8Array(count),
    ids: [],
    count,
    min: [Infinity, Infinity, Infinity],
    max: [-Infinity, -Infinity, -Infinity],
    radius: 0,
  };
}

/** Half the diagonal of an asset's bounds (the sphere its LOD is chosen by), and how far it goes up, down and aside, metres. */
export function reachOf(asset: Asset): { radius: number; top: number; bottom: number; side: number; far: number } {
  const { min, max } = assetBounds(asset);
  const side = Math.max(-min[0], max[0], -min[2], max[2]);
  // How far any point of it is from its pivot, at most.
  const far = Math.hypot(side, side, Math.max(Math.abs(min[1]), Math.abs(max[1])));
  return { far, radius: Math.sqrt((max[0] - min[0]) ** 2 + (max[1] - min[1]) ** 2 + (max[2] - min[2]) ** 2) / 2, top: max[1], bottom: min[1], side };
}

/** Grows a cell's bounds by an instance that goes so far aside, down and up. */
export function growBounds(cell: Pick<InstanceCell, 'min' | 'max'>, [x, y, z]: Vec3, side: number, bottom: number, top: number): void {
  cell.min[0] = Math.min(cell.min[0], x - side);
  cell.max[0] = Math.max(cell.max[0], x + side);
  cell.min[1] = Math.min(cell.min[1], y + bottom);
  cell.max[1] = Math.max(cell.max[1], y + top);
  cell.min[2] = Math.min(cell.min[2], z - side);
  cell.max[2] = Math.max(cell.max[2], z + side);
}

/** Where a piece is drawn: its mesh and its cell. One that is bent as no other is a draw of its own. */
const pieceKey = (piece: Piece): string => `kit/${meshKey(piece)}/${cellOf(piece.at[0], piece.at[2])}`;

/** Pieces by asset and cell. */
export function pieceCells(pieces: Iterable<Piece>, assets: Assets, listed: Listed = 'all'): InstanceCell[] {
  const cells = new Map<string, Piece[]>();
  for (const piece of pieces) {
    if ((listed === 'seen' && piece.hidden) || piece.out || !assets.has(piece.asset)) continue;
    const key = pieceKey(piece);
    const list = cells.get(key);
    if (list) list.push(piece);
    else cells.set(key, [piece]);
  }
  return [...cells].map(([key, list]) => pieceCell(key, list, assetOf(assets, list[0])!));
}

/** @param list of one asset and one cell, at least one */
function pieceCell(key: string, list: readonly Piece[], asset: Asset): InstanceCell {
  const cell = emptyCell(key, list[0].asset, list[0].asset, list.length);
  if (list[0].bend) cell.bend = list[0].bend;
  const reach = reachOf(asset);
  list.forEach((p, n) => {
    const scale = p.scale ?? [1, 1, 1];
    const most = Math.max(...scale);
    poseMatrix(cell.matrices, n * 16, p);
    cell.ids.push(p.id);
    if (p.tint || p.shade) cell.tints[n] = paletteIndex(cell, paletteEntry(p));
    if (p.paint) (cell.paint ??= [])[n] = p.paint;
    cell.radius = Math.max(cell.radius, reach.radius * most);
    if (p.tilt) growBounds(cell, [p.at[0], p.at[1], p.at[2]], reach.far * most, -reach.far * most, reach.far * most);
    else growBounds(cell, [p.at[0], p.at[1], p.at[2]], Math.max(reach.radius * 2, reach.side * 1.42) * most, reach.bottom * scale[1], reach.top * scale[1]);
  });
  return cell;
}

/**
 * Pieces by asset and cell, kept up as single ones change: a cell is made anew only where one of its own did. The same as
 * `pieceCells` of those that are set, sorted by id.
 */
export class PieceCells {
  private readonly pieces = new Map<string, { piece: Piece; key: string }>();
  private readonly members = new Map<string, Map<string, Piece>>();
  private readonly dirty = new Set<string>();
  private readonly cells = new KeyedList<InstanceCell>();
  private of?: Assets;
  /** as the batch list sees them; a cell that is made anew loses its own */
  private readonly drawn = new KeyedList<Drawable>();
  private readonly undrawn = new Set<string>();
  private owners: (AssetObject | Species | Coat | undefined)[] = [];

  /** A piece as it is shown now; `undefined` where it is not. */
  set(id: string, piece: Piece | undefined): void {
    const before = this.pieces.get(id);
    if (before?.piece === piece) return;
    if (before) {
      this.members.get(before.key)!.delete(id);
      this.dirty.add(before.key);
      this.pieces.delete(id);
    }
    if (!piece || piece.out) return;
    const key = pieceKey(piece);
    (this.members.get(key) ?? this.members.set(key, new Map()).get(key)!).set(id, piece);
    this.dirty.add(key);
    this.pieces.set(id, { piece, key });
  }

  clear(): void {
    for (const map of [this.pieces, this.members, this.cells, this.drawn]) map.clear();
    for (const set of [this.dirty, this.undrawn]) set.clear();
  }

  /**
   * The cells as they are now, a list that goes on with them; those that nothing changed in are the same objects. Pieces whose
   * asset is not there are left out.
   */
  list(assets: Assets): readonly InstanceCell[] {
    if (assets !== this.of) for (const key of this.members.keys()) this.dirty.add(key);
    this.of = assets;
    for (const key of this.dirty) {
      const list = [...(this.members.get(key)?.values() ?? [])].sort((a, b) => (a.id < b.id ? -1 : 1));
      const asset = list.length > 0 ? assetOf(assets, list[0]) : undefined;
      if (asset) this.cells.set(key, pieceCell(key, list, asset));
      else this.cells.delete(key);
      if (list.length === 0) this.members.delete(key);
      this.undrawn.add(key);
    }
    this.dirty.clear();
    return this.cells.list;
  }

  /** The same as `instanceDrawables` of the list, in any order; a list that goes on with them. */
  drawables(assets: Assets, names: ReadonlyMap<string, AssetObject | Species>, coats: readonly Coat[] = []): readonly Drawable[] {
    this.list(assets);
    const owners = [...[...assets.keys()].map((id) => names.get(id)), ...coats];
    if (owners.length !== this.owners.length || owners.some((o, i) => o !== this.owners[i])) for (const key of this.cells.keys()) this.undrawn.add(key);
    this.owners = owners;
    for (const key of this.undrawn) {
      const cell = this.cells.get(key);
      if (cell) this.drawn.set(key, instanceDrawable(cell, assetOf(assets, cell)!, names.get(cell.owner), coats));
      else this.drawn.delete(key);
    }
    this.undrawn.clear();
    return this.drawn.list;
  }
}

/** A use's tint, and where it has any how its materials are shifted: `#c08040 0.2 0 -0.1`, saturation, contrast, roughness. */
const paletteEntry = ({ tint = '#ffffff', shade }: Pick<Piece, 'tint' | 'shade'>): string =>
  shade ? `${tint} ${shade.saturation} ${shade.contrast} ${shade.roughness}` : tint;

/** Where a colour is in a cell's palette; more than 255 are taken as the last. */
function paletteIndex(cell: InstanceCell, colour: string): number {
  cell.palette ??= ['#ffffff'];
  const known = cell.palette.indexOf(colour);
  if (known >= 0 || cell.palette.length > 255) return Math.max(known, 0) || 255;
  return cell.palette.push(colour) - 1;
}

/** Cells as the batch list sees them. @param names of owners, for the wall @param coats over pieces */
export const instanceDrawables = (
  cells: readonly InstanceCell[],
  assets: Assets,
  names: ReadonlyMap<string, AssetObject | Species>,
  coats: readonly Coat[] = [],
): Drawable[] => cells.map((cell) => instanceDrawable(cell, assetOf(assets, cell)!, names.get(cell.owner), coats));

/** What coats over the pieces of a cell cost: area that is shaded over again at each LOD, bytes of its own and shared ones. */
function coatsOver(cell: InstanceCell, asset: Asset, coats: readonly Coat[]): Pick<Drawable, 'coated' | 'bytes'> & { shared: Shared[] } {
  const none = { bytes: 0, shared: [] };
  if (asset.role === 'plant') return none;
  const { count } = cell;
  const ruled = coats.filter((c) => liesOn(c, cell.asset)).map((c) => c.id);
  // Painted ones have those beside what lies by rule.
  let over = ruled.length * count;
  let painted = 0;
  for (const paint of cell.paint ?? []) {
    if (!paint) continue;
    painted++;
    for (const { coat } of paint.coats) if (!ruled.includes(coat) && coats.some((c) => c.id === coat && c.on)) over++;
  }
  if (over === 0) return none;
  const cells = pointsOf(coatGrid(asset)) * 4;
  return {
    // What one sees of a body from all around is a quarter of its surface in the mean (Cauchy, 1841).
    coated: { area: asset.lods.map((lod) => (lod.reduce((sum, p) => sum + meshArea(p), 0) / 4) * (over / count)), coats: coats.length },
    bytes: painted * cells,
    shared: [{ key: `coats/${meshKey(cell)}`, bytes: cells }],
  };
}

/** Meshes of an asset, and each of its pictures: one that several carry is there once. */
function sharedOf(id: string, asset: Asset): Shared[] {
  const { bytes } = assetFacts(asset);
  const pictures = (asset.textures ?? []).map((t): Shared => ({ key: pictureKey(t), bytes: t.gpuBytes }));
  return [{ key: id, bytes: Math.max(0, bytes - pictures.reduce((s, p) => s + p.bytes, 0)) }, ...pictures];
}

function instanceDrawable(cell: InstanceCell, asset: Asset, owner: AssetObject | Species | undefined, coats: readonly Coat[]): Drawable {
  const over = coatsOver(cell, asset, coats);
  const facts = assetFacts(asset);
  const { count } = cell;
  return {
    key: cell.key,
    // A plant that stands as a piece, or is being set by hand, is a plant.
    course: owner?.kind === 'species' || asset.role === 'plant' ? 'plants' : 'kit',
    of: owner?.name ?? cell.owner,
    min: cell.min,
    max: cell.max,
    triangles: facts.triangles,
    vertices: facts.vertices,
    draws: asset.lods.map((lod) => lod.length),
    instances: count,
    bytes: count * INSTANCE_BYTES + over.bytes,
    shared: [...sharedOf(meshKey(cell), asset), ...over.shared],
    ...(over.coated ? { coated: over.coated } : {}),
    // Made when the cell is first looked at so closely.
    get places() {
      return cell.matrices;
    },
    ...(cell.holds ? { holds: cell.holds, size: cell.size } : {}),
    // What LODs are chosen by.
    radius: cell.radius * (asset.detail ?? 1) * ((owner?.kind === 'species' ? owner.swap : undefined) ?? 1),
    cutoff: cell.cutoff ?? (owner?.kind === 'species' ? owner.cutoff : (asset.cutoff ?? 0)),
    casts: owner?.kind === 'species' ? owner.shadows : (asset.shadows ?? true),
    ...(owner?.kind === 'species' && owner.shadowsTo !== undefined ? { castsTo: owner.shadowsTo } : {}),
    alphaArea: asset.lods.map((lod) => lod.reduce((sum, p) => sum + (p.alphaTested ? (asset.materials ? meshArea(p) : facts.alphaArea) : 0), 0)),
  };
}

/** Surfaces of water, one draw each. */
export const waterDrawables = (waters: Iterable<WaterBody>, listed: Listed = 'all'): Drawable[] =>
  [...waters]
    .filter((w) => listed === 'all' || !w.hidden)
    .map((w): Drawable => ({
      key: `water/${w.id}`,
      course: 'water',
      of: w.name,
      min: [(w.rect.x0 - 1) * w.spacing, surfaceRange(w).low, (w.rect.z0 - 1) * w.spacing],
      max: [(w.rect.x1 + 1) * w.spacing, w.height, (w.rect.z1 + 1) * w.spacing],
      triangles: [w.mesh.indices.length / 3],
      vertices: [w.mesh.positions.length / 3],
      draws: [1],
      bytes: 4 * 12,
      instances: 0,
      radius: 0,
      cutoff: 0,
      casts: false,
      alphaArea: [0],
      sheet: { y: w.height, shade: SHADE.water * wetShare(w) },
    }));

/** How much of a water's rectangle is water, 0 to 1. */
function wetShare({ wet }: Pick<WaterBody, 'wet'>): number {
  let n = 0;
  for (const w of wet) n += w;
  return wet.length > 0 ? n / wet.length : 0;
}
