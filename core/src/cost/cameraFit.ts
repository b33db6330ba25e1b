import { cross, dot, normalize, scale, sub, type Vec3 } from '../num/vec';

/** A line drawn on a picture: pixels from its top left, y down. */
export type PictureLine = [x0: number, y0: number, x1: number, y1: number];

/** What was drawn on a picture, to find the camera it was taken with. */
export interface FitInput {
  /** pixels */
  width: number;
  height: number;
  /** edges that are upright; may be none */
  upright: readonly PictureLine[];
  /** level edges that run one way, the first of them drawn that way; at least two */
  first: readonly PictureLine[];
  /** level edges at a right angle to those; at least two */
  second: readonly PictureLine[];
  /** degrees clockwise from north of the first direction in the level */
  heading: number;
  /** an edge of known length from a known point of the level, along one of the three */
  known: { line: PictureLine; along: 'upright' | 'first' | 'second'; metres: number; at: Vec3 };
}

/** A camera as it stood: degrees and metres of the level. */
export interface FittedCamera {
  eye: Vec3;
  yaw: number;
  pitch: number;
  /** by how much what is on the picture leans clockwise */
  roll: number;
  /** vertical field of view */
  fov: number;
  /** mean distance of the drawn lines' ends from lines to their vanishing points, pixels */
  error: number;
}

export type Fitted = { ok: true; camera: FittedCamera } | { ok: false; message: string };

const bad = (message: string): Fitted => ({ ok: false, message });

/**
 * The camera of a picture from lines on it: pose and lens, taken that the picture is whole (its middle
 * is the camera's) and its pixels square.
 *
 * Lines that are parallel in the level meet at a vanishing point v on the picture, whose ray is their
 * direction. Two directions at a right angle give the focal length f: va . vb + f^2 = 0 about the
 * middle. The directions give the rotation, and an edge of known length the distance. After Caprile and
 * Torre, "Using vanishing points for camera calibration", 1990; then focal length and rotation are refined
 * together over all lines, by Gauss and Newton's way.
 */
export function fitCamera(input: FitInput): Fitted {
  const { width, height, upright, first, second, known } = input;
  if (first.length < 2 || second.length < 2) return bad('draw at least two lines along each of the two level directions');
  for (const l of [...upright, ...first, ...second, known.line])
    if ((l[2] - l[0]) ** 2 + (l[3] - l[1]) ** 2 < 16) return bad('a line is shorter than 4 pixels: draw it longer');
  if (!(known.metres > 0)) return bad('the known length is more than nothing: type it in metres');
  // About the middle, y up, in halves of the width, so that numbers are near one.
  const unit = width / 2;
  const centred = (l: PictureLine): PictureLine => [
    (l[0] - width / 2) / unit,
    (height / 2 - l[1]) / unit,
    (l[2] - width / 2) / unit,
    (height / 2 - l[3]) / unit,
  ];
  const [a, b] = [first.map(centred), second.map(centred)].map(vanishing);
  const up = upright.length >= 2 ? vanishing(upright.map(centred)) : undefined;

  // f^2 from every pair at a right angle, each as sure as its points are near.
  let over = 0;
  let under = 0;
  for (const [p, q] of [
    [a, b],
    ...(up
      ? [
          [a, up],
          [b, up],
        ]
      : []),
  ]) {
    const w = p[2] * q[2];
    over -= (p[0] * q[0] + p[1] * q[1]) * w;
    under += w * w;
  }
  if (under < 1e-8) return bad('the two level directions do not run together on the picture: choose edges seen at an angle, or draw upright ones too');
  const f2 = over / under;
  if (!(f2 > 0.02 && f2 < 400)) return bad('no lens sees these lines so: the two level directions must be at a right angle, and seen at an angle');
  let f = Math.sqrt(f2);

  const ray = (v: Vec3): Vec3 => normalize([v[0], v[1], -f * v[2]]);
  const dirA = towards(ray(a), centred(first[0]), f);
  const dirB = ray(b);
  let dirU = normalize(cross(dirA, dirB));
  if (dirU[1] < 0) dirU = scale(dirU, -1);
  if (up) {
    const seen = ray(up);
    const same = dot(seen, dirU) < 0 ? scale(seen, -1) : seen;
    dirU = normalize([dirU[0] + same[0], dirU[1] + same[1], dirU[2] + same[2]]);
  } else if (upright.length === 1) dirU = towards(dirU, centred(upright[0][1] > upright[0][3] ? upright[0] : turnedLine(upright[0])), f);
  let forwardA = normalize(sub(dirA, scale(dirU, dot(dirA, dirU))));
  let side = cross(forwardA, dirU);
  ({
    f,
    axes: [forwardA, dirU, side],
  } = refine(f, [forwardA, dirU, side], [first.map(centred), upright.map(centred), second.map(centred)]));

  // The same three in the level: the first direction's heading, up, and what is to its right.
  const h = (input.heading * Math.PI) / 180;
  const levelA: Vec3 = [Math.sin(h), 0, -Math.cos(h)];
  const levelS = cross(levelA, [0, 1, 0]);
  const toLevel = (c: Vec3): Vec3 => {
    const [ka, ku, ks] = [dot(c, forwardA), dot(c, dirU), dot(c, side)];
    return [levelA[0] * ka + levelS[0] * ks, ku, levelA[2] * ka + levelS[2] * ks];
  };
  const forward = toLevel([0, 0, -1]);
  const right = toLevel([1, 0, 0]);
  const yaw = ((Math.atan2(forward[0], -forward[2]) * 180) / Math.PI + 360) % 360;
  const pitch = (Math.asin(Math.max(-1, Math.min(1, forward[1]))) * 180) / Math.PI;
  const roll = (Math.asin(Math.max(-1, Math.min(1, right[1] / Math.sqrt(Math.max(1e-9, 1 - forward[1] ** 2))))) * 180) / Math.PI;

  // s1 r1 + metres d = s2 r2, by least squares in the two unknown depths.
  const l = centred(known.line);
  const [r1, r2]: Vec3[] = [
    [l[0], l[1], -f],
    [l[2], l[3], -f],
  ];
  const d0 = known.along === 'upright' ? dirU : known.along === 'first' ? forwardA : side;
  const d = scale(towards(d0, l, f), known.metres);
  const [r11, r12, r22] = [dot(r1, r1), dot(r1, r2), dot(r2, r2)];
  const det = r11 * r22 - r12 * r12;
  if (det < 1e-9) return bad('the known length is seen end on: choose an edge across the view');
  const s1 = (-dot(r1, d) * r22 + r12 * dot(r2, d)) / det;
  if (!(s1 > 0)) return bad('the known length lies behind the camera: was it drawn from the point of the level it begins at?');
  const fromEye = toLevel(scale(r1, s1));
  const point = (d: Vec3): Vec3 => [d[0], d[1], -d[2] / f];
  const error = (
    [
      [first, forwardA],
      [second, side],
      [upright, dirU],
    ] as [readonly PictureLine[], Vec3][]
  ).flatMap(([lines, d]) => lines.map((line) => missed(centred(line), point(d)) * unit));
  return {
    ok: true,
    camera: {
      eye: sub(known.at, fromEye),
      yaw,
      pitch,
      roll,
      fov: (2 * Math.atan(height / 2 / unit / f) * 180) / Math.PI,
      error: error.reduce((s, e) => s + e, 0) / error.length,
    },
  };
}

/** Focal length and three directions at right angles that the lines drawn along them miss least. */
function refine(f: number, axes: [Vec3, Vec3, Vec3], lines: [PictureLine[], PictureLine[], PictureLine[]]): { f: number; axes: [Vec3, Vec3, Vec3] } {
  const turned = (w: readonly number[], v: Vec3): Vec3 => {
    // A small turn about an axis, by Rodrigues.
    const angle = Math.sqrt(w[0] * w[0] + w[1] * w[1] + w[2] * w[2]);
    if (angle < 1e-15) return v;
    const k: Vec3 = [w[0] / angle, w[1] / angle, w[2] / angle];
    const [s, c] = [Math.sin(angle), Math.cos(angle)];
    const [kxv, kv] = [cross(k, v), dot(k, v)];
    return [0, 1, 2].map((i) => v[i] * c + kxv[i] * s + k[i] * kv * (1 - c)) as Vec3;
  };
  const residuals = (p: readonly number[]): number[] =>
    lines.flatMap((list, i) => {
      const d = turned(p.slice(1), axes[i]);
      const v: Vec3 = [d[0], d[1], -d[2] / p[0]];
      return list.map((l) => signedMiss(l, v));
    });
  const p = [f, 0, 0, 0];
  for (let round = 0; round < 12; round++) {
    const r = residuals(p);
    const step = 1e-6;
    const jacobian = p.map((_, k) => residuals(p.map((v, i) => (i === k ? v + step : v))).map((v, i) => (v - r[i]) / step));
    const normal = jacobian.map((a, i) => [
      ...jacobian.map((b, k) => a.reduce((sum, v, n) => sum + v * b[n], 0) + (i === k ? 1e-12 : 0)),
      -a.reduce((sum, v, n) => sum + v * r[n], 0),
    ]);
    const by = solve(normal);
    if (!by) break;
    by.forEach((v, i) => {
      p[i] += v;
    });
    if (!(p[0] > 0.1 && p[0] < 20)) return { f, axes };
  }
  const worse = (x: number[]) => x.reduce((sum, v) => sum + v * v, 0);
  if (worse(residuals(p)) > worse(residuals([f, 0, 0, 0]))) return { f, axes };
  return { f: p[0], axes: axes.map((a) => turned(p.slice(1), a)) as [Vec3, Vec3, Vec3] };
}

/** Solves a small system by elimination: rows of coefficients and the right side. */
function solve(rows: number[][]): number[] | undefined {
  const n = rows.length;
  for (let i = 0; i < n; i++) {
    const pivot = rows.slice(i).reduce((best, row, k) => (Math.abs(row[i]) > Math.abs(rows[best][i]) ? i + k : best), i);
    if (Math.abs(rows[pivot][i]) < 1e-15) return undefined;
    [rows[i], rows[pivot]] = [rows[pivot], rows[i]];
    for (let k = 0; k < n; k++) {
      if (k === i) continue;
      const by = rows[k][i] / rows[i][i];
      for (let c = i; c <= n; c++) rows[k][c] -= by * rows[i][c];
    }
  }
  return rows.map((row, i) => row[n] / row[i]);
}

const turnedLine = (l: PictureLine): PictureLine => [l[2], l[3], l[0], l[1]];

/** The direction or its opposite, so that going along it the picture goes from a line's first end to its second. */
function towards(d: Vec3, [x0, y0, x1, y1]: PictureLine, f: number): Vec3 {
  // Of a point at depth f, the picture moves by d less what its own coming nearer adds.
  const mx = d[0] + (x0 * d[2]) / f;
  const my = d[1] + (y0 * d[2]) / f;
  return mx * (x1 - x0) + my * (y1 - y0) < 0 ? scale(d, -1) : d;
}

/** The point nearest to all lines, as (x, y, w): the eigenvector of least value of the sum of l l^T, weighted by length. */
function vanishing(lines: readonly PictureLine[]): Vec3 {
  const m = [0, 0, 0, 0, 0, 0, 0, 0, 0];
  for (const [x0, y0, x1, y1] of lines) {
    const l: Vec3 = [y0 - y1, x1 - x0, x0 * y1 - x1 * y0];
    const n = Math.sqrt(l[0] * l[0] + l[1] * l[1]);
    for (let i = 0; i < 3; i++) for (let k = 0; k < 3; k++) m[i * 3 + k] += (l[i] * l[k]) / n;
  }
  // Jacobi's rotations: a symmetric 3 x 3 is diagonal to the last bits after a few rounds.
  const v = [1, 0, 0, 0, 1, 0, 0, 0, 1];
  for (let round = 0; round < 24; round++) {
    for (const [p, q] of [
      [0, 1],
      [0, 2],
      [1, 2],
    ]) {
      const off = m[p * 3 + q];
      if (Math.abs(off) < 1e-18) continue;
      const theta = (m[q * 3 + q] - m[p * 3 + p]) / (2 * off);
      const t = (theta < 0 ? -1 : 1) / (Math.abs(theta) + Math.sqrt(theta * theta + 1));
      const c = 1 / Math.sqrt(t * t + 1);
      const s = t * c;
      for (let i = 0; i < 3; i++) {
        const [a, b] = [m[i * 3 + p], m[i * 3 + q]];
        m[i * 3 + p] = c * a - s * b;
        m[i * 3 + q] = s * a + c * b;
      }
      for (let i = 0; i < 3; i++) {
        const [a, b] = [m[p * 3 + i], m[q * 3 + i]];
        m[p * 3 + i] = c * a - s * b;
        m[q * 3 + i] = s * a + c * b;
        const [x, y] = [v[i * 3 + p], v[i * 3 + q]];
        v[i * 3 + p] = c * x - s * y;
        v[i * 3 + q] = s * x + c * y;
      }
    }
  }
  const least = [0, 1, 2].reduce((best, i) => (m[i * 4] < m[best * 4] ? i : best), 0);
  return [v[least], v[3 + least], v[6 + least]];
}

/** How far a line's second end lies off the line from its middle to the vanishing point. */
const missed = (line: PictureLine, v: Vec3): number => Math.abs(signedMiss(line, v));

function signedMiss([x0, y0, x1, y1]: PictureLine, v: Vec3): number {
  const [mx, my] = [(x0 + x1) / 2, (y0 + y1) / 2];
  const [dx, dy] = [v[0] - mx * v[2], v[1] - my * v[2]];
  const l = Math.sqrt(dx * dx + dy * dy);
  return l < 1e-12 ? 0 : ((x1 - mx) * dy - (y1 - my) * dx) / l;
}
