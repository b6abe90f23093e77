import { aboutAxis, multiply, quaternionOfAxes } from '@gull-pane/core/geometry/quaternion';
import type { KeptCamera } from '@gull-pane/core/solid/solid-model';
import type { GltfJson } from './check-document.ts';

/** 4 × 4, column by column. */
export type Matrix = readonly number[];

export const UNMOVED: Matrix = [1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1];

/** Node of a glTF document as it is written. */
export type GltfNode = NonNullable<GltfJson['nodes']>[number];

/** Numbers of the nodes that a model begins with: those of its scene, or all that hang on no other. */
export function topNodes({ nodes = [], scenes = [], scene = 0 }: GltfJson): readonly number[] {
  const chosen = scenes[scene] ?? scenes[0];
  if (chosen) return chosen.nodes ?? [];
  const hangs = new Set(nodes.flatMap(({ children = [] }) => children));
  return nodes.flatMap((_, index) => (hangs.has(index) ? [] : [index]));
}

/** The matrix that does first the second, then the first. */
export function product(first: Matrix, second: Matrix): Matrix {
  const result: number[] = [];
  for (let column = 0; column < 4; column++)
    for (let row = 0; row < 4; row++) {
      let sum = 0;
      for (let k = 0; k < 4; k++) sum += first[4 * k + row]! * second[4 * column + k]!;
      result.push(sum);
    }
  return result;
}

/** Where a node stands on the one that it hangs on (glTF 2.0, 3.5.3). */
export function ownMatrix({ matrix, translation, rotation, scale }: GltfNode): Matrix {
  if (matrix?.length === 16) return matrix;
  return translation || rotation || scale ? placement(translation, rotation, scale) : UNMOVED;
}

/** A placement by its shift, its turn as a quaternion x, y, z, w, and its scales. */
export function placement(
  [x = 0, y = 0, z = 0]: readonly number[] = [],
  [i = 0, j = 0, k = 0, r = 1]: readonly number[] = [],
  [u = 1, v = 1, w = 1]: readonly number[] = [],
): Matrix {
  return [
    (1 - 2 * (j * j + k * k)) * u,
    2 * (i * j + k * r) * u,
    2 * (i * k - j * r) * u,
    0,
    2 * (i * j - k * r) * v,
    (1 - 2 * (i * i + k * k)) * v,
    2 * (j * k + i * r) * v,
    0,
    2 * (i * k + j * r) * w,
    2 * (j * k - i * r) * w,
    (1 - 2 * (i * i + j * j)) * w,
    0,
    x,
    y,
    z,
    1,
  ];
}

/** glTF counts in metres. */
const MM = 1000;

/** The camera that stands at a node, in millimetres with Z up. @returns null if the node has none */
export function cameraAt(node: GltfNode, { cameras = [] }: GltfJson, world: Matrix, number: number): KeptCamera | null {
  const camera = node.camera === undefined ? undefined : cameras[node.camera];
  if (!camera) return null;
  const axis = (column: number) => {
    const [x, y, z] = [world[4 * column]!, world[4 * column + 1]!, world[4 * column + 2]!];
    const length = Math.hypot(x, y, z) || 1;
    return { x: x / length, y: y / length, z: z / length };
  };
  const q = multiply(aboutAxis({ x: 1, y: 0, z: 0 }, Math.PI / 2), quaternionOfAxes(axis(0), axis(1), axis(2)));
  const isParallel = camera.type === 'orthographic';
  return {
    name: node.name || camera.name || `Camera ${number}`,
    projection: isParallel ? 'parallel' : 'perspective',
    eye: [world[12]! * MM, -world[14]! * MM, world[13]! * MM],
    orientation: [q.x, q.y, q.z, q.w],
    ...(isParallel
      ? { height: 2 * (camera.orthographic?.ymag ?? 1) * MM }
      : { fovRad: camera.perspective?.yfov ?? Math.PI / 4 }),
  };
}
