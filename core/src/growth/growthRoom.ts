import { candidates, type Candidates } from './candidates';
import { PLANT_STRIDE } from './plants';
import type { Spot } from './spot';
import type { Room } from './standing';

/**
 * Arrays to grow in, kept from one growing to the next: to get new ones takes about as long as to fill them. Whoever
 * grows has one, and nobody else uses it meanwhile.
 */
export class GrowthRoom {
  place = new Float32Array(0);
  look = new Uint8Array(0);
  id = new Int32Array(0);
  /** where each species in turn is sorted */
  readonly sorted: Room[] = [];
  readonly spot: Spot = { height: 0, gradient: 0, top: false };
  private held: Candidates = candidates(0);

  /** Room for so many candidates at least. */
  candidates(count: number): Candidates {
    if (this.held.live.length < count) this.held = candidates(count);
    return this.held;
  }

  /** New arrays for so many plants. */
  fit(plants: number): void {
    this.place = new Float32Array(plants * PLANT_STRIDE);
    this.look = new Uint8Array(plants);
    this.id = new Int32Array(plants * 3);
  }
}
