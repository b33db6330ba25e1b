import { wholeRect, type Rect } from '@rammer/core/earth/rect';
import { touches } from '@rammer/core/level/kinds/index';
import type { Grid } from '@rammer/core/level/tiles';
import type { SceneChange } from '@rammer/core/scene/scene';

/** What changed, for those who draw or compute from the level. */
export interface LevelChange {
  /** touched samples of the terrain; `undefined` none */
  rect?: Rect;
  /** touched samples of the ground's paint */
  ground?: Rect;
  blocks: boolean;
  pieces: boolean;
  waters: boolean;
  /** plants were grown anew, or their species are others */
  plants: boolean;
  objects: boolean;
  /** kinds of the objects that changed */
  kinds: ReadonlySet<string>;
  /** whether what the walk area and the checks are made from may have changed */
  play: boolean;
}

/** What a change of the scene means to those who look at a level. @param grid as it is now */
export function changeOf({ kinds, dirt, drawn }: SceneChange, grid: Grid): LevelChange {
  const rect = (of: 'terrain' | 'ground') => (dirt.get(of) === true ? wholeRect(grid) : (dirt.get(of) as Rect | undefined));
  return {
    rect: rect('terrain'),
    ground: rect('ground'),
    blocks: dirt.has('solids'),
    pieces: dirt.has('placed') || touches(kinds, 'standing'),
    waters: dirt.has('waters'),
    plants: dirt.has('plants'),
    objects: kinds.size > 0,
    kinds,
    play: !drawn && dirt.has('walkAreas'),
  };
}
