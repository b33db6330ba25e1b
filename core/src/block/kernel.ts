import type { ManifoldToplevel } from 'manifold-3d';

/**
 * The kernel of solids and voids, injected: core never loads WebAssembly by itself. Workers and the CLI
 * load `manifold-3d`, call its `setup()` and hand it over.
 */
export type SolidKernel = Pick<ManifoldToplevel, 'Manifold' | 'Mesh' | 'triangulate'>;
