import { DataTexture, LinearFilter, NearestFilter } from 'three';
import { marker, playerBody, settingsOf } from '@rammer/core/level/level';
import { ruleAtHand, usePlanting } from '../store/planting';
import type { Session } from '../store/session';
import { earthWorker, growthWorker } from '../workers/pool';
import type { OverlayInput } from '../workers/overlays/paint';
import type { OverlayResult } from '../workers/overlayPicture';
import { pictureOf, type Pictured } from '../workers/overlays/index';

/** Least time between two pictures while the ground is worked, milliseconds. */
const APART_MS = 90;

/** Overlays of what grows. */
export const GROWN: ReadonlySet<string> = new Set<Pictured>(['growth rule', 'plant density']);

/** The picture an overlay lays on the ground, worked out again in the worker when the level changes. */
export class OverlayOnGround {
  /** what lies on the ground now */
  shown?: OverlayResult & { kind: Pictured };
  readonly texture = new DataTexture(new Uint8Array(4), 1, 1);
  private kind?: Pictured;
  private timer?: ReturnType<typeof setTimeout>;
  private running = false;
  private again = false;

  private readonly leave = usePlanting.subscribe((now, was) => {
    const others = now.species !== was.species || now.listed !== was.listed || now.habitat !== was.habitat || now.rule !== was.rule;
    if (others && this.kind === 'growth rule') this.refresh();
  });

  constructor(
    private readonly session: Session,
    private readonly changed: () => void,
  ) {}

  /** @param kind an overlay; anything that is no picture takes the picture away */
  set(kind: string): void {
    const next = pictureOf(kind) ? (kind as Pictured) : undefined;
    if (next === this.kind) return;
    this.kind = next;
    this.shown = undefined;
    this.changed();
    this.refresh();
  }

  /** The level changed, or is being worked. */
  refresh(): void {
    if (!this.kind) return;
    if (this.running) {
      this.again = true;
      return;
    }
    clearTimeout(this.timer);
    this.timer = setTimeout(() => void this.run(), APART_MS);
  }

  private async run(): Promise<void> {
    const { kind, session } = this;
    if (!kind) return;
    this.running = true;
    const { terrain, scene, level } = session;
    const { wade, maxSlope, eye } = playerBody(level).figures;
    const entry = marker(level, 'entry')?.at;
    try {
      const grown = GROWN.has(kind) ? await this.grown(kind) : {};
      const result = await earthWorker().overlay(kind, {
        terrain: { grid: terrain.grid, heights: terrain.heights, noise: new Map() },
        ground: scene.ground.raster,
        waters: scene.waters.bodies,
        before: session.before,
        wade,
        maxSlope,
        eye,
        home: entry && [entry[0], entry[2]],
        ...grown,
      });
      if (kind === this.kind) this.show(kind, result, terrain.grid.nx, terrain.grid.nz);
    } catch (error) {
      session.say(`the overlay could not be made: ${(error as Error).message}`, true);
    }
    this.running = false;
    if (this.again) {
      this.again = false;
      this.refresh();
    }
  }

  /** What an overlay shows of plants, as they grew last. */
  private async grown(kind: Pictured): Promise<Pick<OverlayInput, 'rule' | 'density' | 'ceiling'>> {
    const { level } = this.session;
    if (kind === 'plant density') return { density: await growthWorker().density(), ceiling: settingsOf(level).plantCeiling };
    const of = ruleAtHand(level);
    return { rule: of === undefined ? undefined : await growthWorker().shares(of) };
  }

  private show(kind: Pictured, result: OverlayResult, nx: number, nz: number): void {
    this.shown = { ...result, kind };
    this.texture.image = { data: result.picture, width: nx, height: nz } as never;
    // Classes have edges; what runs on is smooth.
    this.texture.magFilter = pictureOf(kind)?.smooth ? LinearFilter : NearestFilter;
    this.texture.unpackAlignment = 1;
    this.texture.dispose();
    this.texture.needsUpdate = true;
    this.changed();
  }

  dispose(): void {
    clearTimeout(this.timer);
    this.leave();
    this.kind = undefined;
    this.texture.dispose();
  }
}
