import { DEEP, HATCH, hex, mix, SHALLOW, type OverlayOf } from './paint';

export const waterDepth: OverlayOf = {
  draw(input, put) {
    const { terrain } = input;
    const { heights } = terrain;
    const { nx } = terrain.grid;
    let deepest = 0;
    for (const b of input.waters) {
      const w = b.rect.x1 - b.rect.x0 + 1;
      for (let k = 0; k < b.wet.length; k++) {
        if (!b.wet[k]) continue;
        const i = (b.rect.z0 + Math.floor(k / w)) * nx + b.rect.x0 + (k % w);
        const depth = (b.levels ? b.levels[k] : b.height) - heights[i];
        deepest = Math.max(deepest, depth);
        put(i, mix(SHALLOW, DEEP, Math.min(1, depth / 4)), b.closed || depth > input.wade ? HATCH : 200);
      }
    }
    if (deepest === 0) return { keys: [{ colour: hex(SHALLOW), text: 'no water stands in the level' }] };
    return {
      keys: [
        { colour: hex(SHALLOW), text: `waded through, to ${input.wade} m` },
        { colour: hex(DEEP), hatched: true, text: `too deep; ${deepest.toFixed(2)} m at the deepest` },
      ],
    };
  },
};
