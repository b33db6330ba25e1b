import type { IUniform, Scene } from 'three';
import type { Drawable } from '@rammer/core/cost/drawable';
import type { Bounds } from '@rammer/core/light/cascades';

/** The level as the full picture asks for it. */
export interface Staged {
  scene: Scene;
  shared: Record<string, IUniform>;
  /** turns eye and shaders to the frame's camera */
  look(): void;
  /** shows these and nothing else, each at its LOD */
  show(lods: ReadonlyMap<string, number>): void;
  /** after `show`: what changed its LOD gives way to the next; where it refines everything is whole */
  fade(refining: boolean): void;
  /** all that may throw shadows, at the LODs it is seen at */
  casters: readonly { drawable: Drawable; lod: number }[];
  bounds: Bounds;
  /** figures that throw shadows; not in stills */
  people?: Scene;
}
