import { z } from 'zod';
import { base, finite, vec3 } from '../fields';
import { kind } from './kind';

/** Where the view stands. Degrees; pitch positive looks up. */
export const poseSchema = z.object({
  view: z.enum(['plan', 'orbit', 'stand']),
  /** orbit and plan: the point looked at; stand: the feet */
  target: vec3,
  yaw: finite,
  pitch: finite.min(-90).max(90),
  /** orbit: metres from the target; plan: metres from top to bottom of the view */
  distance: finite.positive().max(20_000),
  /** vertical field of view, degrees; the view's own where absent. Not in Plan */
  fov: finite.min(5, 'a lens sees at least 5 degrees').max(140, 'a lens sees at most 140 degrees').optional(),
  /** width of the lens, millimetres: what lies before or behind `focus`, metres from it, is blurred in stills and at rest; absent all is sharp */
  lens: z.object({ width: finite.min(0).max(500), focus: finite.min(0.1).max(10_000) }).optional(),
});
export type Pose = z.infer<typeof poseSchema>;

export const viewpointObject = z.object({ ...base, kind: z.literal('viewpoint'), pose: poseSchema });
export type Viewpoint = z.infer<typeof viewpointObject>;

export const viewpointKind = kind({
  schema: viewpointObject,
  aspects: ['notes'],
  shift: (o, by) => ({ ...o, pose: { ...o.pose, target: by.p3(o.pose.target) } }),
});
