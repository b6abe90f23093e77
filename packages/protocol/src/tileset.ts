/** The parts of a 3D Tiles 1.1 tileset that we write and read (OGC 22-025r4). */

export interface TilesetJson {
  readonly asset: { readonly version: '1.1'; readonly generator: string };
  /** Metres. */
  readonly geometricError: number;
  readonly root: TileJson;
  readonly extras: { readonly styles: readonly TilesetStyle[] };
}

export interface TileJson {
  /** Column-major 4 × 4, to the parent. The root scales drawing units to metres, the others shift. */
  readonly transform?: readonly number[];
  /** Middle and three half-axes, in the tile's own frame, Z up. */
  readonly boundingVolume: { readonly box: readonly number[] };
  /** Drawing units below the root's scale. */
  readonly geometricError: number;
  readonly refine?: 'ADD';
  readonly content?: { readonly uri: string };
  readonly children?: readonly TileJson[];
  readonly extras?: {
    readonly segments: number;
    readonly triangles: number;
    readonly texts: number;
    /** Size of the largest thing of the tile and all below it, drawing units. */
    readonly largest: number;
    /** Where the exact form of the tile's coarse lines is, if it has any, and how coarse they are, drawing units. */
    readonly detail?: string;
    readonly tolerance?: number;
    /** The same for its areas. */
    readonly fills?: string;
    readonly fillTolerance?: number;
  };
}

export interface TilesetStyle {
  readonly kind: 'fill' | 'line' | 'text';
  readonly layer: number;
  /** Red, green, blue, alpha, 0 … 255. */
  readonly colour: readonly [number, number, number, number];
  /** Drawing units. */
  readonly width: number;
  /** Dash, gap, dash, gap … in drawing units. */
  readonly dashes: readonly number[];
}
