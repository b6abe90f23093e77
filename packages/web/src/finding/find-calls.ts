/** One place where a text stands. Drawing units. */
export interface TextPlace {
  readonly object: number;
  readonly layer: number;
  /** Lower left corner of the letters' frame along the baseline. */
  readonly x: number;
  readonly y: number;
  readonly size: number;
  readonly width: number;
  readonly angleRad: number;
}

export interface FoundText {
  readonly content: string;
  /** It has what was looked for only with slips. */
  readonly isSimilar: boolean;
  readonly count: number;
  readonly places: readonly TextPlace[];
}

/** What the finding worker can be called for. Places in drawing units. */
export interface FindCalls {
  /** Where the drawing's texts are. */
  open: { ask: string; answer: undefined };
  find: { ask: { readonly query: string; readonly most: number }; answer: readonly FoundText[] };
  /** The text that stands out most about a place; null if none is near. */
  nearest: { ask: { readonly x: number; readonly y: number; readonly radius: number }; answer: string | null };
  /** All texts in a box as one number. */
  print: {
    ask: { readonly minX: number; readonly minY: number; readonly maxX: number; readonly maxY: number };
    answer: string;
  };
}
