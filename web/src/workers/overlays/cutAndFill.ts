import { HATCH, INK, OCHRE, hex, thousands, type OverlayOf } from './paint';

export const cutAndFill: OverlayOf = {
  smooth: true,
  draw(input, put) {
    const { terrain } = input;
    const { heights } = terrain;
    const { before } = input;
    const area = terrain.grid.spacing ** 2;
    let [cut, fill] = [0, 0];
    if (before?.length === heights.length) {
      for (let i = 0; i < heights.length; i++) {
        const d = heights[i] - before[i];
        if (Math.abs(d) < 0.01) continue;
        if (d > 0) fill += d * area;
        else cut -= d * area;
        put(i, d > 0 ? OCHRE : INK, d > 0 ? Math.round(70 + Math.min(1, d / 4) * 140) : HATCH);
      }
    }
    return {
      keys: [
        { colour: hex(OCHRE), text: `filled ${thousands(fill)} m³` },
        { colour: hex(INK), hatched: true, text: `cut ${thousands(cut)} m³` },
      ],
    };
  },
};
