/**
 * Place on a Z-order curve over a square: neighbours on it are neighbours in the plan, mostly (G. M. Morton, "A Computer
 * Oriented Geodetic Data Base", 1966).
 * @param x, y 0 … 1; what lies outside is taken to the edge
 * @returns 0 … 2²⁰ − 1
 */
export function zOrder(x: number, y: number): number {
  return spread(cell(x)) | (spread(cell(y)) << 1);
}

const CELLS = 1024;
const cell = (share: number): number => Math.min(Math.max(Math.floor(CELLS * share), 0), CELLS - 1);

/** Puts a 0 between each two of ten bits (H. S. Warren, "Hacker's Delight", 7-2). */
function spread(bits: number): number {
  let x = bits;
  x = (x | (x << 8)) & 0x00ff00ff;
  x = (x | (x << 4)) & 0x0f0f0f0f;
  x = (x | (x << 2)) & 0x33333333;
  return (x | (x << 1)) & 0x55555555;
}

/**
 * The same through a cube.
 * @param x, y, z 0 … 1; what lies outside is taken to the face
 * @returns 0 … 2³⁰ − 1
 */
export function zOrder3(x: number, y: number, z: number): number {
  return spreadWide(cell(x)) | (spreadWide(cell(y)) << 1) | (spreadWide(cell(z)) << 2);
}

/** Puts two 0 between each two of ten bits. */
function spreadWide(bits: number): number {
  let x = bits;
  x = (x | (x << 16)) & 0x030000ff;
  x = (x | (x << 8)) & 0x0300f00f;
  x = (x | (x << 4)) & 0x030c30c3;
  return (x | (x << 2)) & 0x09249249;
}
