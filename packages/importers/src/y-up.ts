/** Metres with Y up, as several formats and packages count, to the drawing's millimetres with Z up. */
const MM = 1000;

/**
 * Places vertices in the world.
 * @param count of vertices
 * @param at writes a vertex, x, y, z, to an array
 * @param m column-major 4 × 4, in metres with Y up
 */
export function placedFromYUp(
  count: number,
  at: (vertex: number, to: number[]) => void,
  m: ArrayLike<number>,
): Float64Array {
  const positions = new Float64Array(3 * count);
  const own: number[] = [0, 0, 0];
  for (let vertex = 0; vertex < count; vertex++) {
    at(vertex, own);
    const [x, y, z] = own as [number, number, number];
    positions[3 * vertex] = (m[0]! * x + m[4]! * y + m[8]! * z + m[12]!) * MM;
    positions[3 * vertex + 1] = -(m[2]! * x + m[6]! * y + m[10]! * z + m[14]!) * MM;
    positions[3 * vertex + 2] = (m[1]! * x + m[5]! * y + m[9]! * z + m[13]!) * MM;
  }
  return positions;
}

/** Whether a placement turns left hands into right ones. */
export const isMirror = (m: ArrayLike<number>): boolean =>
  m[0]! * (m[5]! * m[10]! - m[9]! * m[6]!) -
    m[4]! * (m[1]! * m[10]! - m[9]! * m[2]!) +
    m[8]! * (m[1]! * m[6]! - m[5]! * m[2]!) <
  0;
