/** The parts of a 3D Tiles 1.1 tileset that we write and read (OGC 22-025r4). */

export interface TilesetJson {
  readonly asset: { readonly version: '1.1'; readonly generator: string };
  /** Metres. */
  readonly geometricError: number;
  readonly root: TileJson;
  readonly extras: {
    readonly styles: readonly TilesetStyle[];
    /** Raster pictures, the lowest first; absent where there are none. */
    readonly pictures?: readonly TilesetPicture[];
    /** Where their pyramids are: `<source>/<level>/<column>_<row>.<ending>` below it. */
    readonly picturesUri?: string;
  };
}

export interface TilesetPicture {
  readonly object: number;
  readonly layer: number;
  /** Number of its pyramid. */
  readonly source: number;
  /** What its tiles are packed as. */
  readonly ending: 'png' | 'jpeg';
  readonly widthPx: number;
  readonly heightPx: number;
  readonly levels: number;
  /** a, b, c, d, e, f of the map from the unit square, y down, to drawing units. */
  readonly place: readonly [number, number, number, number, number, number];
  /** minX, minY, maxX, maxY of what may be seen, drawing units. */
  readonly clip?: readonly [number, number, number, number];
  /** 0 … 1. */
  readonly opacity: number;
}

export interface TileJson {
  /** Column-major 4 × 4, to the parent. The root scales drawing units to metres, the others shift. */
  readonly transform?: readonly number[];
  /** Middle and three half-axes, in the tile's own frame, Z up. */
  readonly boundingVolume: { readonly box: readonly number[] };
  /** Drawing units below the root's scale. */
  readonly geometricError: number;
  /** REPLACE where the content is a coarser form of everything below, so far from it at most. */
  readonly refine?: 'ADD' | 'REPLACE';
  readonly content?: { readonly uri: string };
  readonly children?: readonly TileJson[];
  readonly extras?: {
    readonly segments: number;
    readonly triangles: number;
    /** Of models that hold points. */
    readonly points?: number;
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
