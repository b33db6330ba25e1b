import { z } from 'zod';
import { COLLIDER_NAMES, finite } from './fields';

/**
 * What was done to a mesh after it came in, in the order it was done: recorded, so that it can be undone one by one and
 * done again to a newer file.
 */
export const mendSchema = z.discriminatedUnion('mend', [
  /** all lengths times a factor */
  z.object({ mend: z.literal('unit'), factor: finite.min(1e-6).max(1e6) }),
  /** which way of the file is up */
  z.object({ mend: z.literal('axis'), up: z.enum(['+z', '-z', '+x', '-x', '-y']) }),
  /** about the vertical, degrees */
  z.object({ mend: z.literal('turn'), degrees: finite.min(-360).max(360) }),
  /** where it is held: the middle of its foot, its middle, or the corner of its foot at the back and left */
  z.object({ mend: z.literal('pivot'), at: z.enum(['foot', 'centre', 'corner']) }),
  /** corners within a distance become one, metres */
  z.object({ mend: z.literal('weld'), within: finite.min(0).max(1) }),
  /** made anew: edges that turn by more than so many degrees stay sharp */
  z.object({ mend: z.literal('normals'), crease: finite.min(0).max(180) }),
  /** what is thin or hollow is drawn from behind too */
  z.object({ mend: z.literal('sides') }),
  /** simpler ones, by their share of the triangles; they take the place of those it has */
  z.object({ mend: z.literal('lods'), shares: z.array(finite.min(0.001).max(0.95)).min(1).max(5) }),
  z.object({ mend: z.literal('collider'), as: z.enum(COLLIDER_NAMES), parts: z.number().int().min(2).max(32).default(8) }),
  /** radius of what stops a body, metres; found by slicing where it says none */
  z.object({ mend: z.literal('trunk'), radius: finite.min(0).max(50).optional() }),
  /** materials that are nearest to each other become one, until so many are left */
  z.object({ mend: z.literal('materials'), to: z.number().int().min(1).max(64) }),
  /** pictures with a longer side are halved until they fit, pixels */
  z.object({ mend: z.literal('pictures'), most: z.number().int().min(16).max(8192) }),
  /** occlusion, roughness and metalness in one picture */
  z.object({ mend: z.literal('pack') }),
  /** a last LOD of pictures from eight sides, so many pixels high each */
  z.object({ mend: z.literal('distant'), side: z.number().int().min(16).max(512) }),
  /** what wears one material wears another */
  z.object({ mend: z.literal('slot'), from: z.string().min(1).max(100), to: z.string().min(1).max(100) }),
]);
export type Mend = z.infer<typeof mendSchema>;

/** A mend in words, for lists and undo. */
export function mendText(m: Mend): string {
  switch (m.mend) {
    case 'unit':
      return `sized by ${m.factor >= 1 ? Number(m.factor.toPrecision(5)) : `1/${Number((1 / m.factor).toPrecision(5))}`}`;
    case 'axis':
      return `set up: ${m.up} of the file is up`;
    case 'turn':
      return `turned by ${m.degrees}°`;
    case 'pivot':
      return `pivot at its ${m.at}`;
    case 'weld':
      return `welded within ${Number((m.within * 1000).toPrecision(3))} mm`;
    case 'normals':
      return `normals made anew, sharp over ${m.crease}°`;
    case 'sides':
      return 'drawn from both sides';
    case 'lods':
      return `${m.shares.length + 1} LODs: ${m.shares.map((s) => `${Number((s * 100).toPrecision(3))} %`).join(', ')}`;
    case 'collider':
      return `collider ${m.as === 'parts' ? `${m.parts} parts at most` : m.as}`;
    case 'trunk':
      return m.radius === undefined ? 'trunk found by slicing' : `trunk ${m.radius.toFixed(2)} m`;
    case 'materials':
      return `materials merged to ${m.to}`;
    case 'pictures':
      return `pictures of ${m.most} pixels a side at most`;
    case 'pack':
      return 'occlusion, roughness and metalness in one picture';
    case 'distant':
      return `distant picture, ${m.side} pixels high`;
    case 'slot':
      return `${m.from} wears ${m.to}`;
  }
}
