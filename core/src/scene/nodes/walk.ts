import type { PlacedMesh } from '../../block/placedMesh';
import { barred } from '../../earth/water';
import { trunkColliders } from '../../growth/trunks';
import { pieceColliders } from '../../kit/placement';
import { isMade, ownerOf } from '../../level/instance';
import { settingsOf } from '../../level/level';
import type { Block } from '../../level/objects';
import { presentOf } from '../../level/present';
import type { Dirt, Node } from '../node';
import type { DrawablesHost } from './drawables';

/** What a body walks on and is stopped by. Movers come by themselves, so nothing may count on standing on one. Made when it is asked for. */
export class WalkNode implements Node {
  readonly name = 'walk';
  // What groups count is said in the settings.
  readonly aspects = ['markers'] as const;
  readonly channels = [] as const;
  readonly from = ['terrain', 'waters', 'solids', 'placed', 'plants'] as const;
  readonly running = false;

  private stands?: readonly Block[];
  private stops?: readonly PlacedMesh[];
  private shapes?: readonly PlacedMesh[];
  private through?: ReadonlySet<string>;

  constructor(private readonly host: DrawablesHost) {}

  follow(): Dirt {
    this.stands = this.stops = this.shapes = this.through = undefined;
    return true;
  }

  /** Plain blocks that stay where they are, sorted by id. */
  get blocks(): readonly Block[] {
    return (this.stands ??= this.host.solids.plain.list.filter((b) => !b.stops && !b.background && !this.passed.has(b.id)));
  }

  /** Ids of what counts for no walk area, for its group does not: pieces and blocks, those of copies and lines too. */
  get passed(): ReadonlySet<string> {
    if (this.through) return this.through;
    const { level } = this.host;
    const groups = new Set(settingsOf(level).walkedThrough);
    const present = presentOf(level.objects);
    const inGroup = (o: { id: string; group?: string }) => {
      const owner = isMade(o.id) ? level.object(ownerOf(o.id)) : undefined;
      return groups.has(o.group ?? '') || (owner !== undefined && 'group' in owner && groups.has(owner.group ?? ''));
    };
    const ids = groups.size === 0 ? [] : [...present.of('piece'), ...present.of('block')].filter(inGroup).map((o) => o.id);
    return (this.through = new Set(ids));
  }

  /** Pieces, built blocks and trunks as they stop a body that walks. */
  get meshes(): readonly PlacedMesh[] {
    const { passed } = this;
    return (this.stops ??= passed.size === 0 ? this.all : this.all.filter((m) => !passed.has(m.id)));
  }

  /** The same, of groups that count for no walk area too: what is thrown lies on them. */
  get all(): readonly PlacedMesh[] {
    const { solids, placed, plants } = this.host;
    return (this.shapes ??= [
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
