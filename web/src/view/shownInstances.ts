import type { Camera } from '@rammer/core/cost/camera';
import type { Drawable } from '@rammer/core/cost/drawable';
import { instanceDrawables, type InstanceCell } from '@rammer/core/cost/instances';
import { owners } from '@rammer/core/cost/parts';
import { plantCells } from '@rammer/core/cost/plantCells';
import type { Plants } from '@rammer/core/growth/plants';
import type { Piece, Species } from '@rammer/core/level/objects';
import type { Vec3 } from '@rammer/core/num/vec';
import type { Session } from '../store/session';
import type { InstanceView } from './instanceView';
import { ShownCover } from './shownCover';
import { ShownPieces, ShownPlants } from './shownPieces';

/** Plants in the place of those that grow, and the species they are of. */
export interface OtherPlants {
  grown: readonly Plants[];
  species: readonly Species[];
}

/** What stands and grows as it is seen: pieces, plants, and what covers the ground round the eye. */
export class ShownInstances {
  private parts: readonly Drawable[] = [];
  private cells: readonly InstanceCell[] = [];
  private coverParts: readonly Drawable[] = [];
  private readonly cover: ShownCover;
  private readonly pieces: ShownPieces;
  private readonly plants: ShownPlants;
  private preview?: Map<string, Piece>;
  private alone?: ReadonlySet<string>;
  /** of a picture of what is not there */
  private others?: readonly Drawable[];

  constructor(
    private readonly session: () => Session,
    private readonly view: InstanceView,
  ) {
    this.cover = new ShownCover(session);
    this.pieces = new ShownPieces(session);
    this.plants = new ShownPlants(session);
  }

  /** Takes in what stands and grows now. */
  refresh(): void {
    this.cells = [...this.pieces.cells(this.preview, this.alone), ...this.plants.cells()];
    const names = owners(this.session().level);
    this.parts = [...this.pieces.drawables(names), ...this.plants.drawables(names)];
    this.show(names);
  }

  private show(names = owners(this.session().level)): void {
    const { plants, placed } = this.session().scene;
    const cover = this.cover.cells;
    this.view.update([...this.cells, ...cover], placed.assets, new Map(plants.species.map((s) => [s.id, s])));
    this.coverParts = instanceDrawables(cover, placed.assets, names);
  }

  /**
   * What covers the ground follows the eye: it alone is another as the eye moves. From above, where all of the level is seen, there is
   * no near and far, and none of it.
   *
   * @param whole all of it at once, beside what is there: for a picture from another eye
   * @returns whether more is to come
   */
  follow(camera: Camera, whole: boolean): boolean {
    if (camera.fov === 0 || this.others) return false;
    const { changed, more } = this.cover.follow(camera.eye, whole);
    if (changed) this.show();
    return more;
  }

  /** As the batch list sees them from a camera. */
  drawables(camera: Camera): readonly Drawable[] {
    if (this.others) return this.others;
    return camera.fov === 0 ? this.parts : [...this.parts, ...this.coverParts];
  }

  /** These pieces only; `undefined` shows all. @returns whether that is another */
  isolate(ids?: ReadonlySet<string>): boolean {
    if (ids === this.alone) return false;
    this.alone = ids;
    this.refresh();
    return true;
  }

  /** Pieces shown other than they are; `undefined` ends it. @returns whether there is anything to show or to end */
  previewPieces(pieces?: Map<string, Piece>): boolean {
    if (!pieces && !this.preview) return false;
    this.preview = pieces;
    this.refresh();
    return true;
  }

  /** Shows other plants than grow while something is painted, with what would cover the ground round an eye. */
  with<T>(other: OtherPlants, eye: Vec3, paint: () => T): T {
    const { level, scene } = this.session();
    const { assets } = scene.placed;
    const byId = new Map(other.species.map((s) => [s.id, s]));
    const names = new Map([...owners(level), ...byId]);
    const cover = scene.cover.cells([eye], other.species).filter((c) => !byId.get(c.owner)?.hidden);
    const cells = [...plantCells(other.grown, byId, assets, 'seen'), ...cover];
    const standing = this.pieces.cells(this.preview, this.alone);
    this.others = [...this.pieces.drawables(names), ...instanceDrawables(cells, assets, names)];
    try {
      this.view.update([...standing, ...cells], assets, byId);
      return paint();
    } finally {
      this.others = undefined;
      this.refresh();
    }
  }
}
