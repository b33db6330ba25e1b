import { DX, DZ } from './bakeTile';
import type { WalkArea } from './walkArea';
import { stepsFrom } from './walkArea';

/** Numbers of stands, as a bit each. */
export interface StandSet {
  has(id: number): boolean;
  readonly size: number;
}

const _last = new WeakMap<WalkArea, { version: number; start: number; linked: StandSet }>();

/** Those linked to one stand; the last answer for an area is kept as long as it holds. */
export function linkedTo(area: WalkArea, start: number): StandSet {
  const last = _last.get(area);
  if (last && last.version === area.version && last.start === start) return last.linked;
  const linked = linkedStands(area, [start]);
  _last.set(area, { version: area.version, start, linked });
  return linked;
}

/** All stands a body can get to from some, and back: links go both ways. */
export function linkedStands(area: WalkArea, from: readonly number[]): StandSet {
  const bits = new Uint8Array((area.base[area.base.length - 1] >> 3) + 1);
  const queue: number[] = [];
  let size = 0;
  const add = (id: number) => {
    if (bits[id >> 3] & (1 << (id & 7))) return;
    bits[id >> 3] |= 1 << (id & 7);
    size++;
    queue.push(id);
  };
  for (const id of from) add(id);
  const next: number[] = [];
  const width = area.cut.grid.nx - 1;
  while (queue.length > 0) {
    const id = queue.pop()!;
    // Most ground is open all round: its neighbours are known without asking.
    if (id < area.base[0] && area.links[id] === 255) {
      for (let d = 0; d < 8; d++) add(id + DX[d] + DZ[d] * width);
      continue;
    }
    const n = stepsFrom(area, id, next);
    for (let i = 0; i < n; i++) add(next[i]);
  }
  return { has: (id) => (bits[id >> 3] & (1 << (id & 7))) !== 0, size };
}
