import { weld } from './welded-mesh.ts';

export interface SolidMeasure {
  /** Of all its faces, square drawing units. */
  readonly area: number;
  /** What it encloses, cubic drawing units; null if it isn't closed. */
  readonly volume: number | null;
}

/**
 * Area and volume of a solid's triangles; the volume by tetrahedra from one of its corners (divergence theorem).
 * @param parts of one object, anticlockwise seen from outside
 */
export function measureSolid(
  parts: readonly { readonly positions: ArrayLike<number>; readonly triangles: ArrayLike<number> }[],
): SolidMeasure {
  const positions: number[] = [];
  const triangles: number[] = [];
  for (const part of parts) {
    const first = positions.length / 3;
    for (let i = 0; i < part.positions.length; i++) positions.push(part.positions[i]!);
    for (let i = 0; i < part.triangles.length; i++) triangles.push(first + part.triangles[i]!);
  }
  const mesh = weld(positions, triangles);
  const { positions: p } = mesh;
  const [bx, by, bz] = [p[0] ?? 0, p[1] ?? 0, p[2] ?? 0];
  let [area, volume] = [0, 0];
  for (let t = 0; t < mesh.triangles.length; t += 3) {
    const [a, b, c] = [3 * mesh.triangles[t]!, 3 * mesh.triangles[t + 1]!, 3 * mesh.triangles[t + 2]!];
    const [ax, ay, az] = [p[a]! - bx, p[a + 1]! - by, p[a + 2]! - bz];
    const [ux, uy, uz] = [p[b]! - bx - ax, p[b + 1]! - by - ay, p[b + 2]! - bz - az];
    const [vx, vy, vz] = [p[c]! - bx - ax, p[c + 1]! - by - ay, p[c + 2]! - bz - az];
    const [nx, ny, nz] = [uy * vz - uz * vy, uz * vx - ux * vz, ux * vy - uy * vx];
    area += Math.hypot(nx, ny, nz) / 2;
    volume += (ax * nx + ay * ny + az * nz) / 6;
  }
  return { area, volume: isClosed(mesh.triangles) ? Math.abs(volume) : null };
}

/** Whether every side of a triangle is met by as many from the other direction. */
function isClosed(triangles: Uint32Array): boolean {
  if (triangles.length === 0) return false;
  const balance = new Map<string, number>();
  for (let t = 0; t < triangles.length; t++) {
    const [from, to] = [triangles[t]!, triangles[t % 3 === 2 ? t - 2 : t + 1]!];
    const key = from < to ? `${from} ${to}` : `${to} ${from}`;
    balance.set(key, (balance.get(key) ?? 0) + (from < to ? 1 : -1));
  }
  for (const value of balance.values()) if (value !== 0) return false;
  return true;
}
