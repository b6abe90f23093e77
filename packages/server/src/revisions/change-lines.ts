import { flattenPath } from '@gull-pane/core/drawing/flatten';
import { textFrame } from '@gull-pane/core/drawing/letter-advance';
import { edgesOf } from '@gull-pane/core/solid/feature-edges';
import { weld } from '@gull-pane/core/solid/welded-mesh';
import type { SolidDto } from '@gull-pane/protocol/objects';
import type { StoredObject } from '../pyramid/read-store.ts';

/** So many points of a change are told; of more, its box stands for it. */
const MOST_POINTS = 1500;

/** What is drawn of a changed object: runs of points, drawing units. */
export function linesOf({ path, text, solid }: StoredObject): number[][] {
  if (solid) return ofSolid(solid);
  if (text) {
    const frame = textFrame(text);
    return [[...frame, frame[0]!, frame[1]!]];
  }
  const runs: number[][] = [];
  if (path)
    flattenPath(path, {
      move: (x, y) => runs.push([x, y]),
      line: (x, y) => runs.at(-1)?.push(x, y),
      close: () => undefined,
    });
  const points = runs.reduce((sum, run) => sum + run.length / 2, 0);
  return points <= MOST_POINTS ? runs : boxLines(runs.flat(), 2);
}

/** Its sharp edges, two points each. */
function ofSolid({ parts }: SolidDto): number[][] {
  const runs: number[][] = [];
  const all: number[] = [];
  for (const { positions, triangles } of parts) {
    const mesh = weld(positions, triangles);
    for (const value of mesh.positions) all.push(value);
    const { vertices, normals } = edgesOf(mesh);
    for (let edge = 0; 2 * edge < vertices.length; edge++) {
      // of a soft edge both normals are those of its faces; of a sharp one the second is the first turned over
      const isSharp = [0, 1, 2].every((axis) => normals[6 * edge + axis] === -normals[6 * edge + 3 + axis]!);
      if (!isSharp) continue;
      const ends = [vertices[2 * edge]!, vertices[2 * edge + 1]!];
      runs.push(ends.flatMap((vertex) => [...mesh.positions.subarray(3 * vertex, 3 * vertex + 3)]));
    }
    if (2 * runs.length > MOST_POINTS) return boxLines(all, 3);
  }
  return runs.length > 0 ? runs : boxLines(all, 3);
}

/** The edges of the box round some points. */
function boxLines(points: readonly number[], axes: 2 | 3): number[][] {
  if (points.length === 0) return [];
  const low = Array.from({ length: axes }, () => Infinity);
  const high = Array.from({ length: axes }, () => -Infinity);
  points.forEach((value, i) => {
    low[i % axes] = Math.min(low[i % axes]!, value);
    high[i % axes] = Math.max(high[i % axes]!, value);
  });
  const corner = (bits: number): number[] => low.map((value, axis) => ((bits >> axis) & 1 ? high[axis]! : value));
  const lines: number[][] = [];
  for (let bits = 0; bits < 1 << axes; bits++)
    for (let axis = 0; axis < axes; axis++)
      if (!((bits >> axis) & 1)) lines.push([...corner(bits), ...corner(bits | (1 << axis))]);
  return lines;
}
