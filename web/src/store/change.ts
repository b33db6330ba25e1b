import type { Rect } from '@rammer/core/earth/compose';

/** What changed, for those who draw or compute from the level. */
export interface LevelChange {
  /** touched samples of the terrain; `undefined` none */
  rect?: Rect;
  blocks: boolean;
  objects: boolean;
  /** kinds of the objects that changed; any where absent */
  kinds?: ReadonlySet<string>;
  /** touched samples of the ground's paint */
  ground?: Rect;
  pieces?: boolean;
  /** waters that a worker filled lie now */
  waters?: boolean;
  /** plants were grown anew */
  plants?: boolean;
  /** whether what the walk area and the checks are made from may have changed */
  play: boolean;
}
