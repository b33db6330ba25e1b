import type { Terrain } from '@rammer/core/earth/compose';
import type { WaterBody } from '@rammer/core/earth/water';
import type { DensityMap } from '@rammer/core/growth/densityMap';
import type { RuleShares } from '@rammer/core/growth/ruleShares';
import type { GroundRaster } from '@rammer/core/surface/ground';

export interface OverlayInput {
  terrain: Terrain;
  ground: GroundRaster;
  waters: readonly WaterBody[];
  /** heights as they were, to compare with */
  before?: Float32Array;
  wade: number;
  maxSlope: number;
  eye: number;
  home?: [number, number];
  /** of the species at hand */
  rule?: RuleShares;
  /** plants on 100 m2, and the most the level lets stand there */
  density?: DensityMap;
  ceiling?: number;
}

/** One line of the legend: a swatch as on the ground, and what it stands for. */
export interface Key {
  colour: string;
  hatched?: boolean;
  text: string;
}

export type Colour = readonly [number, number, number];

/** Lays a colour on a sample, and how: 0 not at all, to 246 as a tint, `HATCH` hatched. */
export type Put = (sample: number, colour: Colour, how: number) => void;

/** An overlay that is a picture over the ground: one file, and one line in `index.ts`. */
export interface OverlayOf {
  /** what runs on is drawn smooth between samples; classes have edges */
  smooth?: boolean;
  /** @returns the legend; heights written on the ground (x, y, z, three numbers each); metres between contour lines, where it draws them */
  draw(input: OverlayInput, put: Put): { keys: Key[]; labels?: Float32Array<ArrayBuffer>; step?: number };
}

export const HATCH = 255;
export const hex = (c: Colour): string => `#${c.map((v) => Math.round(v).toString(16).padStart(2, '0')).join('')}`;
export const mix = (a: Colour, b: Colour, t: number): Colour => [0, 1, 2].map((k) => a[k] + (b[k] - a[k]) * t) as unknown as Colour;

export const OXIDE: Colour = [179, 64, 42];
export const OCHRE: Colour = [201, 139, 27];
export const INK: Colour = [23, 33, 31];
export const PAPER: Colour = [236, 238, 234];
export const SHALLOW: Colour = [206, 222, 222];
export const DEEP: Colour = [58, 88, 96];

export const metric = (v: number): string => (Math.abs(v) >= 10 ? v.toFixed(0) : v.toFixed(1));
export const thousands = (v: number): string => Math.round(v).toLocaleString('en').replace(/,/g, '\u202f');
