import { timesRotation, unitRotation, type Pose, type Quaternion } from '../num/pose';

/** A turn about the y axis, degrees. */
export const turnOf = (deg: number): Quaternion => {
  const half = (deg * Math.PI) / 360;
  return [0, Math.sin(half), 0, Math.cos(half)];
};

/** The whole rotation of a pose. */
export const poseRotation = ({ turn, tilt }: Pick<Pose, 'turn' | 'tilt'>): Quaternion =>
  tilt ? unitRotation(timesRotation(turnOf(turn), tilt)) : turnOf(turn);

/** A lean about a level axis after a turn about Y. */
export function leanOf(lean: number, leanTo: number, turn: number): Quaternion {
  const [, ty, , tw] = turnOf(turn);
  const s = Math.sin((lean * Math.PI) / 360);
  const c = Math.cos((lean * Math.PI) / 360);
  const lx = Math.cos((leanTo * Math.PI) / 180) * s;
  const lz = Math.sin((leanTo * Math.PI) / 180) * s;
  return [lx * tw - lz * ty, c * ty, lz * tw + lx * ty, c * tw];
}
