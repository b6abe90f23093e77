import type { Simplify } from '@gull-pane/core/solid/coarse-mesh';
import { MeshoptSimplifier } from 'meshoptimizer';

const NONE = new Float32Array(0);

/**
 * Simplifies meshes by collapsing edges (M. Garland, P. S. Heckbert, "Surface simplification using quadric error metrics",
 * 1997), as the package `meshoptimizer` does it.
 */
export async function loadSimplifier(): Promise<Simplify> {
  await MeshoptSimplifier.ready;
  return ({ triangles, positions, locks, error }) => {
    if (triangles.length === 0) return triangles;
    const [left] = locks
      ? MeshoptSimplifier.simplifyWithAttributes(triangles, positions, 3, NONE, 0, [], locks, 0, error, [
          'ErrorAbsolute',
        ])
      : MeshoptSimplifier.simplify(triangles, positions, 3, 0, error, ['ErrorAbsolute']);
    return left;
  };
}
