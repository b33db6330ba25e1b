// A process started by fork does not inherit tsx's loader; it registers its own and goes on in TypeScript.
import { register } from 'tsx/esm/api';

register();
await import('./child.ts');
