import { z } from 'zod';

/** The plain fields objects are made of. Metres and degrees, Y up. */
export const finite = z.number().finite();
export const coordinate = finite.min(-100_000).max(100_000);
export const vec3 = z.tuple([coordinate, coordinate, coordinate]);
/** x and z */
export const vec2 = z.tuple([coordinate, coordinate]);
export const name = z.string().trim().min(1).max(120);
export const objectId = z.string().regex(/^[A-Za-z0-9_-]{1,64}$/, 'an id is 1 to 64 letters, digits, - or _');
export const colour = z.string().regex(/^#[0-9a-f]{6}$/, 'a colour is # and six hex digits');
export const band = z.tuple([finite, finite]).refine(([low, high]) => low <= high, 'the lower end comes first');

export const base = { id: objectId, version: z.number().int().min(0).default(0), name };

const unit = finite.min(-1.001).max(1.001);
/** A rotation as a unit quaternion x, y, z, w; written by others it may be a thousandth off. */
export const quaternion = z
  .tuple([unit, unit, unit, unit])
  .refine(([x, y, zz, w]) => Math.abs(Math.sqrt(x * x + y * y + zz * zz + w * w) - 1) <= 1e-3, 'a tilt is a unit quaternion: x, y, z and w of length 1');
const share = finite.min(0.01).max(100);
/** Sizes along the own x, y and z against the own size. */
export const scale3 = z.tuple([share, share, share]);

/** How it lies out of the upright, before it is turned, see num/pose; absent where it stands upright. */
export const tilt = quaternion.optional();

/** What anything that stands may have: a group it belongs to, and that it is kept from hands until it is unlocked. */
export const kept = { group: name.optional(), locked: z.boolean().optional() };
/** The same, and whether it is hidden from view (still in the level), or taken out of the level (still in the document). */
export const standing = { ...kept, hidden: z.boolean().default(false), out: z.boolean().default(false) };
/** The same of those that had neither before version 8: absent is no. */
export const lately = { ...kept, hidden: z.boolean().optional(), out: z.boolean().optional() };

/** What stops a body: nothing, a plain shape about the bounds, shapes of its own (`hull` one, `parts` some), or its finest LOD. */
export const COLLIDER_NAMES = ['none', 'box', 'cylinder', 'capsule', 'hull', 'parts', 'mesh'] as const;

/** What an asset is for. A prop stands by itself; background is never reached; a board is a picture that stands; a reference is one to look at. */
export const ROLE_NAMES = ['piece', 'plant', 'prop', 'background', 'board', 'reference'] as const;
