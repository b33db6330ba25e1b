/**
 * Trigonometry that gives the same bits in Node and in every browser. The engines' own `Math.sin`
 * and friends differ in the last place for a few arguments in a hundred; these use only + - * /
 * and sqrt, which IEEE 754 fixes.
 *
 * Polynomials: the kernels of fdlibm (Sun Microsystems, freely usable), error under 1 ulp on
 * [-pi/4, pi/4]. Angles come in degrees, so that the reduction by quarter turns is exact.
 */

export const DEG = 0.017453292519943295;

function sinKernel(x: number): number {
  const z = x * x;
  const r =
    8.33333333332248946124e-3 +
    z * (-1.98412698298579493134e-4 + z * (2.75573137070700676789e-6 + z * (-2.50507602534068634195e-8 + z * 1.58969099521155010221e-10)));
  return x + z * x * (-1.66666666666666324348e-1 + z * r);
}

function cosKernel(x: number): number {
  const z = x * x;
  const r =
    z *
    (4.16666666666666019037e-2 +
      z *
        (-1.38888888888741095749e-3 +
          z * (2.48015872894767294178e-5 + z * (-2.75573143513906633035e-7 + z * (2.0875723212981748279e-9 + z * -1.13596475577881948265e-11)))));
  return 1 - 0.5 * z + z * r;
}

/**
 * Sine and cosine of an angle in degrees; exact at multiples of 90.
 *
 * @example
 * sinCosDeg(90); // [1, 0]
 */
export function sinCosDeg(deg: number): [sin: number, cos: number] {
  const quarter = Math.round(deg / 90);
  const x = (deg - quarter * 90) * DEG;
  const s = x === 0 ? 0 : sinKernel(x);
  const c = x === 0 ? 1 : cosKernel(x);
  switch (((quarter % 4) + 4) % 4) {
    case 0:
      return [s, c];
    case 1:
      return [c, -s];
    case 2:
      return [-s, -c];
    default:
      return [-c, s];
  }
}

/** Sine of an angle in degrees, the same bits everywhere. */
export const sinDeg = (deg: number): number => sinCosDeg(deg)[0];
/** Cosine of an angle in degrees, the same bits everywhere. */
export const cosDeg = (deg: number): number => sinCosDeg(deg)[1];
/**
 * Tangent of an angle in degrees, the same bits everywhere; not finite at 90.
 *
 * @example
 * const grade = tanDeg(body.maxSlope); // rise over run, to hold gradients against
 */
export function tanDeg(deg: number): number {
  const [s, c] = sinCosDeg(deg);
  return s / c;
}

const ATAN_HI = [4.63647609000806093515e-1, 7.85398163397448278999e-1, 9.82793723247329054082e-1, 1.570796326794896558];
const ATAN_C = [
  3.33333333333329318027e-1, -1.99999999998764832476e-1, 1.42857142725034663711e-1, -1.1111110405462355788e-1, 9.09088713343650656196e-2,
  -7.69187620504482999495e-2, 6.66107313738753120669e-2, -5.83357013379057348645e-2, 4.97687799461593236017e-2, -3.6531572744216915527e-2,
  1.62858201153657823623e-2,
];

function atan(value: number): number {
  const negative = value < 0;
  let x = negative ? -value : value;
  let base = 0;
  if (x < 0.4375) base = 0;
  else if (x < 0.6875) {
    base = ATAN_HI[0];
    x = (2 * x - 1) / (2 + x);
  } else if (x < 1.1875) {
    base = ATAN_HI[1];
    x = (x - 1) / (x + 1);
  } else if (x < 2.4375) {
    base = ATAN_HI[2];
    x = (x - 1.5) / (1 + 1.5 * x);
  } else {
    base = ATAN_HI[3];
    x = -1 / x;
  }
  const z = x * x;
  let sum = 0;
  for (let i = ATAN_C.length - 1; i >= 0; i--) sum = ATAN_C[i] + z * sum;
  const result = base + (x - x * z * sum);
  return negative ? -result : result;
}

/** Angle of (y, x) in degrees, (-180, 180]. */
export function atan2Deg(y: number, x: number): number {
  if (x === 0 && y === 0) return 0;
  if (x === 0) return y > 0 ? 90 : -90;
  const a = atan(y / x) / DEG;
  if (x > 0) return a;
  return y >= 0 ? a + 180 : a - 180;
}

/**
 * Slope angle in degrees of a gradient given as rise over run.
 *
 * @example
 * slopeDeg(1); // 45
 */
export const slopeDeg = (gradient: number): number => atan(gradient) / DEG;
