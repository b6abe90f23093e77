/** One drawing element with its exact doubles, as `GET /api/drawings/:id/objects/:objectId` tells it. */
export interface ObjectDto {
  readonly id: number;
  readonly layerId: number;
  /** How its lines are drawn, or its area where it has none; absent where unknown. Lengths in drawing units. */
  readonly style?: { readonly colour: string; readonly width: number; readonly dashes: readonly number[] };
  readonly kind: 'path' | 'text' | 'solid';
  /** Runs of lines and curves; absent for a text. */
  readonly segments?: readonly SegmentDto[];
  readonly text?: TextDto;
  readonly solid?: SolidDto;
}

/** An object of a model with the coordinates of its source, drawing units. */
export interface SolidDto {
  readonly name: string;
  /** What the source calls it for good, where it has such an id. */
  readonly id?: string;
  /** What the source says of it, as `name: value`. */
  readonly facts: readonly string[];
  readonly parts: readonly {
    /** Index into the materials of `solid.json`. */
    readonly material: number;
    /** x, y, z triples. */
    readonly positions: readonly number[];
    /** Three vertices a triangle. */
    readonly triangles: readonly number[];
    /** Two vertices an edge, where the source has edges of its own. */
    readonly edges: readonly number[];
    /**
     * Where every vertex is a point of its own: how many there are, and red · 65536 + green · 256 + blue of each, if they
     * have colours. Positions and colours of very large point sets are left out here: the tiles hold them.
     */
    readonly points?: { readonly count: number; readonly colours: readonly number[] };
  }[];
}

type Pair = readonly [x: number, y: number];

export type SegmentDto =
  | { readonly kind: 'line'; readonly from: Pair; readonly to: Pair }
  | { readonly kind: 'quadratic'; readonly from: Pair; readonly control: Pair; readonly to: Pair }
  | { readonly kind: 'cubic'; readonly from: Pair; readonly controls: readonly [Pair, Pair]; readonly to: Pair }
  | {
      readonly kind: 'arc';
      readonly from: Pair;
      readonly to: Pair;
      readonly centre: Pair;
      /** Conjugate half-axes: a point of the arc is centre + first·cos t + second·sin t. */
      readonly halfAxes: readonly [Pair, Pair];
      readonly startRad: number;
      readonly sweepRad: number;
    };

export interface TextDto {
  readonly text: string;
  readonly x: number;
  readonly y: number;
  /** Size of the em square, drawing units. */
  readonly size: number;
  readonly angleRad: number;
  readonly anchor: 'start' | 'middle' | 'end';
}
