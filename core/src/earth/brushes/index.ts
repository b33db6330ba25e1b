import type { BrushOf } from './brushKind';
import { erase } from './erase';
import { level } from './level';
import { lower } from './lower';
import { noise } from './noise';
import { print } from './print';
import { raise } from './raise';
import { sharpen } from './sharpen';
import { smooth } from './smooth';
import { terrace } from './terrace';
import { weather } from './weather';

/** Every brush of a hand lift; adding one is adding a file and a line here. */
const OF = { raise, lower, level, smooth, sharpen, noise, terrace, weather, print, erase } satisfies Record<string, BrushOf>;

export type BrushKind = keyof typeof OF;
export const BRUSHES = Object.keys(OF) as readonly BrushKind[];

/** A brush by its kind. */
export const brushOf = (kind: BrushKind): BrushOf => OF[kind];

/** The brush that one is while it is reversed. */
export const reversed = (kind: BrushKind): BrushKind => (brushOf(kind).reversed as BrushKind | undefined) ?? kind;
