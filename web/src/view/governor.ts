/**
 * The governor: one frame in flight, timed by a fence (`render()` returns long before a software frame
 * ends). Slow frames lower the pixel ratio (to 0.5 at least), let LODs change nearer and mix fewer
 * surfaces; at rest one better frame is drawn.
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
  private resting = false;
  private restTimer?: ReturnType<typeof setTimeout>;
  private fastRun = 0;
  /** the last frames, oldest first, and how many there were in all */
  readonly times: FrameTime[] = [];
  count = 0;

  constructor(
    private readonly gl: WebGL2RenderingContext,
    private readonly draw: (quality: Quality) => void,
    private readonly onFrame: (time: FrameTime) => void,
  ) {}

  /** how long the last frame took, ms */
  get lastMs(): number {
    return this.times[this.times.length - 1]?.whole ?? 0;
  }

  /** whether the frame being drawn, or drawn last, is the better one at rest */
  get atRest(): boolean {
    return this.resting;
  }

  get quality(): Quality {
    return this.resting ? (this.rung < 4 ? LADDER[0] : REST_OF_SLOW) : LADDER[this.rung];
  }

  /** Asks for a frame; while one is in flight the wish is kept. */
  request(): void {
    this.wanted = true;
    this.resting = false;
    clearTimeout(this.restTimer);
    if (!this.fence) this.schedule();
  }

  private scheduled = 0;
  private schedule(): void {
    if (this.scheduled) return;
    this.scheduled = requestAnimationFrame(() => {
      this.scheduled = 0;
      if (!this.fence && this.wanted) this.frame();
    });
  }

  private frame(): void {
    this.wanted = false;
    const start = performance.now();
    const resting = this.resting;
    this.draw(this.quality);
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
      const whole = performance.now() - start;
      const time = { whole, own };
      this.count++;
      this.times.push(time);
      if (this.times.length > 240) this.times.shift();
      if (!resting) this.adapt(whole);
      this.onFrame(time);
      if (this.wanted) this.schedule();
      else if (!resting) {
        this.restTimer = setTimeout(() => {
          this.resting = true;
          this.wanted = true;
          this.schedule();
        }, REST_MS);
      }
    };
    setTimeout(poll, 0);
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
