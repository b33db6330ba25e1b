import { plantDensity } from './plantDensity';
import { curvature } from './curvature';
import { cutAndFill } from './cutAndFill';
import { ground } from './ground';
import { height } from './height';
import { islands } from './islands';
import type { OverlayOf } from './paint';
import { repeat } from './repeat';
import { growthRule } from './growthRule';
import { runoff } from './runoff';
import { texels } from './texels';
import { waterDepth } from './waterDepth';

/** Overlays that are a picture over the ground, worked out from the level; adding one is adding a file, a line here and its name in `store/ui`. */
const PICTURES = {
  height,
  curvature,
  'water depth': waterDepth,
  ground,
  'cut and fill': cutAndFill,
  runoff,
  islands,
  repeat,
  texels,
  'growth rule': growthRule,
  'plant density': plantDensity,
} satisfies Record<string, OverlayOf>;

export type Pictured = keyof typeof PICTURES;

/** A picture by the name of its overlay, where it is one. */
export const pictureOf = (name: string): OverlayOf | undefined => (Object.hasOwn(PICTURES, name) ? PICTURES[name as Pictured] : undefined);
