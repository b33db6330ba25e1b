/**
 * The governor: one frame in flight, timed by a fence (`render()` returns long before a software frame
 * ends). Slow frames lower the pixel ratio (to 0.5 at least), let LODs change nearer and mix fewer
 * surfaces; at rest one better frame is drawn, and then the picture is refined frame by frame.
 */
export interface Quality {
  ratio: number;
  coarseness: number;
}

const LADDER: readonly Quality[] = [
  { ratio: 1, coarseness: 1 },
  { ratio: 1, coarseness: 1.6 },
  { ratio: 0.85, coarseness: 2 },
  { ratio: 0.7, coarseness: 2.4 },
  { ratio: 0.6, coarseness: 3 },
  { ratio: 0.5, coarseness: 4 },
];

/** what a software renderer comes down to in motion */
export const SLOWEST = LADDER[LADDER.length - 1];

/** A machine that had to go far down the ladder also rests with fewer triangles: about 40,000 in the demo. */
const REST_OF_SLOW: Quality = { ratio: 1, coarseness: 1.5 };

const SLOW_MS = 120;
const FAST_MS = 45;
const REST_MS = 350;

/** A view at rest: its better frame first, then the frames of a picture that refines, from 0. */
type Rest = 'better' | number;

/** How a picture at rest is refined. */
export interface Refining {
  /** frames; 0 for none */
  frames(): number;
  /** milliseconds of rest before the first */
  wait(): number;
  /** Draws some of a frame. @returns whether it is whole */
  draw(step: number): boolean;
  /** so many are drawn; `undefined`: the view moves again */
  onStep(drawn?: number): void;
}

export interface FrameTime {
  /** from the start of our own work to the fence, ms */
  whole: number;
  /** our own work before the draw calls were handed over, ms */
  own: number;
}

export class Governor {
  private rung = 2;
  private fence: WebGLSync | null = null;
  private wanted = false;
  private rest?: Rest;
  private held = false;
  private restTimer?: ReturnType<typeof setTimeout>;
  private fastRun = 0;
  /** the last frames, oldest first, and how many there were in all */
  readonly times: FrameTime[] = [];
  count = 0;

  constructor(
    private readonly gl: WebGL2RenderingContext,
    private readonly draw: (quality: Quality) => void,
    private readonly onFrame: (time: FrameTime, resting: boolean, coarse: boolean) => void,
    private readonly refining?: Refining,
  ) {}

  /** how long the last frame took, ms */
  get lastMs(): number {
    return this.times[this.times.length - 1]?.whole ?? 0;
  }

  /** whether the frame being drawn, or drawn last, is the better one at rest */
  get atRest(): boolean {
    return this.rest !== undefined;
  }

  get quality(): Quality {
    return this.atRest ? (this.rung < 4 ? LADDER[0] : REST_OF_SLOW) : LADDER[this.rung];
  }

  /** Asks for a frame; while one is in flight the wish is kept. */
  request(): void {
    this.wanted = true;
    if (typeof this.rest === 'number') this.refining?.onStep();
    this.rest = undefined;
    clearTimeout(this.restTimer);
    if (!this.fence) this.schedule();
  }

  /** Draws nothing until it is let go: somebody else has the renderer. What was asked for meanwhile is drawn then. */
  hold(held: boolean): void {
    this.held = held;
    if (!held) this.request();
  }

  private scheduled = 0;
  private schedule(): void {
    if (this.scheduled) return;
    this.scheduled = requestAnimationFrame(() => {
      this.scheduled = 0;
      if (!this.fence && this.wanted && !this.held) this.frame();
    });
  }

  private frame(): void {
    this.wanted = false;
    const start = performance.now();
    const rest = this.rest;
    let whole = true;
    if (typeof rest === 'number') whole = this.refining!.draw(rest);
    else this.draw(this.quality);
    const own = performance.now() - start;
    this.fence = this.gl.fenceSync(this.gl.SYNC_GPU_COMMANDS_COMPLETE, 0);
    this.gl.flush();
    const poll = () => {
      if (!this.fence) return;
      const status = this.gl.getSyncParameter(this.fence, this.gl.SYNC_STATUS) as number;
      if (status !== this.gl.SIGNALED && performance.now() - start < 4000) {
        setTimeout(poll, 4);
        return;
      }
      this.gl.deleteSync(this.fence);
      this.fence = null;
      if (typeof rest === 'number') {
        if (this.rest === rest && whole) this.refining!.onStep(rest + 1);
      } else this.timed({ whole: performance.now() - start, own }, rest === 'better');
      if (this.wanted) this.schedule();
      else this.goOn(rest, whole);
    };
    setTimeout(poll, 0);
  }

  private timed(time: FrameTime, resting: boolean): void {
    this.count++;
    this.times.push(time);
    if (this.times.length > 240) this.times.shift();
    if (!resting) this.adapt(time.whole);
    this.onFrame(time, resting, this.rung > 1);
  }

  /** What is drawn next while nobody asks for anything. */
  private goOn(done: Rest | undefined, whole: boolean): void {
    const next = (rest: Rest, wait: number) => {
      this.restTimer = setTimeout(() => {
        this.rest = rest;
        this.wanted = true;
        this.schedule();
      }, wait);
    };
    if (!whole) next(done!, 0);
    else if (done === undefined) next('better', REST_MS);
    else if (!this.refining || this.refining.frames() === 0) return;
    else if (done === 'better') next(0, this.refining.wait());
    else if (done + 1 < this.refining.frames()) next(done + 1, 0);
  }

  private adapt(ms: number): void {
    if (ms > SLOW_MS && this.rung < LADDER.length - 1) {
      this.rung++;
      this.fastRun = 0;
    } else if (ms < FAST_MS && this.rung > 0) {
      if (++this.fastRun >= 8) {
        this.rung--;
        this.fastRun = 0;
      }
    } else this.fastRun = 0;
  }

  dispose(): void {
    clearTimeout(this.restTimer);
    cancelAnimationFrame(this.scheduled);
    if (this.fence) this.gl.deleteSync(this.fence);
    this.fence = null;
  }
}
