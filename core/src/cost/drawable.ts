import type { Vec3 } from '../num/vec';

/** Courses of the wall, bottom first. */
export const COURSES = ['base', 'terrain', 'blocks', 'kit', 'plants', 'water', 'haze', 'shadows'] as const;

export type Course = (typeof COURSES)[number];

/** Something that is drawn at once: a terrain tile, the blocks of a cell, the pieces or plants of one kind in a cell, a water plane. */
export interface Drawable {
  key: string;
  course: Exclude<Course, 'base' | 'shadows'>;
  /** who spends it, within the course: a species, a kind of piece; else the course itself */
  of: string;
  min: Vec3;
  max: Vec3;
  /** triangles and vertices at each LOD */
  triangles: number[];
  vertices: number[];
  /** draw calls at each LOD: one a material */
  draws: number[];
  /** bytes on the GPU of its own, whatever LOD is drawn */
  bytes: number;
  /** what it shares with others: an asset's meshes, textures */
  shared?: readonly Shared[];
  /** instances; 0 where it is one merged mesh */
  instances: number;
  /** of the largest instance, metres: what the LOD is chosen by */
  radius: number;
  /** not drawn beyond this distance, metres; 0 always */
  cutoff: number;
  casts: boolean;
  /** and that only as near to the eye as this, metres; as far as shadows go where absent */
  castsTo?: number;
  /** alpha-tested area of one instance at each LOD, m2 */
  alphaArea: number[];
  /** coats over it: the area of one instance at each LOD as the eye sees it, times the coats that lie on it, m2; and how many coats there are */
  coated?: { area: number[]; coats: number };
  /** where each instance stands, as its matrices say: near by it is overdrawn by how far it is, not by how far its cell is */
  places?: Float32Array;
  /** keys of those it holds: it is drawn in their place where all of them are at their coarsest LOD, and else not at all */
  holds?: readonly string[];
  /** of such a one: mean square of its instances' height against their asset's */
  size?: number;
  /** where its pixels are shaded over again: a level sheet over its bounds in plan, and how often. No height: the whole screen */
  sheet?: { y?: number; shade: number };
}

/** Bytes that all with this key share. */
export interface Shared {
  key: string;
  bytes: number;
}

/** Bytes of one instance: a matrix of 12 numbers and a tint. */
export const INSTANCE_BYTES = 64;

/** A merged mesh of one draw: terrain, blocks, water. */
export const merged = (d: Pick<Drawable, 'key' | 'course' | 'min' | 'max' | 'triangles' | 'vertices' | 'bytes'> & Partial<Drawable>): Drawable => ({
  of: d.course,
  draws: d.triangles.map(() => 1),
  instances: 0,
  radius: 0,
  cutoff: 0,
  casts: true,
  alphaArea: d.triangles.map(() => 0),
  ...d,
});

/**
 * What of a level is listed: all that the game draws, which what is only hidden from view is part of; or what is
 * seen here.
 */
export type Listed = 'all' | 'seen';

/** What covers the ground round eyes: there is no whole of it. */
export const isCover = ({ key }: Pick<Drawable, 'key'>): boolean => key.startsWith('cover/');
