import type { WebGLRenderer } from 'three';
import type { Batch } from '@rammer/core/cost/batches';
import { tally } from '@rammer/core/cost/tally';
import { choosePicture, usePicture, type Tier } from '../store/picture';
import type { drawOptions } from './drawOptions';
import { Governor, SLOWEST, type Quality, type Refining } from './governor';
import { fit, REST_FRAMES, type Done, type Painting, type Wanted } from './painting';
import { TierByFrames } from './tier';

/** What the last frame drew: the batch list's sums and the renderer's own count of the same pass. */
export interface Drawn {
  batches: Batch[];
  listed: { draws: number; triangles: number };
  counted: { draws: number; triangles: number };
  ratio: number;
}

/** The view, as its frames ask for it. */
export interface Framer {
  options: ReturnType<typeof drawOptions>;
  wanted(over: Partial<Wanted> & { coarseness: number; ratio: number }): Wanted;
  /** what is shown is measured, not lit: it is drawn plain */
  drawing(): boolean;
  /** a frame of the view is on the screen */
  onFrame(): void;
}

/** Frames of a view: when one is drawn, how finely, in which tier, and how a picture at rest refines. */
export class Frames {
  drawn?: Drawn;
  readonly governor: Governor;
  private readonly measured = new TierByFrames(usePicture.getState().last);
  private drawnAt = 0;
  /** frame of the refinement that is drawn in parts */
  private underWay?: { step: number; parts: Generator<void, unknown> };
  private readonly unchoose: () => void;

  constructor(
    private readonly renderer: WebGLRenderer,
    private readonly painting: Painting,
    private readonly view: Framer,
  ) {
    this.governor = new Governor(
      renderer.getContext() as WebGL2RenderingContext,
      (q) => this.draw(q),
      ({ whole }, resting, coarse) => {
        if (!resting) this.judge(whole, coarse);
        view.onFrame();
      },
      this.refining,
    );
    usePicture.setState({ able: painting.able });
    this.unchoose = usePicture.subscribe((s, before) => {
      if (s.choice !== before.choice || s.refine !== before.refine || s.moves !== before.moves) this.governor.request();
    });
  }

  /** Which tier the next frame is drawn in, after one took so long. */
  private judge(ms: number, coarse: boolean): void {
    if (usePicture.getState().choice === 'auto' && !this.view.drawing()) {
      const before = this.measured.now;
      this.measured.note(ms, coarse);
      if (this.measured.now !== before) choosePicture({ last: this.measured.now });
    }
    if (this.tier !== usePicture.getState().tier) usePicture.setState({ tier: this.tier });
  }

  private get tier(): Tier {
    const { choice } = usePicture.getState();
    return this.view.options.fixed || this.view.drawing() || !this.painting.able ? 'plain' : this.measured.of(choice);
  }

  private draw(asked: Quality): void {
    const quality = this.view.options.fixed ? SLOWEST : asked;
    const ratio = Math.max(0.5, quality.ratio * Math.min(devicePixelRatio, 1.5));
    const full = this.tier === 'full';
    if (full && !this.painting.ready) void this.painting.load();
    const now = performance.now();
    if (usePicture.getState().moves) this.painting.goOn((now - this.drawnAt) / 1000);
    this.drawnAt = now;
    const wanted = this.view.wanted({ coarseness: quality.coarseness, ratio, quick: quality.coarseness > 2, atRest: this.governor.atRest });
    fit(this.renderer, wanted.width, wanted.height, ratio);
    this.keep(full && this.painting.ready ? this.painting.onScreen(wanted) : this.painting.plain(wanted), ratio);
    this.painting.aids(wanted);
  }

  private keep({ batches, counted }: Done, ratio: number): void {
    const { all } = tally(batches);
    this.drawn = { batches, listed: { draws: all.draws, triangles: all.triangles }, counted, ratio };
  }

  /** Draws some of frame `step` of the picture at rest. @returns whether it is whole */
  private refine(step: number): boolean {
    const ratio = Math.min(devicePixelRatio, 1.5);
    const wanted = this.view.wanted({ coarseness: this.painting.software ? 1 : 0.6, ratio });
    if (this.underWay?.step !== step) {
      fit(this.renderer, wanted.width, wanted.height, ratio);
      this.underWay = { step, parts: this.painting.refined(wanted, step) };
    }
    // What is counted stays that of the better frame at rest: the wall does not move while a picture refines.
    if (!this.underWay.parts.next().done) return false;
    this.underWay = undefined;
    this.painting.aids(wanted);
    return true;
  }

  private get refining(): Refining {
    return {
      frames: () => {
        if (!usePicture.getState().refine || this.view.options.fixed || this.view.drawing() || !this.painting.able) return 0;
        if (this.painting.ready) return REST_FRAMES;
        void this.painting.load();
        return 0;
      },
      // A renderer in software cannot be stopped within a part: it begins when nobody seems to be about to do anything.
      wait: () => (this.painting.software ? 2500 : 200),
      draw: (step) => this.refine(step),
      onStep: (drawn) => {
        if (drawn === undefined) this.underWay = undefined;
        usePicture.setState({ refined: drawn === undefined ? undefined : Math.max(0, drawn - 1) });
      },
    };
  }

  dispose(): void {
    this.unchoose();
    this.governor.dispose();
    usePicture.setState({ refined: undefined, still: undefined });
  }
}
