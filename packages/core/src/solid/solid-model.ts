/** What a reader of models hands on. Coordinates: drawing units (mm), X east, Y north, Z up, placed in the world. */
import type { Colour, Layer, ReaderWarning } from '../drawing/model.ts';

/** How a surface looks. Shares from 0 to 1. */
export interface Material {
  readonly name: string;
  readonly colour: Colour;
  readonly metalness: number;
  readonly roughness: number;
}

/** Says of parts that they are one mesh at several places, so that what holds of it is found out once. */
export interface SharedShape {
  /** The same for all places where the mesh stands with its triangles in the same order. */
  readonly key: object;
  /** How it is turned there: an orthonormal 3 × 3, row by row. Its size may differ from place to place, evenly. */
  readonly turn: ArrayLike<number>;
}

/** Says of a part that each of its vertices is a point of its own, as a scanner or a surveyor measured it. */
export interface PointSet {
  /** Red, green, blue of each point, 0 … 255; null if all have the colour of the material. */
  readonly colours: Uint8Array | null;
}

/** A part of an object that is of one material. */
export interface SolidPart {
  readonly object: number;
  /** Index into the model's materials. */
  readonly material: number;
  /** x, y, z triples. */
  readonly positions: Float64Array;
  /** Three vertices a triangle, anticlockwise seen from outside. */
  readonly triangles: Uint32Array;
  /** The material of each triangle, where they differ; `material` is then that of most of them. */
  readonly materials?: Uint32Array;
  /** Two vertices an edge, where the source has edges of its own; else they are found by the angle between faces. */
  readonly edges?: Uint32Array;
  readonly shape?: SharedShape;
  /** Where the part is a set of points: it has neither triangles nor edges then. */
  readonly points?: PointSet;
}

/** An object of a model: something with a name that can be picked. */
export interface SolidObject {
  readonly name: string;
  /** What the source calls it for good, where it has such an id: the GlobalId of IFC. */
  readonly id?: string;
  /** Node of the tree that it hangs on. */
  readonly node: number;
  readonly layer: number;
  /** What the source says of it, as `name: value`. */
  readonly facts?: readonly string[];
}

/** A branch of the model's tree. */
export interface TreeNode {
  readonly name: string;
  /** −1 at the top. */
  readonly parent: number;
}

/** A view that the source keeps. Angles in radians; the eye looks along −Z of its axes. */
export interface KeptCamera {
  readonly name: string;
  readonly projection: 'parallel' | 'perspective';
  readonly eye: readonly [number, number, number];
  /** Turns camera axes into world axes. */
  readonly orientation: readonly [x: number, y: number, z: number, w: number];
  readonly fovRad?: number;
  /** Height that a parallel view shows. */
  readonly height?: number;
}

/** What a streaming reader of models calls: an object, then its parts. */
export interface SolidSink {
  /** @returns the object's number */
  object(object: SolidObject): number;
  part(part: SolidPart): void;
}

/** What a reader of models knows at the end. */
export interface SolidResult {
  readonly layers: readonly Layer[];
  readonly materials: readonly Material[];
  readonly tree: readonly TreeNode[];
  readonly cameras: readonly KeptCamera[];
  readonly warnings: readonly ReaderWarning[];
  /** Units and axes of the format, and what was made of them: one sentence. */
  readonly frame: string;
}
