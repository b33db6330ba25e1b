import type { Species } from '../level/objects';
import type { Vec3 } from '../num/vec';

/** Settings a species starts with, by the name of its asset; what is not known here starts as a sparse bush. */
const KNOWN: Record<string, Partial<Species>> = {
  heather: {
    density: 9,
    spacing: 0.9,
    clearance: 0.5,
    height: [0.3, 0.55],
    slenderness: [0.9, 1.35],
    lean: 6,
    tints: ['#ffffff', '#e6c9d8', '#cfc0e0'],
    rule: { on: true, slope: [0, 26], height: [-500, 500], soft: 8, grounds: [] },
  },
  gorse: {
    density: 1.2,
    spacing: 2.2,
    clearance: 1,
    height: [0.9, 1.8],
    slenderness: [0.85, 1.2],
    lean: 5,
    tints: ['#ffffff', '#d8e0c0'],
    rule: { on: true, slope: [6, 34], height: [-500, 500], soft: 6, grounds: [] },
  },
  birch: {
    density: 0.8,
    spacing: 4.5,
    clearance: 1.6,
    height: [5, 8.5],
    slenderness: [0.8, 1.1],
    lean: 4,
    tints: ['#ffffff', '#e9e2a8', '#cfe0b8'],
    rule: { on: true, slope: [0, 22], height: [-500, 500], soft: 6, grounds: [] },
  },
};

/** A species of an asset with settings to start from. @param asset `size` of one with materials of its own, metres: it grows about as high as it is */
export function speciesFrom(asset: { id: string; name: string; size?: Vec3 }, id: string, order: number, seed: number): Species {
  const { size } = asset;
  const wide = size ? Math.max(size[0], size[2]) : 0;
  const round = (v: number, most: number) => Math.min(most, Math.max(0.02, Math.round(v * 100) / 100));
  return {
    id,
    version: 1,
    kind: 'species',
    name: asset.name,
    asset: asset.id,
    order,
    seed,
    density: 1,
    spacing: 2,
    clearance: 1,
    height: [1, 1.5],
    slenderness: [0.9, 1.1],
    lean: 4,
    tints: ['#ffffff'],
    rule: { on: false, slope: [0, 30], height: [-500, 500], soft: 6, grounds: [] },
    cutoff: 0,
    shadows: true,
    hidden: false,
    out: false,
    ...(size
      ? {
          height: [round(size[1] * 0.8, 100), round(size[1] * 1.2, 100)] as [number, number],
          spacing: Math.max(0.1, round(wide * 0.6, 100)),
          clearance: round(wide * 0.25, 50),
        }
      : KNOWN[asset.name]),
  };
}
