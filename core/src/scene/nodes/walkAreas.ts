import type { BodyFigures } from '../../body/bodies';
import { marker, ofKind, playerBody, presentMarkers, presentPlants } from '../../level/level';
import type { Vec3 } from '../../num/vec';
import { compareDots } from '../../play/compareDots';
import type { BakeInput, Found } from '../bake';
import type { Dirt, Node } from '../node';
import type { Runner } from '../runner';
import type { DrawablesHost } from './drawables';
import type { WalkNode } from './walk';

/** Where a threat can go: the marker and its body by name, its walk area, and that laid over the player's. */
export interface ThreatArea {
  id: string;
  name: string;
  body: string;
  dots: Float32Array;
  compared: Float32Array;
}

/** The player's walk area with what the checks found in it, and those of the threats. */
export interface WalkAreas extends Found {
  threats: ThreatArea[];
  /** how many nav tiles were baked, and those of how many threats */
  baked: number;
}

export interface WalkAreasHost extends DrawablesHost {
  readonly walk: WalkNode;
}

/**
 * Where the player's body and the bodies of threats can walk. It is baked when somebody asks for it, only where something
 * changed, and stands as it was until then.
 */
export class WalkAreasNode implements Node {
  readonly name = 'walkAreas';
  readonly aspects = ['markers'] as const;
  readonly channels = [] as const;
  // Checks look at what the ground is made of.
  readonly from = ['walk', 'ground'] as const;

  value?: WalkAreas;
  /** what it depends on changed since it was baked */
  stale = true;
  /** share done, while it is baked */
  share?: number;
  private asked = 0;

  constructor(
    private readonly host: WalkAreasHost,
    private readonly runner: Runner,
  ) {}

  /** It is baked when somebody asks: nobody waits for it who waits for the scene. */
  readonly running = false;

  follow(): Dirt {
    this.stale = true;
    return true;
  }

  /**
   * Bakes what changed and looks for the way.
   *
   * @param onProgress told the share done; false stops
   * @returns whether it is done; not where it was cancelled, or asked for again meanwhile
   * @throws Error in words for the person
   */
  async bake(onProgress?: (share: number) => boolean | void): Promise<boolean> {
    const { level } = this.host;
    const mine = ++this.asked;
    this.stale = false;
    this.share = 0;
    const others = presentMarkers(level).flatMap((marked) => {
      const body = marked.marker === 'threat' && marked.body ? level.object(marked.body) : undefined;
      return body?.kind === 'body' ? [{ marked, body }] : [];
    });
    const tell = (bakes: number) => (share: number) => {
      if (mine !== this.asked) return false;
      this.share = (bakes + share) / (1 + others.length);
      return onProgress?.(this.share) !== false;
    };
    try {
      const { figures } = playerBody(level);
      const own = await this.runner.bake(this.input(figures, marker(level, 'entry')?.at, marker(level, 'objective')?.at, true), tell(0));
      if (!own || mine !== this.asked) {
        this.stale = true;
        return false;
      }
      const threats: ThreatArea[] = [];
      let { baked } = own;
      const snags = [...own.snags];
      for (const { marked, body } of others) {
        const other = await this.runner.bake({ ...this.input(body.figures, marked.at), looks: this.looks(body.name) }, tell(threats.length + 1));
        // What is baked stays known, so that a bake that goes on later has little left to do.
        if (!other) break;
        threats.push({ id: marked.id, name: marked.name, body: body.name, dots: other.dots, compared: compareDots(own.dots, other.dots) });
        // What one body sees is told once, whoever else sees it.
        for (const snag of other.snags) if (!snags.some((s) => s.code === snag.code && s.object === snag.object)) snags.push(snag);
        baked += other.baked;
      }
      this.value = { ...own, snags, threats, baked };
      return true;
    } catch (error) {
      this.stale = true;
      throw error;
    } finally {
      if (mine === this.asked) this.share = undefined;
    }
  }

  /** What may be seen into from where a body of this name gets to. */
  private looks(by: string): BakeInput['looks'] {
    const { pieces, list: placed, assets } = this.host.placed;
    return { pieces, placed, assets, by };
  }

  private input(body: BodyFigures, entry: Vec3 | undefined, objective?: Vec3, checks = false): BakeInput {
    const { level, terrain, waters, solids, placed, plants, ground, walk } = this.host;
    return {
      grid: terrain.value.grid,
      heights: terrain.value.heights,
      barred: walk.barred(body.wade).barred,
      plain: solids.plain.list,
      ...(walk.passed.size > 0 ? { passed: [...walk.passed] } : {}),
      solids: walk.meshes,
      body,
      entry,
      objective,
      ...(checks
        ? {
            checks: {
              ground: ground.raster,
              solids: solids.all,
              gaps: ofKind(level, 'gap'),
              playBounds: ofKind(level, 'playBounds'),
              voids: solids.voids,
              pieces: placed.pieces,
              placed: placed.list,
              assets: placed.assets,
              kits: ofKind(level, 'kit'),
              species: plants.species,
              plants: presentPlants(level),
              waters: waters.bodies,
            },
          }
        : {}),
    };
  }
}
