/** What `window.gullPane.inspect()` tells tests and support. Fields are added, never renamed. */
export interface Inspection {
  readonly drawing: InspectedDrawing | null;
  readonly panes: readonly InspectedPane[];
}

interface Point {
  readonly x: number;
  readonly y: number;
  readonly z: number;
}

export interface InspectedDrawing {
  readonly id: string;
  readonly extents: { readonly min: Point; readonly max: Point } | null;
  readonly layers: readonly { readonly id: number; readonly name: string; readonly visible: boolean }[];
}

export interface InspectedPane {
  readonly id: string;
  readonly active: boolean;
  readonly drawingId: string;
  /** The drawing surface without the foot, page CSS px. */
  readonly rect: { readonly x: number; readonly y: number; readonly width: number; readonly height: number };
  readonly camera: {
    readonly projection: 'parallel' | 'perspective';
    readonly eye: Point;
    readonly target: Point;
    readonly up: Point;
    /** Drawing units that span the rect's width; parallel views. */
    readonly widthWorld?: number;
    /** Vertical angle; perspective views. */
    readonly fovRad?: number;
  };
  readonly scaleDenominator: number;
  /** From the last frame's real draw ranges. */
  readonly drawn: {
    readonly segments: number;
    readonly triangles: number;
    readonly tiles: number;
    readonly texts: number;
  };
  readonly pendingTiles: number;
  readonly frameMs: number;
  readonly history: { readonly length: number; readonly index: number };
  /** Frames drawn since the page was opened. */
  readonly frames: number;
  /** Decoded bytes of the tiles that are kept. */
  readonly cachedBytes: number;
  /** Pictures of the trail that are kept. */
  readonly thumbnails: number;
  /** Whether a travel or a glide is on its way. */
  readonly flying: boolean;
  /** The tool in hand, if any. */
  readonly tool: string | null;
  /** Marks on top of its drawing, shown or not. */
  readonly marks: number;
  /** Objects that are picked. */
  readonly picked: number;
  /** Objects of a model that are faded, because they stand before what was framed. */
  readonly faded: number;
  /** Nothing that is visible lies in the pane. */
  readonly lost: boolean;
  /** Nothing travels, no tile is awaited and the picture at rest is drawn. */
  readonly settled: boolean;
}
