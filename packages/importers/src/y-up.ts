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

/** What only the change of axes turns. */
const UPRIGHT = Float64Array.of(1, 0, 0, 0, 0, -1, 0, 1, 0);

/** So much may sides differ, as a share, and still be even: single precision in files. */
const EVENNESS = 1e-6;

/**
 * How a placement turns shapes, for directions in the drawing.
 * @param m column-major 4 × 4, in metres with Y up
 * @returns an orthonormal 3 × 3, row by row, from the shape's own axes; null if it doesn't keep shapes alike
 */
export function evenTurn(m: ArrayLike<number>): Float64Array | null {
  // most things are only moved
  const isTurned = m[1] !== 0 || m[2] !== 0 || m[4] !== 0 || m[6] !== 0 || m[8] !== 0 || m[9] !== 0;
  if (!isTurned && m[0]! > 0 && m[0] === m[5] && m[0] === m[10]) return UPRIGHT;
  const columns = [0, 4, 8].map((at) => [m[at]!, -m[at + 2]!, m[at + 1]!]);
  const dot = (a: readonly number[], b: readonly number[]): number => a[0]! * b[0]! + a[1]! * b[1]! + a[2]! * b[2]!;
  const square = dot(columns[0]!, columns[0]!);
  if (!(square > 0)) return null;
  for (let a = 0; a < 3; a++)
    for (let b = 0; b <= a; b++)
      if (Math.abs(dot(columns[a]!, columns[b]!) - (a === b ? square : 0)) > EVENNESS * square) return null;
  const length = Math.sqrt(square);
  return Float64Array.from({ length: 9 }, (_, i) => columns[i % 3]![Math.floor(i / 3)]! / length);
}
