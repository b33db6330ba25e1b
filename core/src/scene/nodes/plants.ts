import { assetHeights, assetWidths } from '../../cost/parts';
import type { GrowthInput } from '../../growth/grow';
import { unitedTouched, type Touched } from '../../growth/growthDirt';
import type { Plants } from '../../growth/plants';
import { upright } from '../../growth/upright';
import { whereKinds } from '../../growth/where';
import { habitatsOf, ofKind, playerBody, presentMarkers, presentPlants, settingsOf, speciesOf } from '../../level/level';
import type { Habitat, Species } from '../../level/objects';
import { parseTileKey, type Tiles } from '../../level/tiles';
import type { Dirt, Host, News, Node } from '../node';
import { doorwaysOf } from '../doorways';
import { HostsTeller } from '../hosts';
import { outlinesOf } from '../outlines';
import type { PlantsInput } from '../plantsInput';
import { Run } from '../run';
import type { Runner } from '../runner';
import type { GroundNode } from './ground';
import type { PlacedNode } from './placed';
import type { SolidsNode } from './solids';
import type { TerrainNode } from './terrain';
import type { WatersNode } from './waters';

interface PlantsHost extends Host {
  readonly terrain: TerrainNode;
  readonly waters: WatersNode;
  readonly ground: GroundNode;
  readonly solids: SolidsNode;
  readonly placed: PlacedNode;
}

/** Rasters that no height is composed from. */
const SURFACE: ReadonlySet<string> = new Set(['paint', 'top', 'sown', 'area']);
/** Of rasters what plants go by alone: what is sown, and what is painted of habitats. */
const own = (key: string): boolean => key.includes('/sown/') || key.includes('/area/');

/** Every plant of a level, grown by the runner; they stand as they were until it is done. */
export class PlantsNode implements Node {
  readonly name = 'plants';
  readonly aspects = ['plants', 'markers'] as const;
  readonly channels = ['sown', 'area'] as const;
  readonly from = ['terrain', 'waters', 'solids', 'placed', 'ground'] as const;

  grown: Plants[] = [];
  /** those that are in the level, earliest first, as they grow: what is open below stands upright */
  species: readonly Species[] = [];
  byId: ReadonlyMap<string, Species> = new Map();
  /** those that are on, earliest first */
  habitats: readonly Habitat[] = [];
  /** what the last growing did, in words */
  summary = '';
  /** tiles of a stroke that is being drawn */
  private drawn?: Tiles;
  private ceiling?: number;
  /** what `species` are of */
  private told: readonly Species[] = [];
  private assetsRevision = -1;
  /** samples that what grew last was not grown from */
  private touched: Touched = 'all';
  private readonly hosts: HostsTeller;
  private readonly run: Run;

  constructor(
    private readonly host: PlantsHost,
    private readonly runner: Runner,
  ) {
    this.hosts = new HostsTeller(host);
    this.run = new Run(
      (overtaken) => this.grow(overtaken),
      (error) => {
        this.summary = 'not grown';
        // What the grower has of the hosts is not known any more.
        this.hosts.forget();
        if (!host.closed) host.fail(`plants were not grown: ${error.message}`);
      },
    );
  }

  get running(): boolean {
    return this.run.running;
  }
  settled(): Promise<void> {
    return this.run.settled();
  }

  follow(news: News): Dirt | undefined {
    const sown = news.tiles.some(own);
    const others = this.takeSpecies();
    this.habitats = habitatsOf(this.host.level);
    const marked = news.touches('markers') && (['marker', 'outline', 'walk'] as const).some((k) => whereKinds(this.species, this.habitats).has(k));
    const ceiling = settingsOf(this.host.level).plantCeiling;
    const held = ceiling !== this.ceiling;
    this.ceiling = ceiling;
    if (held || news.dirt.size > 0 || sown || others || marked || news.touches('plants')) this.regrow();
    // Tints, names and cut-offs count before anything has grown.
    return others ? true : undefined;
  }

  /** Grows them again; a later call overtakes an earlier one. @param drawn tiles of a stroke that is being drawn */
  regrow(drawn?: Tiles): void {
    this.drawn = drawn;
    this.run.ask();
  }

  private takeSpecies(): boolean {
    const now = speciesOf(this.host.level);
    const { placed } = this.host;
    const same = now.length === this.told.length && now.every((s, i) => s === this.told[i]);
    if (same && placed.assetsRevision === this.assetsRevision) return false;
    this.assetsRevision = placed.assetsRevision;
    const stood = new Map(this.told.map((s, i) => [s, this.species[i]]));
    this.species = now.map((s) => {
      const grows = upright(s, placed.assets);
      const before = stood.get(s);
      return before?.lean === grows.lean ? before : grows;
    });
    this.told = now;
    this.byId = new Map(this.species.map((s) => [s.id, s]));
    return !same;
  }

  private async grow(overtaken: () => boolean): Promise<void> {
    await this.runner.pause?.();
    if (overtaken() || this.host.closed) return;
    const { level, terrain, ground, waters, placed } = this.host;
    const { species, habitats } = this;
    // Until it has grown from it, what was touched before counts too.
    const touched = (this.touched = unitedTouched(this.touched, ground.takeTouched()));
    const grown =
      species.length === 0
        ? []
        : await this.runner.grow({
            grid: terrain.value.grid,
            heights: terrain.value.heights,
            ground: ground.raster,
            waters: waters.bodies,
            touched,
            species,
            ...(habitats.length > 0 ? { habitats } : {}),
            assetHeights: assetHeights(placed.assets),
            ...(whereKinds(species, habitats).has('canopy') ? { assetWidths: assetWidths(placed.assets) } : {}),
            plants: presentPlants(level),
            hosts: this.hosts.tell(),
            ...this.where(),
            ...(this.ceiling === undefined ? {} : { ceiling: this.ceiling }),
          });
    if (overtaken() || this.host.closed) return;
    if (species.length > 0) this.touched = 'none';
    const over = grown.reduce((n, g) => n + (g.over ?? 0), 0);
    const hand = grown.reduce((n, g) => n + g.hand.length, 0);
    this.summary = `grown ${grown.reduce((n, g) => n + g.count, 0) - hand}, kept ${hand} by hand${over > 0 ? `, ${over} kept out by the ceiling` : ''}`;
    this.grown = grown;
    this.host.spread('plants', true);
  }

  /** All that plants grow from as the level is now, for who looks at it in place. */
  input(): GrowthInput {
    const { level, terrain, ground, waters, placed, solids } = this.host;
    return {
      terrain: terrain.value,
      ground: ground.raster,
      blocks: solids.plain.grid,
      meshes: placed.scene.grid,
      waters: waters.bodies,
      species: this.species,
      habitats: this.habitats,
      assetHeights: assetHeights(placed.assets),
      assetWidths: assetWidths(placed.assets),
      plants: presentPlants(level),
      tiles: level.tiles,
      stack: terrain.stack,
      markers: presentMarkers(level),
      doorways: this.doorways(),
      outlines: outlinesOf(level),
      walker: playerBody(level).figures,
      ...(this.ceiling === undefined ? {} : { ceiling: this.ceiling }),
    };
  }

  private doorways(): [x: number, z: number][] {
    const { level, terrain, placed, solids } = this.host;
    return doorwaysOf({ pieces: placed.pieces, kits: ofKind(level, 'kit'), assets: placed.assets, blocks: solids.all, terrain: terrain.value });
  }

  /** What was sown, and what rules go by that not all do: lifts, what weathering left, markers, doorways, outlines, who walks. */
  private where(): Pick<PlantsInput, 'sown' | 'stack' | 'noise' | 'markers' | 'doorways' | 'outlines' | 'walker'> {
    const { level, terrain } = this.host;
    const kinds = whereKinds(this.species, this.habitats);
    const marks = [...kinds].filter((k) => k === 'scour' || k === 'settle' || k === 'runoff');
    // What a lift raises is composed again from all that is under it.
    const wanted = (channel: string) => (kinds.has('lift') ? !SURFACE.has(channel) : marks.some((m) => m === channel));
    const left = kinds.has('lift') || marks.length > 0 ? [...level.tiles].filter(([key]) => wanted(parseTileKey(key)!.channel)) : [];
    return {
      sown: [...this.sown(), ...left],
      ...(marks.length > 0 || kinds.has('route') || kinds.has('lift') ? { stack: terrain.stack } : {}),
      ...(kinds.has('lift') ? { noise: terrain.value.noise } : {}),
      ...(kinds.has('doorway') ? { doorways: this.doorways() } : {}),
      ...(kinds.has('walk') ? { walker: playerBody(level).figures } : {}),
      ...(kinds.has('outline') ? { outlines: outlinesOf(level) } : {}),
      ...(kinds.has('marker') ? { markers: presentMarkers(level).map(({ at, marker }) => ({ at, marker })) } : {}),
    };
  }

  private sown(): [string, Int32Array][] {
    const { tiles } = this.host.level;
    const from = this.drawn ?? tiles;
    const keys = [...new Set([...tiles.keys(), ...(this.drawn?.keys() ?? [])])].filter(own);
    return keys.flatMap((k): [string, Int32Array][] => {
      const tile = from.get(k);
      return tile ? [[k, tile]] : [];
    });
  }
}
