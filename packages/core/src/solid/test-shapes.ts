/** Shapes whose silhouettes are known exactly, for tests. */
export interface TestMesh {
  readonly positions: Float64Array;
  readonly triangles: Uint32Array;
}

/** A grid of vertices that closes on itself in the first direction and, if told, in the second. */
function wrapped(
  columns: number,
  rows: number,
  closes: boolean,
  at: (u: number, v: number) => readonly [number, number, number],
): TestMesh {
  const positions: number[] = [];
  const triangles: number[] = [];
  for (let j = 0; j <= rows; j++) for (let i = 0; i < columns; i++) positions.push(...at(i / columns, j / rows));
  const vertex = (i: number, j: number): number => (closes ? j % rows : j) * columns + (i % columns);
  for (let j = 0; j < rows; j++)
    for (let i = 0; i < columns; i++) {
      const [a, b, c, d] = [vertex(i, j), vertex(i + 1, j), vertex(i + 1, j + 1), vertex(i, j + 1)];
      triangles.push(a, b, c, a, c, d);
    }
  return { positions: Float64Array.from(positions), triangles: Uint32Array.from(triangles) };
}

const TURN = 2 * Math.PI;

/** An open tube about Z. */
export const tube = (radius: number, height: number, sides: number): TestMesh =>
  wrapped(sides, 1, false, (u, v) => [radius * Math.cos(TURN * u), radius * Math.sin(TURN * u), height * v]);

/** A ring in the plane z = 0. @param radius from its centre to the middle of its tube */
export const torus = (radius: number, tubeRadius: number, sides: number, steps: number): TestMesh =>
  wrapped(sides, steps, true, (u, v) => {
    const out = radius + tubeRadius * Math.cos(TURN * v);
    return [out * Math.cos(TURN * u), out * Math.sin(TURN * u), tubeRadius * Math.sin(TURN * v)];
  });

/**
 * A cube with 12 triangles.
 * @param size of a side
 * @param position of its lowest corner
 */
export function cube(size: number, [x, y, z]: readonly [number, number, number] = [0, 0, 0]): TestMesh {
  const positions: number[] = [];
  for (let k = 0; k < 8; k++) positions.push(x + (k & 1 ? size : 0), y + (k & 2 ? size : 0), z + (k & 4 ? size : 0));
  const faces = [
    [0, 2, 3, 1],
    [4, 5, 7, 6],
    [0, 1, 5, 4],
    [2, 6, 7, 3],
    [0, 4, 6, 2],
    [1, 3, 7, 5],
  ] as const;
  const triangles = faces.flatMap(([a, b, c, d]) => [a, b, c, a, c, d]);
  return { positions: Float64Array.from(positions), triangles: Uint32Array.from(triangles) };
}
