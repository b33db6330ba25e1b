import { z } from 'zod';
import { bodyFigures } from '../../body/bodies';
import { base } from '../fields';
import { kind } from './kind';

export const bodyObject = z.object({ ...base, kind: z.literal('body'), figures: bodyFigures });
export type BodyObject = z.infer<typeof bodyObject>;

export const bodyKind = kind({
  schema: bodyObject,
  aspects: ['markers'],
});
