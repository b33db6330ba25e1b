// A worker thread does not inherit tsx's loader from its parent; it registers its own and goes on in TypeScript.
import { register } from 'tsx/esm/api';

register();
await import('./checkWorker.ts');
