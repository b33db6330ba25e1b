import { coatsOf } from '@rammer/core/coat/coats';
import type { Drawable } from '@rammer/core/cost/drawable';
import { instanceDrawables, PieceCells, type InstanceCell } from '@rammer/core/cost/instances';
import { plantCells } from '@rammer/core/cost/plantCells';
import type { Plants } from '@rammer/core/growth/plants';
import type { Piece, Species } from '@rammer/core/level/objects';
import { presentOf } from '@rammer/core/level/present';
import type { Mark } from '@rammer/core/num/journal';
import type { Session } from '../store/session';

/** Pieces as the view shows them: those that changed, and those that are dragged, are put into their cells; the rest stay. */
export class ShownPieces {
  private readonly pieces = new PieceCells();
  private mark?: Mark;
  private assets = -1;
  private dragged?: ReadonlyMap<string, Piece>;
  private alone?: ReadonlySet<string>;

  constructor(private readonly session: () => Session) {}

  /** @param dragged shown other than they are, or not there yet @param alone shows these only */
  cells(dragged: ReadonlyMap<string, Piece> | undefined, alone: ReadonlySet<string> | undefined): readonly InstanceCell[] {
    const { level, scene } = this.session();
    const present = presentOf(level.objects);
    const { ids, mark } = present.since(this.mark);
    const all = ids === undefined || alone !== this.alone || scene.placed.assetsRevision !== this.assets;
    const show = (id: string): void => {
      const own = dragged?.get(id) ?? present.get(id);
      const seen = own?.kind === 'piece' && !own.hidden && (!alone || alone.has(id));
      this.pieces.set(id, seen ? own : undefined);
    };
    if (all) {
      this.pieces.clear();
      for (const p of scene.placed.pieces) show(p.id);
    } else for (const id of ids) show(id);
    for (const id of new Set([...(this.dragged?.keys() ?? []), ...(dragged?.keys() ?? [])])) show(id);
    [this.mark, this.assets, this.dragged, this.alone] = [mark, scene.placed.assetsRevision, dragged, alone];
    return this.pieces.list(scene.placed.assets);
  }

  /** What was given last, as the batch list sees it. */
  drawables(names: Parameters<PieceCells['drawables']>[1]): readonly Drawable[] {
    return this.pieces.drawables(this.session().scene.placed.assets, names, coatsOf(this.session().level));
  }
}

/** Plants by cells, made anew only when they grew anew, or their species or meshes are others. */
export class ShownPlants {
  private of?: { grown: readonly Plants[]; species: readonly Species[]; assets: number; hidden: string };
  private made: InstanceCell[] = [];

  constructor(private readonly session: () => Session) {}

  drawables(names: Parameters<PieceCells['drawables']>[1]): Drawable[] {
    return instanceDrawables(this.made, this.session().scene.placed.assets, names);
  }

  cells(): readonly InstanceCell[] {
    const { scene, level } = this.session();
    const { plants, placed } = scene;
    const { grown, species } = plants;
    const assets = placed.assetsRevision;
    const ids = presentOf(level.objects)
      .of('plant')
      .filter((p) => p.hidden)
      .map((p) => p.id);
    const hidden = ids.join();
    const of = this.of;
    const same =
      of &&
      of.hidden === hidden &&
      of.grown === grown &&
      of.assets === assets &&
      of.species.length === species.length &&
      species.every((s, i) => s === of.species[i]);
    if (!same) {
      this.of = { grown, species, assets, hidden };
      this.made = plantCells(grown, scene.plants.byId, scene.placed.assets, 'seen', new Set(ids));
    }
    return this.made;
  }
}
