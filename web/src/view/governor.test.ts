import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import { Governor, type Refining } from './governor';

/** A governor of a renderer that is done at once, and what it drew. */
function governed(frames = 3, parts = 1) {
  const drawn: (string | number)[] = [];
  const steps: (number | undefined)[] = [];
  const gl = { fenceSync: () => ({}), flush: () => {}, getSyncParameter: () => 1, deleteSync: () => {}, SIGNALED: 1 } as unknown as WebGL2RenderingContext;
  const refining: Refining = {
    frames: () => frames,
    wait: () => 500,
    draw: (step) => (drawn.push(step), drawn.filter((d) => d === step).length % parts === 0),
    onStep: (n) => steps.push(n),
  };
  const times: boolean[] = [];
  const governor: Governor = new Governor(
    gl,
    () => drawn.push(governor.atRest ? 'better' : 'moving'),
    (_time, resting) => times.push(resting),
    refining,
  );
  return { governor, drawn, steps, times };
}

describe('the governor', () => {
  beforeEach(() => {
    vi.useFakeTimers();
    vi.stubGlobal('requestAnimationFrame', (f: () => void) => setTimeout(f, 16));
    vi.stubGlobal('cancelAnimationFrame', (id: ReturnType<typeof setTimeout>) => clearTimeout(id));
  });
  afterEach(() => {
    vi.useRealTimers();
    vi.unstubAllGlobals();
  });

  it('draws what is asked for, one better frame at rest, then refines frame by frame, and then nothing', () => {
    const { governor, drawn, steps, times } = governed();
    governor.request();
    vi.advanceTimersByTime(100);
    expect(drawn).toEqual(['moving']);
    vi.advanceTimersByTime(400);
    expect(drawn).toEqual(['moving', 'better']);
    vi.advanceTimersByTime(5000);
    expect(drawn).toEqual(['moving', 'better', 0, 1, 2]);
    expect(steps).toEqual([1, 2, 3]);
    // Frames of the refinement are no frames of the view: they are not timed.
    expect(times).toEqual([false, true]);
    expect(governor.count).toBe(2);
  });

  it('goes on with a frame that is drawn in parts until it is whole', () => {
    const { governor, drawn, steps } = governed(2, 3);
    governor.request();
    vi.advanceTimersByTime(5000);
    expect(drawn).toEqual(['moving', 'better', 0, 0, 0, 1, 1, 1]);
    expect(steps).toEqual([1, 2]);
  });

  it('ends refining at the first input and begins anew after it', () => {
    const { governor, drawn, steps } = governed(40);
    governor.request();
    vi.advanceTimersByTime(1200);
    const before = drawn.length;
    expect(drawn[before - 1]).toBeGreaterThan(2);
    governor.request();
    expect(steps[steps.length - 1]).toBeUndefined();
    vi.advanceTimersByTime(1200);
    expect(drawn.slice(before, before + 3)).toEqual(['moving', 'better', 0]);
  });

  it('does not refine where none is wanted, and draws nothing while it is held', () => {
    const none = governed(0);
    none.governor.request();
    vi.advanceTimersByTime(5000);
    expect(none.drawn).toEqual(['moving', 'better']);
    const { governor, drawn } = governed();
    governor.hold(true);
    governor.request();
    vi.advanceTimersByTime(5000);
    expect(drawn).toEqual([]);
    governor.hold(false);
    vi.advanceTimersByTime(100);
    expect(drawn).toEqual(['moving']);
  });
});
