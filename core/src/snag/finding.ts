import type { Vec3 } from '../num/vec';

/** One finding of the checks. */
export interface Snag {
  /** stable code of the check */
  code: string;
  severity: 'blocking' | 'warning';
  /** what, with its figures */
  message: string;
  /** how to mend it */
  mend: string;
  at?: Vec3;
  object?: string;
  /** why it may stay, where somebody accepted it and nothing changed since */
  accepted?: string;
}
