/** The objects of a solid as columns, one entry an object: `tiles/rN/solid.json`. Drawing units, radians. */
export interface SolidTable {
  /** Branches of the model's tree; a parent stands before its children, −1 at the top. */
  readonly tree: { readonly names: readonly string[]; readonly parents: readonly number[] };
  readonly names: readonly string[];
  /** What the source calls them for good, where it has such ids; empty for those that have none. */
  readonly ids?: readonly string[];
  /** The branch that each object hangs on. */
  readonly nodes: readonly number[];
  readonly layers: readonly number[];
  readonly triangles: readonly number[];
  /** Points of each object; absent if there are none in all. */
  readonly points?: readonly number[];
  /** Least coordinates, then largest, six numbers an object. */
  readonly boxes: readonly number[];
  readonly materials: readonly SolidMaterial[];
  readonly cameras: readonly SolidCamera[];
}

export interface SolidMaterial {
  readonly name: string;
  /** Red, green, blue, alpha, 0 … 255. */
  readonly colour: readonly [number, number, number, number];
  /** 0 … 1. */
  readonly metalness: number;
  readonly roughness: number;
}

/** A view that came with the file; it looks along −Z of its axes. */
export interface SolidCamera {
  readonly name: string;
  readonly projection: 'parallel' | 'perspective';
  readonly eye: readonly [number, number, number];
  readonly orientation: readonly [x: number, y: number, z: number, w: number];
  readonly fovRad?: number;
  /** Height that a parallel view shows. */
  readonly height?: number;
}
