import type { JobKind } from '../kind';
import { asset } from './asset';
import { check } from './check';
import { open } from './open';
import { pack } from './pack';
import { plan } from './plan';
import { reshapeLevel } from './reshape';

/** Long work by its name. */
export const JOB_KINDS = { check, plan, pack, open, reshape: reshapeLevel, asset } satisfies Record<string, JobKind>;
export type JobKindName = keyof typeof JOB_KINDS;
