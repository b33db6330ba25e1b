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
