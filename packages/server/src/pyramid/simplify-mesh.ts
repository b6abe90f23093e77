import type { Simplify } from '@gull-pane/core/solid/coarse-mesh';
import { MeshoptSimplifier } from 'meshoptimizer';

const NONE = new Float32Array(0);

/**
 * Simplifies meshes by collapsing edges (M. Garland, P. S. Heckbert, "Surface simplification using quadric error metrics",
 * 1997), as the package `meshoptimizer` does it.
 */
export async function loadSimplifier(): Promise<Simplify> {
  await MeshoptSimplifier.ready;
  const { simplify, simplifyWithAttributes } = MeshoptSimplifier;
  return ({ triangles, positions, locks, error, enough }) => {
    const corners = 3 * enough;
    if (triangles.length <= corners || triangles.length === 0) return { triangles, error: 0 };
    const [left, own] = locks
      ? simplifyWithAttributes(triangles, positions, 3, NONE, 0, [], locks, corners, error, ['ErrorAbsolute'])
      : simplify(triangles, positions, 3, corners, error, ['ErrorAbsolute']);
    return { triangles: left, error: own };
  };
}
