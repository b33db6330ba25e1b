/** A triangle mesh: positions (x, y, z float32 each) and triangle indices, counter-clockwise seen from outside. */
export interface Mesh {
  positions: Float32Array;
  indices: Uint32Array;
}
