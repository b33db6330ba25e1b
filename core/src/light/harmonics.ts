import type { Vec3 } from '../num/vec';

/** The nine functions of a sphere up to the second band, at a unit direction (Ramamoorthi and Hanrahan 2001). */
export function harmonicsAt([x, y, z]: Vec3): number[] {
  return [
    0.282094791774,
    0.488602511903 * y,
    0.488602511903 * z,
    0.488602511903 * x,
    1.092548430592 * x * y,
    1.092548430592 * y * z,
    0.315391565253 * (3 * z * z - 1),
    1.092548430592 * x * z,
    0.546274215296 * (x * x - y * y),
  ];
}

/** How much of each band is left of light that falls on a face, over pi: a face gathers over half the sphere by the cosine. */
const GATHERED = [1, 2 / 3, 2 / 3, 2 / 3, 1 / 4, 1 / 4, 1 / 4, 1 / 4, 1 / 4];

/**
 * Light that falls on a face from all round, over pi, as nine numbers a colour: so much a white face facing any way shines with.
 *
 * @param pixels light of the sky as a map of `width * height` texels of `channels` numbers, red, green and blue first; columns run round from
 *   -z over +x by how `directionOf` says, rows from straight down to straight up
 * @param directionOf the unit direction of a texel's middle, by its shares of width and height, 0 to 1
 * @returns 27 numbers, three for each function of `harmonicsAt`: their sum with these at a normal is the light
 */
export function gatheredLight(
  { pixels, width, height, channels }: { pixels: ArrayLike<number>; width: number; height: number; channels: number },
  directionOf: (u: number, v: number) => Vec3 = mapDirection,
): Float32Array {
  const sum = new Float64Array(27);
  let solid = 0;
  for (let row = 0; row < height; row++) {
    for (let column = 0; column < width; column++) {
      const d = directionOf((column + 0.5) / width, (row + 0.5) / height);
      // Texels near the poles are narrow.
      const weight = Math.sqrt(Math.max(0, 1 - d[1] * d[1]));
      solid += weight;
      const at = (row * width + column) * channels;
      harmonicsAt(d).forEach((h, k) => {
        for (let c = 0; c < 3; c++) sum[k * 3 + c] += pixels[at + c] * h * weight;
      });
    }
  }
  return Float32Array.from(sum, (v, i) => ((v * 4 * Math.PI) / solid) * GATHERED[Math.floor(i / 3)]);
}

/** Light on a face that looks along a normal, over pi, as `gatheredLight` gives it. */
export function lightOn(gathered: ArrayLike<number>, normal: Vec3): Vec3 {
  const out: Vec3 = [0, 0, 0];
  harmonicsAt(normal).forEach((h, k) => {
    for (let c = 0; c < 3; c++) out[c] += gathered[k * 3 + c] * h;
  });
  return out;
}

/** Direction of a place in a map of the whole sky: `u` round from -z over +x, `v` from straight down to straight up, 0 to 1. */
export function mapDirection(u: number, v: number): Vec3 {
  const round = u * 2 * Math.PI;
  const up = (v - 0.5) * Math.PI;
  return [Math.sin(round) * Math.cos(up), Math.sin(up), -Math.cos(round) * Math.cos(up)];
}
