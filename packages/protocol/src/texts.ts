/** What stands in a drawing as columns, one entry a text: `tiles/rN/texts.json`. Drawing units, radians. */
export interface TextColumns {
  readonly contents: readonly string[];
  readonly objects: readonly number[];
  readonly layers: readonly number[];
  /** The anchor on the baseline. */
  readonly x: readonly number[];
  readonly y: readonly number[];
  /** Size of the em square. */
  readonly sizes: readonly number[];
  /** Direction of the baseline, anticlockwise from east. */
  readonly anglesRad: readonly number[];
  /** Length along the baseline, as the shipped face draws it. */
  readonly widths: readonly number[];
  readonly anchors: readonly ('start' | 'middle' | 'end')[];
}
