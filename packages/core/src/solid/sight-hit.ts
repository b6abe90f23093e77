import type { Sight } from '../camera/projection.ts';
import type { Vec3 } from '../geometry/vec.ts';
import { RUN, type DecodedSolidTile } from './solid-tile.ts';

/** Triangles a leaf of the index. */
export const PER_CLUSTER = 16;
/** Clusters that a box above them holds. */
export const PER_GROUP = 16;

/** Where a line of sight meets a surface. */
export interface SurfaceHit {
  readonly object: number;
  /** Drawing units. */
  readonly point: Vec3;
  /** From where the sight begins; negative for what lies before the beginning of a parallel view's. */
  readonly distance: number;
  /** Unit normal of the face, turned to the viewer; of a point, the way to the viewer. */
  readonly normal: Vec3;
  /** It is a point of its own, told to the source's last digit. */
  readonly isPoint?: true;
}

/** Boxes over runs of a tile's triangles, so that a line of sight needn't be tried against all of them. */
export interface SightIndex {
  /** Six numbers a cluster: least coordinates, then largest. */
  readonly clusters: Float32Array<ArrayBuffer>;
  readonly groups: Float32Array<ArrayBuffer>;
}

/** Boxes around clusters of a tile’s triangles, and around groups of clusters, in the tile’s own coordinates. */
export function indexTriangles({ positions, triangles }: DecodedSolidTile): SightIndex {
  const count = triangles.length / 3;
  const clusters = new Float32Array(6 * Math.ceil(count / PER_CLUSTER));
  const groups = new Float32Array(6 * Math.ceil(clusters.length / 6 / PER_GROUP));
  for (let cluster = 0; cluster < clusters.length / 6; cluster++) {
    let [minX, minY, minZ, maxX, maxY, maxZ] = [Infinity, Infinity, Infinity, -Infinity, -Infinity, -Infinity];
    const end = Math.min(3 * PER_CLUSTER * (cluster + 1), triangles.length);
    for (let corner = 3 * PER_CLUSTER * cluster; corner < end; corner++) {
      const at = 3 * triangles[corner]!;
      const [x, y, z] = [positions[at]!, positions[at + 1]!, positions[at + 2]!];
      if (x < minX) minX = x;
      if (x > maxX) maxX = x;
      if (y < minY) minY = y;
      if (y > maxY) maxY = y;
      if (z < minZ) minZ = z;
      if (z > maxZ) maxZ = z;
    }
    const at = 6 * cluster;
    clusters[at] = minX;
    clusters[at + 1] = minY;
    clusters[at + 2] = minZ;
    clusters[at + 3] = maxX;
    clusters[at + 4] = maxY;
    clusters[at + 5] = maxZ;
  }
  for (let i = 0; i < groups.length; i++) groups[i] = i % 6 < 3 ? Infinity : -Infinity;
  for (let i = 0; i < clusters.length; i++) {
    const side = i % 6;
    const at = 6 * Math.floor(i / (6 * PER_GROUP)) + side;
    groups[at] = side < 3 ? Math.min(groups[at]!, clusters[i]!) : Math.max(groups[at]!, clusters[i]!);
  }
  return { clusters, groups };
}

/**
 * The nearest surface of a tile that a line of sight meets, from either side (T. Möller, B. Trumbore, "Fast, minimum
 * storage ray/triangle intersection", Journal of Graphics Tools 2, 1997).
 * @param sight relative to the tile's origin; `from` in a parallel view may lie anywhere on the line
 * @param nearest only what is nearer than this counts
 * @param isShown whether an object can be hit
 * @param least distances below this don't count: −Infinity in a parallel view
 * @param keeps whether what lies at a place, relative to the tile's origin, is there at all: clips take some away
 */
export function hitTile(
  { positions, triangles, runs }: DecodedSolidTile,
  { clusters, groups }: SightIndex,
  sight: Sight,
  nearest: number,
  isShown: (object: number, material: number) => boolean,
  least: number,
  keeps?: (x: number, y: number, z: number) => boolean,
): SurfaceHit | null {
  const { from, along } = sight;
  const reaches = slabTest(sight, least);
  let best = nearest;
  let found = -1;
  for (let group = 0; group < groups.length / 6; group++) {
    if (!reaches(groups, 6 * group, best)) continue;
    const last = Math.min((group + 1) * PER_GROUP, clusters.length / 6);
    for (let cluster = group * PER_GROUP; cluster < last; cluster++) {
      if (!reaches(clusters, 6 * cluster, best)) continue;
      const end = Math.min((cluster + 1) * PER_CLUSTER * 3, triangles.length);
      for (let corner = cluster * PER_CLUSTER * 3; corner < end; corner += 3) {
        const distance = meet(positions, triangles, corner, from, along);
        if (!(distance < best && distance >= least)) continue;
        const run = runOf(runs, corner);
        if (!isShown(runs[run]!, runs[run + 1]!)) continue;
        const { x, y, z } = along;
        if (keeps && !keeps(from.x + x * distance, from.y + y * distance, from.z + z * distance)) continue;
        best = distance;
        found = corner;
      }
    }
  }
  if (found < 0) return null;
  const normal = faceNormal(positions, triangles, found);
  const sign = normal.x * along.x + normal.y * along.y + normal.z * along.z > 0 ? -1 : 1;
  return {
    object: runs[runOf(runs, found)]!,
    point: { x: from.x + along.x * best, y: from.y + along.y * best, z: from.z + along.z * best },
    distance: best,
    normal: { x: sign * normal.x, y: sign * normal.y, z: sign * normal.z },
  };
}

/** How wide a line of sight is where points are looked for: drawing units at its beginning, and more for each of its own. */
export interface SightWidth {
  readonly atBeginning: number;
  readonly perUnit: number;
}

/**
 * The nearest point of a tile that a line of sight passes by closely; of those equally near to the eye, within its width,
 * the one closest to its middle.
 * @param sight, nearest, isShown, least, keeps as for {@link hitTile}
 */
export function hitPoints(
  { pointPositions: p, pointRests: rests, runs }: DecodedSolidTile,
  sight: Sight,
  width: SightWidth,
  nearest: number,
  isShown: (object: number, material: number) => boolean,
  least: number,
  keeps?: (x: number, y: number, z: number) => boolean,
): SurfaceHit | null {
  const { from, along } = sight;
  let [best, bestAway, found, owner] = [nearest, Infinity, -1, -1];
  let first = 0;
  for (let run = 0; run < runs.length; run += RUN) {
    const end = runs[run + 5]!;
    const begin = first;
    first = end;
    if (begin === end || !isShown(runs[run]!, runs[run + 1]!)) continue;
    for (let at = 3 * begin; at < 3 * end; at += 3) {
      const [x, y, z] = [p[at]! - from.x, p[at + 1]! - from.y, p[at + 2]! - from.z];
      const distance = x * along.x + y * along.y + z * along.z;
      const reach = width.atBeginning + width.perUnit * Math.max(distance, 0);
      // a point a little behind another is as near as that one
      if (!(distance >= least && distance <= best + reach)) continue;
      const away2 = x * x + y * y + z * z - distance * distance;
      if (away2 > reach * reach) continue;
      const away = Math.sqrt(Math.max(away2, 0));
      const isNearer = distance < best - reach;
      if (!isNearer && away >= bestAway) continue;
      if (found < 0 && distance > nearest) continue;
      if (keeps && !keeps(p[at]!, p[at + 1]!, p[at + 2]!)) continue;
      [best, bestAway, found, owner] = [distance, away, at, runs[run]!];
    }
  }
  if (found < 0) return null;
  const place = (axis: number): number => p[found + axis]! + rests[found + axis]!;
  return {
    object: owner,
    point: { x: place(0), y: place(1), z: place(2) },
    distance: best,
    normal: { x: -along.x, y: -along.y, z: -along.z },
    isPoint: true,
  };
}

/** Whether a line meets a box nearer than a limit (A. Williams et al., "An efficient and robust ray–box intersection", 2005). */
export function slabTest(
  { from, along }: Sight,
  least: number,
): (boxes: ArrayLike<number>, at: number, limit: number) => boolean {
  const start = [from.x, from.y, from.z];
  const inverse = [1 / along.x, 1 / along.y, 1 / along.z];
  return (boxes, at, limit) => {
    let [near, far] = [least, limit];
    for (let axis = 0; axis < 3; axis++) {
      const a = (boxes[at + axis]! - start[axis]!) * inverse[axis]!;
      const b = (boxes[at + 3 + axis]! - start[axis]!) * inverse[axis]!;
      // what is no number comes from a line within a side of the box: the other directions decide
      if (Number.isNaN(a) || Number.isNaN(b)) continue;
      near = Math.max(near, Math.min(a, b));
      far = Math.min(far, Math.max(a, b));
    }
    return near <= far;
  };
}

/** The run that an index belongs to: its place in the table. */
function runOf(runs: Uint32Array, corner: number): number {
  let [low, high] = [0, runs.length / RUN - 1];
  while (low < high) {
    const middle = (low + high) >> 1;
    if (runs[RUN * middle + 3]! > corner) high = middle;
    else low = middle + 1;
  }
  return RUN * low;
}

function meet(positions: Float32Array, triangles: Uint32Array, corner: number, from: Vec3, along: Vec3): number {
  const [a, b, c] = [3 * triangles[corner]!, 3 * triangles[corner + 1]!, 3 * triangles[corner + 2]!];
  const [ax, ay, az] = [positions[a]!, positions[a + 1]!, positions[a + 2]!];
  const [ux, uy, uz] = [positions[b]! - ax, positions[b + 1]! - ay, positions[b + 2]! - az];
  const [vx, vy, vz] = [positions[c]! - ax, positions[c + 1]! - ay, positions[c + 2]! - az];
  const [px, py, pz] = [along.y * vz - along.z * vy, along.z * vx - along.x * vz, along.x * vy - along.y * vx];
  const det = ux * px + uy * py + uz * pz;
  if (det === 0) return Infinity;
  const [sx, sy, sz] = [from.x - ax, from.y - ay, from.z - az];
  const s = (sx * px + sy * py + sz * pz) / det;
  if (s < 0 || s > 1) return Infinity;
  const [qx, qy, qz] = [sy * uz - sz * uy, sz * ux - sx * uz, sx * uy - sy * ux];
  const t = (along.x * qx + along.y * qy + along.z * qz) / det;
  if (t < 0 || s + t > 1) return Infinity;
  return (vx * qx + vy * qy + vz * qz) / det;
}

function faceNormal(positions: Float32Array, triangles: Uint32Array, corner: number): Vec3 {
  const [a, b, c] = [3 * triangles[corner]!, 3 * triangles[corner + 1]!, 3 * triangles[corner + 2]!];
  const way = (to: number, axis: number): number => positions[to + axis]! - positions[a + axis]!;
  const x = way(b, 1) * way(c, 2) - way(b, 2) * way(c, 1);
  const y = way(b, 2) * way(c, 0) - way(b, 0) * way(c, 2);
  const z = way(b, 0) * way(c, 1) - way(b, 1) * way(c, 0);
  const length = Math.hypot(x, y, z) || 1;
  return { x: x / length, y: y / length, z: z / length };
}
