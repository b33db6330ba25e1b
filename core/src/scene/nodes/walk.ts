import type { PlacedMesh } from '../../block/placedMesh';
import { barred } from '../../earth/water';
import { trunkColliders } from '../../growth/trunks';
import { pieceColliders } from '../../kit/placement';
import type { Block } from '../../level/objects';
import type { Dirt, Node } from '../node';
import type { DrawablesHost } from './drawables';

/** What a body walks on and is stopped by. Movers come by themselves, so nothing may count on standing on one. Made when it is asked for. */
export class WalkNode implements Node {
  readonly name = 'walk';
  readonly aspects = [] as const;
  readonly channels = [] as const;
  readonly from = ['terrain', 'waters', 'solids', 'placed', 'plants'] as const;
  readonly running = false;

  private stands?: readonly Block[];
  private stops?: readonly PlacedMesh[];

  constructor(private readonly host: DrawablesHost) {}

  follow(): Dirt {
    this.stands = this.stops = undefined;
    return true;
  }

  /** Plain blocks that stay where they are, sorted by id. */
  get blocks(): readonly Block[] {
    return (this.stands ??= this.host.solids.plain.list.filter((b) => !b.stops && !b.background));
  }

  /** Pieces, built blocks and trunks as they stop a body. */
  get meshes(): readonly PlacedMesh[] {
    const { solids, placed, plants } = this.host;
    return (this.stops ??= [
      ...pieceColliders(placed.pieces, placed.assets),
      ...placed.list.filter((m) => m.of === 'block' && !solids.apart.has(m.id)),
      ...trunkColliders(plants.grown, plants.byId, placed.assets),
    ]);
  }

  /** The terrain's heights where a body may be, see `barred`. @param wade metres of water it walks through */
  barred(wade: number): ReturnType<typeof barred> {
    return barred(this.host.terrain.value, this.host.waters.bodies, wade);
  }
}
