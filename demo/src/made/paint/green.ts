import { hashUnit } from '@rammer/core/num/hash';
import { cells, fractal, noise } from '@rammer/core/num/tiling';
import { smoothstep } from '@rammer/core/num/vec';
import { mix, paint, shade, type Rgb, type Sheet, type Texel } from './sheet';

/** Cropped hill grass: blades laid over each other in tufts, with dry stalks and small leaves among them; 3 m a side. */
export const turf = (): Promise<Sheet> => {
  const side = 1024;
  const metres = 3;
  // Blades are drawn one by one, those that stand highest last; on the torus, so that it tiles.
  const height = new Float32Array(side * side).fill(0);
  const colour = new Float32Array(side * side * 3);
  for (let y = 0, i = 0; y < side; y++)
    for (let x = 0; x < side; x++, i++) {
      const [u, v] = [x / side, y / side];
      const soil = fractal({ seed: 451, period: 9, octaves: 4 }, u, v);
      colour.set(mix([0.17, 0.15, 0.1], [0.25, 0.235, 0.13], soil), i * 3);
      height[i] = soil * 0.004;
    }
  const blades = 60_000;
  for (let b = 0; b < blades; b++) {
    const level = b / blades;
    const [u, v] = [hashUnit(452, b, 1), hashUnit(452, b, 2)];
    const tuft = fractal({ seed: 453, period: 6, octaves: 3 }, u, v);
    const dry = smoothstep(0.5, 0.8, fractal({ seed: 454, period: 4, octaves: 3 }, u, v) + 0.35 * (hashUnit(452, b, 3) - 0.5));
    const comb = noise(455, 7, u, v) * 6.3 + (hashUnit(452, b, 4) - 0.5) * 2.4;
    const length = (12 + 22 * hashUnit(452, b, 5)) * (0.7 + 0.6 * tuft);
    const green: Rgb = mix([0.2, 0.225, 0.105], [0.4, 0.415, 0.215], 0.25 + 0.5 * level + 0.3 * (hashUnit(452, b, 6) - 0.5));
    const straw: Rgb = mix([0.4, 0.36, 0.24], [0.6, 0.545, 0.39], hashUnit(452, b, 7));
    const own = mix(green, straw, dry * 0.5 + (hashUnit(452, b, 8) < 0.05 ? 0.6 : 0) * (1 - dry));
    const bow = (hashUnit(452, b, 9) - 0.5) * 0.05;
    for (let s = 0; s < length; s++) {
      const t = s / length;
      const turn = comb + bow * s;
      const x = u * side + Math.cos(turn) * s;
      const y = v * side + Math.sin(turn) * s;
      const wide = t < 0.6 ? 1.3 : 1.3 * (1 - t) * 2.4;
      for (let w = -1; w <= 1; w++) {
        if (Math.abs(w) > wide) continue;
        const px = ((Math.round(x - Math.sin(turn) * w) % side) + side) % side;
        const py = ((Math.round(y + Math.cos(turn) * w) % side) + side) % side;
        const h = 0.006 + 0.022 * level + 0.014 * tuft + 0.008 * Math.sin(t * 2.6);
        if (h < height[py * side + px] - 0.002) continue;
        height[py * side + px] = h;
        colour.set(shade(own, 0.62 + 0.5 * t + 0.1 * w), (py * side + px) * 3);
      }
    }
  }
  return paint({ name: 'turf', side, metres, hollows: 0.55, ground: true }, (u, v): Texel => {
    const i = Math.min(side - 1, Math.floor(v * side)) * side + Math.min(side - 1, Math.floor(u * side));
    return { colour: [colour[i * 3], colour[i * 3 + 1], colour[i * 3 + 2]], height: height[i], rough: 0.92 };
  });
};

/** Feather moss in cushions, with a little red and some needles between; 2 m a side. */
export const moss = (): Promise<Sheet> =>
  paint({ name: 'moss', side: 1024, metres: 2, hollows: 0.8, ground: true }, (u, v): Texel => {
    const wu = u + 0.03 * (noise(461, 9, u, v) - 0.5);
    const wv = v + 0.03 * (noise(462, 9, u, v) - 0.5);
    const [near, second, id] = cells(463, 11, wu, wv);
    const [wide, , broad] = cells(470, 5, wu, wv);
    const cushion = (smoothstep(0.8, 0.1, near) * (0.75 + 0.25 * smoothstep(0, 0.2, second - near)) + smoothstep(0.8, 0.1, wide)) * 0.5;
    const [n2, , id2] = cells(464, 70, u + 0.008 * noise(465, 90, u, v), v);
    const star = smoothstep(0.6, 0.05, n2);
    const fine = fractal({ seed: 466, period: 120, octaves: 2 }, u, v);
    const dry = smoothstep(0.55, 0.8, fractal({ seed: 467, period: 4, octaves: 3 }, u, v));
    let c: Rgb = mix([0.15, 0.17, 0.085], [0.365, 0.39, 0.17], 0.2 + 0.45 * cushion + 0.35 * star * (0.6 + 0.4 * hashUnit(468, id2)));
    c = mix(c, [0.44, 0.42, 0.2], dry * 0.45);
    c = mix(c, [0.36, 0.23, 0.14], hashUnit(469, broad, id) < 0.12 ? 0.3 * cushion : 0);
    return { colour: shade(c, 0.72 + 0.5 * fine), height: cushion * 0.035 + star * 0.007 + fine * 0.003, rough: 0.95 };
  });
