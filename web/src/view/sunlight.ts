import { crowns } from '@rammer/core/growth/crowns';
import type { Lighting } from '@rammer/core/level/objects';
import type { Grid } from '@rammer/core/level/tiles';
import type { Terrain } from '@rammer/core/earth/compose';
import { HostsTeller } from '@rammer/core/scene/hosts';
import type { Session } from '../store/session';
import { earthWorker } from '../workers/pool';

const DELAY_MS = 160;

/** Sun and sky on tops and on the ground under them, and what is roofed over; see the worker. */
export type Light = Awaited<ReturnType<ReturnType<typeof earthWorker>['sunlit']>>;

/** Shadows and open sky of a level: worked out again in the worker once it has been still for a moment. */
export class Sunlight {
  private timer?: ReturnType<typeof setTimeout>;
  private ticket = 0;
  private readonly hosts: HostsTeller;

  /** @param shine takes the light of the whole level, as the worker gives it */
  constructor(
    private readonly session: Session,
    private readonly lighting: () => Lighting,
    private readonly shine: (light: Light, grid: Grid) => void,
  ) {
    this.hosts = new HostsTeller(session.scene);
  }

  schedule(): void {
    clearTimeout(this.timer);
    this.timer = setTimeout(() => void this.run(), DELAY_MS);
  }

  private async run(): Promise<void> {
    const {
      terrain: { grid, heights },
      scene,
    } = this.session;
    const ticket = ++this.ticket;
    // Ridges behind the level throw no shadow into it.
    const unlit = new Set([...scene.placed.pieces, ...scene.solids.all].filter((p) => p.hidden || (p.kind === 'block' && p.background)).map((p) => p.id));
    const light = await earthWorker().sunlit({
      grid,
      heights,
      hosts: this.hosts.tell(),
      unlit,
      crowns: crowns(scene.plants.grown, scene.plants.byId, scene.placed.assets),
      sun: this.lighting().sun,
    });
    const now: Terrain = this.session.terrain;
    if (ticket === this.ticket && now.grid.nx === grid.nx && now.grid.nz === grid.nz) this.shine(light, grid);
  }

  dispose(): void {
    clearTimeout(this.timer);
    this.ticket++;
  }
}
