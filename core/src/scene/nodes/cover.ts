import type { Drawable } from '../../cost/drawable';
import { CoverRound } from '../../cost/coverRound';
import { instanceDrawables, type InstanceCell } from '../../cost/instances';
import { assetHeights, owners } from '../../cost/parts';
import type { CoverInput } from '../../growth/cover/coverCell';
import { coverSpecies } from '../../growth/cover/coverSpecies';
import type { Rect } from '../../earth/rect';
import { hostsOf } from '../../growth/spot';
import { ofKind } from '../../level/level';
import type { Species } from '../../level/objects';
import type { Vec3 } from '../../num/vec';
import type { Dirt, Host, News, Node } from '../node';
import type { GroundNode } from './ground';
import type { PlacedNode } from './placed';
import type { PlantsNode } from './plants';
import type { SolidsNode } from './solids';
import type { TerrainNode } from './terrain';
import type { WatersNode } from './waters';

export interface CoverHost extends Host {
  readonly terrain: TerrainNode;
  readonly waters: WatersNode;
  readonly ground: GroundNode;
  readonly solids: SolidsNode;
  readonly placed: PlacedNode;
  readonly plants: PlantsNode;
}

/** What covers the ground round eyes. Made where an eye asks for it, kept while nothing it is made from is another. */
export class CoverNode implements Node {
  readonly name = 'cover';
  readonly aspects = ['cover', 'surface', 'plants'] as const;
  readonly channels = [] as const;
  readonly from = ['terrain', 'waters', 'solids', 'placed', 'ground'] as const;
  readonly running = false;

  /** counts what is another */
  revision = 0;
  private made?: CoverRound;
  private assetsRevision = -1;

  constructor(private readonly host: CoverHost) {}

  follow({ dirt, kinds, resized, whole }: News): Dirt | undefined {
    const all =
      resized ||
      whole !== undefined ||
      ['cover', 'surface', 'species', 'asset'].some((k) => kinds.has(k)) ||
      (['waters', 'solids', 'placed'] as const).some((n) => dirt.has(n));
    const parts = [dirt.get('terrain'), dirt.get('ground')].filter((d) => d !== undefined);
    // A plant that is set by hand covers nothing.
    if (!all && parts.length === 0) return undefined;
    this.revision++;
    if (all) this.made = undefined;
    else
      for (const d of parts) {
        if (d === true) this.made = undefined;
        else this.made?.forget(d);
      }
    return true;
  }

  /** Ground that is being painted: what covers it there is made anew before the stroke ends. @param rect samples */
  forget(rect: Rect): void {
    this.made?.forget(rect);
    this.revision++;
  }

  private get round(): CoverRound {
    const { placed, plants } = this.host;
    if (!this.made || this.assetsRevision !== placed.assetsRevision) this.made = this.roundOf(plants.species);
    this.assetsRevision = placed.assetsRevision;
    return this.made;
  }

  private roundOf(species: readonly Species[]): CoverRound {
    const { level, terrain, waters, ground, solids, placed } = this.host;
    const standable = { blocks: solids.plain.grid, meshes: placed.scene.grid };
    const input: CoverInput = {
      ...standable,
      // Heights, surfaces and waters that come later are seen too: only what is forgotten is made anew.
      get terrain() {
        return terrain.value;
      },
      get ground() {
        return ground.raster;
      },
      get waters() {
        return waters.bodies;
      },
      hosts: hostsOf({ ...standable, terrain: terrain.value }),
    };
    const { ox, oz } = terrain.value.grid;
    const given = { surfaces: ground.raster.surfaces.map((s) => s.id), heights: assetHeights(placed.assets), origin: [ox, oz] as const };
    return new CoverRound(input, coverSpecies(ofKind(level, 'cover'), species, given), placed.assets);
  }

  get any(): boolean {
    return this.round.any;
  }

  /** What covers the ground round an eye, see `CoverRound.around`. */
  around(eye: Vec3, most?: number): { cells: InstanceCell[]; left: number } {
    return this.round.around(eye, most);
  }

  /** What of it is there at some eyes, each cell once. @param species in the place of the level's own */
  cells(eyes: readonly Vec3[], species?: readonly Species[]): InstanceCell[] {
    const round = species ? this.roundOf(species) : this.round;
    if (!round.any) return [];
    return [...new Map(eyes.flatMap((eye) => round.around(eye).cells.map((c) => [c.key, c] as const))).values()];
  }

  /** The same as it is drawn. */
  drawables(eyes: readonly Vec3[], species?: readonly Species[]): Drawable[] {
    const names = species ? new Map(species.map((s) => [s.id, s])) : owners(this.host.level);
    return instanceDrawables(this.cells(eyes, species), this.host.placed.assets, names);
  }
}
