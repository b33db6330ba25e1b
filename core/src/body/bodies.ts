import { z } from 'zod';

/** Measured figures this near a limit, metres or degrees, count as at it: sums such as 1.80 + 0.10 are not exact. */
export const HAIR = 1e-6;

const metres = (max: number) => z.number().finite().positive().max(max);

/** The figures of a body that moves through the level: metres, degrees, m/s, m/s2. */
export const bodyFigures = z
  .object({
    height: metres(20),
    /** undefined where the body cannot crouch */
    crouched: metres(20).optional(),
    eye: metres(20),
    /** horizontal half width, that of the capsule */
    radius: metres(5),
    /** climbed without jumping */
    step: metres(5),
    maxSlope: z.number().min(1).max(80),
    walk: metres(50),
    run: metres(100),
    gravity: metres(100),
    /** height of a jump's apex over take-off */
    jumpApex: z.number().finite().min(0).max(50),
    vault: metres(20).optional(),
    climb: metres(20).optional(),
    safeDrop: metres(100),
    wade: metres(20),
  })
  .refine((b) => b.eye <= b.height, { message: 'the eye is above the head', path: ['eye'] })
  .refine((b) => b.crouched === undefined || b.crouched <= b.height, { message: 'crouched is taller than standing', path: ['crouched'] })
  .refine((b) => b.step < b.height, { message: 'the step is as tall as the body', path: ['step'] });

export type BodyFigures = z.infer<typeof bodyFigures>;

/** Shipped bodies; each level has its own editable copies. */
export const SHIPPED_BODIES: Record<string, BodyFigures> = {
  adult: {
    height: 1.8,
    crouched: 1.2,
    eye: 1.65,
    radius: 0.35,
    step: 0.4,
    maxSlope: 45,
    walk: 2,
    run: 5,
    gravity: 9.81,
    jumpApex: 0.9,
    vault: 1.1,
    climb: 2,
    safeDrop: 4,
    wade: 0.9,
  },
  child: {
    height: 1.25,
    crouched: 0.85,
    eye: 1.13,
    radius: 0.28,
    step: 0.3,
    maxSlope: 45,
    walk: 1.5,
    run: 3.8,
    gravity: 9.81,
    jumpApex: 0.6,
    vault: 0.8,
    climb: 1.2,
    safeDrop: 2.5,
    wade: 0.6,
  },
  tall: {
    height: 2.1,
    crouched: 1.4,
    eye: 1.95,
    radius: 0.4,
    step: 0.45,
    maxSlope: 45,
    walk: 2.2,
    run: 5.5,
    gravity: 9.81,
    jumpApex: 1,
    vault: 1.3,
    climb: 2.3,
    safeDrop: 4.5,
    wade: 1.05,
  },
  ram: { height: 1.1, eye: 0.95, radius: 0.45, step: 0.5, maxSlope: 55, walk: 1.2, run: 7, gravity: 9.81, jumpApex: 1.3, safeDrop: 2.5, wade: 0.6 },
};
