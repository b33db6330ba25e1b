import { Flag, Link2, PersonStanding, Shapes, Spline, Sprout } from 'lucide-react';
import type { Shape, Standing } from '@rammer/core/level/objects';

/** Shapes as a row of a table shows them. */
const MARKS: Record<Shape, string> = {
  box: 'M1 2H13V11H1z',
  ramp: 'M1 11L13 2V11z',
  wedge: 'M1 11L7 2L13 11z',
  terraces: 'M1 11L2 8H5L6 5H9L10 2H13V11z',
  stair: 'M1 11V8H5V5H9V2H13V11z',
  cylinder: 'M2 3Q7 0 12 3V11H2z',
  cone: 'M2 11L7 1L12 11z',
  arch: 'M1 11V2H13V11H10V8Q7 4 4 8V11z',
  ring: 'M1 11V3H4V11zM10 11V3H13V11z',
  wall: 'M1 11V2H4V8H13V11z',
  slab: 'M1 10L4 6H13L10 10z',
  tunnel: 'M1 11V6Q1 2 7 2Q13 2 13 6V11H10V7Q10 5 7 5Q4 5 4 7V11z',
};

/** What a thing is, as a small drawing with its name for who does not see it. */
export function KindMark({ thing: t }: { thing: Standing }) {
  switch (t.kind) {
    case 'block':
      return (
        <svg width="14" height="12" role="img" aria-label={t.op === 'void' ? `${t.shape}, void` : t.shape}>
          <path d={MARKS[t.shape]} fill="none" stroke="currentColor" strokeWidth="1.3" strokeDasharray={t.op === 'void' ? '2 1.5' : undefined} />
        </svg>
      );
    case 'copy':
      return <Link2 size={14} aria-label="copy" role="img" />;
    case 'laidLine':
      return <Spline size={13} aria-label="laid line" role="img" />;
    case 'piece':
      return <Shapes size={13} aria-label="piece" role="img" />;
    case 'plant':
      return <Sprout size={13} aria-label="plant" role="img" />;
    case 'marker':
      return <Flag size={13} aria-label={t.marker} role="img" />;
    case 'people':
      return <PersonStanding size={13} aria-label="people" role="img" />;
  }
}
